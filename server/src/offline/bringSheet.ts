import { checkDocument, type SheetDone, type SheetPreview, type SheetRow, type StackEntry } from '@rosemary/api';
import { formatPoints, plainText, pointsInWords } from '@rosemary/core';
import { randomUUID } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { readZip } from '../files/index.ts';
import { listAttempts } from '../handIn/index.ts';
import { reach, type Reached, wordsAsDocument } from '../marking/index.ts';
import { addFeedbackFile, addNote, finishMark, getMark, listNotes, saveMark } from '../marks/index.ts';
import { run } from '../platform/database.ts';
import { makeFolder } from '../platform/folder.ts';
import { AppError } from '../platform/errors.ts';
import type { MemberContext } from '../platform/route.ts';
import type { NoteLine, ReturnedSheet, SheetLine } from './readSheet.ts';
import { asOfText } from './workArchive.ts';

const REASON = 'From a score sheet';

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

interface Change {
  readonly row: SheetRow;
  readonly reached: Reached | null;
  readonly score: number | 'cleared' | null;
  /** Null leaves it as it is, an empty text empties it. */
  readonly feedback: string | null;
  readonly notes: readonly { readonly from: number; readonly to: number; readonly quote: string; readonly body: string }[];
  readonly files: readonly { readonly entry: string; readonly name: string }[];
}

/** Where quoted words stand in a written answer: the one place of them in its text blocks. */
function placeOf(document: unknown, quote: string): { from: number; to: number } | 'nowhere' | 'twice' {
  const check = checkDocument(document);
  if (!check.ok || quote === '') return 'nowhere';
  const found: number[] = [];
  check.node.descendants((node, at) => {
    if (!node.isTextblock) return true;
    // Every inline node is one place wide but for text, so positions count alike when others are one sign.
    const text = node.textBetween(0, node.content.size, undefined, '\uFFFC');
    for (let n = text.indexOf(quote); n >= 0; n = text.indexOf(quote, n + 1)) found.push(at + 1 + n);
    return false;
  });
  const [first] = found;
  if (first === undefined) return 'nowhere';
  return found.length > 1 ? 'twice' : { from: first, to: first + quote.length };
}

async function newNotes(
  c: MemberContext<unknown>,
  r: Reached,
  lines: readonly NoteLine[],
): Promise<{ notes: Change['notes']; faults: string[] }> {
  const here = await listNotes(c.db, r.column.itemId, r.person.enrolmentId);
  const [attempt] = await listAttempts(c.db, r.column.itemId, r.person.enrolmentId);
  const notes: Change['notes'][number][] = [];
  const faults: string[] = [];
  for (const line of lines) {
    if (line.body === '' || here.some((n) => n.quote === line.quote && n.body === line.body)) continue;
    const place = placeOf(attempt?.document ?? null, line.quote);
    if (typeof place === 'string')
      faults.push(
        `notes.csv, line ${line.line}: “${line.quote.slice(0, 40)}” stands ${place} in the work${place === 'twice' ? '; quote more words' : ''}.`,
      );
    else notes.push({ ...place, quote: line.quote, body: line.body });
  }
  return { notes, faults };
}

interface Wanted {
  readonly line: SheetLine;
  readonly notes: readonly NoteLine[];
  readonly files: ReturnedSheet['files'];
}

/** Why a line is older than what it would change, in words; empty where it is not. */
function olderWords(asOf: string, markVersion: number, attempt: number): string {
  if (asOf === asOfText(markVersion, attempt)) return '';
  const [, , seen = ''] = /^mark (\d+), attempt (\d+)$/.exec(asOf) ?? [];
  return seen !== '' && Number(seen) !== attempt
    ? 'Other work was handed in since this sheet was downloaded.'
    : 'The mark was changed since this sheet was downloaded.';
}

async function changeOf(c: MemberContext<unknown>, entry: StackEntry, wanted: Wanted): Promise<{ change: Change; faults: string[] }> {
  const { line } = wanted;
  const name = entry.isVeiled ? `Work ${entry.familyName}` : `${entry.givenName} ${entry.familyName}`;
  const row = { line: line.line, workId: entry.enrolmentId, name, feedback: null, notes: 0, files: [], reason: '', older: '' };
  const refuse = (reason: string): { change: Change; faults: string[] } => ({
    change: {
      row: { ...row, outcome: 'refused', scoreBefore: '', scoreAfter: '', reason },
      reached: null,
      score: null,
      feedback: null,
      notes: [],
      files: [],
    },
    faults: [],
  });
  const r = await reach({ ...c, params: { ...c.params, enrolmentId: entry.enrolmentId } });
  if (r.part.kind === 'looks') return refuse('Two others mark this work.');
  if (line.points !== null && 'fault' in line.points) return refuse(line.points.fault);
  const mark = await getMark(c.db, r.target, r.part.slot);
  const score = line.points?.value ?? null;
  const clearsScore = line.points !== null && line.points.value === null && mark.score !== null;
  if (score !== null && score > r.column.possible)
    return refuse(`${formatPoints(score)} is more than the ${pointsInWords(r.column.possible)} of “${r.column.title}”.`);
  const changesScore = score !== null && score !== mark.total;
  const present = plainText(mark.feedback).trim();
  const feedback =
    line.feedback === null ? (present === '' ? null : '') : line.feedback !== '' && line.feedback !== present ? line.feedback : null;
  const { notes, faults } = await newNotes(c, r, wanted.notes);
  const files = wanted.files.map((f) => ({ entry: f.entry, name: f.name }));
  const isSame = !changesScore && !clearsScore && feedback === null && notes.length === 0 && files.length === 0;
  return {
    change: {
      row: {
        ...row,
        outcome: isSame ? 'same' : 'changes',
        scoreBefore: mark.total === null ? '' : formatPoints(mark.total),
        scoreAfter: clearsScore ? 'none' : score === null ? '' : formatPoints(score),
        older: isSame || line.asOf === '' ? '' : olderWords(line.asOf, mark.version, entry.attempt),
        feedback,
        notes: notes.length,
        files: files.map((f) => f.name),
      },
      ...{ reached: r, score: clearsScore ? ('cleared' as const) : changesScore ? score : null, feedback, notes, files },
    },
    faults,
  };
}

/** What a sheet would change, line by line; a work named twice, or that is not of this stack, is refused by name. */
async function readChanges(
  c: MemberContext<unknown>,
  sheet: ReturnedSheet,
  entries: readonly StackEntry[],
): Promise<{ changes: Change[]; faults: string[] }> {
  const byId = new Map(entries.map((e) => [e.enrolmentId, e]));
  const faults = [...sheet.faults];
  const changes: Change[] = [];
  const seen = new Set<string>();
  const alone = [...sheet.notes, ...sheet.files].map((x) => x.work).filter((work) => !sheet.scores.some((s) => s.work === work));
  const lines = [
    ...sheet.scores,
    ...[...new Set(alone)].map((work): SheetLine => ({ line: 0, work, points: null, feedback: '', asOf: '' })),
  ];
  for (const line of lines) {
    const entry = byId.get(line.work);
    const wrong = !UUID.test(line.work)
      ? `“${line.work.slice(0, 40)}” is no identifier of a work. Keep the first column as it came.`
      : entry === undefined
        ? 'This work is not in the stack, or not yours to mark.'
        : seen.has(line.work)
          ? 'This work stands twice in the sheet; only its first line is taken.'
          : null;
    if (wrong !== null || entry === undefined) {
      const row: SheetRow = {
        line: line.line,
        workId: line.work,
        name: '',
        outcome: 'refused',
        scoreBefore: '',
        scoreAfter: '',
        feedback: null,
        notes: 0,
        files: [],
        reason: wrong ?? '',
        older: '',
      };
      changes.push({ row, reached: null, score: null, feedback: null, notes: [], files: [] });
      continue;
    }
    seen.add(line.work);
    const own = { line, notes: sheet.notes.filter((n) => n.work === line.work), files: sheet.files.filter((f) => f.work === line.work) };
    const found = await changeOf(c, entry, own);
    changes.push(found.change);
    faults.push(...found.faults);
  }
  return { changes, faults };
}

export async function previewSheet(c: MemberContext<unknown>, sheet: ReturnedSheet, entries: readonly StackEntry[]): Promise<SheetPreview> {
  const { changes, faults } = await readChanges(c, sheet, entries);
  return { rows: changes.map((change) => change.row), faults };
}

async function apply(c: MemberContext<unknown>, change: Change, r: Reached, finishes: boolean, archivePath: string): Promise<boolean> {
  if (r.part.kind === 'looks') return false;
  const { slot } = r.part;
  const before = await getMark(c.db, r.target, slot);
  const next = {
    version: before.version,
    choices: before.choices,
    score: change.score === 'cleared' ? null : (change.score ?? before.score),
    scoreReason:
      change.score !== null && change.score !== 'cleared' && before.fromRubric !== null && before.scoreReason === ''
        ? REASON
        : before.scoreReason,
    feedback: change.feedback === null ? before.feedback : change.feedback === '' ? null : wordsAsDocument(change.feedback),
  };
  const changesMark = change.score !== null || change.feedback !== null;
  const saved = changesMark ? await saveMark(c.db, r.target, next, c.person.personId, c.now, slot) : before;
  const [attempt] = await listAttempts(c.db, r.column.itemId, r.person.enrolmentId);
  for (const note of change.notes) {
    const anchor = { kind: 'text' as const, from: note.from, to: note.to };
    const made = { id: randomUUID(), attemptId: attempt?.id ?? '', fileId: null, anchor, quote: note.quote, body: note.body };
    await addNote(c.db, r.target, made, c.person.personId, c.now);
  }
  await addFiles(c, r, change, archivePath);
  if (!finishes || !changesMark) return false;
  await finishMark(c.db, r.target, { version: saved.version, isAboveConfirmed: false }, c.person.personId, c.now, slot);
  return true;
}

async function addFiles(c: MemberContext<unknown>, r: Reached, change: Change, archivePath: string): Promise<void> {
  if (change.files.length === 0) return;
  const folder = await makeFolder();
  const zip = await readZip(archivePath);
  try {
    for (const [n, file] of change.files.entries()) {
      const path = join(folder, String(n));
      await zip.writeTo(file.entry, path);
      await addFeedbackFile(
        c.db,
        c.courseId,
        r.target,
        { path, name: Buffer.from(file.name, 'utf8').toString('latin1') },
        c.person.personId,
        c.now,
      );
    }
  } finally {
    zip.close();
    await rm(folder, { recursive: true, force: true });
  }
}

/** Brings in what a sheet changes, but for works that are to be left; one that cannot be taken keeps no other out. */
export async function bringSheet(
  c: MemberContext<unknown>,
  sheet: ReturnedSheet,
  entries: readonly StackEntry[],
  wish: { readonly leave: ReadonlySet<string>; readonly takeOlder: ReadonlySet<string>; readonly finishes: boolean },
  archivePath: string,
): Promise<SheetDone> {
  const { changes } = await readChanges(c, sheet, entries);
  let [changed, finished] = [0, 0];
  const left: SheetDone['left'][number][] = [];
  for (const change of changes) {
    if (change.row.outcome !== 'changes' || change.reached === null || wish.leave.has(change.row.workId)) continue;
    // What was changed since the sheet was taken out stays, unless the line is chosen all the same.
    if (change.row.older !== '' && !wish.takeOlder.has(change.row.workId)) continue;
    await run(c.db, 'savepoint one_line');
    try {
      if (await apply(c, change, change.reached, wish.finishes, archivePath)) finished += 1;
      await run(c.db, 'release savepoint one_line');
      changed += 1;
    } catch (error) {
      if (!(error instanceof AppError)) throw error;
      await run(c.db, 'rollback to savepoint one_line');
      left.push({ name: change.row.name, reason: error.message });
    }
  }
  return { changed, finished, left };
}
