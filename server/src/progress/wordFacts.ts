import { quantile, readTotal, standardised, visibilityFor, type WordFacts } from '@rosemary/core';
import { calculate, cellFor, type FactColumn, type FactPerson } from '../gradebook/index.ts';
import { datedOf } from '../opening/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { readCourse, type ReadCourse } from './readCourse.ts';
import { resultOf, worksOf } from './report.ts';

const DAY = 86_400_000;
/** What is due later than the longest threshold needs nothing begun. */
const LONGEST_DAYS = 30;
const LEAST_ATTEMPTS = 5;

/** When anything was last recorded of each student: a visit, a work, an attempt, a post. What another of the group handed in is not theirs. */
async function listLastActive(db: Db, courseId: string): Promise<ReadonlyMap<string, number>> {
  const found = await rows<{ id: string; at: Date | null }>(
    db,
    `
    select e.id, greatest(
      (select max(v.last_at) from item_opened v where v.enrolment_id = e.id),
      (select max(t.handed_in_at) from submission s join attempt t on t.submission_id = s.id and t.lead_id is null where s.enrolment_id = e.id),
      (select max(a.begun_at) from quiz_attempt a where a.enrolment_id = e.id),
      (select max(o.created_at) from post o where o.enrolment_id = e.id and o.removed_at is null)) as at
    from enrolment e where e.course_id = $1 and e.role = 'student'`,
    [courseId],
  );
  return new Map(found.flatMap((row) => (row.at === null ? [] : [[row.id, row.at.getTime()] as const])));
}

type Attempt = WordFacts['attempts'][number];
/** How long the first whole attempt of each student at each quiz took, beside what half of the class took. */
async function listAttempts(db: Db, courseId: string): Promise<ReadonlyMap<string, readonly Attempt[]>> {
  const found = await rows<{ item_id: string; title: string; enrolment_id: string; minutes: number }>(
    db,
    `
    select distinct on (a.item_id, a.enrolment_id) a.item_id, i.title, a.enrolment_id, extract(epoch from a.handed_in_at - a.begun_at)::float8 / 60 as minutes
    from quiz_attempt a join item i on i.id = a.item_id and i.removed_at is null join enrolment e on e.id = a.enrolment_id and not e.is_sample
    where i.course_id = $1 and a.state = 'handed in' and a.handed_in_at is not null order by a.item_id, a.enrolment_id, a.number`,
    [courseId],
  );
  const times = new Map<string, number[]>();
  for (const row of found) times.set(row.item_id, [...(times.get(row.item_id) ?? []), row.minutes]);
  const usual = new Map([...times].map(([id, minutes]) => [id, minutes.length < LEAST_ATTEMPTS ? null : quantile(minutes, 0.5)]));
  const of = new Map<string, Attempt[]>();
  for (const { item_id: itemId, enrolment_id: enrolmentId, title, minutes } of found)
    of.set(enrolmentId, [...(of.get(enrolmentId) ?? []), { title, minutes, usual: usual.get(itemId) ?? null }]);
  return of;
}

interface Matrix {
  readonly works: readonly FactColumn[];
  /** For each work, the share and its standardised value by the place of the student. */
  readonly columns: readonly ReadonlyMap<number, WordFacts['results'][number]>[];
}
function matrixOf(course: ReadCourse, now: number): Matrix {
  const { facts } = course;
  const works = worksOf(facts).filter((column) => column.dated.dueAt !== null);
  const columns = works.map((column) => {
    const placed = facts.people.flatMap((person, place) => {
      const result = resultOf(facts, column, person, now);
      return typeof result === 'number' ? [{ place, share: result / column.possible }] : [];
    });
    const standard = standardised(placed.map((p) => p.share));
    return new Map(placed.map(({ place, share }, n) => [place, { share, standard: standard?.[n] ?? null }]));
  });
  return { works, columns };
}

/** What was due from a student by now, and whether it is missing; who is exempt or outside owes nothing. */
function piecesOf(course: ReadCourse, works: readonly FactColumn[], person: FactPerson, now: number): WordFacts['pieces'] {
  return works.flatMap((column) => {
    if (!column.expectsHandIn) return [];
    const due = course.facts.datesFor(column.dated, person).due.at;
    if (due === null || due > now) return [];
    const { state } = cellFor(course.facts, column, person, now, false);
    return state === 'exempt' || state === 'outside' ? [] : [{ title: column.title, isMissing: state === 'missing' }];
  });
}

function waitingOf(course: ReadCourse, works: readonly FactColumn[], person: FactPerson, now: number): WordFacts['waiting'] {
  const { facts, opened, items } = course;
  const expected = new Map(works.flatMap((w) => (w.expectsHandIn && w.itemId !== null ? [[w.itemId, w] as const] : [])));
  return items
    .flatMap((item) => {
      if (!expected.has(item.id) || !facts.reach.isFor(item.id, person)) return [];
      const dates = facts.datesFor(datedOf(item.id, item), person);
      const isUntouched =
        opened.get(item.id, person.enrolmentId) === undefined && facts.handIns.get(item.id, person.enrolmentId) === undefined;
      const due = dates.due.at;
      const isOpen = visibilityFor(false, dates, now) === 'open';
      // Who may still begin in good time has nothing to be asked about.
      const isFresh = due !== null && dates.opens.at !== null && now - dates.opens.at < (due - dates.opens.at) / 2;
      if (!isUntouched || !isOpen || isFresh || due === null || due <= now || due > now + LONGEST_DAYS * DAY) return [];
      return [{ title: item.title, inDays: (due - now) / DAY }];
    })
    .sort((a, b) => a.inDays - b.inDays);
}

/** What the rules of who needs a word are held against, of every student of a course. */
export async function readWordFacts(
  db: Db,
  courseId: string,
  now: number,
): Promise<{ readonly course: ReadCourse; readonly facts: readonly WordFacts[] }> {
  const [course, last, attempts] = await Promise.all([
    readCourse(db, courseId, {}, now),
    listLastActive(db, courseId),
    listAttempts(db, courseId),
  ]);
  const { works, columns } = matrixOf(course, now);
  const calculation = calculate(course.facts, now, false);
  const facts = course.facts.people.map((person, place): WordFacts => {
    const at = last.get(person.enrolmentId);
    const total = calculation.totalsOf(calculation.cellsOf(person)).soFar.ratio;
    return {
      enrolmentId: person.enrolmentId,
      pieces: piecesOf(course, works, person, now),
      results: columns.flatMap((column) => column.get(place) ?? []),
      silentDays: at === undefined ? null : Math.max(0, Math.floor((now - at) / DAY)),
      soFar: readTotal(total, course.facts.policy.decimals, [])?.percent ?? null,
      waiting: waitingOf(course, works, person, now),
      attempts: attempts.get(person.enrolmentId) ?? [],
    };
  });
  return { course, facts };
}
