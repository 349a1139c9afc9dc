import type { StackEntry } from '@rosemary/api';
import { type DocumentNode, documentToHtml, plainText } from '@rosemary/core';
import { stringify } from 'csv-stringify/sync';
import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import { bareFile, canBeBare, mediaNames, type Stretch, withoutNames } from '../bareFiles/index.ts';
import { readAt, readBytes, readWhole } from '../files/index.ts';
import { type AttemptFile, listAttemptFiles } from '../handIn/index.ts';
import { type Db, rows } from '../platform/database.ts';

/**
 * The columns of the score sheet. Read when it comes back are the first, points, feedback, and the last: which version of the mark and which
 * attempt the line was written from, so that an old sheet does not put back what was changed since.
 */
export const SHEET_COLUMNS = ['work', 'name', 'section', 'state', 'late', 'attempt', 'points', 'possible', 'feedback', 'as of'] as const;

export const NOTE_COLUMNS = ['work', 'quote', 'note'] as const;

export interface ArchivedWork {
  readonly entry: StackEntry;
  readonly enrolmentId: string;
  readonly points: string;
  readonly feedback: string;
  readonly asOf: string;
  readonly notes: readonly { readonly quote: string; readonly body: string }[];
}

/** Which version of a mark, of which attempt, a line of a sheet is written from. */
export const asOfText = (markVersion: number, attempt: number): string => `mark ${markVersion}, attempt ${attempt}`;

/** A name that every file system takes: letters, digits, a few signs, and never a path. */
export function fileSafe(name: string): string {
  const plain = name
    .normalize('NFC')
    .replace(/[^\p{L}\p{N} ._()-]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .replace(/^[. ]+|[. ]+$/g, '');
  return plain === '' ? 'file' : plain.slice(0, 100);
}

/** Sheets are opened in spreadsheet programs: what begins like a formula is kept from being one. */
const cell = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);

/** What comes back from such a program without that sign. */
export const fromCell = (text: string): string => text.replace(/^'(?=[=+\-@])/, '');

interface AttemptRow {
  id: string;
  document: DocumentNode | null;
  link: string;
  note: string;
}

async function addAttempt(db: Db, zip: ZipFile, folder: string, work: ArchivedWork, itemId: string, at: Date): Promise<void> {
  const [attempt] = await rows<AttemptRow>(
    db,
    `select a.id, a.document, a.link, a.note from attempt a join submission s on s.id = a.submission_id where s.item_id = $1 and s.enrolment_id = $2 order by a.number desc limit 1`,
    [itemId, work.enrolmentId],
  );
  if (attempt === undefined) return;
  if (attempt.document !== null && plainText(attempt.document).trim() !== '')
    zip.addBuffer(
      Buffer.from(
        `<!doctype html><meta charset="utf-8"><body>${documentToHtml(attempt.document, { link: (href) => href, file: () => null })}</body>`,
      ),
      `${folder}/text.html`,
      {
        mtime: at,
      },
    );
  const words = [
    attempt.link === '' ? '' : `Link: ${attempt.link}`,
    attempt.note === '' ? '' : `Note to the marker: ${attempt.note}`,
  ].filter((w) => w !== '');
  if (words.length > 0) zip.addBuffer(Buffer.from(words.join('\n')), `${folder}/words.txt`, { mtime: at });
  const files = await listAttemptFiles(db, attempt.id);
  for (const [n, file] of files.entries()) await addFile(db, zip, `${folder}/${n + 1} `, file, work.entry.isVeiled, at);
}

async function* nameless(parts: AsyncGenerator<Buffer>, stretches: readonly Stretch[]): AsyncGenerator<Buffer> {
  let at = 0;
  for await (const part of parts) {
    yield withoutNames(part, at, stretches);
    at += part.length;
  }
}

/** Bytes are streamed chunk by chunk; only what must be freed of its maker's name is taken into memory, one file at a time. */
async function addFile(db: Db, zip: ZipFile, prefix: string, file: AttemptFile, isVeiled: boolean, at: Date): Promise<void> {
  const size = Number(file.size);
  const bytes = () => readBytes(db, file.sha256, 0, size - 1);
  const ending = /\.[a-z0-9]{1,5}$/i.exec(file.name)?.[0].toLowerCase() ?? '';
  if (!isVeiled) {
    zip.addReadStreamLazy(`${prefix}${fileSafe(file.name)}`, { mtime: at, size }, (give) => {
      give(null, Readable.from(bytes()));
    });
    return;
  }
  if (!canBeBare(file.media_type)) {
    const stretches = (await mediaNames((from, length) => readAt(db, file, from, length), size, file.media_type)) ?? [];
    zip.addReadStreamLazy(`${prefix}file${ending}`, { mtime: at, size }, (give) => {
      give(null, Readable.from(nameless(bytes(), stretches)));
    });
    return;
  }
  const bare = await bareFile(await readWhole(db, file), file.media_type);
  if (bare !== null) zip.addBuffer(bare, `${prefix}file${ending}`, { mtime: at });
}

/** All works of an item in folders of their own, with a sheet for scores and one for notes, to mark away from the network. */
export async function makeWorkArchive(
  db: Db,
  itemId: string,
  works: readonly ArchivedWork[],
  possible: string,
  now: number,
): Promise<ZipFile> {
  const at = new Date(now);
  const zip = new ZipFile();
  const taken = new Set<string>();
  const folders = works.map((w) => {
    const base = fileSafe(`${w.entry.familyName} ${w.entry.givenName}`);
    let folder = base;
    for (let n = 2; taken.has(folder.toLowerCase()); n += 1) folder = `${base} ${n}`;
    taken.add(folder.toLowerCase());
    return folder;
  });
  const sheet = works.map(({ entry, points, feedback, asOf }) => [
    entry.enrolmentId,
    cell(entry.isVeiled ? `Work ${entry.familyName}` : `${entry.familyName}, ${entry.givenName}`),
    ...[cell(entry.section), entry.state, entry.lateText ?? '', entry.attempt, points, possible, cell(feedback), asOf],
  ]);
  zip.addBuffer(Buffer.from(`\uFEFF${stringify([[...SHEET_COLUMNS], ...sheet])}`), 'scores.csv', { mtime: at });
  const notes = works.flatMap((w) => w.notes.map((n) => [w.entry.enrolmentId, cell(n.quote), cell(n.body)]));
  zip.addBuffer(Buffer.from(`\uFEFF${stringify([[...NOTE_COLUMNS], ...notes])}`), 'notes.csv', { mtime: at });
  zip.addBuffer(Buffer.from(`${works.map((w, n) => `${w.entry.enrolmentId}\t${folders[n] ?? ''}`).join('\n')}\n`), 'works.txt', {
    mtime: at,
  });
  for (const [n, work] of works.entries()) if (work.entry.attempt > 0) await addAttempt(db, zip, folders[n] ?? '', work, itemId, at);
  return zip;
}
