import type { JoinedSection, SectionSetting } from '@rosemary/api';
import { type Db, rows } from '../platform/database.ts';

export async function listSectionSettings(db: Db, courseId: string): Promise<SectionSetting[]> {
  const found = await rows<{ id: string; title: string; meeting_days: number[] | null; students: number }>(
    db,
    `
    select s.id, s.title, s.meeting_days, count(e.id)::int as students
    from section s left join enrolment e on e.section_id = s.id and e.role = 'student' and e.withdrawn_at is null and not e.is_sample
    where s.course_id = $1 and s.removed_at is null group by s.id order by s.position, s.title`,
    [courseId],
  );
  return found.map((s) => ({ id: s.id, title: s.title, meetingDays: s.meeting_days, students: s.students }));
}

/** Sections that were joined to others and not parted since, the latest first. */
export async function listJoined(db: Db, courseId: string): Promise<JoinedSection[]> {
  const found = await rows<{ act_id: string; title: string; into: string; at: Date; students: number }>(
    db,
    `
    select j.act_id, s.title, i.title as into, j.at, (select count(*)::int from section_move m join enrolment e on e.id = m.enrolment_id and e.withdrawn_at is null where m.act_id = j.act_id) as students
    from section_joining j join section s on s.id = j.section_id join section i on i.id = j.into_id
    where j.course_id = $1 and j.parted_at is null order by j.at desc`,
    [courseId],
  );
  return found.map((j) => ({ actId: j.act_id, title: j.title, into: j.into, at: j.at.toISOString(), students: j.students }));
}
