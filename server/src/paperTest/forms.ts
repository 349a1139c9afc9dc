import type { PaperSetting } from '@rosemary/api';
import { fixVersions } from '../bank/index.ts';
import { askQuestion, columnsThatFit, letterOf, MOST_OPTIONS, MOST_SHEETS, sheetLayout, type SheetPage } from '@rosemary/core';
import {
  asItStands,
  getQuiz,
  isAsItStands,
  listSections,
  loadQuestions,
  questionsOf,
  readPools,
  type StoredPaper,
  storePaper,
} from '../kinds/quiz/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';

export interface PaperTest extends PaperSetting {
  readonly number: number;
  readonly printedAt: Date | null;
}

interface TestRow {
  columns: number;
  spacing: PaperSetting['spacing'];
  alternates: boolean;
  forms: number;
  number: number;
  printed_at: Date | null;
  version: number;
}

/** How a quiz is printed; made with the usual layout when it is first asked for. */
export async function getPaperTest(db: Db, itemId: string): Promise<PaperTest> {
  const sql = 'select columns, spacing, alternates, forms, number, printed_at, version from paper_test where item_id = $1';
  const row = await maybe<TestRow>(db, sql, [itemId]);
  if (row === null) return { ...USUAL, number: 0, printedAt: null };
  const { columns, spacing, alternates, forms, number, version } = row;
  return { columns, spacing, alternates, forms, number, version, printedAt: row.printed_at };
}

const USUAL = { version: 0, columns: 3, spacing: 'roomy', alternates: true, forms: 1 } as const;

/** Brings the row of a quiz into being, with a number by which its sheets are told from those of another test. */
export async function ensurePaperTest(db: Db, itemId: string): Promise<void> {
  await run(
    db,
    'insert into paper_test (item_id, number) values ($1, (select count(*)::int % 256 from paper_test)) on conflict do nothing',
    [itemId],
  );
}

/** One row of a sheet: which question it is for, and which answer each circle is. */
export interface FormRow {
  readonly questionId: string;
  readonly isMany: boolean;
  readonly optionIds: readonly string[];
  readonly letters: readonly string[];
}

export interface Form {
  readonly form: number;
  /** The letter of the paper; empty where there is one. */
  readonly letter: string;
  readonly seed: string;
  readonly paper: StoredPaper;
  readonly rows: readonly FormRow[];
  readonly pages: readonly SheetPage[];
}

const formLetter = (form: number, forms: number): string => (forms === 1 ? '' : String.fromCharCode(64 + form));

/** A paper with its rows and pages; which answers stand where follows from its seed. */
async function toForm(db: Db, test: PaperTest, form: number, seed: string, paper: StoredPaper, shuffles: boolean): Promise<Form> {
  const questions = questionsOf(paper);
  const loaded = await loadQuestions(db, questions);
  const bare = questions.map((q) => {
    const { content } = loaded(q);
    const { kind } = content.key;
    const isChosen = kind === 'single' || kind === 'truth' || kind === 'several';
    const optionIds = isChosen ? askQuestion(content, q.questionId, seed, shuffles && !isAsItStands(seed)).choices.map((c) => c.id) : [];
    return { questionId: q.questionId, isMany: kind === 'several', optionIds: optionIds.length > MOST_OPTIONS ? [] : optionIds };
  });
  const most = Math.max(2, ...bare.map((r) => r.optionIds.length));
  const rows = bare.map((r, n) => ({ ...r, letters: r.optionIds.map((_, k) => letterOf(k, n, most, test.alternates)) }));
  const pages = sheetLayout({
    questions: bare.map((r) => ({ options: r.optionIds.length, isMany: r.isMany })),
    columns: test.columns,
    spacing: test.spacing,
    alternates: test.alternates,
  });
  return { form, letter: formLetter(form, test.forms), seed, paper, rows, pages };
}

/** The papers of a quiz: as printed, or, before that, as they would be now. */
export async function listForms(db: Db, itemId: string, test: PaperTest): Promise<Form[]> {
  const setting = await getQuiz(db, itemId);
  const kept = await rows<{ form: number; seed: string; paper: StoredPaper }>(
    db,
    'select form, seed, paper from paper_form where item_id = $1 order by form',
    [itemId],
  );
  const papers = kept.length > 0 ? kept : await drawForms(db, itemId, test);
  const made: Form[] = [];
  for (const { form, seed, paper } of papers) made.push(await toForm(db, test, form, seed, paper, setting.shufflesAnswers));
  return made;
}

async function drawForms(db: Db, itemId: string, test: PaperTest): Promise<{ form: number; seed: string; paper: StoredPaper }[]> {
  const { shufflesSections } = await getQuiz(db, itemId);
  const sections = await listSections(db, itemId);
  const pools = await readPools(db, sections);
  return Array.from({ length: test.forms }, (_, n) => {
    // One paper alone stands as its teacher wrote it; several differ from one another.
    const seed = test.forms === 1 ? asItStands(itemId) : `${itemId} paper ${n + 1}`;
    return { form: n + 1, seed, paper: storePaper(sections, pools, seed, shufflesSections) };
  });
}

/** What stands in the way of printing; empty where nothing does. */
export function whyNotPrinted(forms: readonly Form[]): string {
  const rows = forms[0]?.rows ?? [];
  return rows.length === 0 ? 'There is no question yet.' : '';
}

export const mostOptions = (form: Form | undefined): number => Math.max(2, ...(form?.rows ?? []).map((r) => r.optionIds.length));

export const columnsFor = (form: Form | undefined): number => columnsThatFit(mostOptions(form));

/**
 * Makes the papers what they are from now on, and a sheet for everybody who has none, with so many spare ones. Printing again gives those
 * who joined since a sheet, and changes nothing that is printed.
 */
export async function printSheets(db: Db, itemId: string, whom: readonly string[], spare: number, now: number): Promise<void> {
  await ensurePaperTest(db, itemId);
  await maybe(db, 'select 1 as one from paper_test where item_id = $1 for update', [itemId]);
  const test = await getPaperTest(db, itemId);
  const forms = await listForms(db, itemId, test);
  const why = whyNotPrinted(forms);
  if (why !== '') throw new AppError('not-now', why);
  if (test.printedAt === null) {
    const questions = forms.flatMap((f) => questionsOf(f.paper));
    await run(
      db,
      'insert into paper_form (item_id, form, seed, paper) select $1, f.form, f.seed, f.paper from jsonb_to_recordset($2) as f(form int, seed text, paper jsonb)',
      [itemId, JSON.stringify(forms.map(({ form, seed, paper }) => ({ form, seed, paper })))],
    );
    await fixVersions(db, questions, now);
    await run(db, 'update paper_test set printed_at = to_timestamp($2 / 1000.0), version = version + 1 where item_id = $1', [itemId, now]);
  }
  const sheets = await rows<{ number: number; enrolment_id: string | null }>(
    db,
    'select number, enrolment_id from paper_sheet where item_id = $1',
    [itemId],
  );
  const held = new Set(sheets.map((s) => s.enrolment_id));
  const fresh: (string | null)[] = [...whom.filter((id) => !held.has(id)), ...Array.from({ length: spare }, () => null)];
  const last = sheets.reduce((most, s) => Math.max(most, s.number), 0);
  if (last + fresh.length > MOST_SHEETS) throw new AppError('not-now', `A test has ${MOST_SHEETS} sheets at most.`);
  await run(
    db,
    'insert into paper_sheet (item_id, number, form, enrolment_id) select $1, t.number, t.form, t.whose from unnest($2::int[], $3::int[], $4::uuid[]) as t(number, form, whose)',
    [
      itemId,
      fresh.map((_, n) => last + n + 1),
      // Neighbours in the list have different papers.
      fresh.map((_, n) => ((last + n) % test.forms) + 1),
      fresh,
    ],
  );
}

/** Forgets what was printed and scanned, as long as nothing of it has become a result. */
export async function unprint(db: Db, itemId: string): Promise<void> {
  const used = await maybe(db, 'select 1 as one from paper_sheet where item_id = $1 and brought_in is not null', [itemId]);
  if (used !== null) throw new AppError('not-now', 'Results of these sheets are in the gradebook. Take them back first.');
  const taken = await maybe(db, "select 1 as one from quiz_attempt where item_id = $1 and idempotency_key like 'paper %'", [itemId]);
  if (taken !== null)
    throw new AppError(
      'not-now',
      'Results of these sheets were recorded and taken back, so their paper is kept. Make a copy of the quiz for another.',
    );
  await run(db, 'delete from paper_scan where item_id = $1', [itemId]);
  await run(db, 'delete from paper_answer where sheet_id in (select id from paper_sheet where item_id = $1)', [itemId]);
  await run(db, 'delete from paper_sheet where item_id = $1', [itemId]);
  await run(db, 'delete from paper_form where item_id = $1', [itemId]);
  await run(db, 'update paper_test set printed_at = null, version = version + 1 where item_id = $1', [itemId]);
}
