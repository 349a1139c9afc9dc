import type { CourseTime } from '@rosemary/api';
import { kindOfItem, overfullWeeks, timeTaken } from '@rosemary/core';
import { listSections } from '../course/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { getTerm } from '../term/index.ts';
import { getPlan } from './queries.ts';
import { makeTermLine } from './termLine.ts';

/** Shorter than this is a look in passing. */
const PASSING_SECONDS = 20;

/** What each week asks, which ask far more than the rest, and for each item the minutes asked against those taken. */
export async function makeTime(db: Db, courseId: string, now: number): Promise<CourseTime> {
  const { term, zone } = await getTerm(db, courseId);
  const students = (await listSections(db, courseId)).reduce((sum, s) => sum + s.students, 0);
  const { loads } = await makeTermLine(db, [{ id: courseId, students }], term, zone, now);
  const plan = await getPlan(db, courseId, now);
  const visits = await rows<{ item_id: string; seconds: number[] }>(
    db,
    `
    select t.item_id, array_agg(t.seconds) as seconds from (
      select v.item_id, v.enrolment_id, sum(v.seconds)::int as seconds from visit v join enrolment e on e.id = v.enrolment_id
      where e.course_id = $1 and e.role = 'student' and not e.is_sample and e.withdrawn_at is null group by v.item_id, v.enrolment_id having sum(v.seconds) >= ${PASSING_SECONDS}) t
    group by t.item_id`,
    [courseId],
  );
  const taken = new Map(visits.map((row) => [row.item_id, row.seconds.map((s) => s / 60)]));
  const overfull = overfullWeeks(loads);
  return {
    weeks: loads.map((load) => ({ ...load, isOverfull: overfull.some((w) => w.week === load.week) })),
    median: overfull[0]?.median ?? null,
    items: plan.units.flatMap((unit) =>
      (unit.isStaffOnly ? [] : unit.items)
        .filter((item) => !kindOfItem(item.kind).isInClass && !item.isDraft)
        .map((item) => ({
          id: item.id,
          kind: item.kind,
          title: item.title,
          unit: unit.title,
          version: item.version,
          asked: item.estimatedMinutes,
          taken: timeTaken(item.estimatedMinutes, taken.get(item.id) ?? [], kindOfItem(item.kind).isOnScreen),
        })),
    ),
  };
}
