import type { Request, Response } from 'express';
import type { Target } from '../anonymity/index.ts';
import { bareTag, mediaNames, withoutNames } from '../bareFiles/index.ts';
import { bareFile, canBeBare } from '../openFile/index.ts';
import { findFile, readAt, readWhole, sendBytes, sendFile, type StoredFile } from '../files/index.ts';
import { type Db, maybe } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import type { Sending } from '../platform/route.ts';

/** A file of this very work, handed in or in its draft. */
export async function canReachBare(db: Db, courseId: string, target: Target, fileId: string): Promise<StoredFile | null> {
  const isOfWork = await maybe(
    db,
    `select 1 as one from submission s where s.item_id = $1 and s.enrolment_id = $2 and (
       exists (select 1 from attempt a join attempt_file f on f.attempt_id = a.id where a.submission_id = s.id and f.file_id = $3)
       or exists (select 1 from submission_draft_file d where d.submission_id = s.id and d.file_id = $3)
       or exists (select 1 from link_copy c join attempt a on coalesce(a.lead_id, a.id) = c.attempt_id where a.submission_id = s.id and c.file_id = $3))`,
    [target.itemId, target.enrolmentId, fileId],
  );
  return isOfWork === null ? null : findFile(db, courseId, fileId);
}

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
