import type { Request, Response } from 'express';
import multer from 'multer';
import { rm } from 'node:fs/promises';
import { makeFolder } from './folder.ts';
import { AppError, invalid } from './errors.ts';

/** The most that is taken of a file, and of a package such as a whole course. */
export const MOST_ARRIVING_BYTES = { file: 104_857_600, package: 1_073_741_824 } as const;

const PACE_MS = 30_000;
/** A kilobyte a second: slower than any line that somebody would wait at. */
const LEAST_BYTES = 30_720;

/** A file that has come whole: where it lies until the request is answered, and the name its sender gave it. */
export interface Arrived {
  readonly path: string;
  readonly name: string;
}

/** Whoever asked went away: nothing is answered, and nothing more is done for them. */
export class Gone extends Error {}

/** Calls `fail` when the sender goes away, or keeps us waiting with next to nothing. Gives what ends the watch. */
function watch(request: Request, fail: (error: Error) => void): () => void {
  const closed = (): void => {
    if (!request.complete) fail(new Gone());
  };
  request.once('close', closed);
  let before = request.socket.bytesRead;
  const pace = setInterval(() => {
    const now = request.socket.bytesRead;
    if (now - before < LEAST_BYTES) fail(new AppError('too-slow', 'The file came so slowly that it was given up. Send it again.'));
    before = now;
  }, PACE_MS);
  pace.unref();
  return () => {
    clearInterval(pace);
    request.off('close', closed);
  };
}

/** Receives one uploaded file to a folder that no other user of the machine can read. */
async function receive(request: Request, response: Response, folder: string, mostBytes: number): Promise<Arrived> {
  if (request.destroyed && !request.complete) throw new Gone();
  const parse = multer({ dest: folder, limits: { fileSize: mostBytes, files: 1, fields: 10 } }).single('file');
  let unwatch = (): void => undefined;
  await new Promise<void>((done, fail) => {
    unwatch = watch(request, (error) => {
      request.unpipe();
      fail(error);
    });
    parse(request, response, (error: unknown) => {
      if (error instanceof multer.MulterError && error.code === 'LIMIT_FILE_SIZE')
        fail(
          new AppError('too-large', `This file is larger than ${Math.round(mostBytes / 1_048_576)} MB, the most that is taken here.`, [
            { field: 'file', text: 'too large' },
          ]),
        );
      else if (error) fail(invalid('file', 'The file did not arrive whole. Send it again.'));
      else done();
    });
  }).finally(() => {
    unwatch();
  });
  if (request.file === undefined) throw invalid('file', 'No file was sent. Choose one.');
  return { path: request.file.path, name: request.file.originalname };
}

/** Receives one uploaded file, gives it to `work`, and removes it with its folder whatever happens. */
export async function withArrival(
  request: Request,
  response: Response,
  kind: keyof typeof MOST_ARRIVING_BYTES,
  work: (file: Arrived) => Promise<void>,
): Promise<void> {
  const folder = await makeFolder();
  try {
    await work(await receive(request, response, folder, MOST_ARRIVING_BYTES[kind]));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
