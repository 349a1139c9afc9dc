import { type Membership, termEnd } from '@rosemary/core';
import { randomUUID } from 'node:crypto';
import { leaveGroup, moveToGroup } from '../groups/index.ts';
import { sendMessage, unsend } from '../messages/index.ts';
import { endHandOpening, openByHand } from '../opening/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { announce } from '../platform/events.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { jobOf } from '../platform/jobs.ts';
import { piece } from '../platform/piece.ts';
import { getTerm } from '../term/index.ts';
import { MET } from './rules.ts';

interface Due {
  rule_id: string;
  course_id: string;
  item_id: string;
  action: 'group' | 'open' | 'message';
  group_id: string | null;
  opens_item_id: string | null;
  title: string;
  body: string;
  made_by: string;
  enrolment_id: string;
  person_id: string;
}

/** What is needed to take a step back. */
interface Made {
  readonly setId?: string;
  readonly before?: string | null;
  readonly openingId?: string;
  readonly sending?: string;
}

async function joinGroup(db: Db, due: Due): Promise<Made> {
  const group = await maybe<{ set_id: string }>(
    db,
    'select g.set_id from course_group g join group_set s on s.id = g.set_id where g.id = $1 and s.removed_at is null',
    [due.group_id],
  );
  if (group === null) throw new AppError('not-now', 'The group is no longer there.');
  const before = await moveToGroup(db, due.enrolment_id, group.set_id, due.group_id ?? '');
  return { setId: group.set_id, before };
}

async function carryOut(db: Db, due: Due, now: number): Promise<Made> {
  if (due.action === 'group') return joinGroup(db, due);
  if (due.action === 'open') {
    const { zone, term } = await getTerm(db, due.course_id);
    const until = new Date(Math.max(termEnd(term, zone), now + 86_400_000)).toISOString();
    return {
      openingId: await openByHand(db, due.course_id, due.opens_item_id ?? '', { enrolmentId: due.enrolment_id, until }, due.made_by, now),
    };
  }
  const sending = randomUUID();
  const member: Membership = { courseId: due.course_id, enrolmentId: '', role: 'instructor', isActive: true, sectionIds: null };
  const writer = { courseId: due.course_id, personId: due.made_by, member, now };
  await sendMessage(db, writer, { key: sending, title: due.title, body: due.body, personIds: [due.person_id] });
  return { sending };
}

/** Rules that somebody meets whom they have not reached yet, at quizzes and where students review: one piece is one rule for one student. */
const listDue = (db: Db): Promise<(Due & { id: string })[]> =>
  rows<Due & { id: string }>(
    db,
    `select r.id || ' ' || e.id as id, r.id as rule_id, i.course_id, r.item_id, r.action, r.group_id, r.opens_item_id, r.title, r.body, r.made_by, e.id as enrolment_id, e.person_id
     from follow_rule r join item i on i.id = r.item_id and i.removed_at is null ${MET}
     where r.stopped_at is null and (i.kind = 'quiz' or exists (select 1 from peer_setting p where p.item_id = i.id and p.is_on)) order by r.made_at, e.id limit 500`,
  );

/** Does what follows for one student, once. What cannot be done for a reason is kept with it, for whoever made the rule. */
async function followOne(db: Db, one: Due, now: number): Promise<void> {
  const isFirst = await run(
    db,
    'insert into follow_done (rule_id, enrolment_id, at) values ($1, $2, to_timestamp($3 / 1000.0)) on conflict do nothing',
    [one.rule_id, one.enrolment_id, now],
  );
  if (isFirst === 0) return;
  const done = await piece(db, () => carryOut(db, one, now));
  if (!done.ok && !(done.error instanceof AppError)) throw done.error;
  await run(db, 'update follow_done set made = $3, problem = $4 where rule_id = $1 and enrolment_id = $2', [
    one.rule_id,
    one.enrolment_id,
    JSON.stringify(done.ok ? done.value : {}),
    done.ok ? '' : done.reason,
  ]);
  // Whoever looks at the rule sees what it did.
  const { course_id: courseId, item_id: itemId } = one;
  await announce(db, { topic: 'marks', courseId, itemId, hearers: 'staff', enrolmentId: null, rows: null, tab: null, by: '' });
}

/** Does what follows from results: for every rule, for everybody who meets it and whom it has not reached, once. */
export const followResults = jobOf<Due & { id: string }>({
  name: 'follow-results',
  due: listDue,
  one: followOne,
});

/** Takes back what followed for one student. It does not follow again: a teacher has decided. */
export async function undoFollow(
  db: Db,
  courseId: string,
  itemId: string,
  ruleId: string,
  enrolmentId: string,
  personId: string,
  now: number,
): Promise<void> {
  const done = await maybe<{ action: Due['action']; opens_item_id: string | null; group_id: string | null; made: Made; person_id: string }>(
    db,
    `select r.action, r.opens_item_id, r.group_id, d.made, e.person_id from follow_done d join follow_rule r on r.id = d.rule_id join enrolment e on e.id = d.enrolment_id
     where r.id = $1 and r.item_id = $2 and d.enrolment_id = $3 and d.undone_at is null and d.problem = '' and not d.is_before for update of d`,
    [ruleId, itemId, enrolmentId],
  );
  if (done === null) throw notFound();
  const { made } = done;
  if (done.action === 'group') {
    // Whoever has moved on since stays where they are.
    await leaveGroup(db, enrolmentId, done.group_id ?? '', made.before ?? null);
  } else if (done.action === 'open') await endHandOpening(db, courseId, done.opens_item_id ?? '', made.openingId ?? '', now);
  else {
    await unsend(db, made.sending ?? '', done.person_id);
  }
  await run(db, 'update follow_done set undone_at = to_timestamp($3 / 1000.0), undone_by = $4 where rule_id = $1 and enrolment_id = $2', [
    ruleId,
    enrolmentId,
    now,
    personId,
  ]);
}

/** Lets a rule try again for a student where it could not be carried out, or where it was taken back. */
export async function followAgain(db: Db, itemId: string, ruleId: string, enrolmentId: string): Promise<void> {
  const gone = await run(
    db,
    "delete from follow_done d using follow_rule r where r.id = d.rule_id and r.id = $1 and r.item_id = $2 and d.enrolment_id = $3 and (d.problem <> '' or d.undone_at is not null)",
    [ruleId, itemId, enrolmentId],
  );
  if (gone === 0) throw notFound();
}
