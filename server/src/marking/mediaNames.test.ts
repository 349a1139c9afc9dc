import { mediaNames, withoutNames } from './mediaNames.ts';

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

  it('is not known of OGG; what is cut short or no such file at all harms nothing', async () => {
    expect(await mediaNames(reader(sound), sound.length, 'audio/ogg')).toBeNull();
    for (const type of ['audio/mpeg', 'audio/wav', 'video/mp4', 'video/webm']) {
      for (const file of [Buffer.alloc(0), Buffer.alloc(40), Buffer.alloc(40, 255), Buffer.from('ID3'), box('moov', Buffer.alloc(3))])
        expect((await bare(file, type)).length).toBe(file.length);
    }
  });
});
