import multer from 'multer';
import type { Request, Response } from 'express';
import { mkdtempSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { AppError, invalid } from '../platform/errors.ts';

export const MOST_UPLOAD_BYTES = 104_857_600;
const folder = mkdtempSync(join(tmpdir(), 'rosemary-upload-'));
/** A whole course as an archive. */
export const MOST_ARCHIVE_BYTES = 1_073_741_824;
const parser = (mostBytes: number) => multer({ dest: folder, limits: { fileSize: mostBytes, files: 1, fields: 10 } }).single('file');
const [parseFile, parseArchive] = [parser(MOST_UPLOAD_BYTES), parser(MOST_ARCHIVE_BYTES)];

/** Receives one uploaded file to a temporary path, gives it to `work`, and removes it whatever happens. */
export async function withUpload<T>(
  request: Request,
  response: Response,
  work: (file: { path: string; name: string }) => Promise<T>,
  mostBytes: typeof MOST_UPLOAD_BYTES | typeof MOST_ARCHIVE_BYTES = MOST_UPLOAD_BYTES,
): Promise<T> {
  const parse = mostBytes === MOST_ARCHIVE_BYTES ? parseArchive : parseFile;
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
  const { path, originalname } = request.file;
  try {
    return await work({ path, name: originalname });
  } finally {
    await rm(path, { force: true });
  }
}
