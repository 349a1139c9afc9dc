import type { ProgressReport, ReportPerson, ReportResult, ReportWork } from '@rosemary/api';
import { numberOfRounded, periodOf, readTotal, roundHalfUp, stepOf, toRatio } from '@rosemary/core';
import { calculate, cellFor, type CourseFacts, type FactColumn, type FactPerson, toGraded } from '../gradebook/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { isoAt, isoOf } from '../platform/instants.ts';
import { type ItemRow, type ReadCourse, readCourse, standingOf } from './readCourse.ts';

interface CourseRow {
  progress_by: 'items' | 'minutes';
  activity_months: number;
  shows_visits: boolean;
  withdrawn: number;
  samples: number;
  drafts: number;
}
const getCourseRow = (db: Db, courseId: string, sectionIds: readonly string[] | null): Promise<CourseRow | null> =>
  maybe<CourseRow & Record<string, unknown>>(
    db,
    `
    select c.progress_by, s.activity_months, s.shows_visits_against_results as shows_visits,
      (select count(*) from enrolment e where e.course_id = c.id and e.role = 'student' and e.withdrawn_at is not null and not e.is_sample and ($2::uuid[] is null or e.section_id = any($2)))::int as withdrawn,
      (select count(*) from enrolment e where e.course_id = c.id and e.is_sample)::int as samples,
      (select count(*) from item i join unit_item ui on ui.item_id = i.id join unit u on u.id = ui.unit_id and u.removed_at is null where i.course_id = c.id and i.is_draft and i.off_was_draft is null and i.removed_at is null)::int as drafts
    from course c, school s where c.id = $1`,
    [courseId, sectionIds],
  );

/** Works with points that are no draft, in the order in which they are due; what has no date stands at the end, as in the gradebook. */
export function worksOf(facts: CourseFacts): readonly FactColumn[] {
  const due = (column: FactColumn): number => column.dated.dueAt ?? Infinity;
  return facts.columns
    .filter((column) => !column.isDraft && column.possible > 0)
    .sort((a, b) => (due(a) === due(b) ? a.order - b.order : due(a) - due(b)));
}

/** The result of somebody, or why there is none. Finished marks count, released or not. */
export function resultOf(facts: CourseFacts, column: FactColumn, person: FactPerson, now: number): ReportResult {
  const { state, result } = cellFor(facts, column, person, now, false);
  if (state === 'marked' && result !== null) return typeof result === 'number' ? result : numberOfRounded(roundHalfUp(toRatio(result), 0));
  return state === 'exempt' || state === 'missing' || state === 'outside' ? state : null;
}

function workView(facts: CourseFacts, column: FactColumn, items: ReadonlyMap<string, ItemRow>): ReportWork {
  const item = column.itemId === null ? undefined : items.get(column.itemId);
  return {
    id: column.id,
    itemId: column.itemId,
    kind: column.kind,
    title: column.title,
    unitId: item?.unit_id ?? null,
    possible: column.possible,
    categoryId: column.categoryId,
    periodId: periodOf(toGraded(column), facts.policy.periods)?.id ?? null,
    taskTypeId: item?.task_type_id ?? null,
    dueAt: isoAt(column.dated.dueAt),
  };
}

interface Known {
  readonly emails: ReadonlyMap<string, string>;
  readonly groups: ReadonlyMap<string, readonly string[]>;
}
async function readKnown(db: Db, courseId: string): Promise<Known> {
  const found = await rows<{ id: string; email: string; groups: string[] }>(
    db,
    `select e.id, p.email::text as email,
       array(select m.group_id from group_member m join course_group g on g.id = m.group_id join group_set t on t.id = g.set_id and t.removed_at is null where m.enrolment_id = e.id) as groups
     from enrolment e join person p on p.id = e.person_id where e.course_id = $1 and e.role = 'student'`,
    [courseId],
  );
  return { emails: new Map(found.map((row) => [row.id, row.email])), groups: new Map(found.map((row) => [row.id, row.groups])) };
}

function peopleOf(course: ReadCourse, works: readonly FactColumn[], known: Known, now: number): ReportPerson[] {
  const { facts } = course;
  const calculation = calculate(facts, now, false);
  return facts.people.map((person) => {
    const total = calculation.totalsOf(calculation.cellsOf(person)).soFar.ratio;
    return {
      enrolmentId: person.enrolmentId,
      familyName: person.familyName,
      givenName: person.givenName,
      userName: known.emails.get(person.enrolmentId) ?? '',
      sectionId: person.sectionId,
      groupIds: known.groups.get(person.enrolmentId) ?? [],
      steps: course.items.map((item) => stepOf(standingOf(course, item, person, now))).join(''),
      lastVisit: isoOf(course.last.get(person.enrolmentId) ?? null),
      soFar: readTotal(total, facts.policy.decimals, [])?.percent ?? null,
      results: works.map((column) => resultOf(facts, column, person, now)),
    };
  });
}

export async function makeReport(db: Db, courseId: string, sectionIds: readonly string[] | null, now: number): Promise<ProgressReport> {
  const [course, row, known, taskTypes, groups] = await Promise.all([
    readCourse(db, courseId, { sectionIds }, now),
    getCourseRow(db, courseId, sectionIds),
    readKnown(db, courseId),
    rows<{ id: string; title: string }>(
      db,
      'select t.id, t.title from task_type t where exists (select 1 from item i where i.task_type_id = t.id and i.course_id = $1) order by t.position, t.title',
      [courseId],
    ),
    rows<{ id: string; title: string }>(
      db,
      "select g.id, s.title || ': ' || g.title as title from course_group g join group_set s on s.id = g.set_id where s.course_id = $1 and s.removed_at is null order by s.position, g.position",
      [courseId],
    ),
  ]);
  const { facts, items } = course;
  const works = worksOf(facts);
  const byId = new Map(items.map((item) => [item.id, item]));
  const views = works.map((column) => workView(facts, column, byId));
  const viewOf = new Map(views.map((view) => [view.itemId, view]));
  return {
    by: row?.progress_by ?? 'items',
    units: [...new Map(items.map((i) => [i.unit_id, { id: i.unit_id, title: i.unit }])).values()],
    items: items.map((i) => ({
      id: i.id,
      title: i.title,
      unitId: i.unit_id,
      minutes: i.estimated_minutes,
      dueAt: isoOf(i.due_at),
      periodId:
        viewOf.get(i.id)?.periodId ??
        periodOf({ periodId: null, dueAt: (i.due_at ?? i.opens_at)?.getTime() ?? null }, facts.policy.periods)?.id ??
        null,
    })),
    works: views,
    categories: facts.policy.categories.map(({ id, title }) => ({ id, title })),
    periods: facts.policy.periods.map(({ id, title }) => ({ id, title })),
    taskTypes,
    groups,
    people: peopleOf(course, works, known, now),
    left: { withdrawn: row?.withdrawn ?? 0, samples: row?.samples ?? 0, drafts: row?.drafts ?? 0 },
    showsVisitsAgainstResults: row?.shows_visits ?? true,
    activityMonths: row?.activity_months ?? 24,
  };
}
