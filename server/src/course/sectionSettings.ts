import type { SectionSetting } from '@rosemary/api';
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
