import type { AttemptView, OwnRevision, ReturnedWork, StudentItem } from '@rosemary/api';
import {
  classStatistics,
  doneInWords,
  exactPoints,
  type ItemKind,
  kindOfItem,
  type Membership,
  readResult,
  workingOfCell,
} from '@rosemary/core';
import { fileView } from '../files/index.ts';
import { atText, cellFor, datesView, findWorkColumn, latenessText, readFacts, toGraded } from '../gradebook/index.ts';
import {
  attemptsFor,
  findOwnDraft,
  findOwnGroup,
  findRevision,
  findSubmission,
  isTouched,
  listAttempts,
  listDraftFiles,
  listTakenBack,
  takesWork,
  whyKept,
  whyNot,
} from '../handIn/index.ts';
import { findAssignment } from '../kinds/assignment/index.ts';
import { findShownFile } from '../kinds/file/index.ts';
import { findLink } from '../kinds/link/index.ts';
import { findPage } from '../kinds/page/index.ts';
import { findFinished, listNotes, listWords } from '../marks/index.ts';
import { findMatchSetting } from '../matching/index.ts';
import { getVisible, type Visible } from '../opening/index.ts';
import { findPeer } from '../peerSetting/index.ts';
import { type Db, maybe } from '../platform/database.ts';
import { getOwnQuiz } from '../quizTaking/index.ts';
import { findRubricInUse } from '../rubric/index.ts';

/** How the class did, by what its students see: released results alone. */
async function readStatistics(db: Db, courseId: string, itemId: string, now: number): Promise<ReturnedWork['statistics']> {
  const facts = await readFacts(db, courseId, { seesVeiled: true });
  const column = findWorkColumn(facts, itemId);
  if (column === undefined) return null;
  const cells = facts.people.map((person) => cellFor(facts, column, person, now, true));
  return classStatistics(cells.flatMap((cell) => (cell.state === 'marked' && cell.result !== null ? [cell.result] : [])));
}

async function findReturned(db: Db, courseId: string, itemId: string, member: Membership, now: number): Promise<ReturnedWork | null> {
  const released = await maybe(
    db,
    'select 1 as one from work_grade where item_id = $1 and enrolment_id = $2 and is_released and state is not null',
    [itemId, member.enrolmentId],
  );
  if (released === null) return null;
  const facts = await readFacts(db, courseId, { enrolmentId: member.enrolmentId, seesVeiled: true });
  const column = findWorkColumn(facts, itemId);
  const person = facts.people[0];
  if (column === undefined || person === undefined) return null;
  const cell = cellFor(facts, column, person, now, true);
  // What its marker stood by last: a mark that is taken up again stays as it was until it is finished anew.
  const mark = await findFinished(db, { itemId, enrolmentId: member.enrolmentId });
  return {
    scoreText: cell.result === null ? null : exactPoints(cell.result),
    reads:
      column.studentReads === 'points' || cell.result === null ? null : readResult(column.studentReads, cell.result, column, facts.policy),
    possible: column.possible,
    working: workingOfCell(toGraded(column), cell, atText(facts, now)),
    choices: mark?.choices ?? {},
    feedback: mark?.feedback ?? null,
    given: mark?.given ?? {},
    comments: mark?.comments ?? {},
    feedbackFiles: mark?.feedbackFiles ?? [],
    notes: mark?.notes ?? [],
    state: cell.state,
    adjustment: mark?.adjustments[member.enrolmentId] ?? null,
    statistics: column.showsStatistics ? await readStatistics(db, courseId, itemId, now) : null,
  };
}

/** A revision asked for, with the notes that went out with it: those on the attempts it is about. */
async function findOwnRevision(db: Db, target: { itemId: string; enrolmentId: string }): Promise<OwnRevision | null> {
  const revision = await findRevision(db, target);
  return revision === null ? null : { ...revision, notes: await listNotes(db, target.itemId, target.enrolmentId) };
}

/** What a student finds in an item that is open to them or over: of what is not theirs to see, nothing. */
type Inside = Omit<StudentItem, keyof ReturnType<typeof headOf>>;
interface Looking {
  readonly db: Db;
  readonly courseId: string;
  readonly visible: Visible;
  readonly member: Membership;
  readonly readerId: string;
  readonly now: number;
}

const NOTHING: Inside = {
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
  hasPeers: false,
  whyNot: null,
};

const headOf = ({ item, visibility, dates, waitsFor, isDone }: Visible) => ({
  id: item.id,
  kind: item.kind,
  title: item.title,
  visibility,
  dates: datesView(dates),
  waitsFor,
  doneWhen: doneInWords(item.doneRule, item.doneScore, item.kind),
  possible: item.possible,
  category: item.category,
  isDone,
  doneRule: item.doneRule,
  estimatedMinutes: item.estimatedMinutes,
});

const returnedOf = ({ db, courseId, visible, member, now }: Looking): Promise<ReturnedWork | null> =>
  findReturned(db, courseId, visible.item.id, member, now);

async function showAssignment(looking: Looking): Promise<Partial<Inside>> {
  const { db, courseId, visible, member, readerId, now } = looking;
  const { id: itemId } = visible.item;
  const assignment = await findAssignment(db, itemId);
  if (assignment === null) return {};
  const facts = await readFacts(db, courseId, { enrolmentId: member.enrolmentId, seesVeiled: true });
  const column = findWorkColumn(facts, itemId);
  const attempts: AttemptView[] = (await listAttempts(db, itemId, member.enrolmentId)).map((a) => ({
    ...a,
    lateText: column === undefined ? null : latenessText(column, visible.dates, Date.parse(a.handedInAt)),
  }));
  const submission = await findSubmission(db, itemId, member.enrolmentId);
  const group = await findOwnGroup(db, itemId, member.enrolmentId, now);
  const attemptsAllowed = await attemptsFor(db, itemId, member.enrolmentId, assignment.attemptsAllowed);
  const reason = whyNot(visible, attempts.length, attemptsAllowed);
  const { version: _, rubricId: __, ...setting } = { ...assignment, attemptsAllowed };
  return {
    assignment: setting,
    rubric: await findRubricInUse(db, itemId),
    attempts,
    group: group === null ? null : { ...group, ownDraft: await findOwnDraft(db, itemId, member.enrolmentId) },
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

/** What each kind shows its students. */
const SHOWN = {
  page: async ({ db, visible }: Looking) => ({ page: (await findPage(db, visible.item.id))?.document ?? null }),
  link: async ({ db, visible }: Looking) => {
    const link = await findLink(db, visible.item.id);
    return { link: link === null ? null : { address: link.address, note: link.note } };
  },
  file: async ({ db, visible }: Looking) => {
    const shown = await findShownFile(db, visible.item.id);
    return { file: shown === null ? null : { file: shown.file, note: shown.note } };
  },
  quiz: async ({ db, courseId, visible, member, now }: Looking) => ({
    quiz: await getOwnQuiz(db, visible, courseId, member.enrolmentId, now),
  }),
  assignment: showAssignment,
  // What is said in a discussion is asked for by itself; a class activity has its result alone.
  discussion: () => Promise.resolve({}),
  activity: () => Promise.resolve({}),
} satisfies { readonly [kind in ItemKind]: (looking: Looking) => Promise<Partial<Inside>> };

export async function getStudentItem(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  readerId: string,
  now: number,
): Promise<StudentItem> {
  const visible = await getVisible(db, courseId, itemId, member, now);
  const head = headOf(visible);
  if (visible.visibility === 'announced') return { ...head, ...NOTHING, whyNot: whyNot(visible, 0, null) };
  const looking: Looking = { db, courseId, visible, member, readerId, now };
  const hasPeers = kindOfItem(visible.item.kind).reviewed !== 'nothing' && (await findPeer(db, itemId))?.isOn === true;
  return { ...head, ...NOTHING, ...(await SHOWN[visible.item.kind](looking)), hasPeers, returned: await returnedOf(looking) };
}
