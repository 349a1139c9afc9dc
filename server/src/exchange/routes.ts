import type { Archive } from '@rosemary/api';
import { ZipFile } from 'yazl';
import { findFile } from '../files/store.ts';
import { writeAudit } from '../platform/audit.ts';
import type { Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { courseRoute, type Route } from '../platform/route.ts';
import { makeArchive } from './archive.ts';
import { bringArchive, previewPackage } from './bring.ts';
import { lossesOf, makeCartridge } from './cartridgeOut.ts';
import { addStored, sendZip, withPackage } from './zipped.ts';

const bySum = (archive: Archive): Map<string, string> => new Map(archive.files.map((f) => [`files/${f.sha256}`, f.id]));

async function addFiles(db: Db, courseId: string, zip: ZipFile, files: ReadonlyMap<string, string>, at: Date): Promise<void> {
  for (const [name, fileId] of files) {
    const file = await findFile(db, courseId, fileId);
    if (file === null) throw notFound();
    addStored(db, zip, name, file, at);
  }
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
      await addFiles(db, courseId, zip, bySum(archive), new Date(now));
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
      await addFiles(db, courseId, zip, new Map([...cartridge.files].map(([id, path]) => [path, id])), new Date(now));
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
        const done = await bringArchive(db, courseId, zip, person.personId, now);
        const after = { items: done.itemIds.length, files: done.files, problems: done.problems.length };
        await writeAudit(db, { at: now, actorId: person.personId, courseId, action: 'archive brought in', after });
        return done;
      }),
  }),
];
