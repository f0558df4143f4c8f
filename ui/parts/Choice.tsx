// One of several, by the browser's own list: works by touch, keyboard and screen reader, and takes little room.
import { usePalette } from "../theme/theme.ts";

interface Props<K extends string> {
  label: string;
  /** What choosing nothing is called; left out when something must be chosen. */
  none?: string;
  words: Record<K, string>;
  value: K | undefined;
  onChange: (value: K | undefined) => void;
  /** Shares a row's width with others like it; otherwise it is as wide as its longest word. */
  grow?: boolean;
  testID?: string;
}

export function Choice<K extends string>({ label, none, words, value, onChange, grow = false, testID }: Props<K>) {
  const palette = usePalette();
  return (
    <select
      aria-label={label}
      data-testid={testID}
      value={value ?? ""}
      onChange={(event) => onChange(event.currentTarget.value === "" ? undefined : (event.currentTarget.value as K))}
      style={{
        minHeight: 48,
        ...(grow ? { flex: "1 1 0", minWidth: 0 } : {}),
        padding: "0 12px",
        borderRadius: 0,
        font: "16px BuvanoStrong, sans-serif",
        color: palette.ink,
        background: value === undefined ? palette.drawer : palette.tab,
        border: `1px solid ${value === undefined ? palette.edge : palette.ink}`,
      }}
    >
      {none === undefined ? null : <option value="">{none}</option>}
      {(Object.entries(words) as [K, string][]).map(([key, name]) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
    </select>
  );
}
