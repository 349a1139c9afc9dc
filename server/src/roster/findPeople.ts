import type { PersonToAdd } from '@rosemary/api';
import { type Db, rows } from '../platform/database.ts';

/** More than can be read at a glance is no help: more letters are. */
const MOST = 20;

/** Those of the school who are active and not in the course yet, by letters of their name or email in any order; without letters, the first by name. */
export function findPeople(db: Db, courseId: string, letters: string): Promise<PersonToAdd[]> {
  const patterns = letters
    .split(/\s+/)
    .filter((word) => word !== '')
    .map((word) => `%${word.replace(/[%_\\]/g, '\\$&')}%`);
  return rows<PersonToAdd>(
    db,
    `select p.id, p.given_name as "givenName", p.family_name as "familyName", p.email::text as email
     from person p
     where p.deactivated_at is null and (p.given_name || ' ' || p.family_name || ' ' || p.email::text) ilike all($2::text[])
       and not exists (select 1 from enrolment e where e.person_id = p.id and (e.course_id = $1 or e.is_sample))
     order by p.family_name, p.given_name, p.id limit $3`,
    [courseId, patterns, MOST],
  );
}
