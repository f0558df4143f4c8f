// Sums of money, kept in a currency's smallest unit.

/** How many digits a currency (ISO 4217) has after the point; 2 where it is not one. */
export function digitsOf(currency: string): number {
  try {
    return new Intl.NumberFormat("en", { style: "currency", currency }).resolvedOptions().maximumFractionDigits ?? 2;
  } catch {
    return 2;
  }
}

/** A sum as it is read: "€18.00". The currency is three letters. */
export const money = (minor: number, currency: string): string =>
  new Intl.NumberFormat("en", { style: "currency", currency }).format(minor / 10 ** digitsOf(currency));

/** What somebody wrote, "18", "18.5" or "18,50", in the currency's smallest unit; NaN where that is no sum of it. */
export function minorOf(text: string, currency: string): number {
  const digits = digitsOf(currency);
  const [, whole, written = ""] = /^(\d{1,9})(?:[.,](\d{1,3}))?$/.exec(text.trim()) ?? [];
  let part = written;
  while (part.endsWith("0")) part = part.slice(0, -1);
  return whole === undefined || part.length > digits ? NaN : Number(whole + part.padEnd(digits, "0"));
}
