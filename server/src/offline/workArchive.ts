import type { StackEntry } from '@rosemary/api';
import { type DocumentNode, documentToHtml, plainText } from '@rosemary/core';
import { mediaNames, type Stretch, withoutNames } from '../bareFiles/index.ts';
import { bareFile, canBeBare } from '../openFile/index.ts';
import { readAt, readChunks, readWhole, storedPart, writeTable, type ZipPart } from '../files/index.ts';
import { type AttemptFile, listAttemptFiles } from '../handIn/index.ts';
import { type Read, rows } from '../platform/database.ts';

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

interface AttemptRow {
  id: string;
  document: DocumentNode | null;
  link: string;
  note: string;
}

async function* listAttemptParts(read: Read, folder: string, work: ArchivedWork, itemId: string): AsyncGenerator<ZipPart> {
  const [attempt] = await read((db) =>
    rows<AttemptRow>(
      db,
      `select a.id, a.document, a.link, a.note from attempt a join submission s on s.id = a.submission_id where s.item_id = $1 and s.enrolment_id = $2 order by a.number desc limit 1`,
      [itemId, work.enrolmentId],
    ),
  );
  if (attempt === undefined) return;
  if (attempt.document !== null && plainText(attempt.document).trim() !== '')
    yield {
      name: `${folder}/text.html`,
      bytes: Buffer.from(
        `<!doctype html><meta charset="utf-8"><body>${documentToHtml(attempt.document, { link: (href) => href, file: () => null })}</body>`,
      ),
    };
  const words = [
    attempt.link === '' ? '' : `Link: ${attempt.link}`,
    attempt.note === '' ? '' : `Note to the marker: ${attempt.note}`,
  ].filter((w) => w !== '');
  if (words.length > 0) yield { name: `${folder}/words.txt`, bytes: Buffer.from(words.join('\n')) };
  const files = await read((db) => listAttemptFiles(db, attempt.id));
  for (const [n, file] of files.entries()) yield* listFileParts(read, `${folder}/${n + 1} `, file, work.entry.isVeiled);
}

async function* nameless(parts: AsyncGenerator<Buffer>, stretches: readonly Stretch[]): AsyncGenerator<Buffer> {
  let at = 0;
  for await (const part of parts) {
    yield withoutNames(part, at, stretches);
    at += part.length;
  }
}

/** Bytes are streamed chunk by chunk; only what must be freed of its maker's name is taken into memory, one file at a time. */
async function* listFileParts(read: Read, prefix: string, file: AttemptFile, isVeiled: boolean): AsyncGenerator<ZipPart> {
  const ending = /\.[a-z0-9]{1,5}$/i.exec(file.name)?.[0].toLowerCase() ?? '';
  const name = `${prefix}file${ending}`;
  if (!isVeiled) {
    yield storedPart(`${prefix}${fileSafe(file.name)}`, file);
    return;
  }
  if (!canBeBare(file.media_type)) {
    const size = Number(file.size);
    const stretches = (await mediaNames((from, length) => read((db) => readAt(db, file, from, length)), size, file.media_type)) ?? [];
    yield { name, bytes: (given) => nameless(readChunks(given, file.sha256, 0, size - 1), stretches) };
    return;
  }
  const bare = await bareFile(await read((db) => readWhole(db, file)), file.media_type);
  if (bare !== null) yield { name, bytes: bare };
}

/** All works of an item in folders of their own, with a sheet for scores and one for notes, to mark away from the network. */
export async function* listWorkParts(
  read: Read,
  itemId: string,
  works: readonly ArchivedWork[],
  possible: string,
): AsyncGenerator<ZipPart> {
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
    entry.isVeiled ? `Work ${entry.familyName}` : `${entry.familyName}, ${entry.givenName}`,
    ...[entry.section, entry.state, entry.lateText ?? '', entry.attempt, points, possible, feedback, asOf],
  ]);
  yield { name: 'scores.csv', bytes: Buffer.from(writeTable([SHEET_COLUMNS, ...sheet])) };
  const notes = works.flatMap((w) => w.notes.map((n) => [w.entry.enrolmentId, n.quote, n.body]));
  yield { name: 'notes.csv', bytes: Buffer.from(writeTable([NOTE_COLUMNS, ...notes])) };
  yield {
    name: 'works.txt',
    bytes: Buffer.from(`${works.map((w, n) => `${w.entry.enrolmentId}\t${folders[n] ?? ''}`).join('\n')}\n`),
  };
  for (const [n, work] of works.entries()) if (work.entry.attempt > 0) yield* listAttemptParts(read, folders[n] ?? '', work, itemId);
}
