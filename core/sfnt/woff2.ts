// Unpacks WOFF 2.0 (W3C recommendation) through the reference code compiled to WebAssembly.
import type { Woff2Unpacker } from "./container.ts";

interface Binding {
  calledRun?: boolean;
  onRuntimeInitialized?: () => void;
  decompress(bytes: Uint8Array): Uint8Array | false;
}

let loading: Promise<Woff2Unpacker> | undefined;

/** Loads the unpacker once, when it is first wanted: it is a megabyte of code. It throws on bytes it cannot unpack. */
export function loadWoff2(): Promise<Woff2Unpacker> {
  loading ??= import("wawoff2/build/decompress_binding.js").then(
    (module) =>
      new Promise((resolve) => {
        const binding = module.default as Binding;
        const ready = () =>
          resolve((bytes) => {
            const unpacked = binding.decompress(bytes);
            if (unpacked === false) throw new Error("WOFF2 data cannot be unpacked");
            return Uint8Array.from(unpacked);
          });
        if (binding.calledRun) ready();
        else binding.onRuntimeInitialized = ready;
      }),
  );
  return loading;
}

/** Whether bytes are a WOFF 2.0 file's, by its signature. */
export const isWoff2 = (bytes: Uint8Array): boolean => bytes[0] === 0x77 && bytes[1] === 0x4f && bytes[2] === 0x46 && bytes[3] === 0x32;
