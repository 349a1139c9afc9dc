import { ZipFile } from 'yazl';
import { DOCUMENT_BOUNDS, readZip, type Zip } from '../files/index.ts';

/** The kind of file that a Word document is. */
export const WORD = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';

async function withZip<T>(bytes: Buffer, work: (zip: Zip) => Promise<T>): Promise<T> {
  const zip = await readZip(bytes, DOCUMENT_BOUNDS);
  try {
    return await work(zip);
  } finally {
    zip.close();
  }
}

/** The words of a Word file. */
export const wordText = (bytes: Buffer): Promise<string> =>
  withZip(bytes, async (zip) => {
    const xml = zip.sizes.has('word/document.xml') ? await zip.readText('word/document.xml', DOCUMENT_BOUNDS.bytesEach) : '';
    return xml
      .replace(/<\/w:p>/g, '\n')
      .replace(/<w:(?:tab|br)\b[^>]*\/>/g, ' ')
      .replace(/<[^>]+>/g, '')
      .replace(/&(lt|gt|quot|apos|amp);/g, (_all, name: string) => ({ lt: '<', gt: '>', quot: '"', apos: "'", amp: '&' })[name] ?? '');
  });

/** The properties of a Word file that say who wrote and changed it. */
const PROPERTIES = /^docProps\//;

const AUTHORS = /(\sw:(?:author|initials)|\sw15:(?:author|userId|providerId))="[^"]*"/g;

/** What named the properties must not be left pointing at nothing: some readers call such a file broken. */
const POINTERS: { readonly [name: string]: RegExp } = {
  '[Content_Types].xml': /<Override[^>]*PartName="\/docProps\/[^"]*"[^>]*\/>/g,
  '_rels/.rels': /<Relationship[^>]*Target="\/?docProps\/[^"]*"[^>]*\/>/g,
};

/** A Word file without what says who made it. */
export const bareWord = (bytes: Buffer): Promise<Buffer> =>
  withZip(bytes, async (zip) => {
    const out = new ZipFile();
    const parts: Buffer[] = [];
    const packed = (async () => {
      for await (const part of out.outputStream) parts.push(part as Buffer);
    })();
    for (const name of zip.sizes.keys()) {
      if (PROPERTIES.test(name)) continue;
      const found = await zip.readBytes(name, DOCUMENT_BOUNDS.bytesEach);
      const pointer = POINTERS[name];
      if (pointer !== undefined) out.addBuffer(Buffer.from(found.toString('utf8').replace(pointer, '')), name);
      else if (/^word\/[^/]+\.xml$/.test(name)) out.addBuffer(Buffer.from(found.toString('utf8').replace(AUTHORS, '$1="Author"')), name);
      else out.addBuffer(found, name);
    }
    out.end();
    await packed;
    return Buffer.concat(parts);
  });
