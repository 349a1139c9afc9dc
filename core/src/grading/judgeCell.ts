import type { Thousandths } from '../exact/points.ts';
import { formatPoints, pointsInWords } from '../exact/points.ts';
import { readCellText, wishInWords, type CellWish } from './readCellText.ts';
import type { SchemeLevel } from './policy.ts';

/** What was given to a cell, before lateness: a score in thousandths or a state; null where nothing was. */
export type GivenCell = Thousandths | 'exempt' | 'unfinished' | 'missing' | null;

/** A cell that something is to be written to. */
export interface CellTarget {
  readonly possible: Thousandths;
  readonly given: GivenCell;
  /** Why nothing can be written here; null where it can. */
  readonly closed: string | null;
  /** The letters that its column takes, where it takes any. */
  readonly levels?: readonly SchemeLevel[];
}

/** What writing a text to a cell would do. `above` changes it too, and asks first. */
export type CellJudgement =
  | { readonly kind: 'same' }
  | { readonly kind: 'change' | 'above'; readonly wish: CellWish; readonly was: string; readonly will: string; readonly note: string }
  | { readonly kind: 'refused'; readonly reason: string };

const NOTHING: CellWish = { state: null, raw: null };
const givenWish = (given: GivenCell): CellWish =>
  given === null ? NOTHING : typeof given === 'number' ? { state: 'scored', raw: given } : { state: given, raw: null };
const isSame = (a: CellWish, b: CellWish): boolean => a.state === b.state && a.raw === b.raw;

/**
 * What writing a text to a cell would do, before it is done: what is pasted, filled or imported is judged cell by cell.
 *
 * Convention: points are thousandths; a text is read as one that is typed (`readCellText`). What stands there already is `same`, also where
 * nothing could be written; a score above the points is `above`, with a note that says so. Errors are values: `refused` with a sentence.
 * Worked example: `12` over an empty cell of 10 points is `above`, with “more than the 10 points”.
 */
export function judgeCell(text: string, target: CellTarget): CellJudgement {
  const held = givenWish(target.given);
  const read = readCellText(text, target.possible, target.levels);
  if (read.ok && isSame(read.wish, held)) return { kind: 'same' };
  if (target.closed !== null) return { kind: 'refused', reason: target.closed };
  if (!read.ok) return { kind: 'refused', reason: read.reason };
  const { wish } = read;
  const words = { wish, was: wishInWords(held), will: wishInWords(wish) };
  return wish.raw !== null && wish.raw > target.possible
    ? { kind: 'above', ...words, note: `${formatPoints(wish.raw)} is more than the ${pointsInWords(target.possible)}` }
    : { kind: 'change', ...words, note: '' };
}
