import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import { findFile, readBytes } from '../files/store.ts';
import { MOST_ARCHIVE_BYTES, withUpload } from '../files/upload.ts';
import { writeAudit } from '../platform/audit.ts';
import { notFound } from '../platform/errors.ts';
import { courseRoute, type Route } from '../platform/route.ts';
import { makeArchive } from './archive.ts';
import { bringArchive } from './bring.ts';
import { readZip } from './unzip.ts';

export const exchangeRoutes: readonly Route[] = [
  courseRoute('plan.edit', {
    method: 'get',
    path: '/courses/:courseId/archive',
    answers: 'stream',
    handle: async ({ db, courseId, now, response }) => {
      const archive = await makeArchive(db, courseId, now);
      const zip = new ZipFile();
      zip.addBuffer(Buffer.from(JSON.stringify(archive, null, 1)), 'course.json', { mtime: new Date(now) });
      const written = new Set<string>();
      for (const one of archive.files) {
        if (written.has(one.sha256)) continue;
        written.add(one.sha256);
        const file = await findFile(db, courseId, one.id);
        if (file === null) throw notFound();
        // Read chunk by chunk when its turn comes: nothing is whole in memory.
        const bytes = Readable.from(readBytes(db, file.sha256, 0, Number(file.size) - 1));
        zip.addReadStream(bytes, `files/${one.sha256}`, { mtime: new Date(now), size: Number(file.size) });
      }
      zip.end();
      response.set({
        'content-type': 'application/zip',
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${archive.course.title}.zip`)}`,
        'cache-control': 'private, no-store',
      });
      await pipeline(zip.outputStream, response);
    },
  }),
  courseRoute('plan.edit', {
    method: 'post',
    path: '/courses/:courseId/archive',
    takesFile: true,
    handle: ({ db, courseId, person, now, request, response }) =>
      withUpload(
        request,
        response,
        async ({ path }) => {
          const zip = await readZip(path);
          try {
            const done = await bringArchive(db, courseId, zip, person.personId, now);
            const after = { items: done.itemIds.length, files: done.files, problems: done.problems.length };
            await writeAudit(db, { at: now, actorId: person.personId, courseId, action: 'archive brought in', after });
            return done;
          } finally {
            zip.close();
          }
        },
        MOST_ARCHIVE_BYTES,
      ),
  }),
];
