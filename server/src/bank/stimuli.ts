import { checkDocument, type StimulusChange, type StimulusView } from '@rosemary/api';
import { filesIn, type Actor, type DocumentNode } from '@rosemary/core';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { conflict, invalid, notFound } from '../platform/errors.ts';
import { listFolders, requireFolder, taughtBy } from './folders.ts';

/** The texts of the folders somebody reaches, those with titles first. */
export async function listStimuli(db: Db, actor: Actor): Promise<StimulusView[]> {
  const folders = await listFolders(db, actor, false);
  return rows<StimulusView>(
    db,
    "select id, title, document, version from stimulus where folder_id = any($1) order by title = '', title, id limit 300",
    [folders.map((f) => f.id)],
  );
}

/** Files named in a shared text: those of a course its author teaches, those it had before, and those of the one it is a copy of. */
async function checkFiles(db: Db, actor: Actor, change: StimulusChange, copyOf: string | null): Promise<void> {
  const ids = filesIn(change.document);
  if (ids.length === 0) return;
  const found = await rows<{ id: string }>(
    db,
    `select f.id from file f where f.id::text = any($1) and (f.course_id = any($2)
       or exists (select 1 from question_file k join question q on q.id = k.question_id where k.file_id = f.id and q.stimulus_id = any($3)))`,
    [ids, taughtBy(actor), [change.id, copyOf].filter((id) => id !== null)],
  );
  if (found.length < ids.length)
    throw invalid('document', 'A picture, sound, video or file named here is not in a course you teach. Insert it again.');
}

/** Whether a shared text stands in a folder somebody reaches. */
export async function reachesStimulus(db: Db, actor: Actor, stimulusId: string): Promise<boolean> {
  const held = await maybe<{ folder_id: string }>(db, 'select folder_id from stimulus where id = $1', [stimulusId]);
  return held !== null && (await listFolders(db, actor, false)).some((f) => f.id === held.folder_id);
}

/** The files of a shared text are reached through the questions that stand with it, as their own files are. */
export async function keepStimulusFiles(db: Db, stimulusId: string): Promise<void> {
  const held = await maybe<{ document: DocumentNode }>(db, 'select document from stimulus where id = $1', [stimulusId]);
  const ids = filesIn(held?.document ?? null);
  if (ids.length > 0)
    await run(
      db,
      'insert into question_file (question_id, file_id) select q.id, f.id from question q, file f where q.stimulus_id = $1 and f.id::text = any($2) on conflict do nothing',
      [stimulusId, ids],
    );
}

/** Makes or changes a text that several questions share; the pictures of one it is a copy of come along. */
export async function saveStimulus(
  db: Db,
  actor: Actor,
  folderId: string,
  change: StimulusChange,
  copyOf: string | null = null,
): Promise<StimulusView> {
  const check = checkDocument(change.document);
  if (!check.ok) throw invalid('document', check.reason);
  await checkFiles(db, actor, change, copyOf);
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
  await keepStimulusFiles(db, saved.id);
  return saved;
}
