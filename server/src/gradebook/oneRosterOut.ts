import type { BookCell } from '@rosemary/api';
import { type RosterResult, writeOneRosterResults } from '@rosemary/core';
import { type Db, rows } from '../platform/database.ts';
import { makeBook } from './book.ts';
import { listKeys } from './bookTable.ts';
import type { CourseFacts } from './factTypes.ts';

/** The day of an instant in the zone of the course. */
const dayIn = (zone: string) => {
  const writer = new Intl.DateTimeFormat('sv-SE', { timeZone: zone });
  return (at: number | null): string => (at === null ? '' : writer.format(at));
};

interface Key {
  readonly id: string;
  readonly key: string;
}
/** A section by the key of the registrar, or by its own where he has given none. */
const listClasses = (db: Db, courseId: string): Promise<Key[]> =>
  rows<Key & Record<string, unknown>>(db, 'select id, coalesce(source, id::text) as key from section where course_id = $1', [courseId]);

/** When each cell was written last. */
const listTimes = (db: Db, courseId: string) =>
  rows<{ column_id: string; enrolment_id: string; at: Date }>(
    db,
    `select g.column_id, g.enrolment_id, e.at from grade g join grade_column c on c.id = g.column_id join grade_event e on e.id = g.last_event_id where c.course_id = $1`,
    [courseId],
  );
const listCourseComments = (db: Db, courseId: string) =>
  rows<{ column_id: string; enrolment_id: string; comment: string }>(
    db,
    `select w.column_id, w.enrolment_id, w.comment from cell_words w join grade_column c on c.id = w.column_id where c.course_id = $1 and w.comment <> ''`,
    [courseId],
  );

function stateOf(cell: BookCell): RosterResult['state'] | null {
  if (cell[0] === 'marked' || cell[0] === 'exempt' || cell[0] === 'unfinished' || cell[0] === 'missing') return cell[0];
  return cell[5] === 1 ? 'waits' : null;
}

/** The results of a course, section by section, as files for a school’s records. Whoever has no key of the registrar goes by their address. */
export async function oneRosterFiles(
  db: Db,
  facts: CourseFacts,
  code: string,
  now: number,
): Promise<ReturnType<typeof writeOneRosterResults>> {
  const book = makeBook(facts, now);
  const [keys, classes, times, comments] = await Promise.all([
    listKeys(db, facts.courseId),
    listClasses(db, facts.courseId),
    listTimes(db, facts.courseId),
    listCourseComments(db, facts.courseId),
  ]);
  const day = dayIn(facts.zone);
  const studentKey = new Map(keys.map((k) => [k.enrolmentId, k.source ?? k.email]));
  const classKey = new Map(classes.map((c) => [c.id, c.key]));
  const cellKey = (columnId: string, enrolmentId: string): string => `${columnId} ${enrolmentId}`;
  const timeOf = new Map(times.map((t) => [cellKey(t.column_id, t.enrolment_id), t.at.getTime()]));
  const commentOf = new Map(comments.map((c) => [cellKey(c.column_id, c.enrolment_id), c.comment]));
  const shown = new Set(book.rows.flatMap((row) => row.sectionId ?? []));
  const lineKey = (columnId: string, sectionId: string): string => `${columnId}:${classKey.get(sectionId) ?? sectionId}`;
  const known = new Set(book.categories.map((c) => c.id));
  const lines = [...shown].flatMap((sectionId) =>
    book.columns.map((column) => ({
      key: lineKey(column.id, sectionId),
      title: column.title,
      classKey: classKey.get(sectionId) ?? sectionId,
      categoryKey: column.categoryId !== null && known.has(column.categoryId) ? column.categoryId : null,
      assignedOn: day(Date.parse(column.madeAt)),
      dueOn: day(column.dueAt === null ? null : Date.parse(column.dueAt)),
      possible: column.possible,
    })),
  );
  const results = book.rows.flatMap((row) => {
    const { sectionId, enrolmentId } = row;
    const student = studentKey.get(enrolmentId);
    if (sectionId === null || student === undefined) return [];
    return row.cells.flatMap((cell, place): RosterResult[] => {
      const column = book.columns[place];
      const state = cell === 0 ? null : stateOf(cell);
      if (cell === 0 || column === undefined || state === null) return [];
      const key = cellKey(column.id, enrolmentId);
      return [
        {
          lineKey: lineKey(column.id, sectionId),
          studentKey: student,
          classKey: classKey.get(sectionId) ?? sectionId,
          state,
          score: state === 'marked' ? cell[1].replace('−', '-') : '',
          text: state === 'marked' && column.takesLetters ? (cell[7] ?? '') : '',
          isLate: cell[3] === 1,
          day: day(timeOf.get(key) ?? null),
          comment: commentOf.get(key) ?? '',
        },
      ];
    });
  });
  const categories = book.categories.map((c) => ({ key: c.id, title: c.title, weightPercent: c.weightPercent }));
  return writeOneRosterResults({ name: 'Rosemary', code }, categories, lines, results);
}
