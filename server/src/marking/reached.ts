import type { MarkedGroup, MarkingPart, NoteView, Work } from '@rosemary/api';
import { workingOfCell } from '@rosemary/core';
import { findVeil, listUnveiled, type Target, unveil, veilWork } from '../anonymity/index.ts';
import {
  atText,
  cellFor,
  type CourseFacts,
  datesView,
  type FactPerson,
  findWorkColumn,
  latenessText,
  readFacts,
  toGraded,
  type WorkColumn,
} from '../gradebook/index.ts';
import { findDraft, findRevision, listAttempts, listMates } from '../handIn/index.ts';
import { findAssignment } from '../kinds/assignment/index.ts';
import { getMark, listFeedbackFiles, listNotes, listOwnSlots, listWords, type Part, partOf } from '../marks/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';
import type { MemberContext } from '../platform/route.ts';
import { findRubricInUse } from '../rubric/index.ts';
import { listShares, reachesWork } from '../shares/index.ts';
import { makeEntry } from './stack.ts';

/** One work as somebody marks it: whose it is, under which name they know it, and what part they have in it. */
export interface Reached {
  readonly facts: CourseFacts;
  readonly column: WorkColumn;
  readonly person: FactPerson;
  readonly target: Target;
  readonly isVeiled: boolean;
  readonly part: Part;
}

/** The work of one student, if the item is of this course, open to marking, and this marker reaches the student. */
export async function reach(c: MemberContext<unknown>): Promise<Reached> {
  const itemId = c.params.itemId ?? '';
  const found = await unveil(c.db, c.courseId, itemId, c.params.enrolmentId ?? '', c.now);
  if (found === null) throw notFound();
  const facts = await readFacts(c.db, c.courseId, { enrolmentId: found.enrolmentId, seesVeiled: true });
  const [person] = facts.people;
  const column = findWorkColumn(facts, itemId);
  if (person === undefined || column === undefined) throw notFound();
  const shares = await listShares(c.db, itemId);
  if (!reachesWork(c.member, c.person.personId, person, shares)) throw notFound();
  const target = { itemId, enrolmentId: person.enrolmentId };
  const part = await partOf(c.db, target, c.person.personId, c.member.role === 'instructor');
  return { facts, column, person, target, isVeiled: found.isVeiled, part };
}

/** The works of a list as `reach` would find them, without reading the course anew for each; the list itself says which are reached. */
export async function listReached(
  c: MemberContext<unknown>,
  itemId: string,
  ids: readonly string[],
): Promise<{ readonly target: Target; readonly part: Part }[]> {
  const known = await listUnveiled(c.db, c.courseId, itemId, c.now);
  const targets = ids.map((id): Target => {
    const enrolmentId = known === null ? id : known.get(id)?.enrolmentId;
    if (enrolmentId === undefined) throw notFound();
    return { itemId, enrolmentId };
  });
  // Asked together, they are sent together: a hundred works wait once, not a hundred times.
  const parts = await Promise.all(targets.map((target) => partOf(c.db, target, c.person.personId, c.member.role === 'instructor')));
  return targets.map((target, n) => ({ target, part: parts[n] as Part }));
}

/** As `reach`, for whoever is about to write: onlookers are refused. */
export async function reachToMark(c: MemberContext<unknown>): Promise<Reached & { readonly part: Exclude<Part, { kind: 'looks' }> }> {
  const r = await reach(c);
  if (r.part.kind === 'looks') throw new AppError('refused', 'Two others mark this work, each on their own.');
  return { ...r, part: r.part };
}

async function findGroup(db: Db, target: Target): Promise<MarkedGroup | null> {
  const mates = await listMates(db, target.itemId, target.enrolmentId);
  if (mates.length === 1) return null;
  const members = await rows<{ enrolmentId: string; name: string }>(
    db,
    `select e.id as "enrolmentId", p.given_name || ' ' || p.family_name as name from enrolment e join person p on p.id = e.person_id where e.id = any($1) order by p.family_name, p.given_name`,
    [mates],
  );
  const group = await rows<{ title: string }>(
    db,
    'select g.title from assignment a join course_group g on g.set_id = a.group_set_id join group_member m on m.group_id = g.id where a.item_id = $1 and m.enrolment_id = $2',
    [target.itemId, target.enrolmentId],
  );
  return { title: group[0]?.title ?? 'Handed in together', members };
}

async function viewPart(db: Db, r: Reached): Promise<MarkingPart> {
  const slots = await listOwnSlots(db, r.target);
  const bothStand = slots.length === 2 && slots.every((m) => m.state === 'finished');
  const marks = [];
  for (const own of slots)
    marks.push({ marker: own.marker, state: own.state, mark: bothStand ? await getMark(db, r.target, own.slot) : null });
  return { kind: r.part.kind, isOneOfTwo: r.column.markers === 2, marks };
}

/** The notes a marker may see: while two mark on their own, each sees their own. */
export async function listSeenNotes(db: Db, r: Reached, readerId: string): Promise<NoteView[]> {
  const notes = await listNotes(db, r.target.itemId, r.target.enrolmentId);
  if (r.column.markers === 1 || r.part.kind === 'agrees') return notes;
  const own = await rows<{ id: string }>(db, 'select id from margin_note where id = any($1) and author_id = $2', [
    notes.map((n) => n.id),
    readerId,
  ]);
  return notes.filter((n) => own.some((o) => o.id === n.id));
}

async function makeOpenWork(db: Db, r: Reached, readerId: string, now: number): Promise<Work> {
  const { facts, column, person, target } = r;
  const assignment = await findAssignment(db, column.itemId);
  const dates = facts.datesFor(column.dated, person);
  const attempts = (await listAttempts(db, column.itemId, person.enrolmentId)).map((a) => ({
    ...a,
    lateText: latenessText(column, dates, Date.parse(a.handedInAt)),
  }));
  const group = await findGroup(db, target);
  const entry = await makeEntry(db, facts, column, person.enrolmentId, now);
  return {
    entry: group === null ? entry : { ...entry, group: group.title, members: group.members.map((m) => m.name) },
    attempts,
    notes: await listSeenNotes(db, r, readerId),
    mark: r.part.kind === 'looks' ? await getMark(db, target) : await getMark(db, target, r.part.slot),
    rubric: await findRubricInUse(db, column.itemId),
    possible: column.possible,
    working: workingOfCell(toGraded(column), cellFor(facts, column, person, now, false), atText(facts, now)),
    instructions: assignment?.instructions ?? null,
    dates: datesView(dates),
    revision: await findRevision(db, target),
    words: await listWords(db, target, readerId),
    draft: attempts.length > 0 ? null : await findDraft(db, target),
    judged: assignment?.judged ?? 'points',
    counted: column.counted,
    group,
    part: await viewPart(db, r),
    feedbackFiles: await listFeedbackFiles(db, target),
  };
}

/** Everything a marker needs of one work; without the student's name where names are hidden. */
export async function makeWork(c: MemberContext<unknown>, r: Reached): Promise<Work> {
  const work = await makeOpenWork(c.db, r, c.person.personId, c.now);
  const veil = r.isVeiled ? await findVeil(c.db, r.column.itemId, c.now) : null;
  return veil === null ? work : veilWork(work, veil.key, { courseId: c.courseId, itemId: r.column.itemId });
}
