import { formatPoints, parsePoints, type Thousandths } from '../exact/points.ts';
import { levelNamed, valueOfLevel } from './levels.ts';
import type { SchemeLevel } from './policy.ts';

/** What is written to a cell: a score in thousandths, a state, or nothing at all. */
export interface CellWish {
  readonly state: 'scored' | 'exempt' | 'missing' | 'unfinished' | null;
  readonly raw: Thousandths | null;
}
export type CellTextRead = { readonly ok: true; readonly wish: CellWish } | { readonly ok: false; readonly reason: string };

/** By a map: words such as `constructor` are names of every object, and states of no cell. */
const STATES: ReadonlyMap<string, CellWish['state']> = new Map(
  Object.entries({
    e: 'exempt',
    exempt: 'exempt',
    '(-)': 'exempt',
    '(–)': 'exempt',
    m: 'missing',
    missing: 'missing',
    u: 'unfinished',
    unfinished: 'unfinished',
    '[': 'unfinished',
  } as const),
);

/**
 * Reads what is typed or pasted into a cell of the gradebook.
 *
 * Convention: a number of points with a point or a comma as decimal sign; a percentage of the possible points (rounded half up to a
 * thousandth); the word or first letter of a state; a letter of the scheme where `levels` are given, which stands for its value; nothing
 * empties the cell. `possible` is in thousandths. Errors are values: the reason is a sentence for the person who typed.
 * Worked example: of 60 points, `readCellText('80 %', 60000)` is a score of 48000; `readCellText('e', 60000)` is exempt.
 */
export function readCellText(text: string, possible: Thousandths, levels: readonly SchemeLevel[] = []): CellTextRead {
  const word = text.trim().toLowerCase();
  if (word === '') return { ok: true, wish: { state: null, raw: null } };
  const level = levelNamed(levels, word);
  if (level !== null) return { ok: true, wish: { state: 'scored', raw: Math.round((valueOfLevel(levels, level) * possible) / 100_000) } };
  const state = STATES.get(word);
  if (state !== undefined) return { ok: true, wish: { state, raw: null } };
  const share = /^(\d{1,3}(?:[.,]\d{1,3})?)\s*%$/.exec(word);
  const parsed = parsePoints(share?.[1] ?? word);
  if (!parsed.ok)
    return {
      ok: false,
      reason: `${parsed.reason} Or: a percentage such as 80 %, exempt, missing, unfinished${levels.length === 0 ? '' : `, ${levels.map((l) => l.label).join(', ')}`}.`,
    };
  return { ok: true, wish: { state: 'scored', raw: share === null ? parsed.value : Math.round((parsed.value * possible) / 100_000) } };
}

/**
 * How a wish stands in a cell until it is committed, and in the sentence that tells of it.
 * Worked example: a score of 48000 is `48`; an emptied cell is `empty`.
 */
export const wishInWords = ({ state, raw }: CellWish): string => (raw === null ? (state ?? 'empty') : formatPoints(raw));
