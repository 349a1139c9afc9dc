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

describe('a search of the bank', () => {
  const find = async (text: string): Promise<readonly string[]> =>
    (
      (await school.agents.instructor.get(`/api/courses/${school.courseId}/bank?text=${encodeURIComponent(text)}`).expect(200))
        .body as BankView
    ).questions.map((q) => q.id);

  it('wants all of its words, wherever each stands: in what is asked, the answers, the feedback, the title or a tag', async () => {
    const choice = (id: string, words: string, share: number) => ({ id, words: paragraphs(words), share, feedback: null });
    const { id: single } = await add({
      title: 'Escapements',
      tags: ['week ten'],
      words: paragraphs('Which part catches the tooth?'),
      key: { kind: 'single', choices: [choice('a', 'a pallet stone', 100_000), choice('b', 'a roller', 0)], hasDontKnow: false },
      feedback: { right: null, wrong: null, general: paragraphs('Look at the banking pins.') },
    });
    const { id: pairs } = await add({
      words: paragraphs('Which belongs to which?'),
      key: {
        kind: 'matching',
        pairs: [
          { left: 'zapfen', right: 'pivot' },
          { left: 'anker', right: 'lever' },
        ],
      },
    });
    for (const words of ['pallet stone', 'stone tooth', 'STONE escapements', 'banking week roller', 'catches the'])
      expect(await find(words)).toEqual([single]);
    expect(await find('anker pivot')).toEqual([pairs]);
    expect(await find('stone pivot')).toEqual([]);
    expect(await find('100%')).toEqual([]);
    expect(await find('   ')).toEqual(expect.arrayContaining([single, pairs]));
  });

  it('does not take the names of the parts of a key for words', async () => {
    for (const name of ['choices', 'hasDontKnow', 'accepted', 'paragraph']) expect(await find(name)).toEqual([]);
  });
});
