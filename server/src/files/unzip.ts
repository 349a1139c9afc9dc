import { createWriteStream } from 'node:fs';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { crc32 } from 'node:zlib';
import { type Entry, fromBuffer, open, type ZipFile } from 'yauzl';
import { AppError, invalid } from '../platform/errors.ts';

/** How much an archive may unpack to, all together and in its largest entry. */
export interface ZipBounds {
  readonly entries: number;
  readonly bytes: number;
  readonly bytesEach: number;
  readonly words: string;
}

/** A course or a package with all its files. */
const PACKAGE: ZipBounds = {
  entries: 20_000,
  bytes: 2_147_483_648,
  bytesEach: 2_147_483_648,
  words: 'This archive unpacks to far more than a course holds, so it is not opened.',
};

/** A document that is an archive inside: words in one entry, pictures in others. */
export const DOCUMENT_BOUNDS: ZipBounds = {
  entries: 5000,
  bytes: 209_715_200,
  bytesEach: 33_554_432,
  words: 'This file unpacks to far more than a document holds, so it is not opened.',
};

const MOST_FOLDERS = 30;

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

const openZip = (from: string | Buffer): Promise<ZipFile> =>
  new Promise((done, fail) => {
    // Names with .., a drive or a leading slash are refused by the reader itself; sizes are checked against what is said.
    const strictly = { lazyEntries: true, autoClose: false, strictFileNames: true, validateEntrySizes: true };
    const opened = (error: Error | null, zip: ZipFile): void => {
      if (error) fail(error);
      else done(zip);
    };
    if (typeof from === 'string') open(from, strictly, opened);
    else fromBuffer(from, strictly, opened);
  });

/** Passes bytes on, and fails at their end where they are not those whose check sum the archive names. */
function checked(entry: Entry): Transform {
  let sum = 0;
  return new Transform({
    transform(part: Buffer, _encoding, done) {
      sum = crc32(part, sum);
      done(null, part);
    },
    flush(done) {
      done(sum === entry.crc32 ? null : invalid('file', `“${entry.fileName}” in the archive is damaged. Fetch the archive again, whole.`));
    },
  });
}

function listEntries(zip: ZipFile, bounds: ZipBounds): Promise<Map<string, Entry>> {
  return new Promise((done, fail) => {
    const entries = new Map<string, Entry>();
    let bytes = 0;
    zip.on('entry', (entry: Entry) => {
      bytes += entry.uncompressedSize;
      const isBomb = entry.uncompressedSize > RATIO_FROM && entry.uncompressedSize > entry.compressedSize * MOST_RATIO;
      const isDeep = entry.fileName.split('/').length > MOST_FOLDERS;
      if (entries.size >= bounds.entries || bytes > bounds.bytes || entry.uncompressedSize > bounds.bytesEach || isBomb || isDeep) {
        fail(new AppError('too-large', bounds.words));
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

/**
 * Opens a zip for reading, entry by entry and never unpacked whole in memory. What is no zip, tries to leave its folder, unpacks to more
 * than its bounds or differs from its check sums is refused. Every archive that comes in is read by this, and by nothing else.
 */
export async function readZip(from: string | Buffer, bounds = PACKAGE): Promise<Zip> {
  let zip: ZipFile;
  let entries: Map<string, Entry>;
  try {
    zip = await openZip(from);
    entries = await listEntries(zip, bounds);
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
      const sound = checked(entry);
      zip.openReadStream(entry, (error, found) => {
        if (error) fail(error);
        // A fault below it is a fault of what is read from it.
        else done(found.on('error', (fault) => sound.destroy(fault)).pipe(sound));
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
