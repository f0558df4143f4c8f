// Packs a font for web pages (W3C WOFF 2.0) through the reference code compiled to WebAssembly.
interface Binding {
  calledRun?: boolean;
  onRuntimeInitialized?: () => void;
  compress(bytes: Uint8Array): Uint8Array | false;
}

export async function packWoff2(): Promise<(bytes: Uint8Array) => Uint8Array> {
  const binding = (await import("wawoff2/build/compress_binding.js")).default as Binding;
  if (!binding.calledRun) await new Promise<void>((resolve) => (binding.onRuntimeInitialized = resolve));
  return (bytes) => {
    const packed = binding.compress(bytes);
    if (packed === false) throw new Error("The font cannot be packed.");
    return Uint8Array.from(packed);
  };
}
