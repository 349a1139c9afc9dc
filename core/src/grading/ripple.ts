import { exactText, type Ratio } from '../exact/ratio.ts';
import type { SchemeLevel } from './policy.ts';
import { readTotal } from './scheme.ts';

export interface RippleInput {
  readonly id: string;
  readonly name: string;
  readonly before: Ratio | null;
  readonly after: Ratio | null;
}

export interface RippleRow {
  readonly id: string;
  readonly name: string;
  readonly before: string | null;
  readonly after: string | null;
  readonly letterBefore: string | null;
  readonly letterAfter: string | null;
  /** Exact difference in percentage points, as text; null where one side has no total. */
  readonly change: string | null;
  readonly move: 'rises' | 'falls' | 'stays' | 'appears' | 'vanishes';
  readonly crosses: boolean;
}

export interface Ripple {
  readonly rows: readonly RippleRow[];
  readonly rise: number;
  readonly fall: number;
  readonly cross: number;
  readonly sentence: string;
}

/** Before and after, each read by its own scheme. */
export interface Readers {
  readonly decimals: number;
  readonly levels: readonly SchemeLevel[];
}

function moveOf(before: Ratio | null, after: Ratio | null): RippleRow['move'] {
  if (before === null) return after === null ? 'stays' : 'appears';
  if (after === null) return 'vanishes';
  const order = after.compare(before);
  return order > 0 ? 'rises' : order < 0 ? 'falls' : 'stays';
}

/**
 * The effect of a change that has not been made: two runs of the same calculation, compared.
 *
 * A rise or fall is of the exact total, not of the rounded one; a letter is crossed when the letter read differs.
 * Rows stand with the largest change first. Worked example: 72.9 → 73.1 with B from 73 rises and crosses a letter.
 */
export function rippleOf(people: readonly RippleInput[], before: Readers, after: Readers): Ripple {
  const rows = people.map((person) => {
    const was = readTotal(person.before, before.decimals, before.levels);
    const will = readTotal(person.after, after.decimals, after.levels);
    const change = person.before !== null && person.after !== null ? person.after.sub(person.before).mul(100) : null;
    const row: RippleRow = {
      id: person.id,
      name: person.name,
      before: was?.percent ?? null,
      after: will?.percent ?? null,
      letterBefore: was?.letter ?? null,
      letterAfter: will?.letter ?? null,
      change: change === null ? null : exactText(change),
      move: moveOf(person.before, person.after),
      crosses: (was?.letter ?? null) !== (will?.letter ?? null),
    };
    return { row, size: change === null ? 0 : change.abs().valueOf() };
  });
  rows.sort((a, b) => Number(b.row.crosses) - Number(a.row.crosses) || b.size - a.size || a.row.name.localeCompare(b.row.name));
  const count = (move: RippleRow['move']): number => rows.filter((r) => r.row.move === move).length;
  const rise = count('rises');
  const fall = count('falls');
  const cross = rows.filter((r) => r.row.crosses).length;
  return { rows: rows.map((r) => r.row), rise, fall, cross, sentence: rippleSentence(rise, fall, cross) };
}

/** `12 rise, 3 fall, 2 cross a letter`; `Nobody moves` where nothing changes. */
export function rippleSentence(rise: number, fall: number, cross: number): string {
  if (rise === 0 && fall === 0 && cross === 0) return 'Nobody moves';
  const verb = (n: number, one: string, many: string): string => `${n === 0 ? 'none' : n} ${n === 1 ? one : many}`;
  const text = `${verb(rise, 'rises', 'rise')}, ${verb(fall, 'falls', 'fall')}, ${verb(cross, 'crosses', 'cross')} a letter`;
  return text.charAt(0).toUpperCase() + text.slice(1);
}
