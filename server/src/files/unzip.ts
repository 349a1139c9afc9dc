import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { type Entry, open, type ZipFile } from 'yauzl';
import { AppError, invalid } from '../platform/errors.ts';

const MOST_ENTRIES = 20_000;

const MOST_BYTES = 2_147_483_648;

/** Packed so much smaller than it is, a file of some size is not there to be read but to fill a disk. */
const MOST_RATIO = 200;

const RATIO_FROM = 10_485_760;

export interface Zip {
  /** The entries by name, with their size unpacked. */
  readonly sizes: ReadonlyMap<string, number>;
  readonly readBytes: (name: string, mostBytes: number) => Promise<Buffer>;
  readonly readText: (name: string, mostBytes: number) => Promise<string>;
  readonly writeTo: (name: string, path: string) => Promise<void>;
  readonly close: () => void;
}

const openZip = (path: string): Promise<ZipFile> =>
  new Promise((done, fail) => {
    // Names with .., a drive or a leading slash are refused by the reader itself; sizes are checked against what is said.
    open(path, { lazyEntries: true, autoClose: false, strictFileNames: true, validateEntrySizes: true }, (error, zip) => {
      if (error) fail(error);
      else done(zip);
    });
  });

function listEntries(zip: ZipFile): Promise<Map<string, Entry>> {
  return new Promise((done, fail) => {
    const entries = new Map<string, Entry>();
    let bytes = 0;
    zip.on('entry', (entry: Entry) => {
      bytes += entry.uncompressedSize;
      const isBomb = entry.uncompressedSize > RATIO_FROM && entry.uncompressedSize > entry.compressedSize * MOST_RATIO;
      if (entries.size >= MOST_ENTRIES || bytes > MOST_BYTES || isBomb) {
        fail(new AppError('too-large', 'This archive unpacks to far more than a course holds, so it is not opened.'));
        return;
      }
      if (!entry.fileName.endsWith('/')) entries.set(entry.fileName, entry);
      zip.readEntry();
    });
    zip.on('end', () => {
      done(entries);
    });
    zip.on('error', fail);
    zip.readEntry();
  });
}

/** Opens a zip for reading, entry by entry and never whole in memory. What is no zip, or tries to leave its folder, is refused. */
export async function readZip(path: string): Promise<Zip> {
  let zip: ZipFile;
  let entries: Map<string, Entry>;
  try {
    zip = await openZip(path);
    entries = await listEntries(zip);
  } catch (error) {
    if (error instanceof AppError) throw error;
    const words = error instanceof Error ? error.message : '';
    if (/invalid (relative|characters|absolute)|absolute path|relative path/i.test(words))
      throw invalid('file', 'A name in this archive tries to lead out of it, so nothing was opened.');
    throw invalid('file', 'This is no zip archive, or it breaks off. Fetch it again, whole.');
  }
  const stream = (name: string): Promise<NodeJS.ReadableStream> =>
    new Promise((done, fail) => {
      const entry = entries.get(name);
      if (entry === undefined) {
        fail(invalid('file', `The archive holds no “${name}”.`));
        return;
      }
      zip.openReadStream(entry, (error, found) => {
        if (error) fail(error);
        else done(found);
      });
    });
  const readBytes = async (name: string, mostBytes: number): Promise<Buffer> => {
    if ((entries.get(name)?.uncompressedSize ?? 0) > mostBytes)
      throw new AppError('too-large', `“${name}” in the archive is larger than it may be.`);
    const parts: Buffer[] = [];
    for await (const part of await stream(name)) parts.push(part as Buffer);
    return Buffer.concat(parts);
  };
  return {
    sizes: new Map([...entries].map(([name, entry]) => [name, entry.uncompressedSize])),
    readBytes,
    readText: async (name, mostBytes) => (await readBytes(name, mostBytes)).toString('utf8'),
    writeTo: async (name, to) => {
      await pipeline(await stream(name), createWriteStream(to));
    },
    close: () => {
      zip.close();
    },
  };
}
