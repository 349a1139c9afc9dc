import type { StackEntry } from '@rosemary/api';
import { markers, nameOf, RANK } from './useStack.ts';

/** One column of the stack as a table: what stands in it, and how it is ordered. */
export interface StackColumn {
  readonly key: string;
  readonly title: string;
  readonly isNumber?: boolean;
  /** What it is ordered by: words, or a number; null stands last either way. */
  readonly by: (e: StackEntry) => string | number | null;
}

const number = (value: number): number | null => (value === 0 ? null : value);
export const STACK_COLUMNS: readonly StackColumn[] = [
  { key: 'student', title: 'work of', by: (e) => (e.group === '' ? `${e.familyName} ${e.givenName}` : nameOf(e)) },
  { key: 'section', title: 'section', by: (e) => e.section },
  { key: 'state', title: 'state', by: (e) => RANK.indexOf(e.state) },
  { key: 'handed', title: 'handed in', by: (e) => (e.handedInAt === null ? null : Date.parse(e.handedInAt)) },
  { key: 'late', title: 'late', by: (e) => (e.lateText === null || e.handedInAt === null ? null : Date.parse(e.handedInAt)) },
  { key: 'attempt', title: 'attempt', isNumber: true, by: (e) => number(e.attempt) },
  { key: 'words', title: 'words', isNumber: true, by: (e) => number(e.words) },
  { key: 'title', title: 'its title, its file', by: (e) => e.title || (e.original?.name ?? null) },
  { key: 'notes', title: 'notes', isNumber: true, by: (e) => number(e.notes) },
  { key: 'marker', title: 'marked by', by: (e) => markers(e) || null },
  { key: 'match', title: 'elsewhere', isNumber: true, by: (e) => e.matchPercent },
  { key: 'score', title: 'score', isNumber: true, by: (e) => (e.scoreText === null ? null : Number.parseFloat(e.scoreText)) },
];

/** The works in the order of one column; those it says nothing of stand last, whichever way it goes. */
export function orderedBy(entries: readonly StackEntry[], column: StackColumn, isFalling: boolean): readonly StackEntry[] {
  const way = isFalling ? -1 : 1;
  return [...entries].sort((a, b) => {
    const [x, y] = [column.by(a), column.by(b)];
    if (x === null || y === null) return x === y ? 0 : x === null ? 1 : -1;
    const order = typeof x === 'number' && typeof y === 'number' ? x - y : String(x).localeCompare(String(y));
    return order * way || a.familyName.localeCompare(b.familyName) || a.givenName.localeCompare(b.givenName);
  });
}
