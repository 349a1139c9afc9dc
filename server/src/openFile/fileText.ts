import { WORD, wordText } from './wordFile.ts';

const MOST_PAGES = 200;

async function pdfText(bytes: Buffer): Promise<string> {
  const { getDocument, VerbosityLevel } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const task = getDocument({ data: new Uint8Array(bytes), verbosity: VerbosityLevel.ERRORS, isEvalSupported: false });
  const pdf = await task.promise;
  const pages: string[] = [];
  for (let n = 1; n <= Math.min(pdf.numPages, MOST_PAGES); n += 1) {
    const content = await (await pdf.getPage(n)).getTextContent();
    pages.push(content.items.map((item) => ('str' in item ? item.str + (item.hasEOL ? '\n' : '') : '')).join(' '));
  }
  await task.destroy();
  return pages.join('\n');
}

/** The words of a file, where they can be read; a broken or locked file has none. */
export async function fileText(bytes: Buffer, mediaType: string): Promise<string> {
  try {
    if (mediaType === WORD) return await wordText(bytes);
    if (mediaType === 'application/pdf') return await pdfText(bytes);
    return mediaType.startsWith('text/') ? bytes.toString('utf8') : '';
  } catch {
    return '';
  }
}
