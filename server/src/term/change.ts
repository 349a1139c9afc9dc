import type { NewTerm, TermChange } from '@rosemary/api';
import { termWeeks } from '@rosemary/core';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { conflict, invalid, notFound } from '../platform/errors.ts';

function requireTerm(term: NewTerm): void {
  if (term.endsOn <= term.startsOn) throw invalid('endsOn', `The last day, ${term.endsOn}, is not after the first, ${term.startsOn}.`);
  if (termWeeks(term).length > 60) throw invalid('endsOn', 'A term has at most 60 weeks. Set an earlier last day.');
  const wrong = term.holidays.find((h) => h.endsOn < h.startsOn);
  if (wrong !== undefined) throw invalid('holidays', `The holiday “${wrong.title}” ends before it begins.`);
}

async function putHolidays(db: Db, termId: string, holidays: NewTerm['holidays']): Promise<void> {
  await run(
    db,
    'insert into term_holiday (term_id, title, starts_on, ends_on) select $1, t.* from unnest($2::text[], $3::date[], $4::date[]) as t',
    [termId, holidays.map((h) => h.title), holidays.map((h) => h.startsOn), holidays.map((h) => h.endsOn)],
  );
}

export async function addTerm(db: Db, term: NewTerm): Promise<string> {
  requireTerm(term);
  const row = await rows<{ id: string }>(
    db,
    'insert into term (title, starts_on, ends_on, meeting_days) values ($1, $2, $3, $4) returning id',
    [term.title, term.startsOn, term.endsOn, term.meetingDays],
  );
  const id = row[0]?.id ?? '';
  await putHolidays(db, id, term.holidays);
  return id;
}

/** Changes a term for every course in it. Dates of items stay where they are; what then lies outside is found by each course's check. */
export async function changeTerm(db: Db, id: string, { version, ...term }: TermChange): Promise<void> {
  requireTerm(term);
  const changed = await run(
    db,
    'update term set title = $2, starts_on = $3, ends_on = $4, meeting_days = $5, version = version + 1 where id = $1 and version = $6',
    [id, term.title, term.startsOn, term.endsOn, term.meetingDays, version],
  );
  if (changed === 0) {
    const current = await maybe(db, 'select title, starts_on, ends_on, version from term where id = $1', [id]);
    throw current === null ? notFound() : conflict(current);
  }
  await run(db, 'delete from term_holiday where term_id = $1', [id]);
  await putHolidays(db, id, term.holidays);
}
