import type { StoryWork, StudentStory } from '@rosemary/api';
import {
  arrangementInWords,
  type DocumentNode,
  LEAST_RESULTS,
  type Membership,
  plainText,
  quantile,
  reachesSection,
  readResult,
  stateWords,
  toRatio,
} from '@rosemary/core';
import { getSettings } from '../course/index.ts';
import {
  calculate,
  cellFor,
  type CourseFacts,
  type FactColumn,
  type FactPerson,
  handInOf,
  readFacts,
  readTotals,
} from '../gradebook/index.ts';
import { listVisible } from '../opening/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { isoAt } from '../platform/instants.ts';
import type { SignedIn } from '../platform/signedIn.ts';
import { makeDetail } from './detail.ts';
import { readCourse } from './readCourse.ts';
import { worksOf } from './report.ts';
import { makeRhythm } from './rhythm.ts';
import { listWordNotes, readWords } from './words.ts';

interface Looking {
  /** A student’s own page counts released marks only. */
  readonly isOwn: boolean;
  /** Staff, as themselves or as the student: where names are hidden no minute is told, nor a mark. */
  readonly isStaff: boolean;
  readonly showsClass: boolean;
  /** The items that may be named; null is all. A student is not told of what is not announced to them. */
  readonly named: ReadonlySet<string> | null;
  readonly now: number;
}

/** The latest feedback of each work of a student, as plain words. */
async function listFeedback(db: Db, enrolmentId: string): Promise<ReadonlyMap<string, string>> {
  const found = await rows<{ item_id: string; feedback: DocumentNode | null }>(
    db,
    `select distinct on (s.item_id) s.item_id, f.feedback from finished_mark f join submission s on s.id = f.submission_id
     where s.enrolment_id = $1 and f.undone_at is null order by s.item_id, f.id desc`,
    [enrolmentId],
  );
  return new Map(found.map((row) => [row.item_id, plainText(row.feedback).trim()]));
}

const shareOf = (facts: CourseFacts, column: FactColumn, person: FactPerson, look: Looking): number | null => {
  const { state, result } = cellFor(facts, column, person, look.now, look.isOwn);
  return state === 'marked' && result !== null && column.possible > 0 ? toRatio(result).valueOf() / column.possible : null;
};

const isNamed = (look: Looking, itemId: string | null): boolean => itemId === null || look.named?.has(itemId) !== false;

/** The middle half of the class, of five results at least. */
function classOf(all: CourseFacts, column: FactColumn, look: Looking): StoryWork['class'] {
  const shares = all.people.flatMap((person) => shareOf(all, column, person, look) ?? []);
  if (shares.length < LEAST_RESULTS) return null;
  const [low = 0, median = 0, high = 0] = [0.25, 0.5, 0.75].map((share) => quantile(shares, share) ?? 0);
  return [low, median, high];
}

function worksView(
  facts: CourseFacts,
  all: CourseFacts | null,
  person: FactPerson,
  feedback: ReadonlyMap<string, string>,
  isHidden: (itemId: string, enrolmentId: string) => boolean,
  look: Looking,
): StoryWork[] {
  return worksOf(facts).flatMap((column): StoryWork[] => {
    const cell = cellFor(facts, column, person, look.now, look.isOwn);
    if (cell.state === 'outside' || !isNamed(look, column.itemId)) return [];
    const isVeiled = look.isStaff && column.itemId !== null && isHidden(column.itemId, person.enrolmentId);
    const isMarked = cell.state === 'marked' && cell.result !== null;
    const handIn = handInOf(facts, column, person);
    const waits = cell.state === 'none' && handIn !== undefined ? 'handed in, not yet marked' : stateWords(cell);
    return [
      {
        ...{ columnId: column.id, itemId: column.itemId, kind: column.kind, title: column.title },
        dueAt: isoAt(facts.datesFor(column.dated, person).due.at),
        handedInAt: isVeiled ? null : isoAt(handIn?.at ?? null),
        state: cell.state,
        text:
          isMarked && cell.result !== null
            ? readResult(look.isOwn ? column.studentReads : column.staffReads, cell.result, column, facts.policy)
            : waits,
        share: shareOf(facts, column, person, look),
        feedback: isMarked && column.itemId !== null ? (feedback.get(column.itemId) ?? '') : '',
        class: all === null ? null : classOf(all, column, look),
      },
    ];
  });
}

interface ArrangementRow {
  extra_days: number;
  time_multiplier: number;
  extra_attempts: number;
  reason: string;
}
const listArrangements = async (db: Db, enrolmentId: string): Promise<string[]> =>
  (
    await rows<ArrangementRow & Record<string, unknown>>(
      db,
      'select extra_days, time_multiplier, extra_attempts, reason from arrangement where enrolment_id = $1 order by reason',
      [enrolmentId],
    )
  ).map((a) =>
    arrangementInWords({ extraDays: a.extra_days, timeMultiplier: a.time_multiplier, extraAttempts: a.extra_attempts, reason: a.reason }),
  );

/** Conversations that both are in: nobody reads another’s. */
const listMessagesWith = (db: Db, courseId: string, personId: string, otherId: string | null): Promise<StudentStory['messages']> =>
  rows(
    db,
    `select c.id, c.title, to_char(max(m.at) at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') as at, count(*)::int as many
     from conversation c join conversation_person a on a.conversation_id = c.id and a.person_id = $2 join message m on m.conversation_id = c.id
     where c.course_id = $1 and ($3::uuid is null or exists (select 1 from conversation_person b where b.conversation_id = c.id and b.person_id = $3))
     group by c.id order by max(m.at) desc limit 50`,
    [courseId, personId, otherId],
  );

/** The other courses in which somebody teaches this student, with the totals there. */
async function listOtherCourses(
  db: Db,
  viewer: SignedIn,
  personId: string,
  courseId: string,
  now: number,
): Promise<NonNullable<StudentStory['staff']>['courses']> {
  const taught = viewer.memberships.filter((m) => m.role !== 'student' && m.isActive && m.courseId !== courseId);
  const found = await rows<{ id: string; course_id: string; title: string; term: string; section_id: string | null }>(
    db,
    `select e.id, e.course_id, c.title, t.title as term, e.section_id from enrolment e join course c on c.id = e.course_id join term t on t.id = c.term_id
     where e.person_id = $1 and e.role = 'student' and e.withdrawn_at is null and e.course_id = any($2) order by t.starts_on desc, c.title limit 12`,
    [personId, taught.map((m) => m.courseId)],
  );
  const reached = found.filter((row) => taught.some((m) => m.courseId === row.course_id && reachesSection(m, row.section_id)));
  return Promise.all(
    reached.map(async (row) => {
      const facts = await readFacts(db, row.course_id, { enrolmentId: row.id });
      const [person] = facts.people;
      const calculation = calculate(facts, now, false);
      const soFar = person === undefined ? null : readTotals(facts, calculation.totalsOf(calculation.cellsOf(person))).soFar;
      return { courseId: row.course_id, enrolmentId: row.id, title: row.title, term: row.term, soFar };
    }),
  );
}

async function sectionTitle(db: Db, sectionId: string | null): Promise<string> {
  const found = await rows<{ title: string }>(db, 'select title from section where id = $1', [sectionId]);
  return found[0]?.title ?? '';
}

interface Story {
  readonly story: StudentStory;
  readonly person: FactPerson;
}
async function makeStory(
  db: Db,
  courseId: string,
  enrolmentId: string,
  look: Looking,
  messagesOf: (person: FactPerson) => [string, string | null],
): Promise<Story> {
  const course = await readCourse(db, courseId, { enrolmentId }, look.now);
  const facts = look.isStaff ? course.facts : await readFacts(db, courseId, { enrolmentId, seesVeiled: true });
  const [person] = facts.people;
  if (person === undefined) throw notFound();
  const all = look.showsClass ? await readFacts(db, courseId, { seesVeiled: !look.isStaff }) : null;
  const [feedback, rhythm, arrangements, messages, section] = await Promise.all([
    listFeedback(db, enrolmentId),
    makeRhythm(db, courseId, { sectionIds: null, enrolmentId }),
    listArrangements(db, enrolmentId),
    listMessagesWith(db, courseId, ...messagesOf(person)),
    sectionTitle(db, person.sectionId),
  ]);
  const calculation = calculate(facts, look.now, look.isOwn);
  const totals = readTotals(facts, calculation.totalsOf(calculation.cellsOf(person)));
  const showsAll = !look.isOwn || facts.showsFloorAndReach;
  const detail = makeDetail(course, person, look.now);
  const story: StudentStory = {
    ...{ enrolmentId, givenName: person.givenName, familyName: person.familyName, section },
    ...{ soFar: totals.soFar, floor: showsAll ? totals.floor : null, reach: showsAll ? totals.reach : null },
    works: worksView(facts, all, person, feedback, course.isHidden, look),
    progress: { ...detail, items: detail.items.filter((item) => isNamed(look, item.id)) },
    ...{ startsOn: rhythm.startsOn, days: rhythm.days, active: rhythm.people[0]?.active ?? [] },
    ...{ arrangements, messages, staff: null },
  };
  return { story, person };
}

/** The story of a student for one who teaches them, with the notes of staff, what the rules find, and their other courses. */
export async function readStudentStory(
  db: Db,
  courseId: string,
  enrolmentId: string,
  viewer: { readonly person: SignedIn; readonly member: Membership },
  now: number,
): Promise<StudentStory> {
  const look = { isOwn: false, isStaff: true, showsClass: true, named: null, now };
  const { story, person } = await makeStory(db, courseId, enrolmentId, look, (p) => [viewer.person.personId, p.personId]);
  if (!reachesSection(viewer.member, person.sectionId)) throw notFound();
  const [notes, words, courses, email] = await Promise.all([
    listWordNotes(db, courseId, enrolmentId),
    readWords(db, courseId, viewer.member, now),
    listOtherCourses(db, viewer.person, person.personId, courseId, now),
    rows<{ email: string }>(db, 'select email::text as email from person where id = $1', [person.personId]),
  ]);
  const findings = words.findings.filter((f) => f.enrolmentId === enrolmentId);
  return { ...story, staff: { userName: email[0]?.email ?? '', notes, findings, courses } };
}

/** A student’s own story: what was released to them, and of the class only what the course shows. */
export async function readOwnStory(
  db: Db,
  courseId: string,
  { member, isSeenAs }: { readonly member: Membership; readonly isSeenAs: boolean },
  now: number,
): Promise<StudentStory> {
  const { progressShows } = await getSettings(db, courseId);
  const visible = await listVisible(db, courseId, member, now);
  const named = new Set(visible.map((v) => v.item.id));
  const look = { isOwn: true, isStaff: isSeenAs, showsClass: progressShows === 'class', named, now };
  const { story } = await makeStory(db, courseId, member.enrolmentId, look, (p) => [p.personId, null]);
  // Who looks as a student reads none of their letters.
  return { ...story, ...(progressShows === 'nothing' ? { progress: null } : {}), ...(isSeenAs ? { messages: [] } : {}) };
}
