import type { Archive, ArchiveFile } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { sendZip, storedPart, withPackage, type ZipPart } from '../files/index.ts';
import { implement, type Route } from '../platform/route.ts';
import { makeArchive } from './archive.ts';
import { bringArchive, previewPackage } from './bring.ts';
import { lossesOf, makeCartridge } from './cartridgeOut.ts';

/** The bytes of an archive's files under these names; the same bytes stand once. */
function filesOf(archive: Archive, nameOf: (file: ArchiveFile) => string | undefined): ZipPart[] {
  const named = new Map(archive.files.map((f) => [nameOf(f), f]));
  return [...named].flatMap(([name, file]) =>
    name === undefined ? [] : [storedPart(name, { sha256: Buffer.from(file.sha256, 'hex'), size: String(file.size) })],
  );
}

export const exchangeRoutes: readonly Route[] = [
  implement(api.getArchive, async ({ db, courseId, now, response }) => {
    const archive = await makeArchive(db, courseId, now);
    return sendZip(`${archive.course.title}.zip`, new Date(now), response, () => [
      { name: 'course.json', bytes: Buffer.from(JSON.stringify(archive, null, 1)) },
      ...filesOf(archive, (f) => `files/${f.sha256}`),
    ]);
  }),
  implement(api.getCartridge, async ({ db, courseId, now, response }) => {
    const archive = await makeArchive(db, courseId, now);
    const cartridge = makeCartridge(archive);
    return sendZip(`${archive.course.title}.imscc`, new Date(now), response, () => [
      ...[...cartridge.texts].map(([path, text]) => ({ name: path, bytes: Buffer.from(text) })),
      ...filesOf(archive, (f) => cartridge.files.get(f.id)),
    ]);
  }),
  implement(api.getCartridgeLosses, async ({ db, courseId, now }) => ({ losses: lossesOf(await makeArchive(db, courseId, now)) })),
  implement(api.previewArchive, ({ db, file }) => withPackage(file, (zip) => previewPackage(db, zip))),
  implement(api.importArchive, ({ db, courseId, person, now, file, account }) =>
    withPackage(file, async (zip) => {
      const done = await bringArchive(db, courseId, zip, person, now);
      const after = { items: done.itemIds.length, files: done.files, problems: done.problems.length };
      account({ after });
      return done;
    }),
  ),
];
