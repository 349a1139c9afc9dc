import type { FinalStanding } from '@rosemary/api';
import type { Activity, ActivityKind } from '@rosemary/core';
import { type Db, rows } from '../platform/database.ts';

export interface FinalPerson {
  readonly enrolmentId: string;
  readonly familyName: string;
  readonly givenName: string;
  readonly email: string;
  readonly sectionId: string | null;
  readonly standing: FinalStanding;
  /** By what the registrar knows student and section. */
  readonly key: string;
  readonly sectionKey: string | null;
}
/** Every student of a course with how they stand at its end, those who withdrew too; of some sections, or of all (null). */
export const listFinalPeople = (db: Db, courseId: string, sectionIds: readonly string[] | null): Promise<FinalPerson[]> =>
  rows<FinalPerson & Record<string, unknown>>(
    db,
    `select e.id as "enrolmentId", p.family_name as "familyName", p.given_name as "givenName", p.email::text as email, e.section_id as "sectionId",
            case when e.withdrawn_at is not null then 'withdrawn' when e.is_auditing then 'auditing' else 'enrolled' end as standing,
            coalesce(p.source, p.id::text) as key, coalesce(s.source, s.id::text) as "sectionKey"
     from enrolment e join person p on p.id = e.person_id left join section s on s.id = e.section_id
     where e.course_id = $1 and e.role = 'student' and not e.is_sample and ($2::uuid[] is null or e.section_id = any($2)) order by p.family_name, p.given_name, e.id`,
    [courseId, sectionIds],
  );

interface ActivityRow {
  readonly enrolment_id: string;
  readonly kind: ActivityKind;
  readonly title: string;
  readonly day: string;
}
/** The latest of each kind of activity of every student of a course, by the days of its clock. */
export async function listActivities(db: Db, courseId: string, zone: string): Promise<ReadonlyMap<string, readonly Activity[]>> {
  const found = await rows<ActivityRow & Record<string, unknown>>(
    db,
    `
    with own as (select id, title from item where course_id = $1),
    done as (
      -- What another of the group handed in says nothing of this student.
      select s.enrolment_id, 'hand-in' as kind, i.title, t.handed_in_at as at from submission s join own i on i.id = s.item_id join attempt t on t.submission_id = s.id and t.lead_id is null where t.handed_in_at is not null
      union all select a.enrolment_id, 'hand-in', i.title, a.handed_in_at from quiz_attempt a join own i on i.id = a.item_id where a.handed_in_at is not null
      union all select a.enrolment_id, 'answer', i.title, (select max(e.at) from quiz_answer_event e where e.attempt_id = a.id) from quiz_attempt a join own i on i.id = a.item_id
      union all select v.enrolment_id, 'visit', i.title, v.last_at from item_opened v join own i on i.id = v.item_id
      union all select o.enrolment_id, 'post', i.title, o.created_at from post o join own i on i.id = o.item_id)
    select distinct on (enrolment_id, kind) enrolment_id, kind, title, to_char(at at time zone $2, 'YYYY-MM-DD') as day
    from done where at is not null order by enrolment_id, kind, at desc`,
    [courseId, zone],
  );
  const by = new Map<string, Activity[]>();
  for (const { enrolment_id: id, kind, title, day } of found) by.set(id, [...(by.get(id) ?? []), { kind, title, day }]);
  return by;
}
