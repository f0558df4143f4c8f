// Puts a text onto the clipboard and says that it did.
import { useState } from "react";
import { Button } from "./Button.tsx";
import { Copy } from "./icons.ts";
import { SAY } from "../sentences/parts.ts";

interface Props {
  text: string;
  label: string;
  testID?: string;
}

export function CopyButton({ text, label, testID }: Props) {
  const [copied, setCopied] = useState<string>();
  return (
    <Button
      icon={Copy}
      label={copied === text ? SAY.copied : label}
      onPress={() => void navigator.clipboard.writeText(text).then(() => setCopied(text))}
      testID={testID}
    />
  );
}
