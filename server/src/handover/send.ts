import type { SendAnswer, SendWish } from '@rosemary/api';
import { dayAndTime, gradeFaults, type Membership } from '@rosemary/core';
import { type Db, rows } from '../platform/database.ts';
import { AppError, invalid } from '../platform/errors.ts';
import { lockFinals } from './agree.ts';
import { type FinalFacts, isHeldAsAgreed, readFinalFacts } from './finals.ts';
import { findRegistrar } from './registrarClient.ts';
import { addEvents, addRows, isUnderWay, listHeld, listRows, type NewRow, type RowNow } from './rows.ts';

type Left = SendAnswer['left'][number];

/** What is put under way for one of those chosen, or why nothing is. */
function rowFor(
  all: FinalFacts,
  enrolmentId: string,
  { last, held }: { readonly last: ReadonlyMap<string, RowNow>; readonly held: ReadonlyMap<string, RowNow> },
  wish: { readonly reason: string; readonly isByHand: boolean },
): NewRow | Left {
  const person = all.people.find((p) => p.enrolmentId === enrolmentId);
  const name = person === undefined ? '' : `${person.familyName}, ${person.givenName}`;
  const left = (text: string): Left => ({ enrolmentId, name, text });
  if (person === undefined) return left('is no longer in the list.');
  const agreed = all.agreed.get(enrolmentId);
  if (agreed === undefined) return left('is not agreed yet.');
  if (person.sectionId === null) return left('is in no section. Put them into one in the roster.');
  const there = held.get(enrolmentId);
  if (isHeldAsAgreed(there, agreed)) return left('is with the registrar already, as it was agreed.');
  if (isUnderWay(last.get(enrolmentId))) return left('is under way already.');
  const { rules, needsApproval } = all.setting;
  if (rules !== null && !wish.isByHand) {
    const [fault] = gradeFaults({ ...agreed, letter: agreed.sentLetter }, rules, { startsOn: all.facts.term.startsOn, today: all.today });
    if (fault !== undefined) return left(`${fault.text} Agree anew with it.`);
  }
  const corrects = there?.state === 'accepted' ? there.id : null;
  if (there !== undefined && wish.reason === '') return left(`is held as ${there.sentLetter} by the registrar: say why it is corrected.`);
  const state = wish.isByHand ? 'by hand' : there !== undefined && needsApproval ? 'awaits approval' : 'waiting';
  return { enrolmentId, sectionId: person.sectionId, agreedId: agreed.id, correctsId: corrects, reason: wish.reason, state };
}

/** Outside his window, as the registrar said it last, nothing is put under way. */
function requireOpen({ setting, facts }: FinalFacts, now: number): void {
  const { opensAt, closesAt } = setting;
  if (opensAt === null || closesAt === null || (opensAt <= now && now < closesAt)) return;
  const at = (instant: number): string => dayAndTime(instant, facts.zone, now);
  throw new AppError(
    'not-now',
    `The registrar takes no grades now: his window is from ${at(opensAt)} to ${at(closesAt)}, as he said last. Ask him again, or ask the registrar to open it.`,
  );
}

async function putUnderWay(
  db: Db,
  courseId: string,
  member: Membership,
  enrolmentIds: readonly string[],
  wish: { readonly reason: string; readonly isByHand: boolean },
  actorId: string,
  now: number,
): Promise<SendAnswer> {
  await lockFinals(db, courseId);
  const all = await readFinalFacts(db, courseId, member.sectionIds, now);
  if (!wish.isByHand) requireOpen(all, now);
  const known = { last: await listRows(db, courseId), held: await listHeld(db, courseId) };
  const made = [...new Set(enrolmentIds)].map((id) => rowFor(all, id, known, wish));
  const added = made.flatMap((one) => ('agreedId' in one ? [one] : []));
  const done = new Set(await addRows(db, courseId, added, actorId, now));
  const name = new Map(all.people.map((p) => [p.enrolmentId, `${p.familyName}, ${p.givenName}`]));
  const raced = added
    .filter((row) => !done.has(row.enrolmentId))
    .map((row) => ({ enrolmentId: row.enrolmentId, name: name.get(row.enrolmentId) ?? '', text: 'is under way already.' }));
  return { sent: done.size, left: [...made.flatMap((one) => ('agreedId' in one ? [] : [one])), ...raced] };
}

/** Puts agreed grades on their way; whoever is not agreed, under way or held already is left, and said. */
export async function sendFinals(
  db: Db,
  courseId: string,
  member: Membership,
  wish: SendWish,
  actorId: string,
  now: number,
): Promise<SendAnswer> {
  if (findRegistrar() === null)
    throw new AppError(
      'not-now',
      'No registrar is set for this school, so nothing can be sent. Its administrator sets one (docs/registrar.md); until then grades can be entered by hand and noted.',
    );
  return putUnderWay(db, courseId, member, wish.enrolmentIds, { reason: wish.reason, isByHand: false }, actorId, now);
}

/** Notes that grades stand at the registrar because somebody entered them there. */
export const noteByHand = (
  db: Db,
  courseId: string,
  member: Membership,
  enrolmentIds: readonly string[],
  actorId: string,
  now: number,
): Promise<SendAnswer> => putUnderWay(db, courseId, member, enrolmentIds, { reason: 'Entered by hand.', isByHand: true }, actorId, now);

/** What waits for its next try is tried at once; the registrar is asked first about what he may have. */
export async function tryAgain(db: Db, courseId: string, enrolmentIds: readonly string[], actorId: string, now: number): Promise<void> {
  const found = await rows<{ id: string; state: 'waiting' | 'unknown' }>(
    db,
    `update handover_row set next_try_at = null where course_id = $1 and enrolment_id = any($2) and state in ('waiting', 'unknown') returning id, state`,
    [courseId, enrolmentIds],
  );
  await addEvents(
    db,
    found.map((row) => ({ rowId: row.id, state: row.state, said: 'tried again at once' })),
    actorId,
    now,
  );
}

/** Stops what has not been sent: plainly waiting rows that were never tried, or those that wait for approval. */
export async function stopRows(db: Db, courseId: string, enrolmentIds: readonly string[], actorId: string, now: number): Promise<number> {
  const found = await rows<{ id: string }>(
    db,
    `update handover_row set state = 'taken back', settled_at = to_timestamp($3 / 1000.0)
     where course_id = $1 and enrolment_id = any($2) and state in ('awaits approval', 'waiting') returning id`,
    [courseId, enrolmentIds, now],
  );
  await addEvents(
    db,
    found.map((row) => ({ rowId: row.id, state: 'taken back' as const, said: '' })),
    actorId,
    now,
  );
  return found.length;
}

/** Lets a correction go on its way. */
export async function approveRows(db: Db, rowIds: readonly string[], actorId: string, now: number): Promise<number> {
  const done = await rows<{ id: string }>(
    db,
    "update handover_row set state = 'waiting' where id = any($1) and state = 'awaits approval' returning id",
    [rowIds],
  );
  if (done.length === 0 && rowIds.length > 0) throw invalid('rowIds', 'None of these waits for approval any more.');
  await addEvents(
    db,
    done.map((row) => ({ rowId: row.id, state: 'waiting' as const, said: 'approved' })),
    actorId,
    now,
  );
  return done.length;
}
