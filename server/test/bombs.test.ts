import { ZipFile } from 'yazl';
import { bareFile, textOfFile, WORD } from '../src/openFile/index.ts';
import { DOCUMENT_BOUNDS, readZip } from '../src/files/index.ts';

/** Archives that somebody chose to hurt whoever opens them: each is refused, and costs next to nothing. */
async function zipOf(entries: Readonly<Record<string, Buffer>>): Promise<Buffer> {
  const zip = new ZipFile();
  const parts: Buffer[] = [];
  for (const [name, bytes] of Object.entries(entries)) zip.addBuffer(bytes, name);
  zip.end();
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

const MEGABYTE = 1_048_576;

describe('a Word file', () => {
  it('is read for its words, and freed of what says who made it', async () => {
    const bytes = await zipOf({
      '[Content_Types].xml': Buffer.from('<Types><Override PartName="/docProps/core.xml" ContentType="a"/><Other/></Types>'),
      'word/document.xml': Buffer.from('<w:p w:author="Ana Reis"><w:t>Lime &amp; sand</w:t></w:p>'),
      'docProps/core.xml': Buffer.from('<dc:creator>Ana Reis</dc:creator>'),
    });
    expect(await textOfFile(bytes, WORD)).toBe('Lime & sand\n');
    const bare = await bareFile(bytes, WORD);
    const zip = await readZip(bare ?? Buffer.alloc(0), DOCUMENT_BOUNDS);
    expect([...zip.sizes.keys()]).toEqual(['[Content_Types].xml', 'word/document.xml']);
    expect(await zip.readText('[Content_Types].xml', MEGABYTE)).toBe('<Types><Other/></Types>');
    expect(await zip.readText('word/document.xml', MEGABYTE)).toContain('w:author="Author"');
    zip.close();
  });

  it('that unpacks to a hundred megabytes and more has no words, is not freed of names, and costs no memory', async () => {
    const bomb = await zipOf({ 'word/document.xml': Buffer.alloc(120 * MEGABYTE, '<w:t>a</w:t>') });
    expect(bomb.length).toBeLessThan(2 * MEGABYTE);
    const before = process.memoryUsage().rss;
    expect(await textOfFile(bomb, WORD)).toBe('');
    expect(await bareFile(bomb, WORD)).toBeNull();
    expect((process.memoryUsage().rss - before) / MEGABYTE).toBeLessThan(200);
  });
});

describe('an archive', () => {
  it('is refused where it holds more entries, folders within folders or bytes than its bounds', async () => {
    const refusal = (bytes: Buffer): Promise<string> =>
      readZip(bytes, DOCUMENT_BOUNDS).then(
        () => 'opened',
        (error: Error) => error.message,
      );
    const words = DOCUMENT_BOUNDS.words;
    const many = Object.fromEntries(Array.from({ length: DOCUMENT_BOUNDS.entries + 1 }, (_, n) => [`e${n}`, Buffer.from('x')]));
    expect(await refusal(await zipOf(many))).toBe(words);
    expect(await refusal(await zipOf({ [`${'a/'.repeat(40)}e`]: Buffer.from('x') }))).toBe(words);
    expect(await refusal(await zipOf({ e: Buffer.alloc(DOCUMENT_BOUNDS.bytesEach + 1, 'ab') }))).toBe(words);
    expect(await refusal(await zipOf({ e: Buffer.from('x') }))).toBe('opened');
  });

  it('whose bytes differ from their check sum is damaged, and said to be', async () => {
    const bytes = await zipOf({ 'e.txt': Buffer.from('these very words') });
    // The check sum stands in the list at its end, 16 bytes behind its sign.
    const list = bytes.indexOf(Buffer.from([0x50, 0x4b, 1, 2]));
    bytes[list + 16] = (bytes[list + 16] ?? 0) ^ 0xff;
    const zip = await readZip(bytes);
    await expect(zip.readText('e.txt', MEGABYTE)).rejects.toThrow('“e.txt” in the archive is damaged.');
    zip.close();
  });
});
