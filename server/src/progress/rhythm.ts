import type { ProgressRhythm } from '@rosemary/api';
import { type DayOfActivity, DOINGS } from '@rosemary/core';
import { DateTime } from 'luxon';
import { listVeiledItems } from '../anonymity/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { getTerm } from '../term/index.ts';

const bitOf = (doing: (typeof DOINGS)[number]): number => 1 << DOINGS.indexOf(doing);
/** The hours from one instant to another on the day of the second, as bits. */
const HOURS = (from: string, to: string): string =>
  `(select coalesce(bit_or(1 << h), 0) from generate_series(case when (${from})::date < (${to})::date then 0 else extract(hour from ${from})::int end, extract(hour from ${to})::int) h)`;

/**
 * What each student of a course did on each day of its term, as far as it was recorded; of works marked without names nothing is told. A course that
 * each begins by themselves has no such days: all are told.
 */
export async function makeRhythm(
  db: Db,
  courseId: string,
  scope: { readonly sectionIds: readonly string[] | null; readonly enrolmentId?: string },
): Promise<ProgressRhythm> {
  const [{ term, zone, isSelfPaced }, veiled] = await Promise.all([getTerm(db, courseId), listVeiledItems(db, courseId)]);
  const found = await rows<{ id: string; active: string | null }>(
    db,
    `
    with own as (
      select e.id from enrolment e where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and (not e.is_sample or e.id = $4)
        and ($3::uuid[] is null or e.section_id = any($3)) and ($4::uuid is null or e.id = $4)),
    attempts as (
      select a.enrolment_id, a.begun_at at time zone $2 as begun, a.handed_in_at at time zone $2 as ended from quiz_attempt a join own on own.id = a.enrolment_id
      where a.state = 'handed in'),
    done as (
      select v.enrolment_id, v.day, v.hours, v.seconds, v.longest_seconds as longest,
        case v.doing when 'reading' then ${bitOf('reading')} when 'writing' then ${bitOf('writing')} else ${bitOf('talking')} end as doings
      from visit v join own on own.id = v.enrolment_id
      where v.hours <> 0 and v.item_id <> all($5) and ($7 or v.day between $6::date and $8::date)
      union all
      select a.enrolment_id, a.ended::date, ${HOURS('a.begun', 'a.ended')}, least(86400, extract(epoch from a.ended - a.begun))::int, least(86400, extract(epoch from a.ended - a.begun))::int, ${bitOf('answering')}
      from attempts a
      union all
      -- What another of the group handed in is not theirs.
      select s.enrolment_id, (t.handed_in_at at time zone $2)::date, 1 << extract(hour from t.handed_in_at at time zone $2)::int, 0, 0, ${bitOf('handing in')}
      from submission s join own on own.id = s.enrolment_id join attempt t on t.submission_id = s.id and t.lead_id is null
      where t.handed_in_at is not null and s.item_id <> all($5)
      union all
      select o.enrolment_id, (o.created_at at time zone $2)::date, 1 << extract(hour from o.created_at at time zone $2)::int, 0, 0, ${bitOf('talking')}
      from post o join own on own.id = o.enrolment_id where o.removed_at is null),
    days as (
      select enrolment_id, day - $6::date as day, bit_or(hours) as hours, (sum(seconds) / 60)::int as minutes, max(longest) / 60 as longest, bit_or(doings) as doings
      from done where $7 or day between $6::date and $8::date group by 1, 2)
    select own.id, string_agg(d.day || ' ' || d.hours || ' ' || d.minutes || ' ' || d.longest || ' ' || d.doings, ',' order by d.day) as active
    from own left join days d on d.enrolment_id = own.id group by own.id`,
    [courseId, zone, scope.sectionIds, scope.enrolmentId ?? null, veiled, term.startsOn, isSelfPaced, term.endsOn],
  );
  const days = DateTime.fromISO(term.endsOn).diff(DateTime.fromISO(term.startsOn), 'days').days + 1;
  return {
    startsOn: term.startsOn,
    days: Math.round(days),
    people: found.map(({ id, active }) => ({
      enrolmentId: id,
      active: active === null ? [] : active.split(',').map((day) => day.split(' ').map(Number) as unknown as DayOfActivity),
    })),
  };
}
