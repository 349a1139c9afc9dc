import {
  paragraphs,
  type AnswersTableDone,
  type MyGrades,
  type PaperTestView,
  type Plan,
  type QuizDetail,
  type QuizResults,
  type StudentCourse,
} from '@rosemary/api';
import { keyString, sheetLayout } from '@rosemary/core';
import { fillPage, printPages, scan, type Filled, type ScanWish } from '@rosemary/standins';
import { createCanvas } from '@napi-rs/canvas';
import { PDFDocument } from 'pdf-lib';
import { rows, withDb } from '../src/index.ts';
import { makeSchool, START, type TestSchool } from './school.ts';

/** A test on paper, from its key to its results: the sheets are really printed, filled, put through a bad machine and read. */
let school: TestSchool;
let itemId: string;
beforeAll(async () => {
  school = await makeSchool('paper');
}, 60_000);
afterAll(() => school.close());

const base = (): string => `/api/courses/${school.courseId}/quizzes/${itemId}`;
const paper = (path = ''): string => `${base()}/paper-test${path}`;
const view = async (who: 'instructor' | 'assistant' = 'instructor'): Promise<PaperTestView> =>
  (await school.agents[who].get(paper()).expect(200)).body as PaperTestView;
const detail = async (): Promise<QuizDetail> => (await school.agents.instructor.get(base()).expect(200)).body as QuizDetail;
async function makeTest(item: object = {}): Promise<void> {
  school.clock.at = START;
  const { agents, courseId, unitId } = school;
  const made = await agents.instructor
    .post(`/api/courses/${courseId}/items`)
    .send({ unitId, kind: 'quiz', title: 'On paper', position: 0 })
    .expect(200);
  itemId = made.body.id as string;
  if (Object.keys(item).length > 0) {
    const plan = await agents.instructor.get(`/api/courses/${courseId}/items/${itemId}`).expect(200);
    await agents.instructor
      .patch(`/api/courses/${courseId}/items/${itemId}`)
      .send({ version: plan.body.item.version, ...item })
      .expect(200);
  }
}
async function addKey(key: string, more: object = {}) {
  const { sections } = await detail();
  return school.agents.instructor
    .post(`${base()}/key-only`)
    .send({ sectionId: sections[0]?.id, options: 5, points: 1000, key, objectives: [], ...more });
}
async function open(): Promise<void> {
  const { courseId, agents } = school;
  const plan = await agents.instructor.get(`/api/courses/${courseId}/items/${itemId}`).expect(200);
  await agents.instructor
    .patch(`/api/courses/${courseId}/items/${itemId}`)
    .send({ version: plan.body.item.version, isDraft: false })
    .expect(200);
}
const print = (spare = 0) => school.agents.instructor.post(paper('/sheets')).send({ spare });
const pdfOf = async (path: string): Promise<Buffer> =>
  (await school.agents.instructor.get(paper(path)).responseType('blob').expect(200)).body as Buffer;
/** Prints the sheets asked for, fills each by its answers (options from 0) and scans it. */
async function scanned(path: string, answers: readonly (readonly Filled[])[], wish: Partial<ScanWish> = {}): Promise<Buffer[]> {
  const { setting } = await view();
  const printed = await printPages(await pdfOf(path), 110);
  const questions = answers[0]?.map(() => ({ options: 5, isMany: false })) ?? [];
  const [page] = sheetLayout({ questions, columns: setting.columns, spacing: setting.spacing, alternates: setting.alternates });
  return printed.map((one, n) => {
    const full: ScanWish = { seed: `${path} ${n}`, hand: 'full', dots: 110, trouble: 0.4, ...wish };
    return scan(fillPage(one, page ?? { page: 0, rows: [] }, new Map(answers[n]?.map((f, k) => [k, f])), full), full);
  });
}
const marked = (text: string): Filled[] => [...text].map((letter) => ({ marked: letter === '-' ? [] : [letter.charCodeAt(0) - 65] }));
const send = (picture: Buffer, name = 'page.jpg', who: 'instructor' | 'assistant' | 'student' = 'instructor') =>
  school.agents[who].post(paper('/scans')).attach('file', picture, name);

describe('a test of which there is only the key', () => {
  it('is there in a minute: its questions, points, objectives, and no word of it on screen', async () => {
    await makeTest();
    await addKey('bda(CE) c', { points: 500, objectives: [{ from: 2, to: 3, code: '2.1' }] }).then((a) => expect(a.status).toBe(200));
    const { sections, setting, possible } = await detail();
    const parts = sections.flatMap((s) => s.parts);
    expect(parts.map((p) => p.question?.title)).toEqual(['Question 1', 'Question 2', 'Question 3', 'Question 4', 'Question 5']);
    expect(parts.map((p) => p.question?.key.kind)).toEqual(['single', 'single', 'single', 'several', 'single']);
    expect(parts.map((p) => p.question?.objectives)).toEqual([[], ['2.1'], ['2.1'], [], []]);
    expect(possible).toBe(2500);
    expect(setting).toMatchObject({ taken: 'paper', shufflesAnswers: false });
    await open();
    const { body } = await school.agents.student.get(`/api/courses/${school.courseId}/own/items/${itemId}`).expect(200);
    expect(body.quiz.whyNot).toBe('This test is taken on paper.');
    await school.agents.student
      .post(`/api/courses/${school.courseId}/own/quizzes/${itemId}/attempts`)
      .send({ key: 'a-key-of-mine', code: '' })
      .expect(409);
  });

  it('names what is wrong with a key, and its mend', async () => {
    await makeTest();
    const said = async (key: string, more: object = {}): Promise<string> => (await addKey(key, more)).body.detail as string;
    expect(await said('AFB')).toBe('“F” is no answer of question 2: there are 5, A to E.');
    expect(await said('A-B')).toContain('Question 2 has no right answer');
    expect(await said('A!')).toContain('“!” is no answer of question 2');
    expect(await said('AB', { objectives: [{ from: 2, to: 1, code: '1' }] })).toContain('run backwards');
    expect((await detail()).questions).toBe(0);
  });
});

describe('a test on paper', () => {
  const KEY = 'BDACCEABDA';
  it('is printed for everybody, once; then its paper is fixed', async () => {
    await makeTest({ dueAt: new Date(START - 3_600_000).toISOString() });
    expect((await print()).body.detail).toBe('There is no question yet.');
    expect((await addKey(KEY)).status).toBe(200);
    await open();
    const fresh = await view();
    expect(fresh).toMatchObject({ printedAt: null, questions: 10, onSheet: 10, pages: 1, columnsFit: 3, sheets: [] });
    await school.agents.instructor.put(paper()).send({ version: fresh.setting.version, columns: 2, spacing: 'tight' }).expect(200);
    await print(2).expect(200);
    const { sheets, without } = await view();
    expect(sheets.map((s) => [s.number, s.name, s.state])).toEqual([
      [1, 'Tester, First', 'nothing yet'],
      [2, 'Tester, Second', 'nothing yet'],
    ]);
    expect(without).toEqual([]);
    await print().expect(200);
    expect((await view()).sheets).toHaveLength(2);
    expect((await addKey('A')).body.detail).toContain('has been printed');
    const laid = await view();
    const refused = await school.agents.instructor.put(paper()).send({ version: laid.setting.version, columns: 1 }).expect(409);
    expect(refused.body.detail).toContain('Start the printing over');
    const book = await PDFDocument.load(await pdfOf('/sheets'));
    expect(book.getPageCount()).toBe(2);
    expect((await PDFDocument.load(await pdfOf('/sheets?which=spare'))).getPageCount()).toBe(2);
    expect(await textOf(await pdfOf('/question-paper'))).toContain('10 points');
  });

  it('is read from scans, and what is doubtful is shown with its picture', async () => {
    const second = marked('BDACCEABDC').map((f, n) => (n === 4 ? { marked: [1, 3] } : f));
    const [one = Buffer.alloc(0), two = Buffer.alloc(0)] = await scanned('/sheets', [marked('BDACCEAB-A'), second], { isUpsideDown: true });
    expect((await send(one).expect(200)).body).toEqual({ pages: 1, unread: 0 });
    await send(two, 'two.jpg', 'assistant').expect(200);
    const { sheets, unread } = await view();
    expect(unread).toEqual([]);
    expect(sheets.map((s) => [s.state, s.answers])).toEqual([
      ['ready', keyStringOf('BDACCEAB-A')],
      ['doubts', keyStringOf('BDAC(BD)EABDC')],
    ]);
    const doubt = sheets[1]?.doubts[0];
    expect(doubt).toMatchObject({ question: 4, doubt: 'too many', picked: [1, 3], letters: [...'ABCDE'] });
    const cut = await school.agents.instructor
      .get(paper(`/scans/${doubt?.scanId}/cut?question=4`))
      .expect(200)
      .expect('content-type', /png/);
    expect((cut.body as Buffer).subarray(1, 4).toString()).toBe('PNG');
    await school.agents.instructor.get(paper(`/scans/${doubt?.scanId}/cut?question=400`)).expect(404);
    await school.agents.instructor.get(paper(`/scans/${doubt?.scanId}/page`)).expect(200);
    const say = (question: number, picked: number[] | null) =>
      school.agents.instructor.put(paper(`/sheets/${sheets[1]?.id}/rows`)).send({ question, picked });
    expect((await say(4, [7]).expect(422)).body.detail).toContain('there is no number 8');
    await say(4, []).expect(200);
    expect((await view()).sheets[1]).toMatchObject({ state: 'ready', answers: keyStringOf('BDAC-EABDC') });
    await say(4, [3]).expect(200);
    expect((await view()).sheets[1]).toMatchObject({ state: 'ready', answers: keyStringOf('BDACDEABDC') });
    await say(4, null).expect(200);
    expect((await view()).sheets[1]?.state).toBe('doubts');
    await say(4, [3]).expect(200);
  });

  it('becomes results in the ledger, not late; after a mend again; and is taken back', async () => {
    const { sheets } = await view();
    const ids = sheets.map((s) => s.id);
    const bring = (back = '') => school.agents.instructor.post(paper(`/results${back}`)).send({ sheetIds: ids });
    const grades = async () =>
      withDb(school.pool, false, (db) =>
        rows(
          db,
          'select raw, late_seconds from work_grade g left join lateral (select 0 as late_seconds) l on true where item_id = $1 order by raw',
          [itemId],
        ),
      );
    const ripple = await school.agents.instructor.post(paper('/results')).set('x-ripple', 'show').send({ sheetIds: ids }).expect(200);
    expect(JSON.stringify(ripple.body)).toContain('First');
    expect(await grades()).toEqual([]);
    expect((await bring().expect(200)).body).toEqual({ many: 2 });
    // Eight of ten: the fifth was another, the tenth too; the first left one out.
    expect((await grades()).map((g) => g.raw)).toEqual(['8.000', '9.000']);
    const results = (await school.agents.instructor.get(`${base()}/results`).expect(200)).body as QuizResults;
    expect(results.people.map((p) => p.attempts[0])).toMatchObject([
      { how: 'paper', score: 9000, handedInAt: new Date(START - 3_600_000).toISOString() },
      { how: 'paper', score: 8000 },
    ]);
    expect((await view()).sheets.map((s) => [s.state, s.scoreText])).toEqual([
      ['recorded', '9'],
      ['recorded', '8'],
    ]);
    expect((await bring().expect(422)).body.detail).toContain('None of these sheets is ready');
    await school.agents.instructor
      .put(paper(`/sheets/${ids[1]}/answers`))
      .send({ answers: 'BDAC C EABD C' })
      .expect(200);
    expect((await view()).sheets[1]?.state).toBe('changed since');
    await bring().expect(200);
    expect((await grades()).map((g) => g.raw)).toEqual(['9.000', '9.000']);
    expect((await school.agents.instructor.delete(paper('/sheets')).expect(409)).body.detail).toContain('Take them back first');
    expect((await bring('/back').expect(200)).body).toEqual({ many: 2 });
    expect((await grades()).map((g) => g.raw)).toEqual([null, null]);
    expect((await view()).sheets.map((s) => s.state)).toEqual(['ready', 'ready']);
    await bring().expect(200);
    expect((await grades()).map((g) => g.raw)).toEqual(['9.000', '9.000']);
    // Set aside under Results it is no result any more, and can be brought in again.
    const { people } = (await school.agents.instructor.get(`${base()}/results`).expect(200)).body as QuizResults;
    await school.agents.instructor
      .post(`${base()}/attempts/${people[0]?.attempts[0]?.id}/acts`)
      .send({ action: 'set aside', minutes: 0, reason: 'Ill that day.' })
      .expect(200);
    expect((await view()).sheets.map((s) => s.state)).toEqual(['ready', 'recorded']);
    expect((await bring().expect(200)).body).toEqual({ many: 1 });
    expect((await grades()).map((g) => g.raw)).toEqual(['9.000', '9.000']);
    // The same as any other attempt: a correction of the key marks it again.
    const { sections } = await detail();
    const questionId = sections[0]?.parts[9]?.question?.id;
    await school.agents.instructor
      .post(`${base()}/corrections`)
      .send({ questionId, kind: 'credit', key: null, points: null, reason: 'misprinted' })
      .expect(200);
    expect((await grades()).map((g) => g.raw)).toEqual(['9.000', '10.000']);
  });

  it('takes a spare sheet once somebody says whose it is', async () => {
    await makeTest();
    expect((await addKey(KEY)).status).toBe(200);
    await open();
    await print(1).expect(200);
    const [spare = Buffer.alloc(0)] = await scanned('/sheets?which=spare', [marked(KEY)]);
    await send(spare).expect(200);
    const { sheets } = await view();
    const sheet = sheets.find((s) => s.enrolmentId === null);
    expect(sheet).toMatchObject({ number: 3, name: '', state: 'ready' });
    const give = (enrolmentId: string | null) => school.agents.instructor.put(paper(`/sheets/${sheet?.id}/owner`)).send({ enrolmentId });
    await give('00000000-0000-4000-8000-000000000000').expect(422);
    await give(school.students[0]).expect(200);
    expect((await view()).sheets.map((s) => [s.number, s.name])).toEqual([
      [2, 'Tester, Second'],
      [3, 'Tester, First'],
    ]);
    await school.agents.instructor
      .post(paper('/results'))
      .send({ sheetIds: [sheet?.id] })
      .expect(200);
    expect((await give(null).expect(409)).body.detail).toContain('Take it back first');
  });

  it('says what it cannot read, and loses nothing of it', async () => {
    const noise = await scanned('/sheets?which=spare', [marked(KEY)]).catch(() => []);
    expect(noise).toHaveLength(1);
    const blank = createCanvas(600, 850);
    blank.getContext('2d').fillStyle = '#fafafa';
    blank.getContext('2d').fillRect(0, 0, 600, 850);
    expect((await send(blank.toBuffer('image/png'), 'blank.png').expect(200)).body).toEqual({ pages: 1, unread: 1 });
    const { unread } = await view();
    expect(unread[0]).toMatchObject({ name: 'blank.png', problem: expect.stringContaining('four black squares') });
    await school.agents.instructor.delete(paper(`/scans/${unread[0]?.id}`)).expect(200);
    expect((await view()).unread).toEqual([]);
    await school.agents.instructor.post(paper(`/scans/${unread[0]?.id}/restore`)).expect(200);
    expect((await view()).unread).toHaveLength(1);
    expect((await send(Buffer.from('no picture at all'), 'x.png').expect(415)).body.detail).toContain('x.png');
    expect((await send(Buffer.from('%PDF-1.4 broken'), 'x.pdf').expect(422)).body.detail).toContain('broken or locked');
    // A sheet of this test, read into another one.
    const [other = Buffer.alloc(0)] = noise;
    await makeTest();
    expect((await addKey(KEY)).status).toBe(200);
    expect((await send(other).expect(422)).body.detail).toContain('Print them first');
    await print().expect(200);
    await send(other).expect(200);
    expect((await view()).unread[0]?.problem).toContain('sheet of another test');
  });

  it('reads a PDF of photographed pages', async () => {
    await open();
    const pages = await scanned('/sheets', [marked(KEY), marked('ADACCEABDA')]);
    const book = await PDFDocument.create();
    for (const bytes of pages) {
      const picture = await book.embedJpg(bytes);
      book.addPage([595, 842]).drawImage(picture, { x: 0, y: 0, width: 595, height: 842 });
    }
    expect((await send(Buffer.from(await book.save()), 'all.pdf').expect(200)).body).toEqual({ pages: 2, unread: 0 });
    expect((await view()).sheets.map((s) => [s.state, s.answers])).toEqual([
      ['ready', keyStringOf(KEY)],
      ['ready', keyStringOf('ADACCEABDA')],
    ]);
    const words = await PDFDocument.create();
    words.addPage();
    expect((await send(Buffer.from(await words.save()), 'words.pdf').expect(422)).body.detail).toContain('not a photograph');
  });

  it('takes answers as a table, line by line, looked at first', async () => {
    await makeTest();
    expect((await addKey('BDA')).status).toBe(200);
    await open();
    const early = await school.agents.instructor.post(paper('/answers')).send({ csv: 'email,answers', isPreview: true }).expect(409);
    expect(early.body.detail).toContain('Make them first');
    await print().expect(200);
    const table = (csv: string, isPreview: boolean) => school.agents.instructor.post(paper('/answers')).send({ csv, isPreview });
    expect((await table('name;x\nFirst;BDA', true).expect(422)).body.detail).toContain('“email, answers”');
    const csv = 'email,answers\nfirst@example.org,BD-\nsecond@example.org,BDAX\nnobody@example.org,BDA\nfirst@example.org,AAA\n';
    const { rows: seen } = (await table(csv, true).expect(200)).body as AnswersTableDone;
    expect(seen.map((r) => [r.line, r.problem === ''])).toEqual([
      [2, true],
      [3, false],
      [4, false],
      [5, false],
    ]);
    expect(seen[1]?.problem).toContain('4 answers for 3 questions');
    expect((await view()).sheets.map((s) => s.state)).toEqual(['nothing yet', 'nothing yet']);
    await table(csv, false).expect(200);
    expect((await view()).sheets.map((s) => s.state)).toEqual(['ready', 'nothing yet']);
    await table('Email;1;2;3\nsecond@example.org;b;;a', false).expect(200);
    expect((await view()).sheets[1]?.answers).toBe('B-A');
  });

  it('in several versions gives each student the points of their own letters', async () => {
    await makeTest();
    const { sections } = await detail();
    const choices = ['w', 'x', 'y', 'z'].map((id) => ({
      id,
      words: paragraphs(`word ${id}`),
      share: id === 'y' ? 100_000 : 0,
      feedback: null,
    }));
    const question = { words: paragraphs('Which?'), key: { kind: 'single', choices, hasDontKnow: false } };
    const essay = { words: paragraphs('Why?'), key: { kind: 'essay' } };
    await school.agents.instructor
      .post(`${base()}/questions`)
      .send({ sectionId: sections[0]?.id, position: 0, questions: [question, question, question, essay] })
      .expect(200);
    await open();
    const { setting } = await view();
    await school.agents.instructor.put(paper()).send({ version: setting.version, forms: 2 }).expect(200);
    await print().expect(200);
    const { sheets } = await view();
    expect(sheets.map((s) => s.form)).toEqual(['A', 'B']);
    const { forms } = await withDb(school.pool, false, async (db) => ({
      forms: await rows<{ seed: string }>(db, 'select seed from paper_form where item_id = $1 order by form', [itemId]),
    }));
    expect(new Set(forms.map((f) => f.seed)).size).toBe(2);
    // The letters of the right answer, read off each student's own question paper.
    const rightOf = async (form: string): Promise<string> => {
      const words = await textOf(await pdfOf(`/question-paper?form=${form}`));
      return [...words.matchAll(/([A-H])\s+word y/g)].map((m) => m[1]).join('');
    };
    for (const sheet of sheets) {
      const right = await rightOf(sheet.form);
      expect(right).toHaveLength(3);
      await school.agents.instructor
        .put(paper(`/sheets/${sheet.id}/answers`))
        .send({ answers: `${right}-` })
        .expect(200);
    }
    await school.agents.instructor
      .post(paper('/results'))
      .send({ sheetIds: sheets.map((s) => s.id) })
      .expect(200);
    const results = (await school.agents.instructor.get(`${base()}/results`).expect(200)).body as QuizResults;
    // The essay on the paper waits for a person.
    expect(results.people.map((p) => [p.state, p.attempts[0]?.soFar])).toEqual([
      ['waiting', 3000],
      ['waiting', 3000],
    ]);
  });

  it('is run by those who may, and seen by nobody else', async () => {
    const { assistant, student, outsider, nobody, instructor } = school.agents;
    const [sheet] = (await view()).sheets;
    for (const who of [student, outsider, nobody])
      for (const path of ['', '/sheets', '/question-paper']) expect([401, 403, 404]).toContain((await who.get(paper(path))).status);
    for (const who of [student, outsider, nobody]) {
      expect([401, 403, 404]).toContain((await who.post(paper('/sheets')).send({ spare: 0 })).status);
      expect([401, 403, 404]).toContain((await who.put(paper(`/sheets/${sheet?.id}/answers`)).send({ answers: 'ABC-' })).status);
      expect([401, 403, 404]).toContain((await who.post(paper('/results')).send({ sheetIds: [sheet?.id] })).status);
    }
    await assistant.post(paper('/sheets')).send({ spare: 0 }).expect(403);
    await assistant.put(paper()).send({ version: 1, columns: 1 }).expect(403);
    await assistant.delete(paper('/sheets')).expect(403);
    // Of their section alone.
    const own = await view('assistant');
    expect(own.sheets.map((s) => s.name)).toEqual(['Tester, First']);
    const other = (await view()).sheets.find((s) => s.name === 'Tester, Second');
    await assistant
      .put(paper(`/sheets/${other?.id}/answers`))
      .send({ answers: 'AAA-' })
      .expect(404);
    await instructor.get(`${base().replace(school.courseId, school.otherCourseId)}/paper-test`).expect(404);
  });

  it('is called so in what its students see, and is not late for one whose own due time is earlier', async () => {
    const { categories } = (await school.agents.instructor.get(`/api/courses/${school.courseId}/plan`).expect(200)).body as Plan;
    await makeTest({ dueAt: new Date(START - 3_600_000).toISOString(), categoryId: categories[0]?.id });
    expect((await addKey('BD')).status).toBe(200);
    await open();
    await print().expect(200);
    const { courseId, students, agents } = school;
    const own = `/api/courses/${courseId}/own`;
    const outline = (await agents.student.get(`${own}/outline`).expect(200)).body as StudentCourse;
    const entry = outline.units.flatMap((u) => u.entries).find((e) => e.id === itemId);
    expect(entry).toMatchObject({ isOnPaper: true, isMissing: false, isHandedIn: false });
    const line = async (): Promise<string | undefined> =>
      ((await agents.student.get(`${own}/grades`).expect(200)).body as MyGrades).categories.flatMap((c) => c.columns).find((c) => c.itemId === itemId)?.text; // prettier-ignore
    expect(await line()).toBe('on paper, no mark yet');
    const variant = {
      sectionId: null,
      enrolmentId: students[0],
      opensAt: null,
      dueAt: new Date(START - 7_200_000).toISOString(),
      closesAt: null,
    };
    await agents.instructor
      .put(`/api/courses/${courseId}/items/${itemId}/variants`)
      .send({ variants: [variant] })
      .expect(200);
    const { sheets } = await view();
    for (const sheet of sheets)
      await agents.instructor
        .put(paper(`/sheets/${sheet.id}/answers`))
        .send({ answers: 'BD' })
        .expect(200);
    await agents.instructor
      .post(paper('/results'))
      .send({ sheetIds: sheets.map((s) => s.id) })
      .expect(200);
    const results = (await agents.instructor.get(`${base()}/results`).expect(200)).body as QuizResults;
    expect(results.people.map((p) => p.attempts[0]?.handedInAt)).toEqual([variant.dueAt, new Date(START - 3_600_000).toISOString()]);
  });

  it('can be started over as long as nothing has become a result', async () => {
    await makeTest();
    expect((await addKey('AB')).status).toBe(200);
    await print().expect(200);
    await school.agents.instructor.delete(paper('/sheets')).expect(200);
    expect(await view()).toMatchObject({ printedAt: null, sheets: [] });
    expect((await addKey('C')).status).toBe(200);
  });
});

const keyStringOf = (text: string): string => {
  const parts = text.match(/\([A-E]+\)|./g) ?? [];
  // Every second row of the sheet has the letters F to J.
  const letters = parts.map((_, n) => ({ letters: n % 2 === 0 ? [...'ABCDE'] : [...'FGHIJ'] }));
  return keyString(
    parts.map((p) => (p === '-' ? [] : [...p.replace(/[()]/g, '')].map((l) => l.charCodeAt(0) - 65))),
    letters,
  );
};
async function textOf(pdf: Buffer): Promise<string> {
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const document = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise;
  const page = await document.getPage(1);
  const { items } = await page.getTextContent();
  return items.map((i) => ('str' in i ? i.str : '')).join(' ');
}
