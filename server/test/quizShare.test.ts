import { paragraphs, type BankView, type QuizDetail } from '@rosemary/api';
import { createCanvas } from '@napi-rs/canvas';
import { makeSchool, type TestSchool } from './school.ts';
import { bytesOf } from './zips.ts';

/** A whole quiz shared with a colleague who teaches something else. */
let school: TestSchool;
let quizId = '';
let there = '';
const here = (): string => `/api/courses/${school.courseId}`;
const owner = () => school.agents.instructor;
const colleague = () => school.agents.outsider;
const shares = (change: object, who = owner()) => who.patch(`${here()}/quizzes/${quizId}/shares`).send(change);
const detail = async (): Promise<QuizDetail> => (await owner().get(`${here()}/quizzes/${quizId}`).expect(200)).body as QuizDetail;
const bank = async (query = ''): Promise<BankView> => (await colleague().get(`${there}/bank?${query}`).expect(200)).body as BankView;

beforeAll(async () => {
  school = await makeSchool('quiz_share');
  there = `/api/courses/${school.otherCourseId}`;
  const made = await owner()
    .post(`${here()}/items`)
    .send({ unitId: school.unitId, kind: 'quiz', title: 'Shared', position: 0 })
    .expect(200);
  quizId = made.body.id as string;
  const picture = createCanvas(40, 30).toBuffer('image/png');
  const { id: fileId } = (await owner().post(`${here()}/files`).attach('file', picture, 'wheel.png').expect(200)).body;
  const src = `${here()}/files/${fileId}`;
  const stimulus = { id: null, version: 1, title: 'A letter', document: { type: 'doc', content: [...(paragraphs('I have made the fourth.').content ?? []), { type: 'picture', attrs: { fileId, src, alt: 'Its wheel', size: 'full', caption: '', source: '', licence: '' } }] } }; // prettier-ignore
  const { id: stimulusId } = (await owner().put(`${here()}/bank/stimuli`).send(stimulus).expect(200)).body;
  const fresh = await detail();
  const region = { shape: 'rectangle', from: { x: 0, y: 0 }, to: { x: 0.5, y: 0.5 } };
  const questions = [
    {
      words: paragraphs('Where?'),
      picture: { fileId, src, alt: 'A wheel' },
      key: { kind: 'hotspot', regions: [{ id: 'r', share: 100_000, region }] },
    },
    { words: paragraphs('Why?'), key: { kind: 'essay' }, stimulusId },
  ];
  await owner()
    .post(`${here()}/quizzes/${quizId}/questions`)
    .send({ sectionId: fresh.sections[0]?.id, position: 0, questions })
    .expect(200);
  const { id: folderId } = (await owner().post(`${here()}/bank/folders`).send({ parentId: fresh.folderId, title: 'Pool' }).expect(200))
    .body;
  for (const words of ['One?', 'Two?'])
    await owner()
      .post(`${here()}/bank/questions`)
      .send({ words: paragraphs(words), key: { kind: 'essay' }, folderId })
      .expect(200);
  const held = await detail();
  const section = held.sections[0];
  const draw = { count: 1, folderId, tags: [], levels: [], objectives: [], kinds: [] };
  const parts = [
    ...(section?.parts ?? []).map((p) => ({ id: p.id, questionId: p.question?.id, draw: null, points: 2000, floor: 0 })),
    { id: null, questionId: null, draw, points: 3000, floor: 0 },
  ];
  const sections = [{ id: section?.id, title: 'Only', instructions: 'Answer.', isShuffled: true, parts }];
  await owner().put(`${here()}/quizzes/${quizId}/paper`).send({ version: held.setting.version, sections }).expect(200);
}, 60_000);
afterAll(() => school.close());

describe('a quiz that is shared', () => {
  it('is shared by an instructor of its course alone, with somebody who is known', async () => {
    const { assistant, student } = school.agents;
    const wish = { addShare: { email: 'outsider@example.org', canEdit: false } };
    await shares(wish, assistant).expect(403);
    await shares(wish, student).expect(403);
    await shares(wish, colleague()).expect(404);
    expect((await shares({ addShare: { email: 'nobody@example.org', canEdit: false } }).expect(422)).body.detail).toContain('Nobody here has the email “nobody@example.org”'); // prettier-ignore
    expect((await shares({ addShare: { email: 'instructor@example.org', canEdit: false } }).expect(422)).body.detail).toContain('your own email'); // prettier-ignore
    await shares({}).expect(422);
    expect((await bank()).quizzes).toEqual([]);
    // Nor is its shared text to be had by its name alone.
    const stimulusId = (await detail()).sections[0]?.parts[1]?.question?.stimulus?.id;
    const taken = { words: paragraphs('Why?'), key: { kind: 'essay' }, stimulusId };
    await colleague().post(`${there}/bank/questions`).send(taken).expect(404);
    expect((await shares(wish).expect(200)).body.shares).toMatchObject([{ canEdit: false }]);
    expect((await detail()).shares).toMatchObject([{ canEdit: false }]);
  });

  it('is read, and not changed, by whom it is shared with to read', async () => {
    const { quizzes } = await bank();
    expect(quizzes).toMatchObject([{ itemId: quizId, title: 'Shared', canEdit: false }]);
    const { questions, total } = await bank(`quiz=${quizId}`);
    expect(total).toBe(4);
    expect(questions.map((q) => [q.title, q.canEdit]).toSorted()).toEqual([['One?', false], ['Two?', false], ['Where?', false], ['Why?', false]]); // prettier-ignore
    expect((await bank(`quiz=${quizId}&text=Whe`)).questions).toHaveLength(1);
    const where = questions.find((q) => q.title === 'Where?');
    await colleague().put(`${there}/bank/questions/${where?.id}`).send({ version: where?.version, title: 'Mine' }).expect(404);
    const file = await bytesOf(colleague().get(`${there}/bank/questions/${where?.id}/files/${where?.picture?.fileId}`).expect(200));
    expect(file.subarray(1, 4).toString()).toBe('PNG');
    // One question of it, with its picture, as a copy of one’s own.
    const copy = (await colleague().post(`${there}/bank/questions/${where?.id}/copies`).expect(200)).body;
    expect(copy).toMatchObject({ title: 'Where?', canEdit: true });
    await bytesOf(colleague().get(`${there}/bank/questions/${copy.id}/files/${copy.picture.fileId}`).expect(200));
    // Nothing of the quiz itself, and nothing of its students.
    await colleague().get(`${here()}/quizzes/${quizId}`).expect(404);
    await colleague().get(`${here()}/quizzes/${quizId}/results`).expect(404);
    await school.agents.student.get(`${there}/bank?quiz=${quizId}`).expect(404);
  });

  it('becomes a quiz of one’s own, its draws and shared text with it, that goes its own way', async () => {
    const { id: unitId } = (await colleague().post(`${there}/units`).send({ title: 'Unit' }).expect(200)).body;
    const { itemId } = (await colleague().post(`${there}/bank/quizzes/${quizId}/copies`).send({ unitId }).expect(200)).body;
    const copy = (await colleague().get(`${there}/quizzes/${itemId}`).expect(200)).body as QuizDetail;
    expect(copy).toMatchObject({ title: 'Shared', isDraft: true, possible: 7000, faults: [] });
    expect(copy.sections).toMatchObject([
      {
        ...{ title: 'Only', instructions: 'Answer.', isShuffled: true },
        parts: [
          { points: 2000, question: { title: 'Where?', canEdit: true } },
          { points: 2000, question: { title: 'Why?', canEdit: true, stimulus: { title: 'A letter' } } },
          { points: 3000, draw: { count: 1, matching: 2 } },
        ],
      },
    ]);
    // The picture of the shared text came along as well.
    const why = copy.sections[0]?.parts[1]?.question;
    const pictured = /"fileId":"([^"]+)"/.exec(JSON.stringify(why?.stimulus?.document))?.[1];
    await bytesOf(colleague().get(`${there}/bank/questions/${why?.id}/files/${pictured}`).expect(200));
    const [first] = copy.sections[0]?.parts ?? [];
    await colleague()
      .put(`${there}/bank/questions/${first?.question?.id}`)
      .send({ version: first?.question?.version, title: 'Mine' })
      .expect(200);
    expect((await detail()).sections[0]?.parts[0]?.question?.title).toBe('Where?');
    // Its paper can be changed like any other.
    const sections = copy.sections.map((s) => ({ ...s, parts: s.parts.map((p) => ({ id: p.id, questionId: p.question?.id ?? null, points: 1000, floor: 0, draw: p.draw === null ? null : { count: 1, folderId: p.draw.folderId, tags: [], levels: [], objectives: [], kinds: [] } })) })); // prettier-ignore
    await colleague().put(`${there}/quizzes/${itemId}/paper`).send({ version: copy.setting.version, sections }).expect(200);
    await school.agents.student.post(`${there}/bank/quizzes/${quizId}/copies`).send({ unitId }).expect(404);
    await owner().post(`${here()}/bank/quizzes/${quizId}/copies`).send({ unitId: school.unitId }).expect(404);
  });

  it('has its questions changed by whom it is shared with to edit, until that is ended', async () => {
    await shares({ addShare: { email: 'outsider@example.org', canEdit: true } }).expect(200);
    const { questions } = await bank(`quiz=${quizId}`);
    const why = questions.find((q) => q.title === 'Why?');
    expect(why?.canEdit).toBe(true);
    const done = await colleague().put(`${there}/bank/questions/${why?.id}`).send({ version: why?.version, title: 'Why so?' }).expect(200);
    expect(done.body.question.title).toBe('Why so?');
    expect((await detail()).sections[0]?.parts[1]?.question?.title).toBe('Why so?');
    // The bank of the other subject stays closed.
    const one = questions.find((q) => q.title === 'One?');
    expect(one?.canEdit).toBe(false);
    await colleague().put(`${there}/bank/questions/${why?.id}`).send({ version: done.body.version, folderId: one?.folderId }).expect(404);
    const { personId } = (await detail()).shares[0] ?? {};
    await shares({ endShare: personId }).expect(200);
    expect((await bank()).quizzes).toEqual([]);
    await colleague().get(`${there}/bank?quiz=${quizId}`).expect(404);
    await colleague().get(`${there}/bank/questions/${why?.id}`).expect(404);
  });
});
