// The second engine where there are files: its WebAssembly is read from the package.
import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";
import PathKitInit, { type PathKit } from "pathkit-wasm";

let loading: Promise<PathKit> | undefined;
/** Loads the engine once a process. */
export const pathKit = (): Promise<PathKit> =>
  (loading ??= readFile(createRequire(import.meta.url).resolve("pathkit-wasm/bin/pathkit.wasm")).then((wasmBinary) =>
    PathKitInit({ wasmBinary }),
  ));
