// A day, by the platform's own picker: works by touch, mouse, keyboard and screen reader.
import type { Ref } from "react";
import { useColorScheme } from "react-native";
import { usePalette } from "../theme/theme.ts";

/** What stands for a day that is half typed, or is not in the calendar: no schema takes it for a day. */
const HALF = "half a day";

interface Props {
  label: string;
  /** YYYY-MM-DD; anything else shows as empty, or as it is being typed. */
  value: string;
  onChange: (day: string) => void;
  onBlur?: () => void;
  invalid?: boolean;
  describedBy?: string;
  testID?: string;
  ref?: Ref<HTMLInputElement>;
}

export function DayInput({ label, value, onChange, onBlur, invalid = false, describedBy, testID, ref }: Props) {
  const palette = usePalette();
  const colorScheme = useColorScheme() === "dark" ? "dark" : "light";
  return (
    <input
      ref={ref}
      type="date"
      aria-label={label}
      aria-invalid={invalid || undefined}
      aria-describedby={describedBy}
      data-testid={testID}
      max="9999-12-31"
      value={/^\d{4}-\d{2}-\d{2}$/.test(value) ? value : ""}
      onChange={(event) => onChange(event.currentTarget.validity.badInput ? HALF : event.currentTarget.value)}
      onBlur={(event) => {
        // The browser tells nobody of a day that is half typed: it is asked when the field is left.
        if (event.currentTarget.validity.badInput) onChange(HALF);
        onBlur?.();
      }}
      style={{
        minHeight: 48,
        padding: "0 12px",
        borderRadius: 0,
        font: "16px BuvanoText, sans-serif",
        color: palette.ink,
        colorScheme,
        background: palette.paper,
        border: `1px solid ${invalid ? palette.warning : palette.faded}`,
      }}
    />
  );
}
