import type { AlignedQuestions, ProgressObjectives } from '@rosemary/api';
import { type AlignedPart, criterionPoints, givesPoints, type RubricCriterion, type RubricLevel, thousandthsOf } from '@rosemary/core';
import { cellFor, type CourseFacts, findWorkColumn, type FactPerson, readFacts } from '../gradebook/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { resultOf } from './report.ts';

interface ObjectiveRow {
  id: string;
  parent_id: string | null;
  code: string;
  statement: string;
}
interface CriterionRow {
  id: string;
  title: string;
  form: RubricCriterion['form'];
  item_id: string;
  levels: readonly { id: string; points: string; least: string | null; upTo: number | null }[];
}
interface MarkRow {
  item_id: string;
  enrolment_id: string;
  choices: Record<string, string>;
  given: Record<string, number>;
}
interface QuestionRow {
  objective_id: string;
  item_id: string;
  enrolment_id: string;
  questions: number;
  earned: number;
  possible: number;
}
type Result = AlignedPart['results'][number];
type PlaceOf = (itemId: string, enrolmentId: string) => number | null;

/** The attempts that count of each student at each quiz of a course: the best, the first, the latest, or all where their mean does. */
const COUNTED_ATTEMPTS = `
  select t.id, t.item_id, t.enrolment_id from (
    select a.id, a.item_id, a.enrolment_id, z.counted, row_number() over (partition by a.item_id, a.enrolment_id
      order by case when z.counted = 'best' then -a.score end, case when z.counted in ('best', 'first') then a.number else -a.number end) as place
    from quiz_attempt a join quiz z on z.item_id = a.item_id join item i on i.id = a.item_id
    where i.course_id = $1 and i.removed_at is null and a.state = 'handed in' and a.score is not null) t
  where t.counted = 'mean' or t.place = 1`;
const SHARE = "(split_part(s.share, '/', 1)::numeric / split_part(s.share, '/', 2)::numeric)";

const listCriteria = (db: Db, courseId: string): Promise<CriterionRow[]> =>
  rows<CriterionRow & Record<string, unknown>>(
    db,
    `
    select c.id, c.title, c.form, i.id as item_id,
      (select coalesce(json_agg(json_build_object('id', l.id, 'points', l.points::text, 'least', l.least::text, 'upTo', l.up_to) order by l.position), '[]')
       from rubric_level l where l.criterion_id = c.id and l.removed_at is null) as levels
    from item i join assignment a on a.item_id = i.id join rubric_criterion c on c.rubric_id = a.rubric_id and c.removed_at is null
    where i.course_id = $1 and i.removed_at is null and not i.is_draft order by i.due_at nulls last, c.position`,
    [courseId],
  );

const listMarks = (db: Db, courseId: string): Promise<MarkRow[]> =>
  rows<MarkRow & Record<string, unknown>>(
    db,
    `
    select distinct on (f.submission_id) s.item_id, s.enrolment_id, f.choices, f.given from finished_mark f join submission s on s.id = f.submission_id
    join item i on i.id = s.item_id where i.course_id = $1 and i.removed_at is null and f.undone_at is null order by f.submission_id, f.id desc`,
    [courseId],
  );

/** Every objective with itself and those under it: what serves one of these serves it too, and once. */
const UNDER = `
  under as (
    select o.id as top, o.id from objective o where o.course_id = $1 and o.removed_at is null
    union select u.top, o.id from under u join objective o on o.parent_id = u.id and o.removed_at is null)`;

const listQuestionPoints = (db: Db, courseId: string): Promise<QuestionRow[]> =>
  rows<QuestionRow & Record<string, unknown>>(
    db,
    `
    with recursive ${UNDER}, counted as (${COUNTED_ATTEMPTS}),
    served as (
      select distinct u.top, q.question_id from under u join objective o on o.id = u.id and o.code <> ''
      join question_objective q on lower(q.code) = lower(o.code))
    select v.top as objective_id, a.item_id, a.enrolment_id, count(*)::int as questions,
      round(sum(${SHARE} * s.points), 6)::float8 as earned, sum(s.points)::float8 as possible
    from counted a join quiz_score s on s.attempt_id = a.id and s.share is not null and s.points > 0 join served v on v.question_id = s.question_id
    where not exists (select 1 from objective_use w join under u on u.id = w.objective_id where u.top = v.top and w.item_id = a.item_id)
    group by 1, 2, 3`,
    [courseId],
  );

/** What is aligned to each objective or to one under it: whole works and criteria. */
const listUses = (db: Db, courseId: string): Promise<{ objective_id: string; item_id: string | null; criterion_id: string | null }[]> =>
  rows(
    db,
    `with recursive ${UNDER}
     select distinct u.top as objective_id, w.item_id, w.criterion_id from under u join objective_use w on w.objective_id = u.id`,
    [courseId],
  );

const rubricLevelOf = (l: CriterionRow['levels'][number]): RubricLevel => ({
  ...{ id: l.id, title: '', descriptor: '', points: thousandthsOf(l.points) },
  ...{ least: l.least === null ? null : thousandthsOf(l.least), upTo: l.upTo },
});

/** For each criterion that gives points, what each student earned in it and could. */
async function readCriteria(db: Db, courseId: string, placeOf: PlaceOf): Promise<{ row: CriterionRow; results: Result[] }[]> {
  const [criteria, marks] = await Promise.all([listCriteria(db, courseId), listMarks(db, courseId)]);
  const byItem = new Map<string, MarkRow[]>();
  for (const mark of marks) byItem.set(mark.item_id, [...(byItem.get(mark.item_id) ?? []), mark]);
  return criteria.flatMap((row) => {
    const criterion: RubricCriterion = { id: row.id, title: row.title, form: row.form, levels: row.levels.map(rubricLevelOf) };
    const possible = Math.max(0, ...criterion.levels.map((l) => l.points));
    if (!givesPoints(criterion) || possible === 0) return [];
    const results = (byItem.get(row.item_id) ?? []).flatMap((mark): Result[] => {
      const points = criterionPoints(criterion, mark);
      const place = placeOf(row.item_id, mark.enrolment_id);
      return points === null || place === null ? [] : [[place, points, possible]];
    });
    return [{ row, results }];
  });
}

/** Several criteria of one work that serve the same objective are one part of it. */
function joinCriteria(criteria: readonly { row: CriterionRow; results: Result[] }[], served: ReadonlySet<string>): AlignedPart[] {
  const byItem = new Map<string, AlignedPart>();
  for (const { row, results } of criteria) {
    if (!served.has(row.id)) continue;
    const held = byItem.get(row.item_id);
    byItem.set(row.item_id, {
      itemId: row.item_id,
      how: 'criteria',
      pieces: (held?.pieces ?? 0) + 1,
      results: [...(held?.results ?? []), ...results],
    });
  }
  return [...byItem.values()];
}

/** Whole works that are aligned to an objective themselves; their questions and criteria are in them and are not counted again. */
function wholeWorks(facts: CourseFacts, itemIds: readonly string[], now: number): AlignedPart[] {
  return itemIds.flatMap((itemId) => {
    const column = findWorkColumn(facts, itemId);
    if (column === undefined || column.possible === 0) return [];
    const results = facts.people.flatMap((person, place): Result[] => {
      const result = resultOf(facts, column, person, now);
      return typeof result === 'number' ? [[place, result, column.possible]] : [];
    });
    return [{ itemId, how: 'whole' as const, pieces: 1, results }];
  });
}

/** Where somebody stands in the class, if their result in a work is finished and they are not exempt: else nothing of it counts. */
function placesIn(facts: CourseFacts, now: number): PlaceOf {
  const places = new Map(facts.people.map((person, place) => [person.enrolmentId, { person, place }]));
  const isMarked = (itemId: string, person: FactPerson): boolean => {
    const column = findWorkColumn(facts, itemId);
    return column !== undefined && cellFor(facts, column, person, now, false).state === 'marked';
  };
  return (itemId, enrolmentId) => {
    const held = places.get(enrolmentId);
    return held !== undefined && isMarked(itemId, held.person) ? held.place : null;
  };
}

function questionParts(found: readonly QuestionRow[], placeOf: PlaceOf): ReadonlyMap<string, AlignedPart[]> {
  const parts = new Map<string, Map<string, { pieces: number; results: Result[] }>>();
  for (const row of found) {
    const place = placeOf(row.item_id, row.enrolment_id);
    if (place === null) continue;
    const ofObjective = parts.get(row.objective_id) ?? new Map<string, { pieces: number; results: Result[] }>();
    const part = ofObjective.get(row.item_id) ?? { pieces: 0, results: [] };
    part.pieces = Math.max(part.pieces, row.questions);
    part.results.push([place, row.earned, row.possible]);
    ofObjective.set(row.item_id, part);
    parts.set(row.objective_id, ofObjective);
  }
  return new Map([...parts].map(([id, of]) => [id, [...of].map(([itemId, part]): AlignedPart => ({ itemId, how: 'questions', ...part }))]));
}

/** What everybody earned of what is aligned to each objective, and in each criterion. */
export async function makeObjectives(
  db: Db,
  courseId: string,
  sectionIds: readonly string[] | null,
  now: number,
): Promise<ProgressObjectives> {
  const facts = await readFacts(db, courseId, { sectionIds });
  const placeOf = placesIn(facts, now);
  const [criteria, questions, objectives, uses, course] = await Promise.all([
    readCriteria(db, courseId, placeOf),
    listQuestionPoints(db, courseId),
    rows<ObjectiveRow & Record<string, unknown>>(
      db,
      'select id, parent_id, code, statement from objective where course_id = $1 and removed_at is null order by position, lower(code), id',
      [courseId],
    ),
    listUses(db, courseId),
    maybe<{ reached: string; merit: string }>(db, 'select reached_percent as reached, merit_percent as merit from course where id = $1', [
      courseId,
    ]),
  ]);
  const ofQuestions = questionParts(questions, placeOf);
  // What stood under an objective since removed stands at the top.
  const known = new Set(objectives.map((o) => o.id));
  return {
    objectives: objectives.map((o) => {
      const own = uses.filter((u) => u.objective_id === o.id);
      const whole = own.flatMap((u) => u.item_id ?? []);
      const served = new Set(own.flatMap((u) => u.criterion_id ?? []));
      return {
        ...{ id: o.id, parentId: known.has(o.parent_id ?? '') ? o.parent_id : null, code: o.code, statement: o.statement },
        parts: [
          ...wholeWorks(facts, whole, now),
          ...(ofQuestions.get(o.id) ?? []),
          ...joinCriteria(criteria, served).filter((part) => !whole.includes(part.itemId)),
        ],
      };
    }),
    criteria: criteria.map(({ row, results }) => ({
      ...{ id: row.id, title: row.title, itemId: row.item_id },
      parts: [{ itemId: row.item_id, how: 'criteria' as const, pieces: 1, results }],
    })),
    enrolmentIds: facts.people.map((p) => p.enrolmentId),
    reachedPercent: thousandthsOf(course?.reached ?? '60'),
    meritPercent: thousandthsOf(course?.merit ?? '85'),
  };
}

/** The questions of one quiz that are aligned to an objective, with the share of its points that each student earned. */
export async function listAlignedQuestions(
  db: Db,
  courseId: string,
  asked: { readonly objective: string; readonly item: string },
  sectionIds: readonly string[] | null,
  now: number,
): Promise<AlignedQuestions> {
  const facts = await readFacts(db, courseId, { sectionIds });
  const placeOf = placesIn(facts, now);
  const found = await rows<{ id: string; title: string; enrolment_id: string; share: number }>(
    db,
    `
    with recursive ${UNDER}, counted as (${COUNTED_ATTEMPTS})
    select q.id, q.title, a.enrolment_id, round(${SHARE}, 6)::float8 as share from counted a
    join quiz_score s on s.attempt_id = a.id and s.share is not null and s.points > 0 join question q on q.id = s.question_id
    where a.item_id = $2 and exists (
      select 1 from under u join objective o on o.id = u.id and o.code <> '' join question_objective w on lower(w.code) = lower(o.code) where u.top = $3 and w.question_id = q.id)
    order by q.title, q.id`,
    [courseId, asked.item, asked.objective],
  );
  const byId = new Map<string, { questionId: string; title: string; shares: (readonly [string, number])[] }>();
  for (const row of found) {
    if (placeOf(asked.item, row.enrolment_id) === null) continue;
    const held = byId.get(row.id) ?? { questionId: row.id, title: row.title, shares: [] };
    held.shares.push([row.enrolment_id, row.share]);
    byId.set(row.id, held);
  }
  return { questions: [...byId.values()] };
}
