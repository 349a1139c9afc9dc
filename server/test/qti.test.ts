import { createCanvas } from '@napi-rs/canvas';
import { type BankView, paragraphs, type Plan, type QtiDone, type QuestionView, type QuizDetail } from '@rosemary/api';
import { QTI_VERSIONS, type QtiVersion, readQtiManifest } from '@rosemary/core';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readZip, type Zip } from '../src/files/unzip.ts';
import { makeSchool, type TestSchool } from './school.ts';
import { bytesOf, packZip } from './zips.ts';

/** Packages of questions out of one course and into another, and packages that somebody else made. */
let school: TestSchool;

let disk = '';

let quizId = '';

beforeAll(async () => {
  school = await makeSchool('qti');
  disk = mkdtempSync(join(tmpdir(), 'rosemary-qti-test-'));
  await makeQuiz();
}, 60_000);

afterAll(async () => {
  rmSync(disk, { recursive: true, force: true });
  await school.close();
});

const teacher = () => school.agents.instructor;

const here = (): string => `/api/courses/${school.courseId}`;

const said = (text: string, share: number, isPattern = false) => ({ text, isPattern, share });

const rules = (accepted: object[], more: object = {}) => ({ accepted, caseMatters: false, spaceMatters: false, ...more });

const choice = (id: string, words: string, share = 0, feedback: string | null = null) => ({
  ...{ id, words: paragraphs(words), share },
  feedback: feedback === null ? null : paragraphs(feedback),
});

const line = (...content: object[]) => ({ type: 'doc', content: [{ type: 'paragraph', content }] });

const text = (words: string, ...marks: string[]) => ({
  ...{ type: 'text', text: words },
  ...(marks.length === 0 ? {} : { marks: marks.map((type) => ({ type })) }),
});

const blank = (id: string, size: number) => ({ type: 'blank', attrs: { id, size } });

/** Every kind, with what only Rosemary has as well: two spaces, rules about spaces, credit for a part of an order. */
const QUESTIONS = (fileId: string) => {
  const src = `${here()}/files/${fileId}`;
  return [
    {
      ...{ title: 'The lock', level: 'hard', tags: ['train', 'first year'], objectives: ['2.1'], words: paragraphs('What  locks it?') },
      key: { kind: 'single', hasDontKnow: true, choices: [choice('a', 'lever', 100_000, 'Yes.'), choice('b', 'roller & <pin>', -33_333)] },
      feedback: { right: paragraphs('Good.'), wrong: paragraphs('Look again.'), general: paragraphs('See page 3.') },
    },
    {
      words: paragraphs('Locks?'),
      key: { kind: 'truth', hasDontKnow: false, choices: [choice('a', 'Right', 100_000), choice('b', 'Wrong')] },
    },
    {
      words: paragraphs('Which turn?'),
      key: {
        ...{ kind: 'several', rule: 'less wrong', hasDontKnow: true },
        choices: [choice('a', 'x', 100_000), choice('b', 'y', 100_000), choice('c', 'z', 100_000), choice('d', 'w')],
      },
    },
    {
      words: line(text('How long, with '), { type: 'formulaInline', attrs: { tex: '\\frac{a}{b}' } }, text('?', 'bold')),
      key: {
        kind: 'numeric',
        rules: {
          accepted: [{ value: '2,50', tolerance: { kind: 'relative', percent: '2' }, share: 100_000 }],
          units: [{ name: 'm', factor: '1' }, { name: 'mm', factor: '0.001' }], // prettier-ignore
          ...{ isUnitNeeded: true, decimals: 2, isSignFree: true },
        },
      },
    },
    {
      words: line(text('A wheel of '), { type: 'value', attrs: { name: 'c' } }, text(' teeth')),
      key: {
        kind: 'calculated',
        question: {
          parameters: [{ name: 'c', from: '72', to: '84', step: '4', decimals: 0 }],
          ...{ conditions: ['c > 70'], formula: 'c / 8', tolerance: { kind: 'significant', figures: 3 } },
        },
        rules: { units: [], isUnitNeeded: false, decimals: null, isSignFree: false },
      },
    },
    {
      words: paragraphs('What?'),
      key: { kind: 'short', rules: rules([said('pal+et', 100_000, true), said('the  fork', 50_000)], { spaceMatters: true }) },
    },
    {
      words: line(text('The '), blank('p1', 12), text(' and {this} '), blank('p2', 0)),
      key: {
        kind: 'blanks',
        blanks: [
          { id: 'p1', weight: 33_333, rules: rules([said('lever', 100_000)], { caseMatters: true }) },
          { id: 'p2', weight: 66_667, rules: rules([said('train', 100_000), said('trains', 50_000)]) },
        ],
      },
    },
    { words: paragraphs('Match.'), key: { kind: 'matching', pairs: [{ left: 'a', right: '1' }, { left: 'b', right: '1' }, { left: '', right: '2' }] } }, // prettier-ignore
    { words: paragraphs('Order.'), key: { kind: 'ordering', order: ['wind', 'set', 'start'], isAllOrNothing: false } },
    {
      words: { type: 'doc', content: [...paragraphs('Where?').content!, { type: 'picture', attrs: { fileId, src, alt: 'A train', size: 'half', caption: 'Fig. 1', source: 'own', licence: 'CC0' } }] }, // prettier-ignore
      picture: { fileId, src, alt: 'A train of wheels' },
      key: {
        kind: 'hotspot',
        regions: [{ id: 'r1', share: 100_000, region: { shape: 'ellipse', centre: { x: 0.123456, y: 0.5 }, radius: { x: 0.1, y: 0.2 } } }],
      },
    },
    { words: paragraphs('Why?'), key: { kind: 'essay' } },
    { words: paragraphs('Draw it.'), key: { kind: 'file' } },
  ];
};

async function makeQuiz(): Promise<void> {
  const canvas = createCanvas(300, 200);
  canvas.getContext('2d').fillRect(10, 10, 50, 50);
  const file = await teacher().post(`${here()}/files`).attach('file', canvas.toBuffer('image/png'), 'Räder am Zug.png').expect(200);
  const made = await teacher()
    .post(`${here()}/items`)
    .send({ unitId: school.unitId, kind: 'quiz', title: 'All kinds', position: 0 })
    .expect(200);
  quizId = made.body.id as string;
  const base = `${here()}/quizzes/${quizId}`;
  const fresh = (await teacher().get(base).expect(200)).body as QuizDetail;
  const questions = QUESTIONS(file.body.id as string);
  const sectionId = fresh.sections[0]?.id ?? '';
  await teacher().post(`${base}/questions`).send({ sectionId, position: 0, questions }).expect(200);
  const stimulus = { id: null, version: 1, title: 'A letter', document: paragraphs('I have made', 'the fourth.') };
  const { id: stimulusId } = (await teacher().put(`${here()}/bank/stimuli`).send(stimulus).expect(200)).body;
  const { id: folderId } = (await teacher().post(`${here()}/bank/folders`).send({ parentId: fresh.folderId, title: 'Pool' }).expect(200))
    .body;
  const poolIds: string[] = [];
  for (const words of ['One?', 'Two?', 'Three?']) {
    const wish = { words: paragraphs(words), key: { kind: 'essay' }, folderId, stimulusId };
    poolIds.push((await teacher().post(`${here()}/bank/questions`).send(wish).expect(200)).body.id as string);
  }
  const held = (await teacher().get(base).expect(200)).body as QuizDetail;
  const parts = (held.sections[0]?.parts ?? []).map((p, n) => ({
    ...{ id: p.id, questionId: p.question?.id ?? null, draw: null, points: (n + 1) * 500, floor: n === 0 ? null : 0 },
  }));
  const draw = {
    id: null,
    questionId: null,
    points: 2500,
    floor: 0,
    draw: { count: 2, folderId, tags: [], levels: [], objectives: [], kinds: [] },
  };
  const sections = [
    { id: sectionId, title: 'First', instructions: 'Answer all.', isShuffled: false, parts },
    { id: null, title: 'Second', instructions: '', isShuffled: true, parts: [draw] },
  ];
  await teacher().put(`${base}/paper`).send({ version: held.setting.version, sections }).expect(200);
  const setting = (await teacher().get(base).expect(200)).body.setting as QuizDetail['setting'];
  await teacher()
    .put(base)
    .send({
      version: setting.version,
      instructions: paragraphs('Read the letter first.'),
      limitMinutes: 45,
      mayGoBack: false,
      attemptsAllowed: 2,
      accessCode: 'bell',
      passPoints: 20_000,
    }) // prettier-ignore
    .expect(200);
}

let run = 0;

/** A course with a unit and nothing else, of a subject of its own, so that its bank is empty. */
async function otherCourse(): Promise<{ courseId: string; unitId: string }> {
  const { terms } = (await teacher().get('/api/course-start').expect(200)).body;
  const body = {
    ...{ code: `OTH-${(run += 1)}`, run: 'a', title: 'Elsewhere', termId: terms[0].id },
    ...{ timeZone: 'Europe/Lisbon', sections: ['All'], outline: 'empty' },
  };
  const courseId = (await teacher().post('/api/courses').send(body).expect(200)).body.id as string;
  const unitId = (await teacher().post(`/api/courses/${courseId}/units`).send({ title: 'Unit' }).expect(200)).body.id as string;
  return { courseId, unitId };
}

const packageOf = (version: QtiVersion): Promise<Buffer> =>
  bytesOf(teacher().get(`${here()}/quizzes/${quizId}/qti?version=${version}`).expect(200));

async function opened(bytes: Buffer): Promise<Zip> {
  const path = join(disk, `${(run += 1)}.zip`);
  writeFileSync(path, bytes);
  return readZip(path);
}

const bring = (courseId: string, bytes: Buffer, query = '', who = teacher()) =>
  who.post(`/api/courses/${courseId}/bank/qti${query === 'look' ? '/preview' : `?${query}`}`).attach('file', bytes, 'questions.zip');

async function brought(courseId: string, bytes: Buffer, query = ''): Promise<QtiDone> {
  const answer = await bring(courseId, bytes, query);
  if (answer.status !== 200) throw new Error(JSON.stringify(answer.body));
  return answer.body as QtiDone;
}

/** The questions in the folder of a course's subject, and in those below it. */
async function bankOf(courseId: string): Promise<readonly QuestionView[]> {
  const at = `/api/courses/${courseId}/bank`;
  const { home } = (await teacher().get(at).expect(200)).body as { home: string };
  return ((await teacher().get(`${at}?folder=${home}`).expect(200)).body as BankView).questions;
}

const quizOf = async (courseId: string, itemId: string): Promise<QuizDetail> =>
  (await teacher().get(`/api/courses/${courseId}/quizzes/${itemId}`).expect(200)).body as QuizDetail;

/** What a question says, without where it is kept: files by a name that is the same everywhere. */
const contentOf = (q: QuestionView): unknown => {
  const { ownTitle, level, tags, objectives, words, key, feedback, picture, stimulus } = q;
  const shared = stimulus === null ? null : { title: stimulus.title, document: stimulus.document };
  return JSON.parse(
    JSON.stringify({ ownTitle, level, tags, objectives, words, key, feedback, picture, shared }, (name, value: unknown) =>
      name === 'fileId' || name === 'src' ? (value === '' ? '' : 'a file') : value,
    ),
  );
};

const byWords = (list: readonly QuestionView[]): unknown[] =>
  list.map(contentOf).toSorted((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1));

describe.each(QTI_VERSIONS)('a quiz in QTI %s', (version) => {
  it('comes into another course as it was: every kind, its pictures, its shared text, sections, draws, points', async () => {
    const bytes = await packageOf(version);
    const { courseId, unitId } = await otherCourse();
    const done = await brought(courseId, bytes, `unit=${unitId}`);
    expect(done.questions.map((q) => q.problem).filter((p) => p !== '')).toEqual([]);
    expect(done.questions.flatMap((q) => q.notes)).toEqual([]);
    expect(done.quizzes).toMatchObject([{ title: 'All kinds', questions: 14, problem: '', notes: [] }]);
    const before = await quizOf(school.courseId, quizId);
    const after = await quizOf(courseId, done.quizzes[0]?.itemId ?? '');
    const fixed = (quiz: QuizDetail): QuestionView[] => quiz.sections.flatMap((s) => s.parts.flatMap((p) => p.question ?? []));
    expect(fixed(after).map(contentOf)).toEqual(fixed(before).map(contentOf));
    const pool = (list: readonly QuestionView[]): QuestionView[] => list.filter((q) => q.stimulus !== null);
    expect(byWords(pool(await bankOf(courseId)))).toEqual(byWords(pool(await bankOf(school.courseId))));
    expect(new Set(pool(await bankOf(courseId)).map((q) => q.stimulus?.id)).size).toBe(1);
    const shape = (quiz: QuizDetail): unknown =>
      quiz.sections.map(({ title, instructions, isShuffled, parts }) => ({
        ...{ title, instructions, isShuffled },
        parts: parts.map((p) => [p.points, p.floor, p.draw?.count ?? null, p.draw?.matching ?? null]),
      }));
    expect(shape(after)).toEqual(shape(before));
    const { version: _, accessCode, ...setting } = after.setting;
    expect(before.setting).toMatchObject(setting);
    // A code is made for one room and stays there.
    expect(accessCode).toBe('');
    // The picture is really here.
    const hotspot = fixed(after).find((q) => q.picture !== null);
    const file = await bytesOf(
      teacher().get(`/api/courses/${courseId}/bank/questions/${hotspot?.id}/files/${hotspot?.picture?.fileId}`).expect(200),
    );
    expect(file.subarray(1, 4).toString()).toBe('PNG');
  }, 60_000);

  it('is read by the standard alone where somebody has changed an item, and says what became otherwise', async () => {
    const zip = await opened(await packageOf(version));
    const entries: Record<string, string | Buffer> = {};
    for (const name of zip.sizes.keys()) entries[name] = await zip.readBytes(name, 1e7);
    const manifest = readQtiManifest(String(entries['imsmanifest.xml']));
    if (!manifest.ok) throw new Error(manifest.reason);
    for (const name of Object.keys(entries).filter((n) => n.startsWith('items/'))) entries[name] = `${String(entries[name])}\n`;
    zip.close();
    const { courseId } = await otherCourse();
    const done = await brought(courseId, await packZip(entries));
    expect(done.questions.map((q) => q.problem).filter((p) => p !== '')).toEqual([]);
    const kinds = done.questions.map((q) => q.kind).toSorted();
    // “Right” and “Wrong” are two answers like any others, to everybody but us.
    expect(kinds).toEqual(['blanks', 'calculated', 'essay', 'essay', 'essay', 'essay', 'file', 'hotspot', 'matching', 'numeric', 'ordering', 'short', 'several', 'single', 'single'].toSorted()); // prettier-ignore
    const lock = (await bankOf(courseId)).find((q) => q.title === 'The lock');
    expect(lock).toMatchObject({ level: 'hard', tags: ['first year', 'train'], objectives: ['2.1'] });
    expect(lock?.key).toMatchObject({ kind: 'single', hasDontKnow: true, choices: [{ share: 100_000 }, { share: -33_333 }] });
  }, 60_000);
});

describe('taking questions out', () => {
  it('is for those who teach, and names what a version cannot say and one that is none', async () => {
    const { student, assistant } = school.agents;
    await student.get(`${here()}/bank/qti?version=2.1`).expect(403);
    await student.get(`${here()}/quizzes/${quizId}/qti?version=2.1`).expect(403);
    await student.get(`${here()}/quizzes/${quizId}/qti/losses?version=2.1`).expect(403);
    await assistant.get(`${here()}/quizzes/${quizId}/qti?version=2.1`).expect(200);
    const wrong = await teacher().get(`${here()}/bank/qti?version=1.2`).expect(422);
    expect(wrong.body.detail).toContain('“1.2” is no version that can be written. There are 2.1, 2.2, 3.0.');
    const { losses, items } = (await teacher().get(`${here()}/quizzes/${quizId}/qti/losses?version=2.2`).expect(200)).body;
    expect(items).toBe(15);
    expect(losses).toEqual(['“What?”: that spaces matter.', expect.stringContaining('“Order.”: credit for a part of the order')]);
    const none = await teacher().get(`${here()}/bank/qti?version=3.0&text=nowhere`).expect(422);
    expect(none.body.detail).toContain('No question is found');
  });

  it('takes out what a search finds', async () => {
    const { home } = (await teacher().get(`${here()}/bank`).expect(200)).body as { home: string };
    const bytes = await bytesOf(teacher().get(`${here()}/bank/qti?version=3.0&tags=train&folder=${home}`).expect(200));
    const zip = await opened(bytes);
    expect([...zip.sizes.keys()].filter((name) => name.startsWith('items/'))).toHaveLength(1);
    zip.close();
  });
});

const item = (id: string, inside: string, more = ''): string => `<?xml version="1.0"?>
  <assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="${id}" title="${id}" adaptive="false" timeDependent="false">${inside}
  <responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/match_correct"/>${more}</assessmentItem>`;

const truth = (id: string): string =>
  item(
    id,
    `<responseDeclaration identifier="RESPONSE" cardinality="single" baseType="identifier"><correctResponse><value>T</value></correctResponse></responseDeclaration>
     <itemBody><p>Is it?</p><choiceInteraction responseIdentifier="RESPONSE" maxChoices="1"><simpleChoice identifier="T">True</simpleChoice><simpleChoice identifier="F">False</simpleChoice></choiceInteraction></itemBody>`,
  );

const manifest = (...paths: string[]): string =>
  `<manifest><resources>${paths.map((p, n) => `<resource identifier="r${n}" type="imsqti_item_xmlv2p1" href="${p}"><file href="${p}"/></resource>`).join('')}</resources></manifest>`;

describe('a package that somebody else made', () => {
  it('comes in item by item: what is not understood is named by item and element, and hinders no other', async () => {
    const { courseId } = await otherCourse();
    const drawing = item(
      'beads',
      '<responseDeclaration identifier="RESPONSE" cardinality="multiple" baseType="directedPair"/><itemBody><graphicGapMatchInteraction responseIdentifier="RESPONSE"/></itemBody>',
    );
    const odd = truth('odd').replace('<responseProcessing', '<responseProcessing><lookupOutcomeValue identifier="SCORE"/></responseProcessing><x').replace('match_correct"/>', '"/>'); // prettier-ignore
    const entries = {
      'imsmanifest.xml': manifest('one.xml', 'two.xml', 'three.xml', 'gone.xml', 'broken.xml'),
      ...{ 'one.xml': truth('one'), 'two.xml': drawing, 'three.xml': odd, 'broken.xml': '<assessmentItem><p>' },
    };
    const looked = await brought(courseId, await packZip(entries), 'look');
    expect(await bankOf(courseId)).toHaveLength(0);
    const done = await brought(courseId, await packZip(entries));
    expect(done.questions.map(({ id: _, ...q }) => q)).toEqual(looked.questions.map(({ id: _, ...q }) => q));
    const told = Object.fromEntries(done.questions.map((q) => [q.item, q.problem]));
    expect(told['one.xml']).toBe('');
    expect(told['two.xml']).toBe('graphicGapMatchInteraction: Questions of this kind have no place here.');
    expect(told['three.xml']).toContain('lookupOutcomeValue: ');
    expect(told['gone.xml']).toContain('The package names “gone.xml”, and it is not in it.');
    expect(told['broken.xml']).toContain('“broken.xml” cannot be read: it is no well-formed XML');
    expect((await bankOf(courseId)).map((q) => q.key.kind)).toEqual(['truth']);
    // Brought a second time it stands beside the first, and that is said before.
    const again = await brought(courseId, await packZip(entries), 'look');
    expect(again.questions[0]?.notes).toEqual([expect.stringContaining('A question with the same words is in this folder already')]);
  });

  it('keeps its order, what its manifest knows of an item, and says of an objective that is no code', async () => {
    const { courseId } = await otherCourse();
    const lom = (...codes: string[]): string =>
      `<metadata><lom><general><title><string>From the manifest</string></title><keyword><string>train</string></keyword></general>${codes.map((c) => `<classification><purpose><value>educational objective</value></purpose><keyword><string>${c}</string></keyword></classification>`).join('')}</lom></metadata>`;
    const long = 'Explains in their own words how the lever escapement locks and unlocks the train';
    const paths = ['b.xml', 'a.xml', 'c.xml'];
    const resources = paths.map((p, n) => `<resource identifier="r${n}" type="imsqti_item_xmlv2p2" href="${p}">${n === 0 ? lom('2.1', long) : ''}<file href="${p}"/></resource>`); // prettier-ignore
    const untitled = truth('b').replace('title="b"', 'title=""');
    const entries = { 'imsmanifest.xml': `<manifest><resources>${resources.join('')}</resources></manifest>`, 'a.xml': truth('a'), 'b.xml': untitled, 'c.xml': truth('c') }; // prettier-ignore
    const done = await brought(courseId, await packZip(entries));
    expect(done.questions[0]?.notes).toEqual([expect.stringContaining('is too long for the code of an objective')]);
    const bank = await bankOf(courseId);
    expect(bank.map((q) => q.title)).toEqual(['From the manifest', 'a', 'c']);
    expect(bank[0]).toMatchObject({ tags: ['train'], objectives: ['2.1'] });
  });

  it('is read without a manifest too, and as a quiz only where a unit is named', async () => {
    const { courseId, unitId } = await otherCourse();
    const test = `<assessmentTest xmlns="x" identifier="t" title="A test"><testPart identifier="p" navigationMode="linear" submissionMode="individual">
      <assessmentSection identifier="s" title="Part A" visible="true"><rubricBlock view="candidate"><p>Answer both.</p></rubricBlock>
      <assessmentItemRef identifier="i1" href="items/one.xml"><weight identifier="w" value="3"/></assessmentItemRef><assessmentItemRef identifier="i2" href="items/two.xml"/></assessmentSection></testPart></assessmentTest>`;
    const entries = { 'test.xml': test, 'items/one.xml': truth('one'), 'items/two.xml': truth('two') };
    const alone = await brought(courseId, await packZip(entries), 'look');
    expect(alone.problems.join()).toContain('There is no imsmanifest.xml');
    expect(alone.quizzes).toMatchObject([{ title: 'A test', questions: 2, itemId: null }]);
    const done = await brought(courseId, await packZip(entries), `unit=${unitId}`);
    const quiz = await quizOf(courseId, done.quizzes[0]?.itemId ?? '');
    expect(quiz.sections).toMatchObject([{ title: 'Part A', instructions: 'Answer both.', parts: [{ points: 3000 }, { points: 1000 }] }]);
    expect(quiz.setting.mayGoBack).toBe(false);
    const plan = (await teacher().get(`/api/courses/${courseId}/plan`).expect(200)).body as Plan;
    expect(plan.units.flatMap((u) => u.items).map((i) => [i.title, i.isDraft])).toEqual([['A test', true]]);
  });

  it('is refused whole where it is hostile or no package, and for those who may not edit', async () => {
    const { courseId } = await otherCourse();
    const refused = async (entries: Record<string, string>): Promise<string> =>
      (await bring(courseId, await packZip(entries)).expect(422)).body.detail as string;
    const bomb = '<!DOCTYPE a [<!ENTITY x "y">]><manifest/>';
    expect(await refused({ 'imsmanifest.xml': bomb })).toContain('declares a document type or entities');
    expect(await refused({ 'imsmanifest.xml': '<manifest><resources/></manifest>' })).toContain('names no items and no tests');
    expect(await refused({ 'notes.txt': 'x' })).toContain('holds no imsmanifest.xml at its root and no items');
    expect(await refused({ 'mine/imsmanifest.xml': manifest('a.xml') })).toContain('There is one at mine/imsmanifest.xml');
    const inside = await brought(courseId, await packZip({ 'imsmanifest.xml': manifest('a.xml'), 'a.xml': bomb }));
    expect(inside.questions[0]?.problem).toContain('declares a document type or entities');
    expect((await bring(courseId, Buffer.from('no zip at all')).expect(422)).body.detail).toContain('no zip archive');
    const { student, assistant } = school.agents;
    const one = await packZip({ 'imsmanifest.xml': manifest('one.xml'), 'one.xml': truth('one') });
    await bring(school.courseId, one, '', student).expect(403);
    await bring(school.courseId, one, '', assistant).expect(403);
    await bring(school.courseId, one, 'look', assistant).expect(403);
    await bring(courseId, one, '', student).expect(404);
  });
});
