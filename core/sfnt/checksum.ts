// Table checksums (OpenType specification, "Calculating checksums").

/** Sum of the table's uint32 values modulo 2^32, the last one padded with zero bytes. */
export function tableChecksum(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const whole = bytes.length & ~3;
  let sum = 0;
  for (let i = 0; i < whole; i += 4) sum = (sum + view.getInt32(i)) | 0;
  let rest = 0;
  for (let i = whole; i < bytes.length; i++) rest |= bytes[i]! << (24 - 8 * (i - whole));
  return (sum + rest) >>> 0;
}

/** Whole-file sum less this is `head.checksumAdjustment` (same section; value from memory). */
export const CHECKSUM_MAGIC = 0xb1b0afba;
