import { perspective, MARKS, type Box, type Quad, type SheetPlace } from '@rosemary/core';
import { readFile, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { PDFArray, PDFDict, PDFDocument, PDFName, PDFRawStream, type PDFPage } from 'pdf-lib';
import { findFile, readWhole, storeFile } from '../files/index.ts';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { makeFolder } from '../platform/folder.ts';
import { invalid, notFound } from '../platform/errors.ts';
import { getPaperTest, listForms, type Form } from './forms.ts';
import type { PageWish } from './readPage.ts';
import { cutOut } from './readPicture.ts';
import { readInWorker } from './readWorker.ts';

const MOST_BYTES = 104_857_600;
const MOST_PAGES = 400;

/** The pages of a scanned PDF: such a file holds one JPEG a page, which is taken as it is. */
async function picturesOf(bytes: Buffer): Promise<Buffer[]> {
  let pages: readonly PDFPage[];
  try {
    pages = (await PDFDocument.load(bytes)).getPages();
  } catch {
    throw invalid('file', 'This PDF is broken or locked and cannot be opened. Scan again, or save the pages as JPEG or PNG.');
  }
  if (pages.length > MOST_PAGES)
    throw invalid('file', `This PDF has ${pages.length} pages; ${MOST_PAGES} are read at a time. Scan in smaller lots.`);
  return pages.map((page, n) => {
    const pictures = page.node.Resources()?.lookupMaybe(PDFName.of('XObject'), PDFDict);
    const found = (pictures?.keys() ?? []).flatMap((name) => {
      const stream = pictures?.lookup(name);
      if (!(stream instanceof PDFRawStream)) return [];
      const filter = stream.dict.lookup(PDFName.of('Filter'));
      const last = filter instanceof PDFArray ? filter.lookup(filter.size() - 1) : filter;
      return last === PDFName.of('DCTDecode') && !(filter instanceof PDFArray && filter.size() > 1) ? [Buffer.from(stream.contents)] : [];
    });
    const largest = found.sort((a, b) => b.length - a.length)[0];
    if (largest === undefined)
      throw invalid('file', `Page ${n + 1} of this PDF is not a photograph of a page (JPEG). Scan to JPEG or PNG instead.`);
    return largest;
  });
}

interface Scanning {
  readonly db: Db;
  readonly courseId: string;
  readonly itemId: string;
  readonly personId: string;
  readonly now: number;
}

/** Reads one page: whose it is, and what is marked on it. What cannot be read is kept with the reason, to be looked at. */
async function readOne(
  { db, itemId }: Scanning,
  bytes: Buffer,
  wish: Omit<PageWish, 'bytes'>,
): Promise<{ sheetId: string | null; page: number | null; reading: unknown; corners: unknown; problem: string }> {
  const read = await readInWorker({ ...wish, bytes });
  if (read.kind === 'refused') throw invalid('file', read.reason);
  if (read.kind === 'unread') return { sheetId: null, page: null, reading: null, corners: null, problem: read.problem };
  const sheet = await maybe<{ id: string }>(db, 'select id from paper_sheet where item_id = $1 and number = $2', [itemId, read.sheet]);
  return { sheetId: sheet?.id ?? null, page: read.page, reading: read.rows, corners: read.corners, problem: '' };
}

/** Takes in one file of a scanner: a picture is one page, a PDF as many as it has. Gives how many pages, and how many could not be read. */
export async function addScan(
  s: Scanning,
  file: { readonly path: string; readonly name: string },
): Promise<{ pages: number; unread: number }> {
  const { db, courseId, itemId, now } = s;
  const test = await getPaperTest(db, itemId);
  if (test.printedAt === null)
    throw invalid('file', 'No sheets have been printed for this test yet, so there is nothing to read. Print them first.');
  const { size } = await stat(file.path);
  if (size > MOST_BYTES)
    throw invalid(
      'file',
      `This file has ${Math.round(size / 1_048_576)} MB; ${MOST_BYTES / 1_048_576} MB are read at a time. Scan in smaller lots.`,
    );
  const forms = await listForms(db, itemId, test);
  const bytes = await readFile(file.path);
  const isPdf = bytes.subarray(0, 5).toString('latin1') === '%PDF-';
  const pages = isPdf ? await picturesOf(bytes) : [bytes];
  const folder = await makeFolder();
  let unread = 0;
  const sheets = await rows<{ number: number; form: number }>(db, 'select number, form from paper_sheet where item_id = $1', [itemId]);
  const wish = {
    test: test.number,
    formOf: Object.fromEntries(sheets.map((sheet) => [sheet.number, sheet.form])),
    pagesOf: Object.fromEntries(forms.map((f) => [f.form, f.pages])),
  };
  try {
    for (const [n, page] of pages.entries()) {
      const path = join(folder, 'page');
      await writeFile(path, page);
      const name = isPdf ? `${file.name.replace(/\.pdf$/i, '')} ${n + 1}.jpg` : file.name;
      const stored = await storeFile(db, { path, name, courseId, ownerId: s.personId, types: ['picture'], mostBytes: MOST_BYTES, now });
      const read = await readOne(s, page, wish);
      if (read.problem !== '') unread += 1;
      await run(
        db,
        `insert into paper_scan (item_id, file_id, sheet_id, page, reading, corners, problem, scanned_by, scanned_at) values ($1, $2, $3, $4, $5, $6, $7, $8, to_timestamp($9 / 1000.0))`,
        [
          ...[itemId, stored.id, read.sheetId, read.page, read.reading === null ? null : JSON.stringify(read.reading)],
          ...[read.corners === null ? null : JSON.stringify(read.corners), read.problem, s.personId, now],
        ],
      );
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
  return { pages: pages.length, unread };
}

/** The picture of a scanned page. */
export async function findScanFile(
  db: Db,
  courseId: string,
  itemId: string,
  scanId: string,
): Promise<Awaited<ReturnType<typeof findFile>>> {
  const scan = await maybe<{ file_id: string }>(db, 'select file_id from paper_scan where id = $1 and item_id = $2', [scanId, itemId]);
  return scan === null ? null : findFile(db, courseId, scan.file_id);
}

/** A part of a scanned page, cut out and set straight: a row of circles with some paper about it, or the name at its head. */
export async function cutScan(
  db: Db,
  courseId: string,
  itemId: string,
  scanId: string,
  boxOf: (form: Form, page: number) => Box | null,
): Promise<Buffer> {
  const scan = await maybe<{ corners: Quad | null; page: number | null; form: number | null }>(
    db,
    'select c.corners, c.page, s.form from paper_scan c left join paper_sheet s on s.id = c.sheet_id where c.id = $1 and c.item_id = $2',
    [scanId, itemId],
  );
  const file = await findScanFile(db, courseId, itemId, scanId);
  const forms = await listForms(db, itemId, await getPaperTest(db, itemId));
  const form = forms.find((f) => f.form === scan?.form);
  if (scan === null || file === null || scan.corners === null || form === undefined) throw notFound();
  const box = boxOf(form, scan.page ?? 0);
  if (box === null) throw notFound();
  const frame = { x: MARKS[0].x, y: MARKS[0].y, width: MARKS[2].x - MARKS[0].x, height: MARKS[2].y - MARKS[0].y };
  const at: (place: SheetPlace) => SheetPlace = perspective(frame, scan.corners);
  return cutOut(await readWhole(db, file), box, at);
}
export function rowBox(form: Form, page: number, question: number): Box | null {
  const row = form.pages[page]?.rows.find((r) => r.question === question);
  return row === undefined ? null : { x: row.box.x - 2, y: row.box.y - 1.5, width: row.box.width + 4, height: row.box.height + 3 };
}

/** Leaves a scan out of account, or takes it in again. */
export async function setLeftOut(db: Db, itemId: string, scanId: string, isOut: boolean, now: number): Promise<void> {
  const changed = await run(
    db,
    'update paper_scan set left_out_at = case when $3 then to_timestamp($4 / 1000.0) end where id = $1 and item_id = $2',
    [scanId, itemId, isOut, now],
  );
  if (changed === 0) throw notFound();
}
