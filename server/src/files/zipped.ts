import type { Request, Response } from 'express';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ZipFile } from 'yazl';
import type { Db } from '../platform/database.ts';
import { readBytes } from './store.ts';
import { readZip, type Zip } from './unzip.ts';
import { MOST_ARCHIVE_BYTES, withUpload } from './upload.ts';

/** A file of the store in a zip, read chunk by chunk when its turn comes, so that nothing is whole in memory. */
export function addStored(db: Db, zip: ZipFile, name: string, file: { readonly sha256: Buffer; readonly size: string }, at: Date): void {
  const bytes = Readable.from(readBytes(db, file.sha256, 0, Number(file.size) - 1));
  zip.addReadStream(bytes, name, { mtime: at, size: Number(file.size) });
}

export async function sendZip(zip: ZipFile, name: string, response: Response): Promise<void> {
  zip.end();
  response.set({
    'content-type': 'application/zip',
    'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
    'cache-control': 'private, no-store',
  });
  await pipeline(zip.outputStream, response);
}

/** A package that is sent to us, open for reading while `work` is done, and gone after. */
export const withPackage = <T>(request: Request, response: Response, work: (zip: Zip) => Promise<T>): Promise<T> =>
  withUpload(
    request,
    response,
    async ({ path }) => {
      const zip = await readZip(path);
      try {
        return await work(zip);
      } finally {
        zip.close();
      }
    },
    MOST_ARCHIVE_BYTES,
  );
