import { type Membership, reachesSection } from '@rosemary/core';
import { readReach } from '../opening/index.ts';
import { type Db, rows } from '../platform/database.ts';

export interface WhoRow {
  id: string;
  given_name: string;
  family_name: string;
  section: string | null;
  section_id: string | null;
  is_sample: boolean;
}

/** Whom a quiz is for, as far as a member of staff reaches. */
export async function listWhom(db: Db, courseId: string, itemId: string, member: Membership): Promise<WhoRow[]> {
  const reach = await readReach(db, courseId);
  const found = await rows<WhoRow>(
    db,
    `select e.id, p.given_name, p.family_name, s.title as section, e.section_id, e.is_sample from enrolment e join person p on p.id = e.person_id left join section s on s.id = e.section_id
     where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and not e.is_sample order by p.family_name collate "C", p.given_name collate "C"`,
    [courseId],
  );
  return found.filter((w) => reachesSection(member, w.section_id) && reach.isFor(itemId, { enrolmentId: w.id, sectionId: w.section_id }));
}
