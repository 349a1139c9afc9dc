import { paragraphs, type GivenScores, type QuestionAnswers } from '@rosemary/api';
import { openQuiz, type TestQuiz } from './quizHelp.ts';
import { makeSchool, START, type TestSchool } from './school.ts';

/** Answers to one question marked as one act: all or none, by the version that was seen, with one way back. */
let school: TestSchool;
let quiz: TestQuiz;
const essay = { words: paragraphs('What is drop?'), points: 10_000, key: { kind: 'essay' } };
beforeAll(async () => {
  school = await makeSchool('mark_alike');
  school.clock.at = START;
  quiz = await openQuiz(school, [essay]);
  for (const who of ['student', 'second'] as const)
    await quiz.take(who, [{ kind: 'work', document: paragraphs('Exactly so.'), fileId: null }]);
}, 60_000);
afterAll(() => school.close());
const questionId = async (): Promise<string> => (await quiz.detail()).sections[0]?.parts[0]?.question?.id ?? '';
const read = async (): Promise<QuestionAnswers['answers']> =>
  ((await school.agents.instructor.get(`${quiz.base}/questions/${await questionId()}/answers`).expect(200)).body as QuestionAnswers)
    .answers;
const put = async (body: GivenScores) => school.agents.instructor.put(`${quiz.base}/questions/${await questionId()}/scores`).send(body);

describe('several answers marked together', () => {
  it('have their points as one act, and Undo gives each back what it had', async () => {
    const [one, two] = await read();
    await put({ scores: [{ attemptId: two?.attemptId ?? '', points: 2500, reason: 'My own words.', version: two?.version ?? 0 }] });
    const seen = await read();
    const scores = seen.map((a) => ({ attemptId: a.attemptId, points: 3000, reason: 'As the others.', version: a.version }));
    const done = await put({ scores });
    expect(done.status).toBe(200);
    expect((await read()).map((a) => [a.given, a.reason])).toEqual([
      [3000, 'As the others.'],
      [3000, 'As the others.'],
    ]);
    expect((await put(done.body as GivenScores)).status).toBe(200);
    const back = new Map((await read()).map((a) => [a.attemptId, [a.given, a.reason]]));
    expect(back.get(one?.attemptId ?? '')?.[0]).toBeNull();
    expect(back.get(two?.attemptId ?? '')).toEqual([2500, 'My own words.']);
  });
  it('are marked all or none: what was marked meanwhile is not written over', async () => {
    const [one, two] = await read();
    const stale = {
      scores: [one, two].map((a, n) => ({ attemptId: a?.attemptId ?? '', points: 1000, reason: '', version: (a?.version ?? 0) - n })),
    };
    expect((await put(stale)).status).toBe(409);
    expect((await read()).map((a) => a.given)).toEqual([one?.given, two?.given]);
  });
  it('by staff alone', async () => {
    const body = { scores: [{ attemptId: (await read())[0]?.attemptId, points: 1000, reason: '', version: 1 }] };
    await school.agents.student
      .put(`${quiz.base}/questions/${await questionId()}/scores`)
      .send(body)
      .expect(403);
  });
});
