// A labelled line of text or number, with what is wrong with it below.
import { TextInput, View } from "react-native";
import { usePalette } from "../theme/theme.ts";
import { Small } from "./Text.tsx";

interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
  onDone?: () => void;
  /** The field is left. */
  onLeave?: () => void;
  hint?: string;
  problem?: string;
  placeholder?: string;
  numeric?: boolean;
  /** Not shown while it is typed. */
  secret?: boolean;
  lines?: number;
  testID?: string;
  className?: string;
}

export function Field({
  label,
  value,
  onChange,
  onDone,
  onLeave,
  hint,
  problem,
  placeholder,
  numeric,
  secret,
  lines = 1,
  testID,
  className = "",
}: Props) {
  const palette = usePalette();
  return (
    <View className={`mb-3 ${className}`}>
      <Small className="mb-1 text-ink">{label}</Small>
      <TextInput
        aria-label={label}
        aria-invalid={problem ? true : undefined}
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
        className={`min-h-[48px] border bg-paper px-3 py-2 font-text text-base text-ink ${problem ? "border-warning" : "border-faded"}`}
      />
      {problem ? <Small className="mt-1 text-warning">{problem}</Small> : hint ? <Small className="mt-1">{hint}</Small> : null}
    </View>
  );
}
