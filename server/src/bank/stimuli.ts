import { checkDocument, type StimulusChange, type StimulusView } from '@rosemary/api';
import type { Actor } from '@rosemary/core';
import { maybe, rows, type Db } from '../platform/database.ts';
import { conflict, invalid, notFound } from '../platform/errors.ts';
import { listFolders, requireFolder } from './folders.ts';

/** The texts of the folders somebody reaches, those with titles first. */
export async function listStimuli(db: Db, actor: Actor): Promise<StimulusView[]> {
  const folders = await listFolders(db, actor, false);
  return rows<StimulusView>(
    db,
    "select id, title, document, version from stimulus where folder_id = any($1) order by title = '', title, id limit 300",
    [folders.map((f) => f.id)],
  );
}

/** Makes or changes a text that several questions share. */
export async function saveStimulus(db: Db, actor: Actor, folderId: string, change: StimulusChange): Promise<StimulusView> {
  const check = checkDocument(change.document);
  if (!check.ok) throw invalid('document', check.reason);
  if (change.id === null) {
    await requireFolder(db, actor, folderId);
    const made = await maybe<StimulusView>(
      db,
      'insert into stimulus (folder_id, title, document) values ($1, $2, $3) returning id, title, document, version',
      [folderId, change.title, change.document],
    );
    if (made === null) throw notFound();
    return made;
  }
  const held = await maybe<StimulusView & { folder_id: string }>(
    db,
    'select id, title, document, version, folder_id from stimulus where id = $1 for update',
    [change.id],
  );
  if (held === null) throw notFound();
  await requireFolder(db, actor, held.folder_id);
  if (held.version !== change.version) throw conflict(held);
  const saved = await maybe<StimulusView>(
    db,
    'update stimulus set title = $2, document = $3, version = version + 1 where id = $1 returning id, title, document, version',
    [change.id, change.title, change.document],
  );
  if (saved === null) throw notFound();
  return saved;
}
