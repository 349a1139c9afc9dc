import type { ChangesDropped, DocumentChange, EditedText, PlanItem, TextPublished, TextSaved } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import {
  checked,
  dropWorkingCopy,
  findWorkingCopy,
  getPlanItem,
  isReadByStudents,
  keepItemFiles,
  type KeptText,
  putWorkingCopy,
  type WorkingCopy,
} from '../items/index.ts';
import { servedKind } from '../kinds/index.ts';
import { listEmbedHosts } from '../people/index.ts';
import type { Db } from '../platform/database.ts';
import { AppError, conflict, notFound } from '../platform/errors.ts';

/** The text of an item as it is edited: its working copy where there is one. */
export async function findText(db: Db, courseId: string, item: PlanItem, now: number): Promise<EditedText | null> {
  const published = (await servedKind(item.kind).text?.read(db, item.id)) ?? null;
  if (published === null) return null;
  const working = await findWorkingCopy(db, item.id);
  return {
    document: working?.document ?? published,
    isRead: await isReadByStudents(db, courseId, item, now),
    working: working === null ? null : { published, begunAt: working.begunAt.toISOString(), begunBy: working.begunBy },
  };
}

interface Edited {
  readonly text: KeptText;
  readonly published: DocumentNode;
  readonly working: WorkingCopy | null;
}
async function getText(db: Db, courseId: string, itemId: string, now: number): Promise<Edited> {
  const { text } = servedKind((await getPlanItem(db, courseId, itemId, now)).kind);
  const published = (await text?.read(db, itemId)) ?? null;
  if (text === null || published === null) throw notFound();
  return { text, published, working: await findWorkingCopy(db, itemId) };
}
/** A new version of the text; refused with what stands there where somebody else has saved meanwhile. */
async function write(
  db: Db,
  itemId: string,
  { text, published, working }: Edited,
  version: number,
  document?: DocumentNode,
): Promise<number> {
  const next = await text.write(db, itemId, version, document);
  if (next === null) throw conflict({ document: working?.document ?? published });
  return next;
}
const nothingToDo = (): AppError =>
  new AppError('not-now', 'There are no changes that are not published: somebody has published or dropped them.');

/** What was written while students read the item is what they read from now on. */
export async function publishText(db: Db, courseId: string, itemId: string, version: number, now: number): Promise<TextPublished> {
  const edited = await getText(db, courseId, itemId, now);
  if (edited.working === null) throw nothingToDo();
  const next = await write(db, itemId, edited, version, edited.working.document);
  await dropWorkingCopy(db, courseId, itemId);
  await keepItemFiles(db, courseId, itemId, edited.working.document);
  return { version: next, before: edited.published };
}

/** Students read this text again, and what they read until now is the working copy. */
export async function takeBackPublishing(
  db: Db,
  courseId: string,
  itemId: string,
  change: DocumentChange,
  personId: string,
  now: number,
): Promise<TextSaved> {
  const edited = await getText(db, courseId, itemId, now);
  const document = checked(change.document, 'document', await listEmbedHosts(db));
  const version = await write(db, itemId, edited, change.version, document);
  await putWorkingCopy(db, courseId, itemId, edited.working?.document ?? edited.published, personId, now);
  await keepItemFiles(db, courseId, itemId, document);
  return { version, isWorking: true };
}

/** The working copy is no more; the text that students read is edited again. */
export async function dropChanges(db: Db, courseId: string, itemId: string, version: number, now: number): Promise<ChangesDropped> {
  const edited = await getText(db, courseId, itemId, now);
  if (edited.working === null) throw nothingToDo();
  const next = await write(db, itemId, edited, version);
  await dropWorkingCopy(db, courseId, itemId);
  return { version: next, document: edited.published };
}
