import { inThread } from '../platform/thread.ts';
import { BARE_KINDS } from './bareFile.ts';
import openFile, { type FileWish } from './openFile.ts';

/** What a file may cost that somebody else chose: beyond it the file counts as one that cannot be read. */
const open = inThread<FileWish, string | Uint8Array | null>('openFile', openFile, { threads: 2, megabytes: 384, milliseconds: 30_000 });

const opened = (wish: FileWish): Promise<string | Uint8Array | null> => open(wish).catch(() => null);

/** The words of a file; none where it cannot be read within its bounds. */
export const textOfFile = async (bytes: Buffer, mediaType: string): Promise<string> =>
  ((await opened({ act: 'text', bytes, mediaType })) ?? '') as string;

/** Kinds of files whose properties can be taken off; of others what they hold of their maker is not known. */
export const canBeBare = (mediaType: string): boolean => BARE_KINDS.includes(mediaType) || mediaType.startsWith('text/');

/**
 * A file without what it says of who made it: author and program of a PDF or Word file, who and where of a picture. Pages, words and
 * picture stay as they are. What cannot be read so (a broken or locked file) is not sent at all: null.
 */
export async function bareFile(bytes: Buffer, mediaType: string): Promise<Buffer | null> {
  if (!BARE_KINDS.includes(mediaType)) return bytes;
  const made = await opened({ act: 'bare', bytes, mediaType });
  return made === null ? null : Buffer.from(made as Uint8Array);
}
