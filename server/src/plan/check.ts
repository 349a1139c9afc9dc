import type { CourseCheck, PlanItem } from '@rosemary/api';
import { checkCourse, type CheckedCourse, type CheckedItem, type DocumentNode, type Opening, type OpeningRule } from '@rosemary/core';
import { listSections } from '../course/index.ts';
import { getPolicy } from '../gradebook/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { getTerm } from '../term/index.ts';
import { getPlan } from './queries.ts';
import { makeTermLine } from './termLine.ts';

interface Inside {
  item_id: string;
  document: DocumentNode | null;
  period_id: string | null;
  takes_work: boolean;
  rubric_points: number | null;
}

const at = (iso: string | null): number | null => (iso === null ? null : Date.parse(iso));

const openingOf = (item: PlanItem): Opening => ({
  needs: item.opening.needs,
  rules: item.opening.rules.map((rule): OpeningRule => (rule.kind === 'date' ? { kind: 'date', at: Date.parse(rule.at) } : rule)),
});

async function readCourse(
  db: Db,
  courseId: string,
  now: number,
): Promise<{ readonly course: CheckedCourse; readonly versionOf: ReadonlyMap<string, number> }> {
  const { term, zone, isSelfPaced } = await getTerm(db, courseId);
  const plan = await getPlan(db, courseId, now);
  const sections = await listSections(db, courseId);
  const { policy } = await getPolicy(db, courseId);
  const inside = await rows<Inside>(
    db,
    `
    select i.id as item_id, i.period_id, coalesce(p.document, a.instructions) as document, coalesce(a.takes_work, true) as takes_work,
           case when a.judged = 'points' then (select (sum(best.points) * 1000)::int from (select max(l.points) as points from rubric_criterion c join rubric_level l on l.criterion_id = c.id and l.removed_at is null
            where c.rubric_id = a.rubric_id and c.removed_at is null group by c.id) best) end as rubric_points
    from graded_item i left join page p on p.item_id = i.id left join assignment a on a.item_id = i.id where i.course_id = $1 and i.removed_at is null`,
    [courseId],
  );
  const insideOf = new Map(inside.map((row) => [row.item_id, row]));
  const items = plan.units.flatMap((unit) =>
    unit.items.map((item): CheckedItem => {
      const own = insideOf.get(item.id);
      return {
        id: item.id,
        unitId: unit.id,
        kind: item.kind,
        title: item.title,
        isDraft: item.isDraft,
        counts: item.counts,
        isExtraCredit: item.isExtraCredit,
        possible: item.possible,
        categoryId: item.categoryId,
        periodId: own?.period_id ?? null,
        dates: { announced: at(item.announcedAt), opens: at(item.opensAt), due: at(item.dueAt), closes: at(item.closesAt) },
        isStaffOnly: item.isStaffOnly || item.isOff,
        opening: openingOf(item),
        doneRule: item.doneRule,
        isReviewed: item.isReviewed,
        others: item.variants.map((v) => ({ name: v.name, due: at(v.dueAt) })),
        document: own?.document ?? null,
        takesWork: own?.takes_work ?? true,
        rubricPoints: own?.rubric_points ?? null,
      };
    }),
  );
  const course: CheckedCourse = {
    id: courseId,
    term,
    zone,
    isSelfPaced,
    units: plan.units,
    items,
    total: policy.total,
    categories: policy.categories,
    periods: policy.periods,
    sections,
    loads: (await makeTermLine(db, [{ id: courseId, students: 0 }], term, zone, now)).loads,
  };
  return { course, versionOf: new Map(plan.units.flatMap((u) => u.items).map((item) => [item.id, item.version])) };
}

/** What there is to mend or to look at before students see the course. */
export async function checkBeforeOpening(db: Db, courseId: string, now: number): Promise<CourseCheck> {
  const { course, versionOf } = await readCourse(db, courseId, now);
  const forStudents = course.items.filter((item) => !item.isStaffOnly);
  const drafts = new Set(forStudents.filter((item) => item.isDraft).map((item) => item.id));
  return {
    ...{ findings: checkCourse(course), items: course.items.length },
    shown: new Set(forStudents.map((item) => item.id)).size - drafts.size,
    drafts: [...drafts].map((id) => ({ id, version: versionOf.get(id) ?? 0 })),
  };
}
