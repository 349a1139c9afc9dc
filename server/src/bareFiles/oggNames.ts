import type { ReadAt, Stretch } from './stretch.ts';

/** What a page of Ogg begins with (RFC 3533): “OggS”, flags, place, stream, number, sum, and the lengths of what is in it. */
const HEAD = 27;

const SUM_AT = 22;

const MOST_PAGES = 2000;

/** The sum of a page as RFC 3533 has it: polynomial 0x04c11db7, begun with nothing, its own four bytes taken as zero. */
export function oggSum(page: Buffer): number {
  let sum = 0;
  for (const [n, byte] of page.entries()) {
    sum ^= (n >= SUM_AT && n < SUM_AT + 4 ? 0 : byte) << 24;
    for (let bit = 0; bit < 8; bit += 1) sum = (sum & 0x80000000) === 0 ? sum << 1 : (sum << 1) ^ 0x04c11db7;
  }
  return sum >>> 0;
}

interface Page {
  readonly at: number;
  readonly bytes: Buffer;
  readonly stream: number;
  /** Where each packet, or the part of one, stands in the page; `isWhole` where it ends here. */
  readonly packets: readonly { readonly from: number; readonly to: number; readonly isWhole: boolean }[];
}

async function readPage(read: ReadAt, at: number): Promise<Page | null> {
  const head = await read(at, HEAD + 255);
  if (head.length < HEAD || head.toString('latin1', 0, 4) !== 'OggS') return null;
  const lengths = [...head.subarray(HEAD, HEAD + (head[26] ?? 0))];
  const body = HEAD + lengths.length;
  const bytes = Buffer.from(await read(at, body + lengths.reduce((sum, n) => sum + n, 0)));
  const packets: { from: number; to: number; isWhole: boolean }[] = [];
  let [from, to] = [body, body];
  for (const [n, length] of lengths.entries()) {
    to += length;
    if (length === 255 && n < lengths.length - 1) continue;
    packets.push({ from, to, isWhole: length < 255 });
    from = to;
  }
  return { at, bytes, stream: bytes.readUInt32LE(14), packets };
}

const LETTERS_BEFORE: readonly (readonly [begin: string, many: number])[] = [
  ['\x03vorbis', 7],
  ['OpusTags', 8],
  ['\x81theora', 7],
];

/** The comments of one stream, written over in place: the program that made it, and every field, name and words. */
function writeOver(packet: Buffer): void {
  const known = LETTERS_BEFORE.find(([begin, many]) => packet.toString('latin1', 0, many) === begin)?.[1];
  // FLAC in Ogg has the kind of block and its length before; Speex has nothing.
  let at = known ?? ((packet[0] ?? 0) % 128 === 4 && packet.length > 8 && packet.readUIntBE(1, 3) === packet.length - 4 ? 4 : 0);
  const next = (): Buffer => {
    const length = packet.readUInt32LE(at);
    const found = packet.subarray(at + 4, at + 4 + length);
    at += 4 + length;
    return found;
  };
  next().fill(32);
  const many = packet.readUInt32LE(at);
  at += 4;
  for (let n = 0; n < many; n += 1) {
    const field = next();
    field.fill(32);
    // A field without a name would make the file a broken one to some readers.
    field.write('X='.slice(0, field.length), 'latin1');
  }
}

/**
 * Where an Ogg file (Vorbis, Opus, FLAC, Speex, Theora) says who made it: the second packet of each stream. The words become spaces of the
 * same length, and the sums of the pages they stand on are made anew, so that nothing moves and every reader takes the file.
 */
export async function inOgg(read: ReadAt, size: number): Promise<Stretch[]> {
  const streams = new Map<number, { done: number; parts: { page: Page; from: number; to: number }[] }>();
  const found: Stretch[] = [];
  for (let at = 0, n = 0; at < size && n < MOST_PAGES; n += 1) {
    const page = await readPage(read, at);
    if (page === null) break;
    const stream = streams.get(page.stream) ?? { done: 0, parts: [] };
    streams.set(page.stream, stream);
    for (const packet of page.packets) {
      if (stream.done === 1) stream.parts.push({ page, from: packet.from, to: packet.to });
      if (packet.isWhole) stream.done += 1;
    }
    at += page.bytes.length;
    if ([...streams.values()].every((s) => s.done >= 2)) break;
  }
  const changed = new Set<Page>();
  for (const { parts } of streams.values()) {
    const packet = Buffer.concat(parts.map((p) => p.page.bytes.subarray(p.from, p.to)));
    try {
      writeOver(packet);
    } catch {
      // Comments that are not what they say they are: nobody reads a name in them by their rules, so all of it goes.
      packet.fill(0);
    }
    let taken = 0;
    for (const { page, from, to } of parts) {
      packet.copy(page.bytes, from, taken, taken + to - from);
      taken += to - from;
      changed.add(page);
    }
  }
  for (const page of changed) {
    page.bytes.writeUInt32LE(oggSum(page.bytes), SUM_AT);
    found.push({ at: page.at, length: page.bytes.length, fill: page.bytes });
  }
  return found;
}
