import { paragraphs, type BankView, type QuestionView } from '@rosemary/api';
import { KEY_RULES } from '@rosemary/core';
import { checkOldKeys } from '../src/bank/index.ts';
import { rows, withDb } from '../src/index.ts';
import { openQuiz } from './quizHelp.ts';
import { doJob, makeSchool, type TestSchool } from './school.ts';

/** Keys that somebody wrote: what they cost, what keeps them from being asked, and that this is found once. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('keys');
}, 60_000);
afterAll(() => school.close());

const bank = (): string => `/api/courses/${school.courseId}/bank/questions`;
const calculated = (formula: string, conditions: readonly string[] = []) => ({
  words: paragraphs(`Work out ${formula}.`),
  key: {
    kind: 'calculated',
    question: {
      parameters: [{ name: 'x', from: '1', to: '5', step: '1', decimals: 0 }],
      conditions,
      formula,
      tolerance: { kind: 'relative', percent: '1' },
    },
    rules: { units: [], isUnitNeeded: false, decimals: null, isSignFree: false },
  },
});
const pattern = (text: string) => ({
  words: paragraphs('What locks the wheel?'),
  key: { kind: 'short', rules: { accepted: [{ text, isPattern: true, share: 100_000 }], caseMatters: false, spaceMatters: false } },
});
const add = async (question: object): Promise<QuestionView> =>
  (await school.agents.instructor.post(bank()).send(question).expect(200)).body as QuestionView;
const read = async (id: string): Promise<QuestionView> =>
  ((await school.agents.instructor.get(`${bank()}/${id}`).expect(200)).body as { question: QuestionView }).question;

describe('a key that costs too much', () => {
  it.each([
    [
      'a formula',
      calculated('x', ['sin(exp(x * 20)) > 2', 'exp(-x * 1000000) > 1']),
      'Working out the values of one student takes too long',
    ],
    ['a pattern', pattern('(a?){900}a{900}'), 'takes too long to compare'],
  ])('is kept as it was typed, and says so: %s', async (_, question, said) => {
    const made = await add(question);
    expect(made.faults.join(' ')).toContain(said);
    const tried = await school.agents.instructor
      .post(`${bank()}/${made.id}/rehearsal`)
      .send({ seed: 'x', answer: { kind: 'text', text: 'a'.repeat(900) } })
      .expect(200);
    expect(JSON.stringify(tried.body)).not.toContain('"share":"100"');
  });
});

describe('values without an answer', () => {
  it('are drawn again where there are few, and every student is asked', async () => {
    const quiz = await openQuiz(school, [calculated('1 / (x - 3)')]);
    for (const who of ['student', 'second'] as const) {
      const taking = await quiz.taking(who, await quiz.begin(who));
      expect(taking.sections.flatMap((s) => s.questions)).toHaveLength(1);
    }
  });
  it('keep a quiz closed where there are many, with the question and the reason', async () => {
    const refused = openQuiz(school, [calculated('1 / (x - 3)', ['x > 2', 'x < 5'])]);
    await expect(refused).rejects.toThrow();
    const { body } = await school.agents.instructor.get(`/api/courses/${school.courseId}/plan`).expect(200);
    const item = (body as { units: { items: { id: string; version: number; isDraft: boolean; kind: string }[] }[] }).units
      .flatMap((u) => u.items)
      .find((i) => i.kind === 'quiz' && i.isDraft);
    const answer = await school.agents.instructor
      .patch(`/api/courses/${school.courseId}/items/${item?.id}`)
      .send({ version: item?.version, isDraft: false })
      .expect(422);
    expect(answer.body.pointers[0]).toMatchObject({ field: 'isDraft' });
    expect(answer.body.detail).toMatch(
      /cannot be opened, because of its question “Work out .*With x = 3 it is divided by zero.*Rule such values out/,
    );
  });
});

describe('what keeps a question from being asked', () => {
  it('is found when it is written, and read from then on', async () => {
    const { id } = await add(calculated('x / 2'));
    await school.pool.query(`update question_version set faults = '["Kept."]' where question_id = $1`, [id]);
    expect((await read(id)).faults).toEqual(['Kept.']);
    const { version } = await read(id);
    const { words, key } = calculated('x +');
    await school.agents.instructor.put(`${bank()}/${id}`).send({ version, words, key }).expect(200);
    expect((await read(id)).faults).toEqual([expect.stringContaining('cannot be read')]);
  });
  it('is found again where it was found by older rules, at once for whoever looks, and kept by the job', async () => {
    const { id } = await add(calculated('x +'));
    await school.pool.query(`update question_version set faults = '[]', faults_by = 0 where question_id = $1`, [id]);
    expect((await read(id)).faults).toEqual([expect.stringContaining('cannot be read')]);
    const list = (await school.agents.instructor.get(`/api/courses/${school.courseId}/bank?text=Work`).expect(200)).body as BankView;
    expect(list.questions.find((q) => q.id === id)?.faults).toHaveLength(1);
    expect(await doJob(school, checkOldKeys)).toBe(1);
    const kept = await withDb(school.pool, false, (db) =>
      rows<{ faults: string[]; faults_by: number }>(db, 'select faults, faults_by from question_version where question_id = $1', [id]),
    );
    expect(kept).toEqual([{ faults: [expect.stringContaining('cannot be read')], faults_by: KEY_RULES }]);
    expect(await doJob(school, checkOldKeys)).toBe(0);
  });
});
