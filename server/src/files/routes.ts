import * as api from '@rosemary/api/endpoints';
import { fileChange, fileChoice, folderChange, newFolder, pastChoice, STORE_TYPES, type FileChoice } from '@rosemary/api';
import type { Membership } from '@rosemary/core';
import { workId } from '../marking/anonymity.ts';
import { listShares, reachesWork } from '../marking/shares.ts';
import { listVisible } from '../student/visible.ts';
import { maybe, rows, type Db } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { addFolder, changeFile, changeFolder, getFileStore, putContent, setFilesRemoved, setFolderRemoved, takePast } from './folders.ts';
import { sendFile } from './send.ts';
import { findFile, storeBytes, storeFile, type StoredFile } from './store.ts';
import { MOST_UPLOAD_BYTES, withUpload } from './upload.ts';

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
    select item_id, null::uuid as enrolment_id, null::uuid as section_id, null::uuid as work_item_id, false as is_feedback from item_file where file_id = $1
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
    `select 1 as one from grade g join submission s on s.item_id = g.item_id and s.enrolment_id = g.enrolment_id join lateral (select file_ids from finished_mark where submission_id = s.id and undone_at is null order by id desc limit 1) m on $3 = any(m.file_ids)
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
async function canReach(db: Db, courseId: string, file: StoredFile, member: Membership, personId: string, now: number): Promise<boolean> {
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

const STORE = { types: Object.keys(STORE_TYPES), mostBytes: MOST_UPLOAD_BYTES };

async function setFiles({ db, courseId, body }: MemberContext<FileChoice>, removedAt: number | null) {
  await setFilesRemoved(db, courseId, body.fileIds, removedAt);
  return getFileStore(db, courseId);
}
async function setFolder({ db, courseId, params }: MemberContext<unknown, { readonly folderId: string }>, removedAt: number | null) {
  await setFolderRemoved(db, courseId, params.folderId, removedAt);
  return getFileStore(db, courseId);
}

export const fileRoutes: readonly Route[] = [
  implement(api.addFile, async ({ db, courseId, person, query, now, request, response }) => {
    const folderId = query.folder ?? null;
    const known = folderId === null || (await getFileStore(db, courseId)).folders.some((folder) => folder.id === folderId);
    if (!known) throw invalid('folder', 'This folder is no longer here. Choose another.');
    return withUpload(request, response, (file) =>
      storeFile(db, { ...file, ...STORE, courseId, ownerId: person.personId, now, isKept: true, folderId }),
    );
  }),
  implement(api.getFileStore, ({ db, courseId }) => getFileStore(db, courseId)),
  implement(api.changeFile, fileChange, async ({ db, courseId, params, body }) => {
    await changeFile(db, courseId, params.fileId, body);
    return getFileStore(db, courseId);
  }),
  implement(api.replaceFile, ({ db, courseId, params, person, now, request, response }) =>
    withUpload(request, response, async (file) => {
      const stored = await storeBytes(db, { ...file, ...STORE });
      await putContent(db, courseId, params.fileId, stored, person.personId, now);
      return getFileStore(db, courseId);
    }),
  ),
  implement(api.showPastFile, pastChoice, async ({ db, courseId, params, person, body, now }) => {
    await takePast(db, courseId, params.fileId, body.pastId, person.personId, now);
    return getFileStore(db, courseId);
  }),
  implement(api.removeFiles, fileChoice, (c) => setFiles(c, c.now)),
  implement(api.restoreFiles, fileChoice, (c) => setFiles(c, null)),
  implement(api.addFolder, newFolder, async ({ db, courseId, body }) => {
    const id = await addFolder(db, courseId, body);
    return { id, store: await getFileStore(db, courseId) };
  }),
  implement(api.changeFolder, folderChange, async ({ db, courseId, params, body }) => {
    await changeFolder(db, courseId, params.folderId, body);
    return getFileStore(db, courseId);
  }),
  implement(api.removeFolder, (c) => setFolder(c, c.now)),
  implement(api.restoreFolder, (c) => setFolder(c, null)),
  implement(api.getFile, async ({ db, courseId, params, person, member, now, request, response }) => {
    const file = await findFile(db, courseId, params.fileId);
    if (file === null || !(await canReach(db, courseId, file, member, person.personId, now))) throw notFound();
    return sendFile(file, request, response);
  }),
];
