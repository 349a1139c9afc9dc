import { type NewUpload, type UploadState } from '@rosemary/api';
import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { makeFolder } from '../platform/folder.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';

interface UploadRow {
  name: string;
  size: string;
  received: string;
}
/** Whose upload it is, and for what. */
interface Owner {
  readonly personId: string;
  readonly itemId: string;
}
const DAY = 86_400_000;

async function findUpload(db: Db, id: string, owner: Owner, isLocked: boolean): Promise<UploadRow | null> {
  return maybe<UploadRow>(
    db,
    `select name, size, received from upload where id = $1 and person_id = $2 and item_id = $3 ${isLocked ? 'for update' : ''}`,
    [id, owner.personId, owner.itemId],
  );
}

/** Begins to take a file in parts, or says how far it has come. What nobody finished within a day is cleared away. */
export async function beginUpload(db: Db, owner: Owner, wish: NewUpload, mostBytes: number, now: number): Promise<UploadState> {
  if (wish.size > mostBytes)
    throw new AppError(
      'too-large',
      `“${wish.name}” has ${Math.ceil(wish.size / 1_048_576)} MB; a file here may have ${Math.round(mostBytes / 1_048_576)} MB.`,
      [{ field: 'file', text: 'too large' }],
    );
  await run(db, 'delete from upload where person_id = $1 and begun_at < to_timestamp($2 / 1000.0)', [owner.personId, now - DAY]);
  const going = await rows<{ many: number }>(db, 'select count(*)::int as many from upload where person_id = $1 and id <> $2', [
    owner.personId,
    wish.id,
  ]);
  if ((going[0]?.many ?? 0) >= 20) throw new AppError('too-many', 'Twenty files are on their way already. Let one of them arrive first.');
  await run(
    db,
    'insert into upload (id, person_id, item_id, name, size, begun_at) values ($1, $2, $3, $4, $5, to_timestamp($6 / 1000.0)) on conflict (id) do nothing',
    [wish.id, owner.personId, owner.itemId, wish.name, wish.size, now],
  );
  const row = await findUpload(db, wish.id, owner, false);
  if (row === null) throw notFound();
  if (Number(row.size) !== wish.size || row.name !== wish.name)
    throw invalid('file', 'This is another file than the one that was begun. Choose it again.');
  return { received: Number(row.received) };
}

/** Takes one part. It must begin where the last one ended; a part that came already is not taken twice. */
export async function takePart(db: Db, owner: Owner, id: string, from: number, bytes: unknown): Promise<UploadState> {
  if (!Buffer.isBuffer(bytes)) throw invalid('file', 'A part of a file is sent as bytes. Send it again.');
  const row = await findUpload(db, id, owner, true);
  if (row === null) throw notFound();
  const received = Number(row.received);
  if (from + bytes.length <= received) return { received };
  if (from !== received || !Number.isSafeInteger(from)) throw conflict({ received });
  if (bytes.length === 0 || received + bytes.length > Number(row.size))
    throw invalid('file', 'More came than the file has. Send it again.');
  await run(db, 'insert into upload_part (upload_id, starts_at, bytes) values ($1, $2, $3)', [id, from, bytes]);
  await run(db, 'update upload set received = received + $2 where id = $1', [id, bytes.length]);
  return { received: received + bytes.length };
}

/** Gives a file that has come whole to `work` as a temporary file, and clears its parts away. */
export async function finishUpload<T>(
  db: Db,
  owner: Owner,
  id: string,
  work: (file: { path: string; name: string }) => Promise<T>,
): Promise<T> {
  const row = await findUpload(db, id, owner, true);
  if (row === null) throw notFound();
  if (row.received !== row.size) throw conflict({ received: Number(row.received) });
  const folder = await makeFolder();
  const path = join(folder, 'file');
  try {
    await pipeline(async function* () {
      for (let at = 0; at < Number(row.size);) {
        const part = await maybe<{ bytes: Buffer }>(db, 'select bytes from upload_part where upload_id = $1 and starts_at = $2', [id, at]);
        if (part === null) throw new AppError('broken', 'A part of the file is not there. Send it again.');
        at += part.bytes.length;
        yield part.bytes;
      }
    }, createWriteStream(path));
    // Names of parts come as they are; the multipart parser gives Latin-1, which is undone where files are kept.
    const done = await work({ path, name: Buffer.from(row.name, 'utf8').toString('latin1') });
    await run(db, 'delete from upload where id = $1', [id]);
    return done;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
