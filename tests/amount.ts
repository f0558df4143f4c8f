// How much is tried of what is drawn by lot: `npm test` takes a fifth of it, with a fixed seed; `npm run test:long` all of it, with a new seed each
// run. Nothing is left out of both.

/** Set by `npm run test:long`. */
export const LONG = process.env["BUVANO_LONG"] === "1";

const FIXED_SEED = 20_261_201;

/** Printed with every failure; a failing run is repeated with FUZZ_SEED=… */
export const runSeed = (): number => Number(process.env["FUZZ_SEED"] ?? (LONG ? Date.now() % 2 ** 31 : FIXED_SEED));

const FIFTH = 5;
/** So many of `all` are tried in this run; never fewer than one. */
export const amount = (all: number): number => (LONG ? all : Math.ceil(all / FIFTH));

/** Every fifth of a list, the same in every run, spread over the whole of it; in a long run all. */
export const lot = <T>(all: readonly T[]): T[] => (LONG ? [...all] : all.filter((_, i) => i % FIFTH === 2));

/** A steady source of numbers from 0 to 1. */
export function numbersFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}
