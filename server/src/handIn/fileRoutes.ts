import { type CourseFile, FILE_TYPES, newUpload } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import type { Membership } from '@rosemary/core';
import {
  beginUpload,
  FILE_COLUMNS,
  type FileRow,
  fileView,
  findFile,
  finishUpload,
  requireRoom,
  storeFile,
  takePart,
} from '../files/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { requireOpen } from './requireOpen.ts';
import { addToDraft, listDraftFiles, makeShared, takeFromDraft } from './submission.ts';

const OWN_FILES = 60;

/** What files an assignment takes: of which kinds, how many, how large. */
async function requireTaking(db: Db, courseId: string, itemId: string, member: Membership, now: number) {
  const { assignment } = await requireOpen(db, courseId, itemId, member, now);
  if (!assignment.acceptsFiles && !assignment.acceptsRecording) throw invalid('file', 'This assignment takes no files.');
  const types = [...(assignment.acceptsFiles ? assignment.fileTypes : []), ...(assignment.acceptsRecording ? ['sound'] : [])];
  return { assignment, types };
}

/** The draft with room for one file more. */
async function makeRoom(db: Db, itemId: string, member: Membership, mostFiles: number) {
  const draft = await makeShared(db, itemId, member.enrolmentId);
  const present = await listDraftFiles(db, draft.id);
  if (present.length >= mostFiles)
    throw invalid('file', `This takes ${mostFiles === 1 ? 'one file' : `${mostFiles} files`}. Remove one first.`);
  return { draft, position: present.length };
}

async function keep(c: MemberContext<unknown>, file: { path: string; name: string }): Promise<CourseFile> {
  const itemId = c.params.itemId ?? '';
  const { assignment, types } = await requireTaking(c.db, c.courseId, itemId, c.member, c.now);
  const { draft, position } = await makeRoom(c.db, itemId, c.member, assignment.mostFiles);
  const stored = await storeFile(c.db, {
    ...file,
    courseId: c.courseId,
    ownerId: c.person.personId,
    types,
    mostBytes: assignment.mostBytes,
    now: c.now,
  });
  await addToDraft(c.db, draft, stored.id, position, c.now);
  return stored;
}

const owner = (c: MemberContext<unknown>) => ({ personId: c.person.personId, itemId: c.params.itemId ?? '' });

export const studentFileRoutes: readonly Route[] = [
  implement(api.addWorkFile, (c) => keep(c, c.file)),
  implement(api.beginUpload, newUpload, async (c) => {
    const { assignment } = await requireTaking(c.db, c.courseId, c.params.itemId, c.member, c.now);
    await makeRoom(c.db, c.params.itemId, c.member, assignment.mostFiles);
    await requireRoom(c.db, { courseId: c.courseId, ownerId: c.person.personId }, c.body.name, c.body.size);
    return beginUpload(c.db, owner(c), c.body, assignment.mostBytes, c.now);
  }),
  implement(api.sendUploadPart, (c) => takePart(c.db, owner(c), c.params.uploadId, Number(c.query.from), c.request.body)),
  implement(api.finishUpload, (c) => finishUpload(c.db, owner(c), c.params.uploadId, (file) => keep(c, file))),
  implement(api.removeWorkFile, async ({ db, courseId, params, member, now }) => {
    const itemId = params.itemId;
    await requireOpen(db, courseId, itemId, member, now);
    const draft = await makeShared(db, itemId, member.enrolmentId);
    if ((await takeFromDraft(db, draft, params.fileId, now)) === 0) throw notFound();
  }),
  // A file of one's own laid to the draft: one removed a moment ago, or one of earlier work.
  implement(api.restoreWorkFile, async ({ db, courseId, params, member, person, now }) => {
    const itemId = params.itemId;
    const { assignment, types } = await requireTaking(db, courseId, itemId, member, now);
    const file = await findFile(db, courseId, params.fileId);
    if (file === null || file.owner_id !== person.personId) throw notFound();
    if (!types.some((type) => FILE_TYPES[type]?.mediaTypes.includes(file.media_type) === true))
      throw invalid('file', `“${file.name}” is of a kind that is not taken here.`);
    const { draft, position } = await makeRoom(db, itemId, member, assignment.mostFiles);
    await addToDraft(db, draft, file.id, position, now);
    return fileView(file);
  }),
  implement(api.listOwnFiles, async ({ db, courseId, person, member }) => {
    const found = await rows<FileRow>(
      db,
      `
        select ${FILE_COLUMNS} from file f join file_blob b on b.sha256 = f.sha256
        where f.course_id = $1 and f.owner_id = $2 and exists (
          select 1 from attempt_file af join attempt a on a.id = af.attempt_id join submission s on s.id = a.submission_id where af.file_id = f.id and s.enrolment_id = $3)
        order by f.created_at desc limit ${OWN_FILES}`,
      [courseId, person.personId, member.enrolmentId],
    );
    return { files: found.map(fileView) };
  }),
];
