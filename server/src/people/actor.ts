import type { Membership, Role } from '@rosemary/core';
import { type Db, maybe, often } from '../platform/database.ts';
import type { SignedIn } from '../platform/signedIn.ts';

interface PersonRow {
  person_id: string;
  email: string;
  given_name: string;
  family_name: string;
  is_administrator: boolean;
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

/** Someone signed in with everything access is decided from, or null where the person is gone. One statement: every request asks it. */
export async function findSignedIn(db: Db, personId: string): Promise<SignedIn | null> {
  const found = await often<PersonRow & (MemberRow | { [K in keyof MemberRow]: null })>(
    db,
    `
    select p.id as person_id, p.email, p.given_name, p.family_name, p.is_administrator, p.theme,
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
    theme: person.theme,
    memberships: found.flatMap((row) => (row.id === null ? [] : [toMembership(row)])),
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
