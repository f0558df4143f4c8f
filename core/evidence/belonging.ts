// Whether a file is from the program it is given for, and from after the font came there.

/** Clocks of devices differ a little, and some write no seconds. */
const GRACE_MS = 120_000;

/** Whether a file says it was made before a moment; false when it does not say. Both ISO 8601. */
export const olderThan = (madeAt: string, since: string): boolean => madeAt !== "" && Date.parse(madeAt) + GRACE_MS < Date.parse(since);

/** Names of programs without their versions and dates. */
const versionless = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[\d.:()/]+/g, " ")
    .replace(/[^\p{L}]+/gu, " ")
    .trim();

/** Whether what made a file is another than what made the files before it. A file that does not say raises no doubt. */
export function foreign(by: string, before: string): boolean {
  const [own, known] = [versionless(by), versionless(before)];
  return own !== "" && known !== "" && !own.includes(known) && !known.includes(own);
}
