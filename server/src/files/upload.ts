import multer from 'multer';
import type { Request, Response } from 'express';
import { mkdtempSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { AppError, invalid } from '../platform/errors.ts';

export const MOST_UPLOAD_BYTES = 104_857_600;
const folder = mkdtempSync(join(tmpdir(), 'rosemary-upload-'));
const parse = multer({ dest: folder, limits: { fileSize: MOST_UPLOAD_BYTES, files: 1, fields: 10 } }).single('file');

/** Receives one uploaded file to a temporary path, gives it to `work`, and removes it whatever happens. */
export async function withUpload<T>(
  request: Request,
  response: Response,
  work: (file: { path: string; name: string }) => Promise<T>,
): Promise<T> {
  await new Promise<void>((done, fail) => {
    parse(request, response, (error: unknown) => {
      if (error instanceof multer.MulterError && error.code === 'LIMIT_FILE_SIZE')
        fail(
          new AppError('too-large', 'This file is larger than 100 MB, the most that is taken here.', [
            { field: 'file', text: 'larger than 100 MB' },
          ]),
        );
      else if (error) fail(invalid('file', 'The file did not arrive whole. Send it again.'));
      else done();
    });
  });
  if (request.file === undefined) throw invalid('file', 'No file was sent. Choose one.');
  const { path, originalname } = request.file;
  try {
    return await work({ path, name: originalname });
  } finally {
    await rm(path, { force: true });
  }
}
