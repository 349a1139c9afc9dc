import type { BookRow, CellChange } from '@rosemary/api';
import { formatPoints, pointsInWords } from '@rosemary/core';
import { workId } from '../anonymity/index.ts';
import { listToldNow, readReach } from '../opening/index.ts';
import { type Db, maybe } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { announceReturned } from '../platform/events.ts';
import { bookRow } from './book.ts';
import { calculate } from './cells.ts';
import { COLUMN_KINDS } from './factItems.ts';
import { readFacts } from './facts.ts';
import type { CourseFacts, FactPerson } from './factTypes.ts';
import { findGradeForUpdate, recordGrade } from './ledger.ts';

/** One row afresh, after a cell of it changed. */
export async function readRow(db: Db, courseId: string, enrolmentId: string, now: number): Promise<BookRow> {
  const facts = await readFacts(db, courseId, { enrolmentId });
  const person = facts.people[0];
  if (person === undefined) throw notFound();
  return rowOf(facts, person, now);
}

export const rowOf = (facts: CourseFacts, person: FactPerson, now: number): BookRow =>
  bookRow(
    facts,
    calculate(facts, now, false),
    facts.items.filter((item) => !item.isDraft),
    person,
    now,
  );

async function getGradable(db: Db, courseId: string, itemId: string, enrolmentId: string): Promise<{ title: string; possible: number }> {
  const found = await maybe<{ title: string; possible: number }>(
    db,
    `
    select i.title, (i.possible * 1000)::int as possible from item i join enrolment e on e.course_id = i.course_id
    where i.course_id = $1 and i.id = $2 and e.id = $3 and e.role = 'student' and i.removed_at is null and not i.is_draft and i.kind = any($4)`,
    [courseId, itemId, enrolmentId, COLUMN_KINDS],
  );
  if (found === null) throw notFound();
  return found;
}

/** While names are hidden from those who mark, a score beside a name is neither shown nor typed. */
async function requireNamed(db: Db, target: { readonly itemId: string; readonly enrolmentId: string }, now: number): Promise<void> {
  if ((await workId(db, target, now)) !== target.enrolmentId)
    throw new AppError(
      'not-now',
      'This is marked without names, so its marks stand in the gradebook once they are released, or names are shown.',
    );
}

/** A score or state for somebody the item is not for would be kept and never shown: it is refused. */
async function requireForStudent(db: Db, courseId: string, change: CellChange, title: string): Promise<void> {
  const person = await maybe<{ section_id: string | null; name: string }>(
    db,
    "select e.section_id, p.given_name || ' ' || p.family_name as name from enrolment e join person p on p.id = e.person_id where e.id = $1",
    [change.enrolmentId],
  );
  const reach = await readReach(db, courseId);
  if (!reach.isFor(change.itemId, { enrolmentId: change.enrolmentId, sectionId: person?.section_id ?? null }))
    throw invalid(
      'enrolmentId',
      `“${title}” is not for ${person?.name ?? 'this student'}, so nothing can be given for it. Change in the Plan who it is for.`,
    );
}

/**
 * Writes what was typed into a cell. The writer names the event they saw; if another came meanwhile nothing is written
 * and both are given back. A score above the points asks once.
 */
export async function changeCell(db: Db, courseId: string, change: CellChange, actorId: string, now: number): Promise<string | null> {
  const item = await getGradable(db, courseId, change.itemId, change.enrolmentId);
  await requireNamed(db, change, now);
  if ((change.state === 'scored') !== (change.raw !== null)) throw invalid('raw', 'A score needs a number, and only a score has one.');
  if (change.raw !== null && change.raw > item.possible && !change.isAboveConfirmed) {
    throw new AppError(
      'confirm',
      `${formatPoints(change.raw)} is more than the ${pointsInWords(item.possible)} of “${item.title}”. Is it meant so?`,
      [{ field: 'raw', text: 'above the points' }],
    );
  }
  const current = await findGradeForUpdate(db, change.itemId, change.enrolmentId);
  if ((current?.eventId ?? null) !== change.seenEventId)
    throw conflict({ raw: current?.raw ?? null, state: current?.state ?? null, eventId: current?.eventId ?? null });
  // What is there already is not written again: the ledger tells of changes.
  if ((current?.state ?? null) === change.state && (current?.raw ?? null) === change.raw) return current?.eventId ?? null;
  if (change.state !== null) await requireForStudent(db, courseId, change, item.title);
  const isReleased =
    current?.isReleased ?? (await listToldNow(db, courseId, change.itemId, [change.enrolmentId], now)).has(change.enrolmentId);
  if (isReleased) await announceReturned(db, courseId, change.itemId, [change.enrolmentId]);
  return recordGrade(db, {
    itemId: change.itemId,
    enrolmentId: change.enrolmentId,
    kind: 'set',
    state: change.state,
    raw: change.raw,
    isReleased,
    source: 'gradebook',
    reason: change.reason,
    actorId,
    at: now,
  });
}

/** Takes the latest event of a cell back by writing what stood before it; the ledger keeps both. */
export async function undoEvent(
  db: Db,
  courseId: string,
  eventId: string,
  actorId: string,
  now: number,
): Promise<{ eventId: string; enrolmentId: string }> {
  const event = await maybe<{ item_id: string; enrolment_id: string }>(
    db,
    'select g.item_id, g.enrolment_id from grade_event g join item i on i.id = g.item_id where g.id = $1 and i.course_id = $2',
    [eventId, courseId],
  );
  if (event === null) throw notFound();
  await requireNamed(db, { itemId: event.item_id, enrolmentId: event.enrolment_id }, now);
  const current = await findGradeForUpdate(db, event.item_id, event.enrolment_id);
  if (current?.eventId !== eventId)
    throw new AppError('not-now', 'Only the latest change of a cell can be undone, and there is a later one.');
  const before = await maybe<{ state: 'scored' | null; raw: number | null; is_released: boolean }>(
    db,
    `
    select state, (raw * 1000)::int as raw, is_released from grade_event where item_id = $1 and enrolment_id = $2 and id < $3 order by id desc limit 1`,
    [event.item_id, event.enrolment_id, eventId],
  );
  const id = await recordGrade(db, {
    itemId: event.item_id,
    enrolmentId: event.enrolment_id,
    kind: 'undo',
    state: before?.state ?? null,
    raw: before?.raw ?? null,
    isReleased: before?.is_released ?? false,
    source: 'gradebook',
    reason: '',
    actorId,
    at: now,
    undoes: eventId,
  });
  if (before?.is_released === true) await announceReturned(db, courseId, event.item_id, [event.enrolment_id]);
  return { eventId: id, enrolmentId: event.enrolment_id };
}
