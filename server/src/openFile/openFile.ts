import { makeBare } from './bareFile.ts';
import { fileText } from './fileText.ts';

/** What is to be done with a file that somebody handed in. */
export interface FileWish {
  readonly act: 'text' | 'bare';
  readonly bytes: Uint8Array;
  readonly mediaType: string;
}

/** Opens a file: for its words, or to take off what says who made it. Knows no database, for it runs in a thread of its own. */
export default async function openFile({ act, bytes, mediaType }: FileWish): Promise<string | Uint8Array | null> {
  const held = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return act === 'text' ? fileText(held, mediaType) : makeBare(held, mediaType);
}
