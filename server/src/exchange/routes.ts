import type { Archive, ArchiveFile } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { ZipFile } from 'yazl';
import { addStored, sendZip, withPackage } from '../files/index.ts';
import type { Db } from '../platform/database.ts';
import { implement, type Route } from '../platform/route.ts';
import { makeArchive } from './archive.ts';
import { bringArchive, previewPackage } from './bring.ts';
import { lossesOf, makeCartridge } from './cartridgeOut.ts';

/** The bytes of an archive's files under these names; the same bytes stand once. */
function addFiles(db: Db, zip: ZipFile, archive: Archive, nameOf: (file: ArchiveFile) => string | undefined, at: Date): void {
  const named = new Map(archive.files.map((f) => [nameOf(f), f]));
  for (const [name, file] of named)
    if (name !== undefined) addStored(db, zip, name, { sha256: Buffer.from(file.sha256, 'hex'), size: String(file.size) }, at);
}

export const exchangeRoutes: readonly Route[] = [
  implement(api.getArchive, async ({ db, courseId, now, response }) => {
    const archive = await makeArchive(db, courseId, now);
    const zip = new ZipFile();
    zip.addBuffer(Buffer.from(JSON.stringify(archive, null, 1)), 'course.json', { mtime: new Date(now) });
    addFiles(db, zip, archive, (f) => `files/${f.sha256}`, new Date(now));
    await sendZip(zip, `${archive.course.title}.zip`, response);
  }),
  implement(api.getCartridge, async ({ db, courseId, now, response }) => {
    const archive = await makeArchive(db, courseId, now);
    const cartridge = makeCartridge(archive);
    const zip = new ZipFile();
    for (const [path, text] of cartridge.texts) zip.addBuffer(Buffer.from(text), path, { mtime: new Date(now) });
    addFiles(db, zip, archive, (f) => cartridge.files.get(f.id), new Date(now));
    await sendZip(zip, `${archive.course.title}.imscc`, response);
  }),
  implement(api.getCartridgeLosses, async ({ db, courseId, now }) => ({ losses: lossesOf(await makeArchive(db, courseId, now)) })),
  implement(api.previewArchive, ({ db, request, response }) => withPackage(request, response, (zip) => previewPackage(db, zip))),
  implement(api.importArchive, ({ db, courseId, person, now, request, response, account }) =>
    withPackage(request, response, async (zip) => {
      const done = await bringArchive(db, courseId, zip, person, now);
      const after = { items: done.itemIds.length, files: done.files, problems: done.problems.length };
      account({ after });
      return done;
    }),
  ),
];
