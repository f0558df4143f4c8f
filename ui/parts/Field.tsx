// A labelled line of text or number, with what is wrong with it below.
import { useId, type ReactNode, type Ref } from "react";
import { TextInput, View } from "react-native";
import { usePalette } from "../theme/theme.ts";
import { Small } from "./Text.tsx";

interface Said {
  label: string;
  hint?: string;
  problem?: string;
  className?: string;
}

/** A control between its label and what is said of it; `children` is given the id of what is said. */
export function Labelled({ label, hint, problem, className = "", children }: Said & { children: (said: string) => ReactNode }) {
  const said = useId();
  return (
    <View className={`mb-3 ${className}`}>
      <Small className="mb-1 text-ink">{label}</Small>
      {children(said)}
      <View id={said} role={problem ? "alert" : undefined}>
        {problem ? <Small className="mt-1 text-warning">{problem}</Small> : hint ? <Small className="mt-1">{hint}</Small> : null}
      </View>
    </View>
  );
}

interface Props extends Said {
  value: string;
  onChange: (value: string) => void;
  onDone?: () => void;
  /** The field is left. */
  onLeave?: () => void;
  placeholder?: string;
  numeric?: boolean;
  /** Not shown while it is typed. */
  secret?: boolean;
  lines?: number;
  testID?: string;
  ref?: Ref<TextInput>;
}

export function Field({ value, onChange, onDone, onLeave, placeholder, numeric, secret, lines = 1, testID, ref, ...said }: Props) {
  const palette = usePalette();
  return (
    <Labelled {...said}>
      {(describedBy) => (
        <TextInput
          ref={ref}
          aria-label={said.label}
          aria-invalid={said.problem ? true : undefined}
          aria-describedby={describedBy}
          testID={testID}
          value={value}
          onChangeText={onChange}
          onSubmitEditing={onDone}
          onBlur={onLeave}
          multiline={lines > 1}
          numberOfLines={lines > 1 ? lines : undefined}
          secureTextEntry={secret}
          inputMode={numeric ? "decimal" : "text"}
          placeholder={placeholder}
          placeholderTextColor={palette.faded}
          autoComplete="off"
          className={`min-h-[48px] border bg-paper px-3 py-2 font-text text-base text-ink ${said.problem ? "border-warning" : "border-faded"}`}
        />
      )}
    </Labelled>
  );
}
