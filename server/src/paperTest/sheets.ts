import type { PaperTestView, ScanView, SheetRowView, SheetView } from '@rosemary/api';
import { type Doubt, exactPoints, keyString, type Membership, type RowReading } from '@rosemary/core';
import { type Db, rows } from '../platform/database.ts';
import { listWhom } from '../quizResults/index.ts';
import { columnsFor, type Form, getPaperTest, listForms, mostOptions, type PaperTest, whyNotPrinted } from './forms.ts';

interface SheetDbRow {
  id: string;
  number: number;
  form: number;
  enrolment_id: string | null;
  brought_in: number[][] | null;
  attempt_id: string | null;
  score: number | null;
}

interface ScanRow {
  id: string;
  sheet_id: string | null;
  number: number | null;
  page: number | null;
  reading: RowReading[] | null;
  problem: string;
  name: string;
  scanned_at: Date;
}

/** One row of a sheet as it stands: what a person said, else what was read last. */
export interface StandingRow {
  readonly picked: readonly number[];
  readonly doubt: Doubt | null;
  readonly isSaid: boolean;
  readonly scanId: string | null;
}

export interface StandingSheet {
  readonly id: string;
  readonly number: number;
  readonly form: Form;
  readonly enrolmentId: string | null;
  readonly broughtIn: readonly (readonly number[])[] | null;
  readonly attemptId: string | null;
  readonly score: number | null;
  /** By question; null where nothing is known of it yet. */
  readonly rows: readonly (StandingRow | null)[];
}

export interface Standing {
  readonly test: PaperTest;
  readonly forms: readonly Form[];
  readonly sheets: readonly StandingSheet[];
  readonly scans: readonly ScanRow[];
}

/** Everything that is known of the sheets of a quiz. */
export async function readStanding(db: Db, itemId: string): Promise<Standing> {
  const test = await getPaperTest(db, itemId);
  const forms = await listForms(db, itemId, test);
  const sheets = await rows<SheetDbRow>(
    db,
    `select s.id, s.number, s.form, s.enrolment_id, s.brought_in, t.id as attempt_id, (t.score * 1000)::int as score from paper_sheet s
       left join quiz_attempt t on t.item_id = s.item_id and t.idempotency_key = 'paper ' || s.id and t.state = 'handed in' where s.item_id = $1 order by s.number`,
    [itemId],
  );
  const scans = await rows<ScanRow>(
    db,
    `select c.id, c.sheet_id, s.number, c.page, c.reading, c.problem, f.name, c.scanned_at from paper_scan c join file f on f.id = c.file_id left join paper_sheet s on s.id = c.sheet_id
     where c.item_id = $1 and c.left_out_at is null order by c.scanned_at, c.id`,
    [itemId],
  );
  const said = await rows<{ sheet_id: string; question: number; picked: number[] }>(
    db,
    'select a.sheet_id, a.question, a.picked from paper_answer a join paper_sheet s on s.id = a.sheet_id where s.item_id = $1',
    [itemId],
  );
  const saidOf = new Map(said.map((row) => [`${row.sheet_id} ${row.question}`, row.picked]));
  const readOf = new Map<string, { reading: RowReading; scanId: string }>();
  // A page that was scanned twice counts as it was read last.
  for (const scan of scans)
    for (const reading of scan.reading ?? []) readOf.set(`${scan.sheet_id ?? ''} ${reading.question}`, { reading, scanId: scan.id });
  return {
    test,
    forms,
    scans,
    sheets: sheets.flatMap((s): StandingSheet[] => {
      const form = forms.find((f) => f.form === s.form);
      if (form === undefined) return [];
      const standing = form.rows.map((_, question): StandingRow | null => {
        const read = readOf.get(`${s.id} ${question}`);
        const picked = saidOf.get(`${s.id} ${question}`);
        const scanId = read?.scanId ?? null;
        if (picked !== undefined) return { picked, doubt: null, isSaid: true, scanId };
        return read === undefined ? null : { picked: read.reading.marked, doubt: read.reading.doubt, isSaid: false, scanId };
      });
      return [
        {
          ...{ id: s.id, number: s.number, form, enrolmentId: s.enrolment_id, broughtIn: s.brought_in },
          ...{ attemptId: s.attempt_id, score: s.score, rows: standing },
        },
      ];
    }),
  };
}

/** The answers of a sheet by question, as they would become a result. */
export const pickedOf = (sheet: StandingSheet): readonly (readonly number[])[] => sheet.rows.map((row) => row?.picked ?? []);

const isSame = (sheet: StandingSheet): boolean => JSON.stringify(pickedOf(sheet)) === JSON.stringify(sheet.broughtIn);

export function sheetState(sheet: StandingSheet): SheetView['state'] {
  const circled = sheet.rows.filter((_, n) => (sheet.form.rows[n]?.optionIds.length ?? 0) > 0);
  // An attempt that was set aside under Results is no result any more, and can be brought in again.
  const isIn = sheet.broughtIn !== null && sheet.attemptId !== null;
  if (isIn && isSame(sheet)) return 'recorded';
  if (circled.every((row) => row === null)) return 'nothing yet';
  if (circled.some((row) => row === null)) return 'pages missing';
  if (circled.some((row) => row?.doubt !== null)) return 'doubts';
  return isIn ? 'changed since' : 'ready';
}

function toView(sheet: StandingSheet, who: { readonly name: string; readonly section: string } | undefined): SheetView {
  const answers = sheet.rows.every((row) => row === null)
    ? ''
    : keyString(
        sheet.rows.map((row) => row?.picked ?? []),
        sheet.form.rows,
      );
  return {
    id: sheet.id,
    number: sheet.number,
    form: sheet.form.letter,
    enrolmentId: sheet.enrolmentId,
    name: who?.name ?? '',
    section: who?.section ?? '',
    state: sheetState(sheet),
    answers,
    doubts: sheet.rows.flatMap((row, question): SheetRowView[] =>
      row === null || row.doubt === null ? [] : [{ question, letters: sheet.form.rows[question]?.letters ?? [], ...row }],
    ),
    attemptId: sheet.attemptId,
    scoreText: sheet.score === null ? null : exactPoints(sheet.score),
  };
}

const toScan = (scan: ScanRow): ScanView => ({
  id: scan.id,
  name: scan.name,
  problem: scan.problem,
  sheetNumber: scan.number,
  page: scan.page,
  at: scan.scanned_at.toISOString(),
});

/** The sheets of a quiz for whoever runs it, of the students they reach; a spare sheet is everybody’s until it has an owner. */
export async function getPaperTestView(db: Db, courseId: string, itemId: string, member: Membership): Promise<PaperTestView> {
  const { test, forms, sheets, scans } = await readStanding(db, itemId);
  const whom = await listWhom(db, courseId, itemId, member);
  const names = new Map(whom.map((w) => [w.id, { name: `${w.family_name}, ${w.given_name}`, section: w.section ?? '' }]));
  const { version, columns, spacing, alternates, forms: many } = test;
  const isSpareUsed = (s: StandingSheet): boolean => s.enrolmentId !== null || s.rows.some((row) => row !== null);
  const shown = sheets.filter((s) => (s.enrolmentId === null ? isSpareUsed(s) : names.has(s.enrolmentId)));
  const held = new Set(sheets.map((s) => s.enrolmentId));
  return {
    setting: { version, columns, spacing, alternates, forms: many },
    printedAt: test.printedAt?.toISOString() ?? null,
    questions: forms[0]?.rows.length ?? 0,
    onSheet: forms[0]?.rows.filter((r) => r.optionIds.length > 0).length ?? 0,
    most: mostOptions(forms[0]),
    columnsFit: columnsFor(forms[0]),
    pages: forms[0]?.pages.length ?? 0,
    whyNot: whyNotPrinted(forms),
    sheets: shown.map((s) => toView(s, names.get(s.enrolmentId ?? ''))),
    unread: scans.filter((s) => s.problem !== '').map(toScan),
    scans: scans.length,
    without: whom.filter((w) => !held.has(w.id)).map((w) => ({ enrolmentId: w.id, name: `${w.family_name}, ${w.given_name}` })),
  };
}
