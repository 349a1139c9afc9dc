import { inOgg } from './oggNames.ts';
import type { ReadAt, Stretch } from './stretch.ts';

/** ID3 of MP3: frames at the head become padding, the mark at the foot goes (ID3v2.3 and 2.4; ID3v1). */
async function inMp3(read: ReadAt, size: number): Promise<Stretch[]> {
  const head = await read(0, 10);
  const found: Stretch[] = [];
  if (head.toString('latin1', 0, 3) === 'ID3') {
    // Seven bits of each of four bytes.
    const length = [6, 7, 8, 9].reduce((sum, n) => sum * 128 + ((head[n] ?? 0) & 0x7f), 0);
    found.push({ at: 10, length: Math.min(length, size - 10), fill: 0 });
  }
  if (size > 128 && (await read(size - 128, 3)).toString('latin1') === 'TAG') found.push({ at: size - 128, length: 128, fill: 0 });
  return found;
}

/** WAV: lists of facts and other programs' chunks become junk, which every reader passes over. */
async function inWav(read: ReadAt, size: number): Promise<Stretch[]> {
  const found: Stretch[] = [];
  for (let at = 12; at + 8 <= size;) {
    const head = await read(at, 8);
    const length = head.readUInt32LE(4);
    if (!['fmt ', 'data', 'fact', 'JUNK'].includes(head.toString('latin1', 0, 4)))
      found.push({ at: at + 8, length: Math.min(length, size - at - 8), fill: 0, rename: { at, to: 'JUNK' } });
    at += 8 + length + (length % 2);
  }
  return found;
}

const MP4_INSIDE = new Set(['moov', 'trak', 'mdia', 'minf']);

const MP4_ABOUT = new Set(['udta', 'meta', 'uuid']);

/** MP4 and M4A (ISO base media): boxes about the maker become free space of the same length, so that nothing else moves. */
async function inMp4(read: ReadAt, from: number, to: number): Promise<Stretch[]> {
  const found: Stretch[] = [];
  for (let at = from; at + 8 <= to;) {
    const head = await read(at, 16);
    if (head.length < 8) break;
    const short = head.readUInt32BE(0);
    const type = head.toString('latin1', 4, 8);
    const large = short === 1;
    const length = large && head.length === 16 ? Number(head.readBigUInt64BE(8)) : short === 0 ? to - at : short;
    const inner = at + (large ? 16 : 8);
    const end = Math.min(to, at + length);
    if (length < 8) break;
    if (MP4_ABOUT.has(type)) found.push({ at: inner, length: end - inner, fill: 0, rename: { at: at + 4, to: 'free' } });
    else if (MP4_INSIDE.has(type)) found.push(...(await inMp4(read, inner, end)));
    at = end;
  }
  return found;
}

const EBML_INSIDE = new Set([0x18538067, 0x1549a966, 0x1254c367, 0x7373, 0x67c8]);

/** Title of the segment, values of tags, names of attached files. */
const EBML_ABOUT = new Set([0x7ba9, 0x4487, 0x4485]);

/** A number of EBML and how many bytes it takes; with its marker where it is a name. Null is a length that is not known. */
function ebmlNumber(bytes: Buffer, at: number, isName: boolean): { value: number | null; width: number } | null {
  const first = bytes[at];
  if (first === undefined || first === 0) return null;
  const width = Math.clz32(first) - 23;
  if (width > 8 || at + width > bytes.length) return null;
  let value = isName ? first : first & (0xff >> width);
  let isUnknown = (first & (0xff >> width)) === 0xff >> width;
  for (let n = 1; n < width; n += 1) {
    const byte = bytes[at + n] ?? 0;
    if (byte !== 0xff) isUnknown = false;
    value = value * 256 + byte;
  }
  return { value: !isName && isUnknown ? null : value, width };
}

/** WebM and Matroska: the words of titles and tags become spaces. */
async function inWebm(read: ReadAt, from: number, to: number): Promise<Stretch[]> {
  const found: Stretch[] = [];
  for (let at = from; at < to;) {
    const head = await read(at, 12);
    const name = ebmlNumber(head, 0, true);
    const length = name === null ? null : ebmlNumber(head, name.width, false);
    if (name === null || length === null) break;
    const inner = at + name.width + length.width;
    const end = length.value === null ? to : Math.min(to, inner + length.value);
    if (EBML_ABOUT.has(name.value ?? 0)) found.push({ at: inner, length: end - inner, fill: 32 });
    else if (EBML_INSIDE.has(name.value ?? 0)) found.push(...(await inWebm(read, inner, end)));
    // A stretch of sound without a length goes on to the end, and holds nothing about anybody.
    else if (length.value === null) break;
    at = end;
  }
  return found;
}

/** Where sound and film say who made them: nothing of what is heard or seen. Of kinds that are not listed that is not known: null. */
export async function mediaNames(read: ReadAt, size: number, mediaType: string): Promise<readonly Stretch[] | null> {
  if (mediaType === 'audio/mpeg') return inMp3(read, size);
  if (mediaType === 'audio/wav' || mediaType === 'audio/vnd.wave' || mediaType === 'audio/x-wav') return inWav(read, size);
  if (/^(audio|video)\/ogg$/.test(mediaType)) return inOgg(read, size);
  if (/^(audio|video)\/(mp4|x-m4a|quicktime)$/.test(mediaType)) return inMp4(read, 0, size);
  return /^(audio|video)\/(webm|matroska|x-matroska)$/.test(mediaType) ? inWebm(read, 0, size) : null;
}

/** A part of the file as it goes out: the stretches in it are written over. The part itself is not changed. */
export function withoutNames(part: Buffer, at: number, stretches: readonly Stretch[]): Buffer {
  const out = Buffer.from(part);
  const put = (from: number, bytes: Buffer): void => {
    const begin = Math.max(from, at);
    const end = Math.min(from + bytes.length, at + out.length);
    if (begin < end) bytes.copy(out, begin - at, begin - from, end - from);
  };
  for (const s of stretches) {
    if (s.rename !== undefined) put(s.rename.at, Buffer.from(s.rename.to, 'latin1'));
    if (typeof s.fill !== 'number') {
      put(s.at, s.fill);
      continue;
    }
    const [begin, end] = [Math.max(s.at, at), Math.min(s.at + s.length, at + out.length)];
    if (begin < end) out.fill(s.fill, begin - at, end - at);
  }
  return out;
}
