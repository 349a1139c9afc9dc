import { reachesSection, type Membership } from '@rosemary/core';
import { once } from 'node:events';
import { listVisible } from '../student/visible.ts';
import { rows, type Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { courseRoute, type Route } from '../platform/route.ts';
import { findFile, readBytes, storeFile, type StoredFile } from './store.ts';
import { MOST_UPLOAD_BYTES, withUpload } from './upload.ts';

interface UseRow {
  item_id: string | null;
  enrolment_id: string | null;
  section_id: string | null;
}

/** Where a file stands: in items of the course, or in the work of a student. */
async function listUses(db: Db, fileId: string): Promise<UseRow[]> {
  return rows<UseRow>(
    db,
    `
    select item_id, null::uuid as enrolment_id, null::uuid as section_id from item_file where file_id = $1
    union all
    select null, s.enrolment_id, e.section_id from submission s join enrolment e on e.id = s.enrolment_id
    where exists (select 1 from attempt_file af join attempt a on a.id = af.attempt_id where af.file_id = $1 and a.submission_id = s.id)
       or exists (select 1 from submission_draft_file df where df.file_id = $1 and df.submission_id = s.id)`,
    [fileId],
  );
}

/** A file is reached only through something the person may see. */
async function canReach(db: Db, courseId: string, file: StoredFile, member: Membership, personId: string, now: number): Promise<boolean> {
  const uses = await listUses(db, file.id);
  if (member.role !== 'student')
    return uses.every((use) => use.enrolment_id === null) || uses.some((use) => reachesSection(member, use.section_id));
  if (uses.some((use) => use.enrolment_id === member.enrolmentId)) return true;
  if (uses.length === 0) return file.owner_id === personId;
  const visible = await listVisible(db, courseId, member, now);
  return uses.some(
    (use) =>
      use.item_id !== null && visible.some((v) => v.item.id === use.item_id && (v.visibility === 'open' || v.visibility === 'closed')),
  );
}

function parseRange(header: string | undefined, size: number): { start: number; end: number } | null {
  const match = /^bytes=(\d*)-(\d*)$/.exec(header ?? '');
  if (match === null || (match[1] === '' && match[2] === '')) return null;
  const start = match[1] === '' ? Math.max(0, size - Number(match[2])) : Number(match[1]);
  const end = match[1] === '' || match[2] === '' ? size - 1 : Math.min(size - 1, Number(match[2]));
  return start <= end ? { start, end } : null;
}

const SHOWN_IN_PAGE = new Set(['application/pdf', 'image/png', 'image/jpeg', 'image/webp']);

export const fileRoutes: readonly Route[] = [
  courseRoute('plan.edit', {
    method: 'post',
    path: '/courses/:courseId/files',
    takesFile: true,
    handle: ({ db, courseId, person, now, request, response }) =>
      withUpload(request, response, (file) =>
        storeFile(db, {
          ...file,
          courseId,
          ownerId: person.personId,
          types: ['pdf', 'picture', 'word', 'text'],
          mostBytes: MOST_UPLOAD_BYTES,
          now,
        }),
      ),
  }),
  courseRoute('course.see', {
    method: 'get',
    path: '/courses/:courseId/files/:fileId',
    answers: 'stream',
    handle: async ({ db, courseId, params, person, member, now, request, response }) => {
      const file = await findFile(db, courseId, params.fileId ?? '');
      if (file === null || !(await canReach(db, courseId, file, member, person.personId, now))) throw notFound();
      const size = Number(file.size);
      const range = parseRange(request.get('range'), size);
      const { start, end } = range ?? { start: 0, end: size - 1 };
      const isInline = SHOWN_IN_PAGE.has(file.media_type) && request.query.download === undefined;
      response.status(range === null ? 200 : 206).set({
        'content-type': file.media_type,
        'content-length': String(end - start + 1),
        'accept-ranges': 'bytes',
        'cache-control': 'private, max-age=3600',
        etag: `"${file.sha256.toString('hex')}"`,
        'content-security-policy': "default-src 'none'; sandbox",
        'x-content-type-options': 'nosniff',
        'content-disposition': `${isInline ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(file.name)}`,
        ...(range === null ? {} : { 'content-range': `bytes ${start}-${end}/${size}` }),
      });
      for await (const part of readBytes(db, file.sha256, start, end))
        if (!response.write(part)) await Promise.race([once(response, 'drain'), once(response, 'close')]);
      response.end();
    },
  }),
];
