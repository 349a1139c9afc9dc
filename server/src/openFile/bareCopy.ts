import { writeFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { STORE_TYPES, type CourseFile } from '@rosemary/api';
import { mediaNames, withoutNames } from '../bareFiles/index.ts';
import { readAt, readWhole, storeFile, type StoredFile } from '../files/index.ts';
import type { Db } from '../platform/database.ts';
import { makeFolder } from '../platform/folder.ts';
import { AppError } from '../platform/errors.ts';
import { bareFile, canBeBare } from './opened.ts';

/** For whom a copy without its maker’s name is kept, and what it is called there. */
export interface BareCopy {
  readonly courseId: string;
  readonly ownerId: string;
  /** Without an ending: the file’s own is put to it. */
  readonly name: string;
  readonly now: number;
}

/** A copy of a file in another course, without what it says of its maker. One that cannot be read so is refused. */
export async function keepBareCopy(db: Db, file: StoredFile, { courseId, ownerId, name, now }: BareCopy): Promise<CourseFile> {
  const whole = await readWhole(db, file);
  const isMedia = !canBeBare(file.media_type);
  const stretches = isMedia
    ? ((await mediaNames((at, length) => readAt(db, file, at, length), Number(file.size), file.media_type)) ?? [])
    : [];
  const bytes = isMedia ? withoutNames(whole, 0, stretches) : await bareFile(whole, file.media_type);
  if (bytes === null)
    throw new AppError('not-now', `“${file.name}” cannot be read, so what it says of its maker cannot be taken off. Take another work.`);
  const folder = await makeFolder();
  try {
    const path = join(folder, 'file');
    await writeFile(path, bytes);
    const ending = /\.[a-z0-9]{1,5}$/i.exec(file.name)?.[0].toLowerCase() ?? '';
    return await storeFile(db, {
      ...{ path, name: `${name}${ending}`, types: Object.keys(STORE_TYPES), mostBytes: bytes.length, courseId, ownerId, isKept: true, now },
    });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
