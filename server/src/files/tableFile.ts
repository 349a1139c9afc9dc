import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { readFile, stat } from 'node:fs/promises';
import { AppError, invalid } from '../platform/errors.ts';

const MOST_BYTES = 20_971_520;

/** What a spreadsheet would take for a formula gets a mark before it, and a mark that was there gets another, so that both come back as they were. */
const guarded = (cell: unknown): unknown => (typeof cell === 'string' && /^'*[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell);

/** A cell as it was before it was guarded. */
export const unguarded = (cell: string): string => (/^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell);

/** A table for a spreadsheet, in UTF-8 with the mark that spreadsheets look for. Every table that goes out is written here. */
export const writeTable = (lines: readonly (readonly unknown[])[]): string => `\uFEFF${stringify(lines.map((line) => line.map(guarded)))}`;

/** A table for another program, which reads it and runs nothing of it: no mark before it, and nothing changed in its cells. */
export const writePlainTable = (lines: readonly (readonly string[])[]): string => stringify(lines.map((line) => [...line]));

/** Text in UTF-8, with or without its mark. Another encoding is refused, and said. */
export function decodeUtf8(bytes: Uint8Array, what: string): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw invalid('file', `${what} is not written in UTF-8. Save it again as UTF-8 (in a spreadsheet: “CSV UTF-8”).`);
  }
}

/** The text of an uploaded file of at most 20 MB. */
export async function readTextFile(path: string, what: string): Promise<string> {
  const { size } = await stat(path);
  if (size > MOST_BYTES) throw new AppError('too-large', `${what} may have 20 MB. This one is larger.`);
  const text = decodeUtf8(await readFile(path), 'The file');
  if (text.trim() === '') throw invalid('file', 'The file is empty.');
  return text;
}

/** The records of a table, parted by commas or semicolons, whichever its first line has. */
export function parseTable(text: string, what = 'The table'): string[][] {
  try {
    const delimiter = (text.trimStart().split('\n', 1)[0] ?? '').includes(';') ? ';' : ',';
    const lines: string[][] = parse(text, { delimiter, relax_column_count: true, bom: true, skip_empty_lines: false });
    return lines.map((line) => line.map(unguarded));
  } catch (error) {
    const line = /line (\d+)/.exec(error instanceof Error ? error.message : '')?.[1] ?? '?';
    throw invalid(
      'file',
      `${what} cannot be read: a quotation mark in line ${line} is opened and not closed, or stands inside a cell alone.`,
    );
  }
}
