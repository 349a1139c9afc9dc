import { parse } from 'csv-parse/sync';
import { readFile, stat } from 'node:fs/promises';
import { AppError, invalid } from '../platform/errors.ts';

const MOST_BYTES = 20_971_520;

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
    return parse(text, { delimiter, relax_column_count: true, bom: true, skip_empty_lines: false }) as string[][];
  } catch (error) {
    const line = /line (\d+)/.exec(error instanceof Error ? error.message : '')?.[1] ?? '?';
    throw invalid(
      'file',
      `${what} cannot be read: a quotation mark in line ${line} is opened and not closed, or stands inside a cell alone.`,
    );
  }
}
