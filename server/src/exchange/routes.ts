import type { Archive, ArchiveFile } from '@rosemary/api';
import { ZipFile } from 'yazl';
import { writeAudit } from '../platform/audit.ts';
import type { Db } from '../platform/database.ts';
import { courseRoute, type Route } from '../platform/route.ts';
import { makeArchive } from './archive.ts';
import { bringArchive, previewPackage } from './bring.ts';
import { lossesOf, makeCartridge } from './cartridgeOut.ts';
import { addStored, sendZip, withPackage } from './zipped.ts';

/** The bytes of an archive's files under these names; the same bytes stand once. */
function addFiles(db: Db, zip: ZipFile, archive: Archive, nameOf: (file: ArchiveFile) => string | undefined, at: Date): void {
  const named = new Map(archive.files.map((f) => [nameOf(f), f]));
  for (const [name, file] of named)
    if (name !== undefined) addStored(db, zip, name, { sha256: Buffer.from(file.sha256, 'hex'), size: String(file.size) }, at);
}

export const exchangeRoutes: readonly Route[] = [
  courseRoute('plan.edit', {
    method: 'get',
    path: '/courses/:courseId/archive',
    answers: 'stream',
    handle: async ({ db, courseId, now, response }) => {
      const archive = await makeArchive(db, courseId, now);
      const zip = new ZipFile();
      zip.addBuffer(Buffer.from(JSON.stringify(archive, null, 1)), 'course.json', { mtime: new Date(now) });
      addFiles(db, zip, archive, (f) => `files/${f.sha256}`, new Date(now));
      await sendZip(zip, `${archive.course.title}.zip`, response);
    },
  }),
  courseRoute('plan.edit', {
    method: 'get',
    path: '/courses/:courseId/cartridge',
    answers: 'stream',
    handle: async ({ db, courseId, now, response }) => {
      const archive = await makeArchive(db, courseId, now);
      const cartridge = makeCartridge(archive);
      const zip = new ZipFile();
      for (const [path, text] of cartridge.texts) zip.addBuffer(Buffer.from(text), path, { mtime: new Date(now) });
      addFiles(db, zip, archive, (f) => cartridge.files.get(f.id), new Date(now));
      await sendZip(zip, `${archive.course.title}.imscc`, response);
    },
  }),
  courseRoute('plan.edit', {
    method: 'get',
    path: '/courses/:courseId/cartridge/losses',
    handle: async ({ db, courseId, now }) => ({ losses: lossesOf(await makeArchive(db, courseId, now)) }),
  }),
  courseRoute('plan.edit', {
    method: 'post',
    path: '/courses/:courseId/archive/preview',
    takesFile: true,
    isSilent: true,
    handle: ({ db, request, response }) => withPackage(request, response, (zip) => previewPackage(db, zip)),
  }),
  courseRoute('plan.edit', {
    method: 'post',
    path: '/courses/:courseId/archive',
    takesFile: true,
    handle: ({ db, courseId, person, now, request, response }) =>
      withPackage(request, response, async (zip) => {
        const done = await bringArchive(db, courseId, zip, person, now);
        const after = { items: done.itemIds.length, files: done.files, problems: done.problems.length };
        await writeAudit(db, { at: now, actorId: person.personId, courseId, action: 'archive brought in', after });
        return done;
      }),
  }),
];
