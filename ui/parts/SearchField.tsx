// One line to search by.
import { TextInput } from "react-native";
import { usePalette } from "../theme/theme.ts";

interface Props {
  label: string;
  value: string;
  onChange: (text: string) => void;
  placeholder: string;
  most?: number;
  /** For single characters. */
  large?: boolean;
  testID: string;
}

export function SearchField({ label, value, onChange, placeholder, most = 200, large = false, testID }: Props) {
  const palette = usePalette();
  return (
    <TextInput
      dataSet={{ key: "find" }}
      aria-label={label}
      testID={testID}
      value={value}
      maxLength={most}
      onChangeText={onChange}
      placeholder={placeholder}
      placeholderTextColor={palette.faded}
      className={`mb-3 border border-edge bg-drawer px-3 font-text text-ink ${large ? "min-h-[56px] text-2xl" : "min-h-[48px] text-base"}`}
    />
  );
}
