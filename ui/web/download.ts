// Hands a file to the person.
export function download(blob: Blob, fileName: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = fileName;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/** Has the browser save what the server makes, under the server's name for it. */
export function saveFrom(path: string): void {
  const link = document.createElement("a");
  link.href = path;
  link.download = "";
  link.click();
}
