import {
  fileChange,
  fileChoice,
  type FileChoice,
  folderChange,
  newFolder,
  pastChoice,
  type ScreenTable,
  screenTable,
  STORE_TYPES,
} from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { invalid } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { addFolder, changeFile, changeFolder, getFileStore, putContent, setFilesRemoved, setFolderRemoved, takePast } from './folders.ts';
import { storeBytes, storeFile } from './store.ts';
import { writeSheet } from './sheetFile.ts';
import { readTextFile, writeTable } from './tableFile.ts';
import { MOST_ARRIVING_BYTES } from '../platform/arrival.ts';

function readScreenTable(text: string): ScreenTable {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw invalid('file', 'The table did not arrive whole. Try again.');
  }
  const { error, value } = screenTable.validate(read);
  if (error !== undefined) throw invalid('file', `This table cannot be written: ${error.message}.`);
  return value;
}

const STORE = { types: Object.keys(STORE_TYPES), mostBytes: MOST_ARRIVING_BYTES.file };

async function setFiles({ db, courseId, body }: MemberContext<FileChoice>, removedAt: number | null) {
  await setFilesRemoved(db, courseId, body.fileIds, removedAt);
  return getFileStore(db, courseId);
}

async function setFolder({ db, courseId, params }: MemberContext<unknown, { readonly folderId: string }>, removedAt: number | null) {
  await setFolderRemoved(db, courseId, params.folderId, removedAt);
  return getFileStore(db, courseId);
}

export const fileRoutes: readonly Route[] = [
  implement(api.writeTableFile, async ({ file, query, response }) => {
    const { title, lines } = readScreenTable(await readTextFile(file.path, 'A table'));
    response.set('content-disposition', `attachment; filename*=UTF-8''${encodeURIComponent(`${title}.${query.format ?? 'csv'}`)}`);
    if (query.format === 'xlsx')
      response.type('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet').send(await writeSheet(title, lines));
    else response.type('text/csv').send(writeTable(lines));
    return undefined;
  }),
  implement(api.addFile, async ({ db, courseId, person, query, now, file }) => {
    const folderId = query.folder ?? null;
    const known = folderId === null || (await getFileStore(db, courseId)).folders.some((folder) => folder.id === folderId);
    if (!known) throw invalid('folder', 'This folder is no longer here. Choose another.');
    return storeFile(db, { ...file, ...STORE, courseId, ownerId: person.personId, now, isKept: true, folderId });
  }),
  implement(api.getFileStore, ({ db, courseId }) => getFileStore(db, courseId)),
  implement(api.changeFile, fileChange, async ({ db, courseId, params, body }) => {
    await changeFile(db, courseId, params.fileId, body);
    return getFileStore(db, courseId);
  }),
  implement(api.replaceFile, async ({ db, courseId, params, person, now, file }) => {
    const stored = await storeBytes(db, { ...file, ...STORE, courseId, ownerId: person.personId, isKept: true });
    await putContent(db, courseId, params.fileId, stored, person.personId, now);
    return getFileStore(db, courseId);
  }),
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
];
