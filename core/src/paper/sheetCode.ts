/** What the strip at the head of a sheet says: of which test, which sheet, which page of it. */
export interface SheetCode {
  readonly test: number;
  readonly sheet: number;
  readonly page: number;
}
const WIDTHS = { test: 8, sheet: 14, page: 3 } as const;
const CHECK = 8;
export const MOST_SHEETS = 2 ** WIDTHS.sheet - 1;

const toBits = (value: number, width: number): boolean[] => Array.from({ length: width }, (_, n) => ((value >> (width - 1 - n)) & 1) === 1);
const fromBits = (bits: readonly boolean[]): number => bits.reduce((sum, bit) => sum * 2 + (bit ? 1 : 0), 0);

/** A cyclic check of eight bits: polynomial x⁸ + x² + x + 1, begun with ones, so that a strip all light is no code. */
function check(bits: readonly boolean[]): boolean[] {
  let sum = 0xff;
  for (const bit of bits) {
    const isOut = ((sum >> 7) & 1) === 1;
    sum = (sum << 1) & 0xff;
    if (isOut !== bit) sum ^= 0x07;
  }
  return toBits(sum, CHECK);
}

/**
 * The strip of a sheet as dark and light cells: 8 bits of the test, 14 of the sheet, 3 of the page (from 0), 8 that check them. Any burst of
 * up to eight wrong cells, and any two, are found out. Numbers that do not fit throw a RangeError.
 * Worked example: `sheetBits(1, 5, 0)` has 33 cells; `readBits` of them gives { test: 1, sheet: 5, page: 0 }.
 */
export function sheetBits(test: number, sheet: number, page: number): readonly boolean[] {
  for (const [name, value] of Object.entries({ test, sheet, page }))
    if (!Number.isInteger(value) || value < 0 || value >= 2 ** WIDTHS[name as keyof typeof WIDTHS])
      throw new RangeError(`${name} ${value} does not fit into ${WIDTHS[name as keyof typeof WIDTHS]} bits.`);
  const bits = [...toBits(test, WIDTHS.test), ...toBits(sheet, WIDTHS.sheet), ...toBits(page, WIDTHS.page)];
  return [...bits, ...check(bits)];
}

/** What a strip says, or null where its check does not hold. */
export function readBits(bits: readonly boolean[]): SheetCode | null {
  const many = WIDTHS.test + WIDTHS.sheet + WIDTHS.page;
  const said = bits.slice(0, many);
  if (bits.length !== many + CHECK || check(said).some((bit, n) => bit !== bits[many + n])) return null;
  return {
    test: fromBits(said.slice(0, WIDTHS.test)),
    sheet: fromBits(said.slice(WIDTHS.test, WIDTHS.test + WIDTHS.sheet)),
    page: fromBits(said.slice(WIDTHS.test + WIDTHS.sheet)),
  };
}
