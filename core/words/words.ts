// Sizes and counts as people read them, the same on both ends.

/** Binary thousands, rounded to what matters. */
export function sizeWords(bytes: number): string {
  if (bytes >= 1024 ** 3) return `${(bytes / 1024 ** 3).toFixed(1)} GB`;
  if (bytes >= 1024 ** 2) return `${(bytes / 1024 ** 2).toFixed(1)} MB`;
  return bytes >= 1024 ? `${Math.round(bytes / 1024)} kB` : `${bytes} bytes`;
}
export const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
