import type { Request, Response } from 'express';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Read } from '../platform/database.ts';
import type { Sending } from '../platform/route.ts';
import { readChunks, type StoredFile } from './store.ts';

function parseRange(header: string | undefined, size: number): { start: number; end: number } | null {
  const match = /^bytes=(\d*)-(\d*)$/.exec(header ?? '');
  if (match === null || (match[1] === '' && match[2] === '')) return null;
  const start = match[1] === '' ? Math.max(0, size - Number(match[2])) : Number(match[1]);
  const end = match[1] === '' || match[2] === '' ? size - 1 : Math.min(size - 1, Number(match[2]));
  return start <= end ? { start, end } : null;
}

/** What a browser shows or plays by itself, and nothing that could carry a script. */
const SHOWN_IN_PAGE = /^(application\/pdf|image\/(png|jpeg|webp)|(audio|video)\/[\w.-]+|text\/vtt)$/;

/**
 * Sends the bytes of a file, whole or the range asked for, chunk by chunk; whoever has them already is told so. It is done once the
 * request's own connection is given back: a player that pauses would hold it for as long.
 */
export const sendFile =
  (file: StoredFile, request: Request, response: Response, edit: Edit | null = null): Sending =>
  (read) =>
    sendChunks(read, file, request, response, edit);

/** What is changed of the bytes on their way, without changing their number; the tag then says nothing of the file itself. */
interface Edit {
  readonly tag: string;
  readonly apply: (part: Buffer, at: number) => Buffer;
}

async function* edited(parts: AsyncGenerator<Buffer>, start: number, { apply }: Edit): AsyncGenerator<Buffer> {
  let at = start;
  for await (const part of parts) {
    yield apply(part, at);
    at += part.length;
  }
}

async function sendChunks(read: Read, file: StoredFile, request: Request, response: Response, edit: Edit | null): Promise<void> {
  const etag = edit === null ? `"${file.sha256.toString('hex')}"` : edit.tag;
  // Asked for again each time, so that a file replaced where it stands is seen at once; unchanged it is not sent again.
  if (request.get('if-none-match') === etag) {
    response.status(304).end();
    return;
  }
  const size = Number(file.size);
  const range = parseRange(request.get('range'), size);
  const { start, end } = range ?? { start: 0, end: size - 1 };
  const isInline = SHOWN_IN_PAGE.test(file.media_type) && request.query.download === undefined;
  response.status(range === null ? 200 : 206).set({
    'content-type': file.media_type,
    'content-length': String(end - start + 1),
    'accept-ranges': 'bytes',
    'cache-control': 'private, no-cache',
    etag,
    'content-security-policy': "default-src 'none'; sandbox",
    'x-content-type-options': 'nosniff',
    'content-disposition': `${isInline ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(file.name)}`,
    ...(range === null ? {} : { 'content-range': `bytes ${start}-${end}/${size}` }),
  });
  // Whoever went away meanwhile takes no more, and is no fault.
  const parts = readChunks(read, file.sha256, start, end);
  await pipeline(Readable.from(edit === null ? parts : edited(parts, start, edit), { objectMode: false }), response).catch(
    (error: unknown) => {
      if (!response.destroyed) throw error;
    },
  );
}

/** Sends bytes that were made for this answer, with a tag of their own; ranges are not needed of what is small enough to be made. */
export function sendBytes(
  bytes: Buffer,
  about: { readonly name: string; readonly mediaType: string; readonly tag?: string },
  request: Request,
  response: Response,
): void {
  if (about.tag !== undefined && request.get('if-none-match') === about.tag) {
    response.status(304).end();
    return;
  }
  const isInline = SHOWN_IN_PAGE.test(about.mediaType) && request.query.download === undefined;
  response
    .status(200)
    .set({
      'content-type': about.mediaType,
      'content-length': String(bytes.length),
      'cache-control': 'private, no-cache',
      ...(about.tag === undefined ? {} : { etag: about.tag }),
      'content-security-policy': "default-src 'none'; sandbox",
      'x-content-type-options': 'nosniff',
      'content-disposition': `${isInline ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(about.name)}`,
    })
    .end(bytes);
}
