import { countOf, dayAndTime } from '@rosemary/core';
import { sendMails } from '../notices/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { pageOf } from '@rosemary/api';
import { listSchoolSections } from './school.ts';
import { getHandoverSetting } from './setting.ts';

interface Teacher {
  readonly course_id: string;
  readonly person_id: string;
  readonly email: string;
  readonly given_name: string;
  readonly zone: string;
}

/** Mails each instructor of record what of their courses is not handed over yet; who has nobody to be reminded is named. */
export async function remind(db: Db, now: number): Promise<{ reminded: number; withoutAnybody: string[] }> {
  const [sections, { closesAt }] = [await listSchoolSections(db), await getHandoverSetting(db)];
  const open = sections.filter((s) => s.students > 0 && s.accepted < s.students);
  const teachers = await rows<Teacher & Record<string, unknown>>(
    db,
    `select e.course_id, p.id as person_id, p.email::text as email, p.given_name, c.time_zone as zone from enrolment e join person p on p.id = e.person_id join course c on c.id = e.course_id
     where e.course_id = any($1) and e.role = 'instructor' and e.is_of_record and e.withdrawn_at is null and p.deactivated_at is null`,
    [open.map((s) => s.courseId)],
  );
  const by = new Map(teachers.map((t) => [t.course_id, t]));
  const mails = [...new Set(teachers.map((t) => t.person_id))].flatMap((personId) => {
    const own = open.filter((s) => by.get(s.courseId)?.person_id === personId);
    const teacher = by.get(own[0]?.courseId ?? '');
    if (teacher === undefined) return [];
    const lines = own.map(
      (s) =>
        `${s.course}, ${s.section}: ${s.students - s.accepted} of ${countOf(s.students, 'grade')} to hand over: ${pageOf('finals', { courseId: s.courseId })}`,
    );
    const until = closesAt === null ? '' : ` The registrar’s window closes ${dayAndTime(closesAt, teacher.zone, now)}.`;
    return [
      {
        personId,
        address: teacher.email,
        body: `${teacher.given_name}, some final grades are not with the registrar yet.${until}\n\n${lines.join('\n')}`,
      },
    ];
  });
  await sendMails(db, mails, 'Final grades to hand over', now);
  return { reminded: mails.length, withoutAnybody: [...new Set(open.filter((s) => !by.has(s.courseId)).map((s) => s.course))] };
}
