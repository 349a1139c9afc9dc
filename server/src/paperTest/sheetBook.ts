import type { Membership } from '@rosemary/core';
import { type Db, rows } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { listWhom } from '../quizResults/index.ts';
import { answerSheets } from './answerSheets.ts';
import { readStanding } from './sheets.ts';

/** A course as it is named at the head of what is printed. */
export async function courseWords(db: Db, courseId: string): Promise<string> {
  const [row] = await rows<{ words: string }>(db, "select code || '  ' || title as words from course where id = $1", [courseId]);
  return row?.words ?? '';
}

/** Sheets as they are printed: of all students one reaches, the spare ones, or a single one. */
export async function printedSheets(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  title: string,
  which: 'all' | 'spare' | { readonly sheetId: string },
): Promise<Buffer> {
  const { test, sheets } = await readStanding(db, itemId);
  if (test.printedAt === null) throw new AppError('not-now', 'The sheets have not been made yet. Make them first.');
  const names = new Map((await listWhom(db, courseId, itemId, member)).map((w) => [w.id, w]));
  const wanted = sheets.filter((s) => {
    if (typeof which === 'object') return s.id === which.sheetId && (s.enrolmentId === null || names.has(s.enrolmentId));
    return which === 'spare' ? s.enrolmentId === null : s.enrolmentId !== null && names.has(s.enrolmentId);
  });
  const [first] = wanted;
  if (first === undefined) throw new AppError('not-now', 'There is no such sheet to print.');
  return answerSheets({
    ...{ title, course: await courseWords(db, courseId), test: test.number, pages: first.form.pages },
    sheets: wanted.map((s) => {
      const who = names.get(s.enrolmentId ?? '');
      const name = who === undefined ? '' : `${who.family_name}, ${who.given_name}`;
      return { number: s.number, name, section: who?.section ?? '', form: s.form.letter, pages: s.form.pages };
    }),
  });
}
