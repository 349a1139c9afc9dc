import { invalid } from '../platform/errors.ts';

const MARKS: readonly (readonly [readonly number[], string])[] = [
  [[0xef, 0xbb, 0xbf], 'utf-8'],
  [[0xff, 0xfe], 'utf-16le'],
  [[0xfe, 0xff], 'utf-16be'],
];

/** The encoding that bytes name themselves: by their mark, an XML declaration, or a meta element of a page. */
function named(bytes: Buffer): string | null {
  const mark = MARKS.find(([start]) => start.every((byte, n) => bytes[n] === byte));
  if (mark !== undefined) return mark[1];
  const head = bytes.subarray(0, 2048).toString('latin1');
  return /<\?xml[^>]*encoding\s*=\s*["']([\w-]+)/i.exec(head)?.[1] ?? /<meta[^>]*charset\s*=\s*["']?\s*([\w-]+)/i.exec(head)?.[1] ?? null;
}

/**
 * The text of a page, a table or XML, in the encoding it names or in UTF-8. A page or table that is in neither is read as Western European,
 * as browsers do, and it is said; XML that is in neither is refused.
 */
export function decodeText(bytes: Buffer, kind: 'html' | 'table' | 'xml'): { text: string; note: string } {
  const label = named(bytes) ?? 'utf-8';
  try {
    return { text: new TextDecoder(label, { fatal: true }).decode(bytes), note: '' };
  } catch {
    if (kind === 'xml') throw invalid('file', `A file says it is written in ${label} and is not. Save it again as UTF-8.`);
    return {
      text: new TextDecoder('windows-1252').decode(bytes),
      note: `it is not written in ${label}; it was read as Western European. Look at its letters.`,
    };
  }
}
