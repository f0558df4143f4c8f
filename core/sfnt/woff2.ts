// Unpacks WOFF 2.0 (W3C recommendation) through the reference code compiled to WebAssembly.
import decompressBinding from "wawoff2/build/decompress_binding.js";
import type { Woff2Unpacker } from "./container.ts";

interface Binding {
  calledRun?: boolean;
  onRuntimeInitialized?: () => void;
  decompress(bytes: Uint8Array): Uint8Array | false;
}

let loading: Promise<Woff2Unpacker> | undefined;

/** Loads the unpacker once. It throws on bytes it cannot unpack. */
export function loadWoff2(): Promise<Woff2Unpacker> {
  loading ??= new Promise((resolve) => {
    const binding = decompressBinding as Binding;
    const ready = () =>
      resolve((bytes) => {
        const unpacked = binding.decompress(bytes);
        if (unpacked === false) throw new Error("WOFF2 data cannot be unpacked");
        return Uint8Array.from(unpacked);
      });
    if (binding.calledRun) ready();
    else binding.onRuntimeInitialized = ready;
  });
  return loading;
}
