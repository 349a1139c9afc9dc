import type { Request, Response } from 'express';
import { bareTag, mediaNames, withoutNames } from '../bareFiles/index.ts';
import { readAt, readWhole, sendBytes, sendFile, type StoredFile } from '../files/index.ts';
import type { Db } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import type { Sending } from '../platform/route.ts';
import { bareFile, canBeBare } from './opened.ts';

/**
 * A file without what it says of its maker. Sound and film are streamed, with such words written over on the way; what is said
 * in them is the work itself. Everything else is made anew.
 */
export async function sendBareFile(db: Db, file: StoredFile, request: Request, response: Response): Promise<Sending | undefined> {
  const name = `file${/\.[a-z0-9]{1,5}$/i.exec(file.name)?.[0].toLowerCase() ?? ''}`;
  if (!canBeBare(file.media_type)) {
    const stretches = (await mediaNames((at, length) => readAt(db, file, at, length), Number(file.size), file.media_type)) ?? [];
    return sendFile({ ...file, name }, request, response, {
      tag: bareTag(file.sha256),
      apply: (part, at) => withoutNames(part, at, stretches),
    });
  }
  const bytes = await bareFile(await readWhole(db, file), file.media_type);
  if (bytes === null)
    throw new AppError(
      'not-now',
      'This file cannot be read, so what it says of its maker cannot be taken off. It can be opened once names are shown.',
    );
  sendBytes(bytes, { name, mediaType: file.media_type, tag: bareTag(bytes) }, request, response);
  return undefined;
}
