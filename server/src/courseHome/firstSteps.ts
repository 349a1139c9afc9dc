import type { FirstSteps } from '@rosemary/api';
import { type FirstFacts, firstSteps } from '@rosemary/core';
import { type Db, maybe } from '../platform/database.ts';

interface CourseRow {
  id: string;
  title: string;
  is_open: boolean;
  is_seen: boolean;
  is_read: boolean;
  students: number;
  items: number;
  open_items: number;
  drafts: number;
  teachers: string;
  sample_id: string | null;
  is_own: boolean;
}

async function readCourse(db: Db, courseId: string, personId: string): Promise<CourseRow | null> {
  return maybe<CourseRow>(
    db,
    `with line as (
       select i.is_draft, i.is_staff_only or u.is_staff_only or i.off_was_draft is not null as is_staff_only
       from item i join unit_item ui on ui.item_id = i.id join unit u on u.id = ui.unit_id and u.removed_at is null
       where i.course_id = $1 and i.removed_at is null)
     select c.id, c.title, c.is_open, c.seen_as_student_at is not null as is_seen,
            exists (select 1 from enrolment e join visit v on v.enrolment_id = e.id where e.course_id = c.id and not e.is_sample) as is_read,
            (select count(*)::int from enrolment e where e.course_id = c.id and e.role = 'student' and not e.is_sample and e.withdrawn_at is null) as students,
            (select count(*)::int from line) as items,
            (select count(*)::int from line where not is_draft and not is_staff_only) as open_items,
            (select count(*)::int from line where is_draft and not is_staff_only) as drafts,
            coalesce((select string_agg(p.given_name || ' ' || p.family_name, ' and ' order by p.family_name) from enrolment e join person p on p.id = e.person_id
                      where e.course_id = c.id and e.role = 'instructor' and e.withdrawn_at is null), '') as teachers,
            (select e.id from enrolment e where e.course_id = c.id and e.is_sample and e.withdrawn_at is null order by e.id limit 1) as sample_id,
            exists (select 1 from enrolment e where e.course_id = c.id and e.person_id = $2 and e.role = 'instructor' and e.withdrawn_at is null) as is_own
     from course c where c.id = $1`,
    [courseId, personId],
  );
}

const factsOf = (row: CourseRow | null): FirstFacts['course'] =>
  row === null
    ? null
    : {
        ...{ students: row.students, items: row.items, openItems: row.open_items },
        ...{ isOpen: row.is_open, isSeen: row.is_seen, isRead: row.is_read },
      };
const courseOf = (row: CourseRow | null): FirstSteps['course'] =>
  row === null
    ? null
    : {
        ...{ id: row.id, title: row.title, teachers: row.teachers },
        ...{ isOwn: row.is_own, sampleId: row.sample_id, drafts: row.drafts },
      };

/** The first steps of a course. */
export async function courseSteps(db: Db, courseId: string, personId: string): Promise<FirstSteps> {
  const row = await readCourse(db, courseId, personId);
  return { steps: firstSteps({ school: null, course: factsOf(row) }), course: courseOf(row) };
}

/** The first steps of the school, with those of the course that has come furthest: a school that is read in one course has begun. */
export async function schoolSteps(db: Db, personId: string): Promise<FirstSteps> {
  const school = await maybe<{ terms: number; teachers: number; courses: number; first_id: string | null }>(
    db,
    `select (select count(*)::int from term) as terms,
            (select count(*)::int from person p where p.deactivated_at is null and (p.teaches or exists (select 1 from enrolment e where e.person_id = p.id and e.role = 'instructor'))) as teachers,
            (select count(*)::int from course where removed_at is null) as courses,
            (select c.id from course c where c.removed_at is null
              order by exists (select 1 from enrolment e join visit v on v.enrolment_id = e.id where e.course_id = c.id and not e.is_sample) desc, c.is_open desc, c.created_at limit 1) as first_id`,
  );
  const { first_id: firstId = null, ...facts } = school ?? { terms: 0, teachers: 0, courses: 0 };
  const row = firstId === null ? null : await readCourse(db, firstId, personId);
  return { steps: firstSteps({ school: facts, course: factsOf(row) }), course: courseOf(row) };
}
