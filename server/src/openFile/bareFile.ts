import { PDFDocument, PDFName } from 'pdf-lib';
import { bareWord, WORD } from './wordFile.ts';

async function barePdf(bytes: Buffer): Promise<Buffer> {
  const document = await PDFDocument.load(bytes, { updateMetadata: false, ignoreEncryption: true });
  delete document.context.trailerInfo.Info;
  document.catalog.delete(PDFName.of('Metadata'));
  for (const page of document.getPages()) page.node.delete(PDFName.of('Metadata'));
  return Buffer.from(await document.save());
}

/** JPEG keeps who and where in its application segments 1 (EXIF, XMP) and 13, and in comments; the picture needs none of them. */
function bareJpeg(bytes: Buffer): Buffer {
  const kept: Buffer[] = [bytes.subarray(0, 2)];
  let at = 2;
  while (at + 4 <= bytes.length && bytes[at] === 0xff) {
    const marker = bytes[at + 1] ?? 0;
    if (marker === 0xda) break;
    const end = at + 2 + bytes.readUInt16BE(at + 2);
    if (marker !== 0xe1 && marker !== 0xed && marker !== 0xfe) kept.push(bytes.subarray(at, end));
    at = end;
  }
  return Buffer.concat([...kept, bytes.subarray(at)]);
}

const PNG_WORDS = new Set(['tEXt', 'zTXt', 'iTXt', 'eXIf', 'tIME']);

function barePng(bytes: Buffer): Buffer {
  const kept: Buffer[] = [bytes.subarray(0, 8)];
  for (let at = 8; at + 12 <= bytes.length;) {
    const end = at + 12 + bytes.readUInt32BE(at);
    if (!PNG_WORDS.has(bytes.toString('latin1', at + 4, at + 8))) kept.push(bytes.subarray(at, end));
    at = end;
  }
  return Buffer.concat(kept);
}

/** WebP is a list of chunks; EXIF and XMP are chunks of their own. */
function bareWebp(bytes: Buffer): Buffer {
  const kept: Buffer[] = [];
  for (let at = 12; at + 8 <= bytes.length;) {
    const size = bytes.readUInt32LE(at + 4);
    const end = at + 8 + size + (size % 2);
    if (!['EXIF', 'XMP '].includes(bytes.toString('latin1', at, at + 4))) kept.push(bytes.subarray(at, end));
    at = end;
  }
  const body = Buffer.concat(kept);
  const head = Buffer.from(bytes.subarray(0, 12));
  head.writeUInt32LE(body.length + 4, 4);
  return Buffer.concat([head, body]);
}

const BARE: { readonly [mediaType: string]: (bytes: Buffer) => Buffer | Promise<Buffer> } = {
  'application/pdf': barePdf,
  [WORD]: bareWord,
  'image/jpeg': bareJpeg,
  'image/png': barePng,
  'image/webp': bareWebp,
};

/** Kinds of files whose properties can be taken off. */
export const BARE_KINDS: readonly string[] = Object.keys(BARE);

/**
 * A file without what it says of who made it: author and program of a PDF or Word file, who and where of a picture. Pages, words and
 * picture stay as they are. What cannot be read so (a broken or locked file) is not sent at all: null.
 */
export async function makeBare(bytes: Buffer, mediaType: string): Promise<Buffer | null> {
  const make = BARE[mediaType];
  if (make === undefined) return bytes;
  try {
    return await make(bytes);
  } catch {
    return null;
  }
}
