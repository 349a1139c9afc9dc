import { parsePoints } from '@rosemary/core';
import { parse } from 'csv-parse/sync';
import { extname } from 'node:path';
import { readZip, unguarded } from '../files/index.ts';
import { invalid } from '../platform/errors.ts';
import { NOTE_COLUMNS, SHEET_COLUMNS } from './workArchive.ts';

/** One line of a score sheet as it came: who it is about, and what it says; an empty field says nothing. */
export interface SheetLine {
  readonly line: number;
  readonly work: string;
  readonly points: { readonly value: number | null } | { readonly fault: string } | null;
  /** Null empties it; an empty field says nothing. */
  readonly feedback: string | null;
  /** What the line was written from; empty in a sheet that does not say. */
  readonly asOf: string;
}

export interface NoteLine {
  readonly line: number;
  readonly work: string;
  readonly quote: string;
  readonly body: string;
}

export interface ReturnedSheet {
  readonly scores: readonly SheetLine[];
  readonly notes: readonly NoteLine[];
  /** Marked files by the folder of their work: name and where its bytes are. */
  readonly files: readonly { readonly work: string; readonly entry: string; readonly name: string }[];
  readonly faults: readonly string[];
}

const MOST_BYTES = 8_388_608;

function readCsv(bytes: Buffer, name: string, needed: readonly string[]): { rows: Record<string, string>[]; faults: string[] } {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw invalid('file', `“${name}” is not written in UTF-8. Save it as CSV UTF-8 and import it again.`);
  }
  const separator = (text.split('\n')[0]?.match(/;/g)?.length ?? 0) > (text.split('\n')[0]?.match(/,/g)?.length ?? 0) ? ';' : ',';
  let rows: Record<string, string>[];
  try {
    rows = parse(text, {
      bom: true,
      columns: (header: string[]) => header.map((h) => h.trim().toLowerCase()),
      delimiter: separator,
      skip_empty_lines: true,
      relax_column_count: true,
      trim: true,
    });
  } catch (error) {
    throw invalid('file', `“${name}” breaks off or is no table: ${error instanceof Error ? error.message : 'unreadable'}.`);
  }
  const missing = needed.filter((column) => rows[0] !== undefined && !(column in rows[0]));
  if (missing.length > 0)
    throw invalid('file', `“${name}” has no column ${missing.map((m) => `“${m}”`).join(', ')}. It needs ${needed.join(', ')}.`);
  return { rows, faults: [] };
}

/** What is typed to empty a cell on purpose: an empty one says nothing, since most cells of a sheet are. */
const CLEAR = 'clear';

function toLine(row: Record<string, string>, n: number): SheetLine {
  const typed = unguarded(row.points ?? '').replace(',', '.');
  const clears = (text: string): boolean => text.trim().toLowerCase() === CLEAR;
  const parsed = typed === '' || clears(typed) ? null : parsePoints(typed);
  const feedback = unguarded(row.feedback ?? '');
  return {
    line: n + 2,
    work: (row.work ?? '').toLowerCase(),
    points: clears(typed) ? { value: null } : parsed === null ? null : parsed.ok ? { value: parsed.value } : { fault: parsed.reason },
    feedback: clears(feedback) ? null : feedback,
    asOf: (row['as of'] ?? '').trim(),
  };
}

const toNote = (row: Record<string, string>, n: number): NoteLine => ({
  line: n + 2,
  work: (row.work ?? '').toLowerCase(),
  quote: unguarded(row.quote ?? ''),
  body: unguarded(row.note ?? ''),
});

/** The folder of each work, as the archive said when it was made. */
function readFolders(text: string): Map<string, string> {
  return new Map(
    text.split('\n').flatMap((line) => {
      const [work, folder] = line.split('\t');
      return work === undefined || folder === undefined ? [] : [[folder.trim(), work.trim()] as const];
    }),
  );
}

/** Reads a sheet, or an archive with sheets and marked files, that was taken out before. Nothing is written. */
export async function readSheet(path: string, name: string): Promise<ReturnedSheet> {
  if (extname(name).toLowerCase() !== '.zip') {
    const { readFile, stat } = await import('node:fs/promises');
    if ((await stat(path)).size > MOST_BYTES) throw invalid('file', 'This sheet has more than 8 MB, which no sheet of scores has.');
    const { rows, faults } = readCsv(await readFile(path), name, [SHEET_COLUMNS[0]]);
    return { scores: rows.map(toLine), notes: [], files: [], faults };
  }
  const zip = await readZip(path);
  try {
    const names = [...zip.sizes.keys()];
    const faults: string[] = [];
    const has = (entry: string): boolean => zip.sizes.has(entry);
    const scores = has('scores.csv') ? readCsv(await zip.readBytes('scores.csv', MOST_BYTES), 'scores.csv', [SHEET_COLUMNS[0]]).rows : [];
    if (!has('scores.csv')) faults.push('There is no “scores.csv” in the archive, so no score is imported.');
    const notes = has('notes.csv') ? readCsv(await zip.readBytes('notes.csv', MOST_BYTES), 'notes.csv', NOTE_COLUMNS).rows : [];
    const folders = has('works.txt') ? readFolders(await zip.readText('works.txt', MOST_BYTES)) : new Map<string, string>();
    // What comes back marked has “marked” in its name; what was handed in came out of here and is not taken in again.
    const files = names
      .filter((entry) => /\/[^/]*marked[^/]*$/i.test(entry))
      .flatMap((entry) => {
        const work = folders.get(entry.slice(0, entry.indexOf('/')));
        if (work === undefined) faults.push(`“${entry}” stands in no work’s folder, so it is left.`);
        return work === undefined ? [] : [{ work, entry, name: entry.slice(entry.lastIndexOf('/') + 1) }];
      });
    return { scores: scores.map(toLine), notes: notes.map(toNote), files, faults };
  } finally {
    zip.close();
  }
}
