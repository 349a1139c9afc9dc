import { mediaNames, withoutNames } from './mediaNames.ts';
import { oggSum } from './oggNames.ts';

const reader = (file: Buffer) => (at: number, length: number) => Promise.resolve(file.subarray(at, at + length));

/** The whole file without names, put together of parts as it is when it is sent. */
async function bare(file: Buffer, mediaType: string, partLength = 7): Promise<Buffer> {
  const found = await mediaNames(reader(file), file.length, mediaType);
  const parts: Buffer[] = [];
  for (let at = 0; at < file.length; at += partLength) parts.push(withoutNames(file.subarray(at, at + partLength), at, found ?? []));
  return Buffer.concat(parts);
}

const box = (type: string, ...inside: Buffer[]): Buffer => {
  const body = Buffer.concat(inside);
  const head = Buffer.alloc(8);
  head.writeUInt32BE(body.length + 8, 0);
  head.write(type, 4, 'latin1');
  return Buffer.concat([head, body]);
};

const ebml = (name: string, body: Buffer | null): Buffer =>
  Buffer.concat([
    Buffer.from(name, 'hex'),
    body === null ? Buffer.from('01ffffffffffffff', 'hex') : Buffer.from([0x80 | body.length]),
    body ?? Buffer.alloc(0),
  ]);

const sound = Buffer.from('sound itself: First Tester speaks');

describe('what sound and film say of their maker', () => {
  it('goes from an MP3, head and foot, and every sound stays', async () => {
    const frame = Buffer.from('TPE1....First Tester');
    const head = Buffer.from([0x49, 0x44, 0x33, 4, 0, 0, 0, 0, 0, frame.length]);
    const foot = Buffer.concat([Buffer.from('TAG'), Buffer.from('First Tester'.padEnd(125))]);
    const out = await bare(Buffer.concat([head, frame, sound, Buffer.alloc(200, 1), foot]), 'audio/mpeg');
    expect(out.length).toBe(head.length + frame.length + sound.length + 200 + 128);
    expect(out.subarray(0, 10)).toEqual(head);
    expect(out.subarray(10 + frame.length, 10 + frame.length + sound.length)).toEqual(sound);
    expect(out.toString('latin1').match(/First Tester/g)).toHaveLength(1);
    expect(out.subarray(-128).every((b) => b === 0)).toBe(true);
  });

  it('goes from a WAV: its list of facts becomes junk', async () => {
    const chunk = (type: string, body: Buffer): Buffer => {
      const head = Buffer.alloc(8);
      head.write(type, 0, 'latin1');
      head.writeUInt32LE(body.length, 4);
      return Buffer.concat([head, body, Buffer.alloc(body.length % 2)]);
    };
    const file = Buffer.concat([
      Buffer.from('RIFF....WAVE'),
      chunk('fmt ', Buffer.alloc(16, 2)),
      chunk('LIST', Buffer.from('INFOIART First Tester')),
      chunk('data', sound),
    ]);
    const out = await bare(file, 'audio/wav');
    expect(out.includes('JUNK')).toBe(true);
    expect(out.includes('IART')).toBe(false);
    expect(out.includes(sound)).toBe(true);
  });

  it('goes from an MP4, wherever in its boxes it stands, and nothing moves', async () => {
    const file = Buffer.concat([
      box('ftyp', Buffer.from('M4A ')),
      box(
        'moov',
        box('mvhd', Buffer.alloc(20)),
        box('trak', box('udta', Buffer.from('First'))),
        box('udta', box('meta', Buffer.from('Tester'))),
      ),
      box('mdat', sound),
      box('uuid', Buffer.from('First Tester in XMP')),
    ]);
    const out = await bare(file, 'audio/mp4');
    expect(out.length).toBe(file.length);
    expect(out.indexOf('mdat')).toBe(file.indexOf('mdat'));
    expect(out.toString('latin1').match(/First|Tester/g)).toEqual(['First', 'Tester']);
    expect(out.includes(sound)).toBe(true);
  });

  it('goes from a WebM: titles and tags become spaces, also where lengths are not known', async () => {
    const tags = ebml(
      '1254c367',
      ebml('7373', ebml('67c8', Buffer.concat([ebml('45a3', Buffer.from('ARTIST')), ebml('4487', Buffer.from('First Tester'))]))),
    );
    const info = ebml('1549a966', ebml('7ba9', Buffer.from('By First Tester')));
    const file = Buffer.concat([ebml('1a45dfa3', Buffer.from('webm')), ebml('18538067', null), info, tags, ebml('1f43b675', null), sound]);
    const out = await bare(file, 'video/webm');
    expect(out.toString('latin1').match(/First Tester/g)).toHaveLength(1);
    expect(out.includes('ARTIST')).toBe(true);
    expect(out.includes(sound)).toBe(true);
  });

  it('has the sum of the standard for its pages', () => {
    // 0x89a1897f is CRC-32 of “123456789” with this polynomial, begun with nothing and not turned round, as published for it.
    const page = Buffer.concat([Buffer.alloc(26), Buffer.from('123456789')]);
    expect(oggSum(page)).toBe(0x89a1897f);
  });

  it('goes from an Ogg of any coding, also over the edge of a page, and the sums are right again', async () => {
    const le = (n: number): Buffer => {
      const four = Buffer.alloc(4);
      four.writeUInt32LE(n);
      return four;
    };
    const fields = (...words: string[]): Buffer =>
      Buffer.concat([le(words.length), ...words.flatMap((w) => [le(w.length), Buffer.from(w)])]);
    const page = (stream: number, number: number, lengths: number[], body: Buffer): Buffer => {
      const head = Buffer.alloc(27);
      head.write('OggS');
      head.writeUInt32LE(stream, 14);
      head.writeUInt32LE(number, 18);
      head[26] = lengths.length;
      const whole = Buffer.concat([head, Buffer.from(lengths), body]);
      whole.writeUInt32LE(oggSum(whole), 22);
      return whole;
    };
    const long = `COMMENT=First Tester ${'x'.repeat(300)}`;
    const comments = (begin: string): Buffer =>
      Buffer.concat([
        Buffer.from(begin, 'latin1'),
        le(12),
        Buffer.from('First Tester'),
        fields('ARTIST=First Tester', long),
        Buffer.from([1]),
      ]);
    for (const begin of ['OpusTags', '\x03vorbis', '']) {
      const packet = comments(begin);
      const file = Buffer.concat([
        page(7, 0, [8], Buffer.from('OpusHead')),
        page(7, 1, [255], packet.subarray(0, 255)),
        page(7, 2, [packet.length - 255, sound.length], Buffer.concat([packet.subarray(255), sound])),
        page(7, 3, [sound.length], sound),
      ]);
      const out = await bare(file, 'audio/ogg');
      expect(out.length).toBe(file.length);
      // What is left is said in the sound itself, which is on two pages.
      expect(out.toString('latin1').match(/First Tester/g)).toHaveLength(2);
      expect(out.subarray(-sound.length - 28)).toEqual(file.subarray(-sound.length - 28));
      expect(out.toString('latin1')).toContain('X=      ');
      for (let at = out.indexOf('OggS'); at >= 0; at = out.indexOf('OggS', at + 1)) {
        const next = out.indexOf('OggS', at + 1);
        const one = out.subarray(at, next < 0 ? out.length : next);
        expect(one.readUInt32LE(22)).toBe(oggSum(one));
      }
    }
    // Comments that are none by their own lengths go whole.
    const broken = Buffer.concat([page(7, 0, [4], Buffer.from('head')), page(7, 1, [20], Buffer.from('OpusTagsFirst Tester'))]);
    expect((await bare(broken, 'video/ogg')).includes('Tester')).toBe(false);
  });

  it('is not known of other kinds; what is cut short or no such file at all harms nothing', async () => {
    expect(await mediaNames(reader(sound), sound.length, 'audio/unheard')).toBeNull();
    for (const type of ['audio/mpeg', 'audio/wav', 'video/mp4', 'video/webm', 'audio/ogg']) {
      for (const file of [Buffer.alloc(0), Buffer.alloc(40), Buffer.alloc(40, 255), Buffer.from('ID3'), box('moov', Buffer.alloc(3))])
        expect((await bare(file, type)).length).toBe(file.length);
    }
  });
});
