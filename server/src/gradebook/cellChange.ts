import type { BookRow, CellChange, CellSaved, EventReason } from '@rosemary/api';
import { formatPoints, pointsInWords } from '@rosemary/core';
import { workId } from '../anonymity/index.ts';
import { listToldNow } from '../opening/index.ts';
import { type Db, maybe, run } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { announceReturned } from '../platform/events.ts';
import { bookRow } from './book.ts';
import { calculate } from './cells.ts';
import { COLUMN_KINDS } from './factColumns.ts';
import { readFacts } from './facts.ts';
import type { CourseFacts, FactPerson } from './factTypes.ts';
import { type CurrentGrade, findGradeBefore, findGradeForUpdate, recordGrade } from './ledger.ts';

async function readStudent(db: Db, courseId: string, enrolmentId: string): Promise<{ facts: CourseFacts; person: FactPerson }> {
  const facts = await readFacts(db, courseId, { enrolmentId });
  const person = facts.people[0];
  if (person === undefined) throw notFound();
  return { facts, person };
}

/** One row afresh, after a cell of it changed. */
export async function readRow(db: Db, courseId: string, enrolmentId: string, now: number): Promise<BookRow> {
  const { facts, person } = await readStudent(db, courseId, enrolmentId);
  return rowOf(facts, person, now);
}

export const rowOf = (facts: CourseFacts, person: FactPerson, now: number): BookRow =>
  bookRow(
    facts,
    calculate(facts, now, false),
    facts.columns.filter((column) => !column.isDraft),
    person,
    now,
  );

interface Gradable {
  readonly itemId: string | null;
  readonly title: string;
  readonly possible: number;
}

/** The column a score may be typed into for this student: of the course, there, and of no draft. */
async function getGradable(db: Db, courseId: string, columnId: string, enrolmentId: string): Promise<Gradable> {
  const found = await maybe<Gradable>(
    db,
    `
    select c.item_id as "itemId", coalesce(c.title, i.title) as title, (c.possible * 1000)::int as possible from grade_column c join enrolment e on e.course_id = c.course_id left join item i on i.id = c.item_id
    where c.course_id = $1 and c.id = $2 and e.id = $3 and e.role = 'student' and c.removed_at is null and (c.item_id is null or i.removed_at is null and not i.is_draft and i.kind = any($4))`,
    [courseId, columnId, enrolmentId, COLUMN_KINDS],
  );
  if (found === null) throw notFound();
  return found;
}

/** While names are hidden from those who mark, a score beside a name is neither shown nor typed. */
async function requireNamed(db: Db, itemId: string | null, enrolmentId: string, now: number): Promise<void> {
  if (itemId !== null && (await workId(db, { itemId, enrolmentId }, now)) !== enrolmentId)
    throw new AppError(
      'not-now',
      'This is marked without names, so its marks stand in the gradebook once they are released, or names are shown.',
    );
}

/** A score or state for somebody the item is not for would be kept and never shown: it is refused. */
function requireForStudent({ reach }: CourseFacts, { itemId, title }: Gradable, person: FactPerson): void {
  if (itemId !== null && !reach.isFor(itemId, person))
    throw invalid(
      'enrolmentId',
      `“${title}” is not for ${person.givenName} ${person.familyName}, so nothing can be given for it. Change in the Plan who it is for.`,
    );
}

/** Whether a mark typed now is told at once: as its item says; what stands in the gradebook alone is. */
const isToldNow = async (db: Db, courseId: string, itemId: string | null, enrolmentId: string, now: number): Promise<boolean> =>
  itemId === null || (await listToldNow(db, courseId, itemId, [enrolmentId], now)).has(enrolmentId);

/**
 * Writes what was typed into a cell. The writer names the event they saw; if another came meanwhile nothing is written
 * and both are given back. A score above the points asks once.
 */
export async function changeCell(db: Db, courseId: string, change: CellChange, actorId: string, now: number): Promise<CellSaved> {
  const { columnId, enrolmentId } = change;
  const column = await getGradable(db, courseId, columnId, enrolmentId);
  await requireNamed(db, column.itemId, enrolmentId, now);
  if ((change.state === 'scored') !== (change.raw !== null)) throw invalid('raw', 'A score needs a number, and only a score has one.');
  if (change.raw !== null && change.raw > column.possible && !change.isAboveConfirmed) {
    throw new AppError(
      'confirm',
      `${formatPoints(change.raw)} is more than the ${pointsInWords(column.possible)} of “${column.title}”. Is it meant so?`,
      [{ field: 'raw', text: 'above the points' }],
    );
  }
  const current = await findGradeForUpdate(db, columnId, enrolmentId);
  // What is there already is not written again: the ledger tells of changes. So a write whose answer was lost can be sent once more.
  if ((current?.state ?? null) === change.state && (current?.raw ?? null) === change.raw)
    return { eventId: current?.eventId ?? null, row: await readRow(db, courseId, enrolmentId, now) };
  if ((current?.eventId ?? null) !== change.seenEventId)
    throw conflict({ raw: current?.raw ?? null, state: current?.state ?? null, eventId: current?.eventId ?? null });
  const { facts, person } = await readStudent(db, courseId, enrolmentId);
  if (change.state !== null) requireForStudent(facts, column, person);
  const isReleased = current?.isReleased ?? (await isToldNow(db, courseId, column.itemId, enrolmentId, now));
  if (isReleased) await announceReturned(db, courseId, column.itemId, [enrolmentId]);
  const { state, raw } = change;
  const eventId = await recordGrade(db, {
    columnId,
    enrolmentId,
    kind: 'set',
    state,
    raw,
    isReleased,
    source: 'gradebook',
    reason: change.reason,
    actorId,
    at: now,
  });
  // The rest of the row was read a moment ago, and this cell is locked: nothing of it is read twice.
  facts.grades.set(columnId, enrolmentId, { state, raw, isReleased, eventId });
  return { eventId, row: rowOf(facts, person, now) };
}

interface NamedEvent {
  readonly columnId: string;
  readonly itemId: string | null;
  readonly enrolmentId: string;
  readonly actorId: string;
  readonly state: CurrentGrade['state'];
  readonly raw: number | null;
  readonly isReleased: boolean;
}
async function getEvent(db: Db, courseId: string, eventId: string): Promise<NamedEvent> {
  const event = await maybe<NamedEvent & Record<string, unknown>>(
    db,
    `select g.column_id as "columnId", c.item_id as "itemId", g.enrolment_id as "enrolmentId", g.actor_id as "actorId", g.state, (g.raw * 1000)::int as raw, g.is_released as "isReleased"
     from grade_event g join grade_column c on c.id = g.column_id where g.id = $1 and c.course_id = $2`,
    [eventId, courseId],
  );
  if (event === null) throw notFound();
  return event;
}

/** Writes what stood in a cell after one of its changes; what is released stays released, so that nobody loses sight of a result. */
export async function putBack(
  db: Db,
  courseId: string,
  eventId: string,
  actorId: string,
  now: number,
): Promise<{ eventId: string | null; enrolmentId: string }> {
  const { columnId, itemId, enrolmentId, state, raw, isReleased } = await getEvent(db, courseId, eventId);
  await requireNamed(db, itemId, enrolmentId, now);
  const current = await findGradeForUpdate(db, columnId, enrolmentId);
  if ((current?.state ?? null) === state && (current?.raw ?? null) === raw) return { eventId: current?.eventId ?? null, enrolmentId };
  const isShown = current?.isReleased === true || isReleased;
  const id = await recordGrade(db, {
    ...{ columnId, enrolmentId, kind: 'set', state, raw, isReleased: isShown },
    ...{ source: 'gradebook', reason: 'put back to an earlier value', actorId, at: now },
  });
  if (isShown) await announceReturned(db, courseId, itemId, [enrolmentId]);
  return { eventId: id, enrolmentId };
}

/** Why a change was made, said by the one who made it. */
export async function saveReason(db: Db, courseId: string, { eventId, reason }: EventReason, actorId: string): Promise<void> {
  const event = await getEvent(db, courseId, eventId);
  if (event.actorId !== actorId) throw new AppError('refused', 'Only the one who made a change can say why.');
  await run(
    db,
    'insert into event_reason (event_id, reason) values ($1, $2) on conflict (event_id) do update set reason = excluded.reason',
    [eventId, reason],
  );
}

/** Takes the latest event of a cell back by writing what stood before it; the ledger keeps both. */
export async function undoEvent(
  db: Db,
  courseId: string,
  eventId: string,
  actorId: string,
  now: number,
): Promise<{ eventId: string; enrolmentId: string }> {
  const event = await getEvent(db, courseId, eventId);
  const { columnId, itemId, enrolmentId } = event;
  await requireNamed(db, itemId, enrolmentId, now);
  const current = await findGradeForUpdate(db, columnId, enrolmentId);
  if (current?.eventId !== eventId)
    throw new AppError('not-now', 'Only the latest change of a cell can be undone, and there is a later one.');
  const before = await findGradeBefore(db, columnId, enrolmentId, eventId);
  const id = await recordGrade(db, {
    columnId,
    enrolmentId,
    kind: 'undo',
    state: before?.state ?? null,
    raw: before?.raw ?? null,
    isReleased: before?.isReleased ?? false,
    source: 'gradebook',
    reason: '',
    actorId,
    at: now,
    undoes: eventId,
  });
  if (before?.isReleased === true) await announceReturned(db, courseId, itemId, [enrolmentId]);
  return { eventId: id, enrolmentId };
}
