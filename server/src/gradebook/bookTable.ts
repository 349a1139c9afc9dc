import type { Gradebook } from '@rosemary/api';
import { formatPoints } from '@rosemary/core';
import { type Db, rows } from '../platform/database.ts';

export interface PersonKeys {
  readonly enrolmentId: string;
  readonly email: string;
  readonly source: string | null;
}
/** What names the students of a course outside of it. */
export const listKeys = (db: Db, courseId: string): Promise<PersonKeys[]> =>
  rows<PersonKeys & Record<string, unknown>>(
    db,
    `select e.id as "enrolmentId", p.email::text as email, p.source from enrolment e join person p on p.id = e.person_id where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and not e.is_sample`,
    [courseId],
  );

export async function listSectionTitles(db: Db, courseId: string): Promise<ReadonlyMap<string, string>> {
  const found = await rows<{ id: string; title: string }>(db, 'select id, title from section where course_id = $1', [courseId]);
  return new Map(found.map((s) => [s.id, s.title]));
}

type Line = (string | number | null)[];
const asNumber = (text: string | null): string | number | null =>
  text === null || text === '' || !/^-?\d+(\.\d+)?$/.test(text) ? text : Number(text);
const PLAIN_HEADS = ['Family name', 'Given name', 'Section'];
const KEY_HEADS = ['Rosemary ID', 'Student ID', 'Email'];

/** What of a gradebook goes into a table. */
export interface TableWish {
  /** Columns of the grid by their keys, in its order; null is all of them. */
  readonly keys: readonly string[] | null;
  readonly students: ReadonlySet<string> | null;
  /** With identifiers, addresses, points and what was given, so that it can be imported again. */
  readonly isWhole: boolean;
  readonly sections: ReadonlyMap<string, string>;
  readonly people: ReadonlyMap<string, PersonKeys>;
}

interface TableColumn {
  readonly key: string;
  readonly head: string;
  readonly points: string;
  readonly id: string;
  readonly of: (row: Gradebook['rows'][number]) => string | number | null;
}

function columnsOf(book: Gradebook, isWhole: boolean): TableColumn[] {
  const graded = book.columns.map((column, place): TableColumn => ({
    key: column.id,
    head: column.title,
    points: formatPoints(column.possible),
    id: column.id,
    of: (row) => {
      const cell = row.cells[place];
      if (cell === undefined || cell === 0 || cell[0] === 'outside') return null;
      const given = cell[6];
      // Whole, it is what was given, before curve and lateness: that is what is read when it is imported.
      if (isWhole) return given === null ? null : typeof given === 'number' ? given / 1000 : given;
      return cell[0] === 'marked' ? asNumber(cell[1]) : cell[0] === 'none' ? null : cell[0];
    },
  }));
  const parts = book.parts.map((part, place): TableColumn => ({
    key: `category:${part.categoryId}${part.periodId === null ? '' : `:${part.periodId}`}`,
    head: `${part.title} (subtotal, weight ${formatPoints(part.weightPercent)} %)`,
    points: '',
    id: '',
    of: (row) => asNumber(row.subtotals[place] ?? null),
  }));
  const periods = book.periods.map((period, place): TableColumn => ({
    key: `period:${period.id}`,
    head: `${period.title} (total, weight ${formatPoints(period.weightPercent)} %)`,
    points: '',
    id: '',
    of: (row) => asNumber(row.periods[place] ?? null),
  }));
  return [...graded, ...parts, ...periods];
}

/** A gradebook as the lines of a table: heads, points, identifiers where it is whole, then a line for each student. */
export function bookTable(book: Gradebook, wish: TableWish): Line[] {
  const all = columnsOf(book, wish.isWhole);
  const byKey = new Map(all.map((c) => [c.key, c]));
  const columns = wish.keys === null ? all : wish.keys.flatMap((key) => byKey.get(key) ?? []);
  const heads = wish.isWhole ? [...KEY_HEADS, ...PLAIN_HEADS] : PLAIN_HEADS;
  const blank = heads.slice(1).map(() => null);
  const totals = ['Total so far', 'Floor', 'Reach', 'Letter'];
  const lines = book.rows
    .filter((row) => wish.students === null || wish.students.has(row.enrolmentId))
    .map((row): Line => {
      const keys = wish.people.get(row.enrolmentId);
      return [
        ...(wish.isWhole ? [row.enrolmentId, keys?.source ?? null, keys?.email ?? null] : []),
        ...[row.familyName, row.givenName, wish.sections.get(row.sectionId ?? '') ?? null],
        ...columns.map((c) => c.of(row)),
        ...[asNumber(row.totals.soFar), asNumber(row.totals.floor), asNumber(row.totals.reach), row.totals.letter],
      ];
    });
  return [
    [...heads, ...columns.map((c) => c.head), ...totals],
    ['Points', ...blank, ...columns.map((c) => asNumber(c.points)), ...totals.map(() => null)],
    ...(wish.isWhole ? [['Column ID', ...blank, ...columns.map((c) => c.id), ...totals.map(() => null)] as Line] : []),
    ...lines,
  ];
}
