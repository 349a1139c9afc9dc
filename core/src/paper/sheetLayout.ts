import { sheetBits } from './sheetCode.ts';

/** A place on a page, in millimetres from the upper left corner of the sheet. */
export interface SheetPlace {
  readonly x: number;
  readonly y: number;
}
export interface Box extends SheetPlace {
  readonly width: number;
  readonly height: number;
}
/** One question as it stands on an answer sheet; `options` 0 is answered in writing and has no circles. */
export interface SheetQuestion {
  readonly options: number;
  /** Several circles may be filled. */
  readonly isMany: boolean;
}
export interface SheetWish {
  readonly questions: readonly SheetQuestion[];
  /** How many columns are wished for; as many as fit are made. */
  readonly columns: number;
  readonly spacing: 'roomy' | 'tight';
  /** The letters of every second row go on where those of the first end, so that a row is not mistaken for its neighbour. */
  readonly alternates: boolean;
}
export interface Bubble extends SheetPlace {
  readonly letter: string;
}
export interface SheetRow {
  /** The question’s place in the paper, from 0. */
  readonly question: number;
  readonly label: string;
  readonly isMany: boolean;
  /** The row as it is cut out to be looked at. */
  readonly box: Box;
  readonly bubbles: readonly Bubble[];
}
export interface SheetPage {
  /** From 0. */
  readonly page: number;
  readonly rows: readonly SheetRow[];
}

export const SHEET = { width: 210, height: 297 } as const;
export const BUBBLE_RADIUS = 2.2;
/** Solid squares by which a picture of the sheet is set straight: their middles, upper left first, clockwise. */
export const MARKS: readonly [SheetPlace, SheetPlace, SheetPlace, SheetPlace] = [
  { x: 12, y: 12 },
  { x: 198, y: 12 },
  { x: 198, y: 285 },
  { x: 12, y: 285 },
];
export const MARK_SIZE = 6;
/** A smaller square beside the first, and beside no other: it says which way is up. */
export const UP_MARK: SheetPlace = { x: 22, y: 12 };
export const UP_SIZE = 4;
/** Where a name is written or printed, cut out where it must be read by a person. */
export const NAME_BOX: Box = { x: 16, y: 22, width: 178, height: 18 };

const AREA = { left: 16, top: 50, width: 178, bottom: 276 } as const;
const PITCH = 6.5;
const LABEL = 10;
const GAP = 3;
const ROW: Readonly<Record<SheetWish['spacing'], number>> = { roomy: 9, tight: 6.6 };
export const MOST_OPTIONS = 10;
export const MOST_PAGES = 8;

const CELL = 2.8;
const CELLS_LEFT = 60;
/** The cells of the strip that says which sheet this is, with whether each is printed dark. */
export function codeCells(test: number, sheet: number, page: number): readonly { readonly box: Box; readonly isDark: boolean }[] {
  return sheetBits(test, sheet, page).map((isDark, n) => ({ box: { x: CELLS_LEFT + n * CELL, y: 9.5, width: CELL, height: 5 }, isDark }));
}
/** The middles of those cells, in order. */
export const CODE_PLACES: readonly SheetPlace[] = sheetBits(0, 0, 0).map((_, n) => ({ x: CELLS_LEFT + (n + 0.5) * CELL, y: 12 }));

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';

/** How many columns fit beside one another where a question has so many options. */
export const columnsThatFit = (options: number): number =>
  Math.max(1, Math.min(4, Math.floor((AREA.width + GAP) / (LABEL + Math.max(2, options) * PITCH + GAP))));

/** The letter of an option in a row: those of every second row go on after `most` where the letters alternate. */
export const letterOf = (option: number, question: number, most: number, alternates: boolean): string =>
  LETTERS[alternates && question % 2 === 1 ? option + most : option] ?? '';

/**
 * The pages of an answer sheet for a paper, in millimetres: questions down the columns, one row each, a circle for each option. What
 * stands where is said here alone; printing and reading both take it from here. No question is an empty list; more than eight pages, or a
 * question with more than ten options, throws a RangeError.
 * Worked example: 60 questions of 5 options in 4 columns, tight: 34 rows a column, so one page with two columns filled.
 */
export function sheetLayout(wish: SheetWish): readonly SheetPage[] {
  const most = Math.max(2, ...wish.questions.map((q) => q.options));
  if (most > MOST_OPTIONS) throw new RangeError(`A question has ${most} options; a sheet has room for ${MOST_OPTIONS}.`);
  const columns = Math.min(wish.columns, columnsThatFit(most));
  const height = ROW[wish.spacing];
  const down = Math.floor((AREA.bottom - AREA.top) / height);
  const width = (AREA.width + GAP) / columns;
  const pages = Math.ceil(wish.questions.length / (down * columns));
  if (pages > MOST_PAGES) throw new RangeError(`These questions take ${pages} pages; a sheet has ${MOST_PAGES} at most.`);
  const rows = wish.questions.map((q, n): SheetRow & { page: number } => {
    const at = n % (down * columns);
    const left = AREA.left + Math.floor(at / down) * width;
    const middle = AREA.top + (at % down) * height + height / 2;
    return {
      page: Math.floor(n / (down * columns)),
      question: n,
      label: String(n + 1),
      isMany: q.isMany,
      box: { x: left, y: middle - height / 2, width: width - GAP, height },
      bubbles: Array.from({ length: q.options }, (_, k) => ({
        x: left + LABEL + (k + 0.5) * PITCH,
        y: middle,
        letter: letterOf(k, n, most, wish.alternates),
      })),
    };
  });
  return Array.from({ length: pages }, (_, page) => ({ page, rows: rows.filter((r) => r.page === page) }));
}
