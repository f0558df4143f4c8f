// Where files are dropped or picked. A screen as a whole takes drops; an area within it keeps those made on it to itself.
import type { ReactNode } from "react";
import { useDropzone } from "react-dropzone";

interface Props {
  onFiles: (files: File[]) => void;
  children: (state: { over: boolean; pick: () => void }) => ReactNode;
  label: string;
  multiple?: boolean;
  accept?: Record<string, string[]>;
}

export function DropArea({ onFiles, children, label, multiple = true, accept }: Props) {
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: onFiles,
    noClick: true,
    noKeyboard: true,
    noDragEventsBubbling: true,
    multiple,
    accept,
  });
  return (
    <div
      {...getRootProps({ role: undefined, tabIndex: undefined })}
      style={{ display: "flex", flexDirection: "column", flex: 1, minHeight: 0 }}
    >
      <input {...getInputProps({ "aria-label": label })} data-testid="file-input" />
      {children({ over: isDragActive, pick: open })}
    </div>
  );
}
