// Writes an archive locked with a password, through 7-Zip's own code compiled to WebAssembly.

export async function lockedZip(files: Readonly<Record<string, Uint8Array>>, password: string): Promise<Uint8Array> {
  const { default: SevenZip } = await import("7z-wasm");
  const module = await SevenZip({ print: () => {}, printErr: () => {} });
  for (const [name, bytes] of Object.entries(files)) module.FS.writeFile(name, bytes);
  module.callMain(["a", "-tzip", "-mem=AES256", `-p${password}`, "locked.zip", ...Object.keys(files)]);
  return Uint8Array.from(module.FS.readFile("locked.zip"));
}
