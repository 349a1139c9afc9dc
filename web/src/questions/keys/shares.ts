/** Shares of the points as they are typed, in percent with up to three decimals. Null where what was typed is none. */
export function readShare(text: string): number | null {
  const clean = text.trim().replace('%', '').replace(',', '.').replace('−', '-');
  if (!/^-?\d{1,3}(\.\d{1,3})?$/.test(clean)) return null;
  const value = Math.round(Number(clean) * 1000);
  return Math.abs(value) <= 100_000 ? value : null;
}
export const shareWords = (share: number): string => String(share / 1000).replace('-', '−');
export const newId = (): string => crypto.randomUUID().slice(0, 8);
