import type { Response } from 'express';
import { once } from 'node:events';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import type { Arrived } from '../platform/arrival.ts';
import type { Read } from '../platform/database.ts';
import type { Sending } from '../platform/route.ts';
import { readChunks } from './store.ts';
import { readZip, type Zip } from './unzip.ts';

/** Something that goes into a zip: bytes that are there, or such as are read when their turn comes. */
export interface ZipPart {
  readonly name: string;
  readonly bytes: Buffer | ((read: Read) => AsyncIterable<Buffer>);
}

/** A file of the store in a zip, read chunk by chunk. */
export const storedPart = (name: string, file: { readonly sha256: Buffer; readonly size: string }): ZipPart => ({
  name,
  bytes: (read) => readChunks(read, file.sha256, 0, Number(file.size) - 1),
});

/**
 * Sends parts as a zip, one after another as they are taken: nothing is whole in memory, and no connection is held while somebody slow
 * takes what came.
 */
export const sendZip =
  (name: string, at: Date, response: Response, parts: (read: Read) => AsyncIterable<ZipPart> | Iterable<ZipPart>): Sending =>
  async (read) => {
    response.set({
      'content-type': 'application/zip',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
      'cache-control': 'private, no-store',
    });
    const zip = new ZipFile();
    const sent = pipeline(zip.outputStream, response);
    const add = async (): Promise<void> => {
      for await (const part of parts(read)) {
        const bytes = Readable.from(Buffer.isBuffer(part.bytes) ? [part.bytes] : part.bytes(read));
        zip.addReadStream(bytes, part.name, { mtime: at });
        // Whoever went away takes no more: the part that waits for them is let go.
        await Promise.race([once(bytes, 'end'), sent]).finally(() => bytes.destroy());
      }
      zip.end();
    };
    await Promise.all([sent, add()]).catch((error: unknown) => {
      if (!response.destroyed) throw error;
    });
  };

/** A package that came, open for reading while `work` is done. */
export async function withPackage<T>({ path }: Arrived, work: (zip: Zip) => Promise<T>): Promise<T> {
  const zip = await readZip(path);
  try {
    return await work(zip);
  } finally {
    zip.close();
  }
}
