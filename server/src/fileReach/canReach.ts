import type { Membership } from '@rosemary/core';
import { workId } from '../anonymity/index.ts';
import type { StoredFile } from '../files/index.ts';
import { listVisible } from '../opening/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { listShares, reachesWork } from '../shares/index.ts';

interface UseRow {
  item_id: string | null;
  enrolment_id: string | null;
  section_id: string | null;
  /** The item it was handed in for. */
  work_item_id: string | null;
  /** It goes with the feedback on it: its student reaches it once the mark is out. */
  is_feedback: boolean;
}

/** Where a file stands: in items of the course, or in the work of a student. */
async function listUses(db: Db, fileId: string): Promise<UseRow[]> {
  return rows<UseRow>(
    db,
    `
    select item_id, null::uuid as enrolment_id, null::uuid as section_id, null::uuid as work_item_id, false as is_feedback from item_file where file_id = $1 and part <> 'working'
    union all
    select null, s.enrolment_id, e.section_id, s.item_id, false from submission s join enrolment e on e.id = s.enrolment_id
    where exists (select 1 from attempt_file af join attempt a on a.id = af.attempt_id where af.file_id = $1 and a.submission_id = s.id)
       or exists (select 1 from submission_draft_file df where df.file_id = $1 and df.submission_id = s.id)
       or exists (select 1 from link_copy c join attempt a on coalesce(a.lead_id, a.id) = c.attempt_id where c.file_id = $1 and a.submission_id = s.id)
    union all
    select null, s.enrolment_id, e.section_id, s.item_id, true from feedback_file k join submission s on s.id = k.submission_id join enrolment e on e.id = s.enrolment_id where k.file_id = $1`,
    [fileId],
  );
}

/** Within its own dates and those of the folders it stands in. */
async function isInTime(db: Db, file: StoredFile, now: number): Promise<boolean> {
  const folders = await rows<{ opens_at: Date | null; closes_at: Date | null }>(
    db,
    `
    with recursive up as (
      select id, parent_id, opens_at, closes_at from file_folder where id = $1
      union select f.id, f.parent_id, f.opens_at, f.closes_at from file_folder f join up on up.parent_id = f.id)
    select opens_at, closes_at from up`,
    [file.folder_id],
  );
  return [file, ...folders].every(
    (one) => (one.opens_at === null || one.opens_at.getTime() <= now) && (one.closes_at === null || now < one.closes_at.getTime()),
  );
}

/** The picture of a course is seen by everyone in it. */
const isPicture = async (db: Db, courseId: string, fileId: string): Promise<boolean> =>
  (await maybe(db, 'select 1 as one from course where id = $1 and picture_file_id = $2', [courseId, fileId])) !== null;

/** What goes with feedback is a student's once the mark is released and stood by. */
const isOut = async (db: Db, itemId: string | null, enrolmentId: string, fileId: string): Promise<boolean> =>
  (await maybe(
    db,
    `select 1 as one from work_grade g join submission s on s.item_id = g.item_id and s.enrolment_id = g.enrolment_id join lateral (select file_ids from finished_mark where submission_id = s.id and undone_at is null order by id desc limit 1) m on $3 = any(m.file_ids)
     where g.item_id = $1 and g.enrolment_id = $2 and g.is_released`,
    [itemId, enrolmentId, fileId],
  )) !== null;

/**
 * Staff reach what is of the course, and the work of students that they mark. The file of a work whose student's name is hidden is
 * reached only through its marking, where it is sent without what names its maker.
 */
async function staffReaches(db: Db, uses: readonly UseRow[], member: Membership, personId: string, now: number): Promise<boolean> {
  const works = uses.filter((use) => use.enrolment_id !== null);
  if (works.length === 0) return true;
  let isReached = false;
  for (const use of works) {
    const { enrolment_id: enrolmentId, section_id: sectionId, work_item_id: itemId } = use;
    if (enrolmentId === null || itemId === null) continue;
    const target = { itemId, enrolmentId };
    if (!use.is_feedback && (await workId(db, target, now)) !== enrolmentId) return false;
    isReached ||= reachesWork(member, personId, { enrolmentId, sectionId }, await listShares(db, itemId));
  }
  return isReached;
}

/** A file is reached only through something the person may see. */
export async function canReach(
  db: Db,
  courseId: string,
  file: StoredFile,
  member: Membership,
  personId: string,
  now: number,
): Promise<boolean> {
  const uses = await listUses(db, file.id);
  if (member.role !== 'student') return staffReaches(db, uses, member, personId, now);
  const own = uses.filter((use) => use.enrolment_id === member.enrolmentId);
  if (own.some((use) => !use.is_feedback)) return true;
  for (const use of own) if (await isOut(db, use.work_item_id, member.enrolmentId, file.id)) return true;
  if (await isPicture(db, courseId, file.id)) return true;
  if (uses.length === 0) return file.owner_id === personId;
  if (file.removed_at !== null || !(await isInTime(db, file, now))) return false;
  const holders = uses.flatMap((use) => use.item_id ?? []);
  const visible = await listVisible(db, courseId, member, now, holders);
  return uses.some(
    (use) =>
      use.item_id !== null && visible.some((v) => v.item.id === use.item_id && (v.visibility === 'open' || v.visibility === 'closed')),
  );
}
