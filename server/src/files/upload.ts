import multer from 'multer';
import type { Request, Response } from 'express';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { AppError, invalid } from '../platform/errors.ts';

export const MOST_UPLOAD_BYTES = 104_857_600;
/** A whole course as an archive. */
export const MOST_ARCHIVE_BYTES = 1_073_741_824;
/** Receives one uploaded file to a temporary path of its own, which no other user of the machine can read. */
async function receive(request: Request, response: Response, folder: string, mostBytes: number): Promise<{ path: string; name: string }> {
  const parse = multer({ dest: folder, limits: { fileSize: mostBytes, files: 1, fields: 10 } }).single('file');
  await new Promise<void>((done, fail) => {
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
  });
  if (request.file === undefined) throw invalid('file', 'No file was sent. Choose one.');
  return { path: request.file.path, name: request.file.originalname };
}

/** Receives one uploaded file, gives it to `work`, and removes it with its folder whatever happens. */
export async function withUpload<T>(
  request: Request,
  response: Response,
  work: (file: { path: string; name: string }) => Promise<T>,
  mostBytes: typeof MOST_UPLOAD_BYTES | typeof MOST_ARCHIVE_BYTES = MOST_UPLOAD_BYTES,
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'rosemary-upload-'));
  try {
    return await work(await receive(request, response, folder, mostBytes));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
