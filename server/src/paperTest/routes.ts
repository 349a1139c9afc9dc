import {
  answersSaid,
  answersTable,
  keyOnly,
  paperSettingChange,
  printWish,
  rowSaid,
  sheetOwner,
  sheetsWish,
  type SheetsWish,
} from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { type DocumentNode, filesIn, NAME_BOX } from '@rosemary/core';
import type { Response } from 'express';
import { findFile, readWhole, sendFile } from '../files/index.ts';
import { getQuiz, getQuizDetail, isAsItStands, itemOf, loadQuestions, questionsOf, requireQuiz, showPaper } from '../kinds/quiz/index.ts';
import { rows, run } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { listWhom } from '../quizResults/index.ts';
import { readAnswersTable, sayAnswers, sayRow, setOwner } from './answers.ts';
import { ensurePaperTest, getPaperTest, listForms, printSheets, unprint } from './forms.ts';
import { addKeyOnly } from './keyOnly.ts';
import { questionPaper } from './questionPaper.ts';
import { bringIn, takeBack } from './results.ts';
import { addScan, cutScan, findScanFile, rowBox, setLeftOut } from './scans.ts';
import { courseWords, printedSheets } from './sheetBook.ts';
import { getPaperTestView, readStanding } from './sheets.ts';

const by = (c: MemberContext<unknown>) => ({
  ...{ db: c.db, courseId: c.courseId, itemId: itemOf(c), member: c.member, personId: c.person.personId, now: c.now },
});

function sendPdf(response: Response, bytes: Buffer, name: string): void {
  response
    .set({
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${name}.pdf`)}`,
      'cache-control': 'private, no-store',
    })
    .type('application/pdf')
    .send(bytes);
}

/** The pictures that stand in a paper, by file. */
async function readPictures(
  c: MemberContext<unknown>,
  documents: readonly (DocumentNode | null)[],
  more: readonly string[],
): Promise<Map<string, Buffer>> {
  const ids = [...new Set([...documents.flatMap((d) => filesIn(d)), ...more])];
  const found = await rows<{ id: string; course_id: string }>(c.db, 'select id, course_id from file where id = any($1)', [ids]);
  const pictures = new Map<string, Buffer>();
  for (const row of found) {
    const file = await findFile(c.db, row.course_id, row.id);
    if (file !== null && /^image\/(png|jpeg)$/.test(file.media_type)) pictures.set(row.id, await readWhole(c.db, file));
  }
  return pictures;
}

async function sendQuestionPaper(c: MemberContext<unknown>): Promise<void> {
  const { title, possible } = await requireQuiz(c);
  const setting = await getQuiz(c.db, itemOf(c));
  const forms = await listForms(c.db, itemOf(c), await getPaperTest(c.db, itemOf(c)));
  const form = forms.find((f) => f.letter === (c.query.form ?? '').toUpperCase()) ?? forms[0];
  if (form === undefined || form.rows.length === 0)
    throw new AppError('not-now', 'There is no question yet, so there is no paper to print.');
  const loaded = await loadQuestions(c.db, questionsOf(form.paper));
  const shown = showPaper(
    form.paper,
    form.seed,
    { shufflesAnswers: setting.shufflesAnswers && !isAsItStands(form.seed) },
    loaded,
    (id) => id,
  );
  if (shown.faults.length > 0) throw new AppError('not-now', shown.faults[0] ?? '');
  const questions = shown.sections.flatMap((s) => s.questions);
  const pictures = await readPictures(
    c,
    [setting.instructions, ...questions.flatMap((q) => [q.asked.words, q.stimulus])],
    questions.flatMap((q) => q.asked.picture?.fileId ?? []),
  );
  const bytes = await questionPaper({
    ...{
      title,
      course: await courseWords(c.db, c.courseId),
      form: form.letter,
      minutes: setting.limitMinutes,
      possible,
      instructions: setting.instructions,
    },
    sections: shown.sections,
    lettersOf: (n) => form.rows[n]?.letters ?? [],
    hasSheet: form.rows.some((r) => r.optionIds.length > 0),
    pictures,
  });
  sendPdf(c.response, bytes, `${title}${form.letter === '' ? '' : ` ${form.letter}`}`);
}

async function sendSheets(c: MemberContext<unknown>): Promise<void> {
  const { title } = await requireQuiz(c);
  const which = c.query.sheet === undefined ? (c.query.which === 'spare' ? 'spare' : 'all') : { sheetId: c.query.sheet };
  sendPdf(c.response, await printedSheets(c.db, c.courseId, itemOf(c), c.member, title, which), `${title} answer sheets`);
}

async function setScan(c: MemberContext<unknown, { readonly itemId: string; readonly scanId: string }>, isLeftOut: boolean): Promise<void> {
  await requireQuiz(c);
  await setLeftOut(c.db, itemOf(c), c.params.scanId, isLeftOut, c.now);
}

export const paperTestRoutes: readonly Route[] = [
  implement(api.getPaperTest, async (c) => {
    await requireQuiz(c);
    return getPaperTestView(c.db, c.courseId, itemOf(c), c.member);
  }),
  implement(api.changePaperTest, paperSettingChange, async (c) => {
    await requireQuiz(c);
    await ensurePaperTest(c.db, itemOf(c));
    const current = await getPaperTest(c.db, itemOf(c));
    // Nobody has laid it out yet: it was seen as version 0, and came into being with this request.
    const isFirst = c.body.version === 0 && current.version === 1;
    if (c.body.version !== current.version && !isFirst) throw conflict(current);
    if (current.printedAt !== null)
      throw new AppError('not-now', 'The sheets are printed as they were laid out. Start the printing over to lay them out anew.');
    const next = { ...current, ...c.body };
    await run(
      c.db,
      'update paper_test set columns = $2, spacing = $3, alternates = $4, forms = $5, version = version + 1 where item_id = $1',
      [itemOf(c), next.columns, next.spacing, next.alternates, next.forms],
    );
    return getPaperTestView(c.db, c.courseId, itemOf(c), c.member);
  }),
  implement(api.makeKeyOnlyTest, keyOnly, async (c) => {
    await requireQuiz(c);
    const made = await addKeyOnly(c.db, c.person, c.courseId, itemOf(c), c.body, c.now);
    return { made, quiz: await getQuizDetail(c.db, c.person, c.courseId, itemOf(c), c.now) };
  }),
  implement(api.addSheets, printWish, async (c) => {
    await requireQuiz(c);
    const whom = await listWhom(c.db, c.courseId, itemOf(c), c.member);
    await printSheets(
      c.db,
      itemOf(c),
      whom.map((w) => w.id),
      c.body.spare,
      c.now,
    );
    return getPaperTestView(c.db, c.courseId, itemOf(c), c.member);
  }),
  implement(api.removeSheets, async (c) => {
    await requireQuiz(c);
    await unprint(c.db, itemOf(c));
    return getPaperTestView(c.db, c.courseId, itemOf(c), c.member);
  }),
  implement(api.getQuestionPaper, sendQuestionPaper),
  implement(api.getSheets, sendSheets),
  implement(api.addScans, async (c) => {
    await requireQuiz(c);
    return addScan(by(c), c.file);
  }),
  implement(api.removeScan, (c) => setScan(c, true)),
  implement(api.restoreScan, (c) => setScan(c, false)),
  implement(api.getScanPage, async (c) => {
    await requireQuiz(c);
    const file = await findScanFile(c.db, c.courseId, itemOf(c), c.params.scanId);
    if (file === null) throw notFound();
    return sendFile(file, c.request, c.response);
  }),
  // The row of a question, or the head with the name.
  implement(api.getScanCut, async (c) => {
    await requireQuiz(c);
    const question = c.query.question === undefined ? null : Number(c.query.question);
    const bytes = await cutScan(c.db, c.courseId, itemOf(c), c.params.scanId, (form, page) =>
      question === null ? NAME_BOX : rowBox(form, page, question),
    );
    c.response.set('cache-control', 'private, max-age=3600').type('image/png').send(bytes);
  }),
  implement(api.nameSheet, sheetOwner, async (c) => {
    await requireQuiz(c);
    await setOwner(by(c), c.params.sheetId, c.body.enrolmentId);
  }),
  implement(api.decideRow, rowSaid, async (c) => {
    await requireQuiz(c);
    await sayRow(by(c), c.params.sheetId, c.body.question, c.body.picked);
  }),
  implement(api.typeAnswers, answersSaid, async (c) => {
    await requireQuiz(c);
    await sayAnswers(by(c), c.params.sheetId, c.body.answers);
  }),
  implement(api.importAnswers, answersTable, async (c) => {
    await requireQuiz(c);
    return readAnswersTable(by(c), c.body.csv, c.body.isPreview);
  }),
  implement(api.makePaperResults, sheetsWish, async (c) => {
    await requireQuiz(c);
    const many = await bringIn(by(c), await reached(c));
    if (many === 0) throw invalid('sheetIds', 'None of these sheets is ready: it has doubts, pages missing, or no student yet.');
    c.account({ after: { many, ...c.body } });
    c.kick('follow-results');
    return { many };
  }),
  implement(api.takeBackPaperResults, sheetsWish, async (c) => {
    await requireQuiz(c);
    const many = await takeBack(by(c), await reached(c));
    c.account({ after: { many, ...c.body } });
    return { many };
  }),
];

/** The sheets named, of the students whoever asks reaches. */
async function reached(c: MemberContext<SheetsWish>): Promise<Awaited<ReturnType<typeof readStanding>>['sheets']> {
  const whom = new Set((await listWhom(c.db, c.courseId, itemOf(c), c.member)).map((w) => w.id));
  const wanted = new Set(c.body.sheetIds);
  const { sheets } = await readStanding(c.db, itemOf(c));
  return sheets.filter((s) => wanted.has(s.id) && s.enrolmentId !== null && whom.has(s.enrolmentId));
}
