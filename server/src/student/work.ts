import { pageOf } from '@rosemary/api';
import { atText } from '../gradebook/workings.ts';
import { findFinished } from '../marking/finishedMark.ts';
import {
  checkDocument,
  isWebAddress,
  type AssignmentSetting,
  type AttemptView,
  type DocumentChange,
  type HandIn,
  type OwnRevision,
  type Receipt,
  type ReturnedWork,
  type StudentItem,
} from '@rosemary/api';
import {
  classStatistics,
  doneInWords,
  exactPoints,
  readResult,
  plainText,
  wordCount,
  workingOfCell,
  type DocumentNode,
  type Membership,
} from '@rosemary/core';
import { createHash } from 'node:crypto';
import { tell } from '../talk/notices.ts';
import { cellFor, toGraded } from '../gradebook/cells.ts';
import { getItemLate, readFacts } from '../gradebook/facts.ts';
import { datesView, latenessText } from '../marking/stack.ts';
import { listAttempts, listNotes } from '../marking/queries.ts';
import { countRevisions, findRevision } from '../marking/revision.ts';
import { listWords } from '../marking/words.ts';
import { findMatchSetting } from '../matching/setting.ts';
import { findAssignment, findLink, findPage, findRubricInUse, findShownFile } from '../plan/queries.ts';
import { fileView } from '../files/store.ts';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { getOwnQuiz } from '../quiz/attempts.ts';
import { findOwnGroup } from './mates.ts';
import { findOwnDraft, findSubmission, listDraftFiles, makeShared } from './submission.ts';
import { listTakenBack, isTouched, whyKept } from './withdraw.ts';
import { getVisible, type Visible } from './visible.ts';

/** Something can be handed in here. */
const takesWork = (a: Pick<AssignmentSetting, 'acceptsText' | 'acceptsFiles' | 'acceptsLink' | 'acceptsRecording'>): boolean =>
  a.acceptsText || a.acceptsFiles || a.acceptsLink || a.acceptsRecording;

/** The attempts this student has: the item's, what an arrangement adds, one for each revision asked for; null is without limit. */
async function attemptsFor(db: Db, itemId: string, enrolmentId: string, allowed: number | null): Promise<number | null> {
  if (allowed === null) return null;
  const given = await maybe<{ extra: number }>(
    db,
    'select coalesce(sum(extra_attempts), 0)::int as extra from arrangement where enrolment_id = $1',
    [enrolmentId],
  );
  return allowed + (given?.extra ?? 0) + (await countRevisions(db, itemId, enrolmentId));
}

/** Why a student cannot hand in now, in words, or null. */
function whyNot(visible: Visible, attempts: number, allowed: number | null): string | null {
  if (visible.visibility === 'announced')
    return `Not open yet: it ${visible.waitsFor === '' ? 'is opened by your instructor' : visible.waitsFor}.`;
  if (visible.visibility === 'closed') return 'This is closed. Ask your instructor if something kept you from handing in.';
  return allowed !== null && attempts >= allowed
    ? `You have handed in ${attempts === 1 ? 'once' : `${attempts} times`}, which is all this takes.`
    : null;
}

/** How the class did, by what its students see: released results alone. */
async function readStatistics(db: Db, courseId: string, itemId: string, now: number): Promise<ReturnedWork['statistics']> {
  const facts = await readFacts(db, courseId, { seesVeiled: true });
  const item = facts.items.find((i) => i.id === itemId);
  if (item === undefined) return null;
  const cells = facts.people.map((person) => cellFor(facts, item, person, now, true));
  return classStatistics(cells.flatMap((cell) => (cell.state === 'marked' && cell.result !== null ? [cell.result] : [])));
}

async function findReturned(db: Db, courseId: string, itemId: string, member: Membership, now: number): Promise<ReturnedWork | null> {
  const released = await maybe(
    db,
    'select 1 as one from grade where item_id = $1 and enrolment_id = $2 and is_released and state is not null',
    [itemId, member.enrolmentId],
  );
  if (released === null) return null;
  const facts = await readFacts(db, courseId, { enrolmentId: member.enrolmentId, seesVeiled: true });
  const item = facts.items.find((i) => i.id === itemId);
  const person = facts.people[0];
  if (item === undefined || person === undefined) return null;
  const cell = cellFor(facts, item, person, now, true);
  // What its marker stood by last: a mark that is taken up again stays as it was until it is finished anew.
  const mark = await findFinished(db, { itemId, enrolmentId: member.enrolmentId });
  return {
    scoreText: cell.result === null ? null : exactPoints(cell.result),
    reads:
      item.studentReads === 'points' || cell.result === null
        ? null
        : readResult(item.studentReads, cell.result, item.possible, facts.policy),
    possible: item.possible,
    working: workingOfCell(toGraded(item), cell, atText(facts, now)),
    choices: mark?.choices ?? {},
    feedback: mark?.feedback ?? null,
    given: mark?.given ?? {},
    comments: mark?.comments ?? {},
    feedbackFiles: mark?.feedbackFiles ?? [],
    notes: mark?.notes ?? [],
    state: cell.state,
    adjustment: mark?.adjustments[member.enrolmentId] ?? null,
    statistics: item.showsStatistics ? await readStatistics(db, courseId, itemId, now) : null,
  };
}

/** What there is to read, see or follow. */
async function readMaterial(db: Db, itemId: string): Promise<Pick<StudentItem, 'page' | 'link' | 'file'>> {
  const link = await findLink(db, itemId);
  const shown = await findShownFile(db, itemId);
  return {
    page: (await findPage(db, itemId))?.document ?? null,
    link: link === null ? null : { address: link.address, note: link.note },
    file: shown === null ? null : { file: shown.file, note: shown.note },
  };
}

/** A revision asked for, with the notes that went out with it: those on the attempts it is about. */
async function findOwnRevision(db: Db, target: { itemId: string; enrolmentId: string }): Promise<OwnRevision | null> {
  const revision = await findRevision(db, target);
  return revision === null ? null : { ...revision, notes: await listNotes(db, target.itemId, target.enrolmentId) };
}

/** The student says of a note that went out with a revision whether it is answered. */
export async function setNoteAnswered(
  db: Db,
  target: { itemId: string; enrolmentId: string },
  noteId: string,
  at: number | null,
): Promise<void> {
  const changed = await run(
    db,
    `update margin_note n set answered_at = to_timestamp($4 / 1000.0) from attempt a, submission s
    where n.attempt_id = coalesce(a.lead_id, a.id) and s.id = a.submission_id and n.id = $1 and s.item_id = $2 and s.enrolment_id = $3 and n.removed_at is null
      and exists (select 1 from revision r where r.submission_id = s.id and r.ended_at is null)`,
    [noteId, target.itemId, target.enrolmentId, at],
  );
  if (changed === 0) throw notFound();
}

export async function getStudentItem(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  readerId: string,
  now: number,
): Promise<StudentItem> {
  const visible = await getVisible(db, courseId, itemId, member, now);
  const { item } = visible;
  const head = {
    id: item.id,
    kind: item.kind,
    title: item.title,
    visibility: visible.visibility,
    dates: datesView(visible.dates),
    waitsFor: visible.waitsFor,
    doneWhen: doneInWords(item.doneRule, item.doneScore, item.kind),
    possible: item.possible,
    category: item.category,
    isDone: visible.isDone,
    doneRule: item.doneRule,
    estimatedMinutes: item.estimatedMinutes,
  };
  const closed = {
    page: null,
    link: null,
    file: null,
    assignment: null,
    rubric: null,
    draft: null,
    canHandIn: false,
    canWithdraw: false,
    takenBack: [],
    showsMatches: false,
    attempts: [],
    quiz: null,
    group: null,
    returned: null,
    revision: null,
    words: [],
  };
  if (visible.visibility === 'announced') return { ...head, ...closed, whyNot: whyNot(visible, 0, null) };
  if (item.kind === 'quiz')
    return {
      ...head,
      ...closed,
      quiz: await getOwnQuiz(db, visible, courseId, member.enrolmentId, now),
      returned: await findReturned(db, courseId, itemId, member, now),
      whyNot: null,
    };
  const assignment = item.kind === 'assignment' ? await findAssignment(db, itemId) : null;
  const returned = await findReturned(db, courseId, itemId, member, now);
  if (assignment === null) return { ...head, ...closed, ...(await readMaterial(db, itemId)), returned, whyNot: null };
  const facts = await readFacts(db, courseId, { enrolmentId: member.enrolmentId, seesVeiled: true });
  const factItem = facts.items.find((i) => i.id === itemId);
  const attempts: AttemptView[] = (await listAttempts(db, itemId, member.enrolmentId)).map((a) => ({
    ...a,
    lateText: factItem === undefined ? null : latenessText(factItem, visible.dates, Date.parse(a.handedInAt)),
  }));
  const submission = await findSubmission(db, itemId, member.enrolmentId);
  const group = await findOwnGroup(db, itemId, member.enrolmentId, now);
  const attemptsAllowed = await attemptsFor(db, itemId, member.enrolmentId, assignment.attemptsAllowed);
  const reason = whyNot(visible, attempts.length, attemptsAllowed);
  const { version: _, rubricId: __, ...setting } = { ...assignment, attemptsAllowed };
  return {
    ...head,
    page: null,
    link: null,
    file: null,
    assignment: setting,
    rubric: await findRubricInUse(db, itemId),
    attempts,
    quiz: null,
    group: group === null ? null : { ...group, ownDraft: await findOwnDraft(db, itemId, member.enrolmentId) },
    returned,
    revision: await findOwnRevision(db, { itemId, enrolmentId: member.enrolmentId }),
    words: await listWords(db, { itemId, enrolmentId: member.enrolmentId }, readerId),
    canHandIn: reason === null && takesWork(assignment),
    showsMatches: attempts.length > 0 && (await findMatchSetting(db, itemId)).showsStudents,
    canWithdraw:
      attempts.length > 0 &&
      visible.visibility === 'open' &&
      whyKept(assignment.allowsWithdrawal, visible.dates.due.at, await isTouched(db, itemId, member.enrolmentId), now) === null,
    whyNot: reason,
    takenBack: submission === null ? [] : await listTakenBack(db, submission.id),
    draft: {
      document: submission?.draft ?? null,
      version: submission?.version ?? 0,
      savedAt: submission?.draft_saved_at?.toISOString() ?? null,
      link: submission?.draft_link ?? '',
      files: submission === null ? [] : (await listDraftFiles(db, submission.id)).map(fileView),
    },
  };
}

/** Work is open for this student: it may be typed into, added to, handed in. */
export async function requireOpen(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  now: number,
): Promise<{ visible: Visible; assignment: NonNullable<Awaited<ReturnType<typeof findAssignment>>> }> {
  const visible = await getVisible(db, courseId, itemId, member, now);
  const assignment = visible.item.kind === 'assignment' ? await findAssignment(db, itemId) : null;
  if (assignment === null) throw notFound();
  const attempts = await listAttempts(db, itemId, member.enrolmentId);
  const attemptsAllowed = await attemptsFor(db, itemId, member.enrolmentId, assignment.attemptsAllowed);
  const reason = whyNot(visible, attempts.length, attemptsAllowed);
  if (reason !== null) throw new AppError('not-now', reason);
  return { visible, assignment };
}

export async function saveDraft(
  db: Db,
  itemId: string,
  member: Membership,
  change: DocumentChange,
  now: number,
): Promise<{ version: number; savedAt: string }> {
  const check = checkDocument(change.document);
  if (!check.ok) throw invalid('document', check.reason);
  const submission = await makeShared(db, itemId, member.enrolmentId);
  if (change.version !== submission.version && change.version !== 0)
    throw conflict({ document: submission.draft, version: submission.version });
  if (change.version === 0 && submission.draft !== null) throw conflict({ document: submission.draft, version: submission.version });
  const saved = await rows<{ version: number }>(
    db,
    'update submission set draft = $2, draft_saved_at = to_timestamp($3 / 1000.0), version = $4 where id = any($1) returning version',
    [submission.ids, change.document, now, submission.version + 1],
  );
  return { version: saved[0]?.version ?? 0, savedAt: new Date(now).toISOString() };
}

/** Keeps an address as it is typed; whether it is one is asked when it is handed in. */
export async function saveDraftLink(db: Db, itemId: string, member: Membership, link: string, now: number): Promise<void> {
  const submission = await makeShared(db, itemId, member.enrolmentId);
  await run(
    db,
    'update submission set draft_link = $2, draft_saved_at = case when $4 then to_timestamp($3 / 1000.0) else draft_saved_at end where id = any($1)',
    [submission.ids, link, now, submission.ids.length > 1],
  );
}

/** SHA-256 over the text and the files' hashes: what a receipt proves. */
async function contentHash(db: Db, document: DocumentNode | null, link: string, submissionId: string): Promise<string> {
  const files = await rows<{ hash: string; name: string }>(
    db,
    "select encode(f.sha256, 'hex') as hash, f.name from submission_draft_file d join file f on f.id = d.file_id where d.submission_id = $1 order by d.position, f.id",
    [submissionId],
  );
  return createHash('sha256')
    .update(JSON.stringify(link === '' ? { document, files } : { document, files, link }))
    .digest('hex');
}

interface AttemptWork {
  readonly document: DocumentNode | null;
  readonly words: number;
  readonly note: string;
  readonly link: string;
  readonly key: string;
  readonly handedInBy: string;
  readonly at: number;
}

/** Hands in for everyone whose draft it is: the first named has the leading attempt, to which those of the others point. */
export async function addAttempts(db: Db, submissionIds: readonly string[], work: AttemptWork): Promise<number> {
  let lead: { id: string; number: number } | null = null;
  for (const id of submissionIds) {
    const made: { id: string; number: number } = await addAttempt(db, id, work, lead?.id ?? null);
    lead ??= made;
  }
  return lead?.number ?? 0;
}

/** Makes an attempt of what is given and of the files of the draft, which go with it. */
async function addAttempt(db: Db, submissionId: string, work: AttemptWork, leadId: string | null): Promise<{ id: string; number: number }> {
  const hash = await contentHash(db, work.document, work.link, submissionId);
  const attempt = await rows<{ id: string; number: number }>(
    db,
    `
    insert into attempt (submission_id, number, document, word_count, note, content_hash, handed_in_at, handed_in_by, idempotency_key, link, lead_id)
    select $1, coalesce(max(number), 0) + 1, $2, $3, $4, $5, to_timestamp($6 / 1000.0), $7, $8, $9, $10 from attempt where submission_id = $1 returning id, number`,
    [submissionId, work.document, work.words, work.note, hash, work.at, work.handedInBy, work.key, work.link, leadId],
  );
  const made = attempt[0];
  if (made === undefined) throw notFound();
  await run(
    db,
    'insert into attempt_file (attempt_id, file_id, position) select $1, file_id, position from submission_draft_file where submission_id = $2',
    [made.id, submissionId],
  );
  await run(db, 'delete from submission_draft_file where submission_id = $1', [submissionId]);
  return made;
}

/**
 * Hands in what the draft holds. The key makes a repeated request do nothing twice; an empty hand-in is refused.
 * The draft stays as the start of a next attempt; its files go with the attempt. In group work any member hands in for all of them,
 * and the others are told.
 */
export async function handIn(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  personId: string,
  body: HandIn,
  now: number,
): Promise<Receipt> {
  const submission = await makeShared(db, itemId, member.enrolmentId);
  const known = await maybe<{ number: number }>(db, 'select number from attempt where submission_id = $1 and idempotency_key = $2', [
    submission.id,
    body.key,
  ]);
  if (known !== null) return getReceipt(db, courseId, await getVisible(db, courseId, itemId, member, now), member, known.number);
  const { assignment, visible } = await requireOpen(db, courseId, itemId, member, now);
  if (body.version !== submission.version) throw conflict({ document: submission.draft, version: submission.version });
  const document = assignment.acceptsText ? submission.draft : null;
  const words = wordCount(plainText(document));
  const files = await listDraftFiles(db, submission.id);
  const link = assignment.acceptsLink ? submission.draft_link : '';
  if (words === 0 && files.length === 0 && link === '') {
    const ways = [
      assignment.acceptsText ? 'write something' : '',
      assignment.acceptsFiles ? 'add a file' : '',
      assignment.acceptsRecording ? 'record something' : '',
      assignment.acceptsLink ? 'give an address' : '',
    ].filter((way) => way !== '');
    const need = ways.join(' or ');
    throw invalid('document', `There is nothing to hand in yet. ${need.charAt(0).toUpperCase()}${need.slice(1)} first.`);
  }
  if (link !== '' && !isWebAddress(link))
    throw invalid('link', `“${link.slice(0, 80)}” is no address of the web. It begins with https:// or http://.`);
  const others = submission.ids.filter((id) => id !== submission.id);
  const number = await addAttempts(db, [submission.id, ...others], {
    document,
    words,
    note: body.note,
    link,
    key: body.key,
    handedInBy: personId,
    at: now,
  });
  await tellGroup(db, courseId, visible.item, submission.group, personId, now);
  return getReceipt(db, courseId, visible, member, number);
}

/** The others of a group hear that it is handed in, and by whom; the receipt stands with the item. */
async function tellGroup(
  db: Db,
  courseId: string,
  item: { readonly id: string; readonly title: string },
  group: readonly string[],
  by: string,
  at: number,
): Promise<void> {
  const others = await rows<{ person_id: string; by: string }>(
    db,
    "select e.person_id, b.given_name || ' ' || b.family_name as by from enrolment e join person b on b.id = $2 where e.id = any($1) and e.person_id <> $2 and not e.is_sample",
    [group, by],
  );
  const name = others[0]?.by;
  if (name === undefined) return;
  await tell(db, {
    courseId,
    personIds: others.map((o) => o.person_id),
    kind: 'returned',
    words: `${name} handed in “${item.title}” for your group`,
    body: 'The receipt stands with the item.',
    path: pageOf('study', { courseId, itemId: item.id }),
    at,
  });
}

async function getReceipt(db: Db, courseId: string, visible: Visible, member: Membership, number: number): Promise<Receipt> {
  const attempt = (await listAttempts(db, visible.item.id, member.enrolmentId)).find((a) => a.number === number);
  if (attempt === undefined) throw notFound();
  const late = await getItemLate(db, courseId, visible.item.id);
  return {
    number,
    handedInAt: attempt.handedInAt,
    contentHash: attempt.contentHash,
    wordCount: attempt.wordCount,
    files: attempt.files,
    lateText: latenessText({ late }, visible.dates, Date.parse(attempt.handedInAt)),
    note: attempt.note,
    link: attempt.link,
  };
}
