import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import { STORE_TYPES, type CourseFile } from '@rosemary/api';
import { sizeInWords } from '@rosemary/core';
import { fileTypeFromFile } from 'file-type';
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { open, stat } from 'node:fs/promises';
import { maybe, rows, run, type Db, type Read } from '../platform/database.ts';
import { AppError, invalid } from '../platform/errors.ts';
import { type Place, requireRoom } from './room.ts';

const CHUNK = 262_144;

/** Whether a file without a known signature is text: valid UTF-8 with no zero bytes, looked at in its first 64 kB. */
async function isText(path: string): Promise<boolean> {
  const handle = await open(path);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(65_536), 0, 65_536, 0);
    const head = buffer.subarray(0, bytesRead);
    if (head.includes(0)) return false;
    new TextDecoder('utf-8', { fatal: true }).decode(head, { stream: true });
    return true;
  } catch {
    return false;
  } finally {
    await handle.close();
  }
}

/** A container that can hold film or sound alone: which it is, by the tracks it names at its head. */
async function withinContainer(path: string, mime: string): Promise<string> {
  if (mime !== 'video/webm' && mime !== 'video/mp4') return mime;
  const handle = await open(path);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(65_536), 0, 65_536, 0);
    const head = buffer.subarray(0, bytesRead).toString('latin1');
    const [film, sound] = mime === 'video/webm' ? [/V_(VP|AV1|MPEG)/, /A_(OPUS|VORBIS)/] : [/hdlr.{8}vide/s, /hdlr.{8}soun/s];
    return sound.test(head) && !film.test(head) ? mime.replace('video', 'audio') : mime;
  } finally {
    await handle.close();
  }
}

/** What a file is, by its content and never by its name; null where it is nothing known. */
async function sniff(path: string): Promise<string | null> {
  const found = await fileTypeFromFile(path);
  // A kind may say how it is coded behind its name: audio/ogg; codecs=opus.
  if (found !== undefined) return withinContainer(path, found.mime.split(';')[0] ?? found.mime);
  if (!(await isText(path))) return null;
  const handle = await open(path);
  try {
    const { buffer } = await handle.read(Buffer.alloc(9), 0, 9, 0);
    return buffer
      .toString('utf8')
      .replace(/^\uFEFF/, '')
      .startsWith('WEBVTT')
      ? 'text/vtt'
      : 'text/plain';
  } finally {
    await handle.close();
  }
}

/** What comes in, and what is taken here. */
export interface Arrival {
  readonly path: string;
  readonly name: string;
  readonly types: readonly string[];
  readonly mostBytes: number;
}
export interface Upload extends Arrival, Place {
  readonly now: number;
  /** Where it stands in the store of the course; null is in no folder. */
  readonly folderId?: string | null;
}

function cleanName(name: string): string {
  // Names come as Latin-1 from the multipart parser; path parts and control characters are no part of a name.
  const text = Buffer.from(name, 'latin1').toString('utf8');
  const plain = [...(text.includes('�') ? name : text)]
    .filter((c) => c >= ' ' && c !== '\u007f')
    .join('')
    .replace(/^.*[\\/]/, '')
    .trim();
  return plain === '' ? 'file' : plain.slice(-200);
}

/** What a file really is, in the words of the list of accepted kinds: `plain text (.txt)`. */
function kindInWords(mediaType: string): string {
  const type = Object.values(STORE_TYPES).find((one) => one.mediaTypes.includes(mediaType));
  const [family = ''] = mediaType.split('/');
  return (
    type?.name ??
    { image: 'a picture of another kind', audio: 'a sound of another kind', video: 'a video of another kind' }[family] ??
    'a file of another kind'
  );
}

async function checkKind(upload: Arrival, name: string): Promise<string> {
  const allowed = upload.types.flatMap((key) => STORE_TYPES[key] ?? []);
  const mediaType = await sniff(upload.path);
  if (mediaType === null || !allowed.some((type) => type.mediaTypes.includes(mediaType))) {
    const names = allowed.map((type) => type.name).join(', ');
    throw new AppError(
      'wrong-type',
      `“${name}” is ${mediaType === null ? 'of no kind known here' : `really ${kindInWords(mediaType)}`}. Accepted here: ${names}.`,
      [{ field: 'file', text: `Accepted here: ${names}.` }],
    );
  }
  return mediaType;
}

export interface StoredBytes {
  readonly sha256: Buffer;
  readonly name: string;
  readonly size: number;
  readonly mediaType: string;
}

/** Whether these bytes are not here yet; where they are, they are held until the file that uses them is written, so that nobody clears them away. */
async function isNewContent(db: Db, sha256: Buffer, size: number, mediaType: string): Promise<boolean> {
  for (;;) {
    const made = await run(db, 'insert into file_blob (sha256, size, media_type) values ($1, $2, $3) on conflict do nothing', [
      sha256,
      size,
      mediaType,
    ]);
    if (made === 1) return true;
    if ((await maybe(db, 'select 1 as one from file_blob where sha256 = $1 for key share', [sha256])) !== null) return false;
  }
}

/** Stores bytes in chunks under their hash, where there is room for them; the same content is kept once. */
export async function storeBytes(db: Db, upload: Arrival & Place): Promise<StoredBytes> {
  const name = cleanName(upload.name);
  const { size } = await stat(upload.path);
  if (size === 0) throw invalid('file', `“${name}” is empty (0 bytes). Choose the file again.`);
  if (size > upload.mostBytes)
    throw new AppError('too-large', `“${name}” is ${sizeInWords(size)}; a file here may have ${sizeInWords(upload.mostBytes)}.`, [
      { field: 'file', text: 'too large' },
    ]);
  await requireRoom(db, upload, name, size);
  const mediaType = await checkKind(upload, name);
  const hash = createHash('sha256');
  for await (const part of createReadStream(upload.path)) hash.update(part as Buffer);
  const sha256 = hash.digest();
  if (await isNewContent(db, sha256, size, mediaType)) {
    let number = 0;
    for await (const part of createReadStream(upload.path, { highWaterMark: CHUNK })) {
      await run(db, 'insert into file_chunk (sha256, number, bytes) values ($1, $2, $3)', [sha256, number, part]);
      number += 1;
    }
  }
  return { sha256, name, size, mediaType };
}

export async function storeFile(db: Db, upload: Upload): Promise<CourseFile> {
  const { sha256, name, size, mediaType } = await storeBytes(db, upload);
  const row = await rows<{ id: string }>(
    db,
    'insert into file (course_id, sha256, name, owner_id, created_at, is_kept, folder_id) values ($1, $2, $3, $4, to_timestamp($5 / 1000.0), $6, $7) returning id',
    [upload.courseId, sha256, name, upload.ownerId, upload.now, upload.isKept ?? false, upload.folderId ?? null],
  );
  return fileView({ id: row[0]?.id ?? '', course_id: upload.courseId, name, size: String(size), media_type: mediaType });
}

export interface FileRow {
  id: string;
  course_id: string;
  name: string;
  size: string;
  media_type: string;
}
export function fileView(row: FileRow): CourseFile {
  return {
    id: row.id,
    name: row.name,
    size: Number(row.size),
    mediaType: row.media_type,
    url: urlOf(api.getFile, { courseId: row.course_id, fileId: row.id }),
  };
}

export const FILE_COLUMNS = 'f.id, f.course_id, f.name, b.size, b.media_type';

export interface StoredFile extends FileRow {
  readonly sha256: Buffer;
  readonly owner_id: string;
  readonly opens_at: Date | null;
  readonly closes_at: Date | null;
  readonly removed_at: Date | null;
  readonly folder_id: string | null;
}

export async function findFile(db: Db, courseId: string, fileId: string): Promise<StoredFile | null> {
  return maybe<StoredFile>(
    db,
    `select ${FILE_COLUMNS}, f.sha256, f.owner_id, f.opens_at, f.closes_at, f.removed_at, f.folder_id from file f join file_blob b on b.sha256 = f.sha256 where f.id = $1 and f.course_id = $2`,
    [fileId, courseId],
  );
}

/** A file's bytes in memory; for what is known to be small, or can be changed only whole. */
export async function readWhole(db: Db, file: { readonly sha256: Buffer; readonly size: string }): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const part of readBytes(db, file.sha256, 0, Number(file.size) - 1)) parts.push(part);
  return Buffer.concat(parts);
}

/** Up to `length` bytes from `at`; fewer at the end of the file. */
export async function readAt(
  db: Db,
  file: { readonly sha256: Buffer; readonly size: string },
  at: number,
  length: number,
): Promise<Buffer> {
  const end = Math.min(Number(file.size), at + length) - 1;
  const parts: Buffer[] = [];
  if (at <= end) for await (const part of readBytes(db, file.sha256, at, end)) parts.push(part);
  return Buffer.concat(parts);
}

/** The bytes from `start` to `end` (inclusive), chunk by chunk. */
export const readBytes = (db: Db, sha256: Buffer, start: number, end: number): AsyncGenerator<Buffer> =>
  readChunks((work) => work(db), sha256, start, end);

/** As `readBytes`, each chunk with a connection of its own, so that none is held while somebody slow takes what came. */
export async function* readChunks(read: Read, sha256: Buffer, start: number, end: number): AsyncGenerator<Buffer> {
  for (let number = Math.floor(start / CHUNK); number * CHUNK <= end; number += 1) {
    const chunk = await read((db) =>
      maybe<{ bytes: Buffer }>(db, 'select bytes from file_chunk where sha256 = $1 and number = $2', [sha256, number]),
    );
    if (chunk === null) return;
    const from = Math.max(0, start - number * CHUNK);
    yield chunk.bytes.subarray(from, Math.min(chunk.bytes.length, end - number * CHUNK + 1));
  }
}
