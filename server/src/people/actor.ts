import type { Membership, Role } from '@rosemary/core';
import { type Db, maybe, often, rows } from '../platform/database.ts';
import type { SignedIn } from '../platform/signedIn.ts';

interface PersonRow {
  person_id: string;
  email: string;
  given_name: string;
  family_name: string;
  is_administrator: boolean;
  teaches: boolean;
  theme: 'light' | 'dark';
}

interface MemberRow {
  id: string;
  course_id: string;
  role: Role;
  section_id: string | null;
  withdrawn_at: Date | null;
  is_reachable: boolean;
  is_archived: boolean;
  is_of_record: boolean;
  is_closed: boolean;
  given: string[] | null;
}

function toMembership(row: MemberRow): Membership {
  const sectionIds = row.role === 'student' ? (row.section_id === null ? [] : [row.section_id]) : row.given;
  return {
    courseId: row.course_id,
    enrolmentId: row.id,
    role: row.role,
    isActive: row.withdrawn_at === null && row.is_reachable,
    isArchived: row.is_archived,
    isOfRecord: row.is_of_record,
    isClosed: row.is_closed,
    sectionIds,
  };
}

/** No enrolment: what belongs to a member is nobody’s who only looks. */
const NO_ENROLMENT = '00000000-0000-0000-0000-000000000000';

/** The courses that an administrator looks into now. */
async function listLooks(db: Db, personId: string, now: number): Promise<Membership[]> {
  const found = await rows<{ course_id: string }>(
    db,
    `select distinct l.course_id from course_look l join course c on c.id = l.course_id and c.removed_at is null
     where l.person_id = $1 and l.ends_at > to_timestamp($2 / 1000.0)`,
    [personId, now],
  );
  return found.map((row) => ({
    ...{ courseId: row.course_id, enrolmentId: NO_ENROLMENT, role: 'assistant', isActive: true, isLook: true, sectionIds: null },
  }));
}

/** Until when somebody looks into a course; null where they do not. */
export async function lookEnds(db: Db, courseId: string, personId: string, now: number): Promise<string | null> {
  const row = await maybe<{ ends_at: Date | null }>(
    db,
    'select max(ends_at) as ends_at from course_look where course_id = $1 and person_id = $2 and ends_at > to_timestamp($3 / 1000.0)',
    [courseId, personId, now],
  );
  return row?.ends_at?.toISOString() ?? null;
}

/** Someone signed in with everything access is decided from, or null where the person is gone. One statement: every request asks it. */
export async function findSignedIn(db: Db, personId: string, now: number): Promise<SignedIn | null> {
  const found = await often<PersonRow & (MemberRow | { [K in keyof MemberRow]: null })>(
    db,
    `
    select p.id as person_id, p.email, p.given_name, p.family_name, p.is_administrator, p.teaches, p.theme,
           e.id, e.course_id, e.role, e.section_id, e.withdrawn_at, (c.removed_at is null and (e.role <> 'student' or c.is_open)) as is_reachable,
           c.archived_at is not null as is_archived, e.is_of_record,
           exists (select 1 from final_setting f where f.course_id = c.id and f.closed_at is not null) as is_closed,
           (select array_agg(a.section_id) from assistant_section a where a.enrolment_id = e.id) as given
    from person p left join (enrolment e join course c on c.id = e.course_id) on e.person_id = p.id where p.id = $1 and p.deactivated_at is null`,
    [personId],
  );
  const [person] = found;
  if (person === undefined) return null;
  return {
    personId: person.person_id,
    givenName: person.given_name,
    familyName: person.family_name,
    email: person.email,
    isAdministrator: person.is_administrator,
    teaches: person.teaches,
    theme: person.theme,
    memberships: found.flatMap((row) => (row.id === null ? [] : [toMembership(row)])),
    // Few people administer a school, and of everybody else nothing more is asked.
    looks: person.is_administrator ? await listLooks(db, personId, now) : [],
  };
}

/** The student membership that staff look through, with the section it belongs to. */
export async function findStudentMembership(
  db: Db,
  courseId: string,
  enrolmentId: string,
): Promise<(Membership & { name: string }) | null> {
  const row = await maybe<MemberRow & { name: string }>(
    db,
    `
    select e.id, e.course_id, e.role, e.section_id, e.withdrawn_at, true as is_reachable, false as is_archived, false as is_of_record, false as is_closed, null as given, p.given_name || ' ' || p.family_name as name
    from enrolment e join person p on p.id = e.person_id
    where e.id = $1 and e.course_id = $2 and e.role = 'student'`,
    [enrolmentId, courseId],
  );
  return row === null ? null : { ...toMembership(row), name: row.name };
}
