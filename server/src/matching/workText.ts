import { plainText, type DocumentNode } from '@rosemary/core';
import JSZip from 'jszip';
import { readWhole } from '../files/index.ts';
import { rows, type Db } from '../platform/database.ts';

const MOST_BYTES = 20_971_520;
const WORD = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';

async function wordText(bytes: Buffer): Promise<string> {
  const zip = await JSZip.loadAsync(bytes);
  const xml = (await zip.file('word/document.xml')?.async('string')) ?? '';
  return xml
    .replace(/<\/w:p>/g, '\n')
    .replace(/<w:(?:tab|br)\b[^>]*\/>/g, ' ')
    .replace(/<[^>]+>/g, '')
    .replace(/&(lt|gt|quot|apos|amp);/g, (_all, name: string) => ({ lt: '<', gt: '>', quot: '"', apos: "'", amp: '&' })[name] ?? '');
}

async function pdfText(bytes: Buffer): Promise<string> {
  const { getDocument, VerbosityLevel } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const task = getDocument({ data: new Uint8Array(bytes), verbosity: VerbosityLevel.ERRORS, isEvalSupported: false });
  const pdf = await task.promise;
  const pages: string[] = [];
  for (let n = 1; n <= Math.min(pdf.numPages, 200); n += 1) {
    const content = await (await pdf.getPage(n)).getTextContent();
    pages.push(content.items.map((item) => ('str' in item ? item.str + (item.hasEOL ? '\n' : '') : '')).join(' '));
  }
  await task.destroy();
  return pages.join('\n');
}

/** The words of a file, where they can be read; a broken or locked file has none. */
async function fileText(bytes: Buffer, mediaType: string): Promise<string> {
  try {
    if (mediaType === WORD) return await wordText(bytes);
    if (mediaType === 'application/pdf') return await pdfText(bytes);
    return mediaType.startsWith('text/') ? bytes.toString('utf8') : '';
  } catch {
    return '';
  }
}

interface FileRow {
  sha256: Buffer;
  size: string;
  media_type: string;
}

/** Everything in words that an attempt holds: what was written here, then its files in order. */
export async function attemptText(db: Db, attemptId: string, document: DocumentNode | null): Promise<string> {
  const files = await rows<FileRow>(
    db,
    `select b.sha256, b.size, b.media_type from attempt_file af join file f on f.id = af.file_id join file_blob b on b.sha256 = f.sha256
     where af.attempt_id = $1 and b.size <= $2 and (b.media_type in ('application/pdf', $3) or b.media_type like 'text/%') order by af.position`,
    [attemptId, MOST_BYTES, WORD],
  );
  const texts = [plainText(document)];
  for (const file of files) texts.push(await fileText(await readWhole(db, file), file.media_type));
  return texts.filter((text) => text.trim() !== '').join('\n\n');
}
