import { paragraphs } from '@rosemary/api';
import { releaseMarks } from '../src/markRelease/releases.ts';
import { HOUR, lever, openQuiz, type TestQuiz } from './quizHelp.ts';
import { doJob, makeSchool, START, type TestSchool } from './school.ts';

/** Nothing of a quiz is told before its time: not the score, not the key, not the feedback, in no answer a student can get. */
let school: TestSchool;

beforeAll(async () => {
  school = await makeSchool('hidden_scores');
}, 60_000);

afterAll(() => school.close());

beforeEach(() => {
  school.clock.at = START;
});

const A = { kind: 'choice', id: 'a' };

/** An answer worth half of 1.37 points, so that its score is a number that stands nowhere else. */
const B = { kind: 'choice', id: 'b' };

function halfRight() {
  const question = lever('Which part locks?', 1370);
  const choices = question.key.choices.map((c) =>
    c.id === 'b' ? { ...c, share: 50_000, feedback: paragraphs('Feedback of an answer') } : c,
  );
  return {
    ...question,
    key: { ...question.key, choices },
    feedback: { right: null, wrong: paragraphs('Feedback when incorrect'), general: null },
  };
}

const at = (ms: number): string => new Date(ms).toISOString();

const when = (kind: 'never' | 'at once' | 'closed') => ({ kind });

const all = (one: object) => ({ score: one, answers: one, key: one, feedback: one });

const window = { kind: 'window', from: at(START + 2 * HOUR), to: at(START + 3 * HOUR) };

/** Everything a student can ask for that could tell of a result. */
async function everyAnswer(quiz: TestQuiz, attemptId: string): Promise<string> {
  const course = `/api/courses/${school.courseId}`;
  const paths = [
    ...[`${course}/own/items/${quiz.itemId}`, `${course}/own/grades`, `${course}/own/week`, `${course}/own/outline`, course],
    ...['/api/this-week', '/api/notices', '/api/me', '/api/find?q=quiz', '/api/calendar', `${course}/calendar`, `${course}/messages`],
    ...[`${quiz.own}/attempts/${attemptId}/review`, `${quiz.own}/attempts/${attemptId}/time`],
  ];
  const texts: string[] = [];
  for (const path of paths) texts.push(JSON.stringify((await school.agents.student.get(path)).body));
  const again = await school.agents.student.post(`${quiz.own}/attempts`).send({ key: crypto.randomUUID(), code: '' });
  return [...texts, JSON.stringify(again.body)].join('\n');
}

const SCORE = /\b0\.685\b|\b685\b/;

const KEY = /"choiceIds":\["a"/;

const FEEDBACK = /Feedback (of an answer|when incorrect)/;

const tells = (text: string) => ({ score: SCORE.test(text), key: KEY.test(text), feedback: FEEDBACK.test(text) });

const NOTHING = { score: false, key: false, feedback: false };

const ALL = { score: true, key: true, feedback: true };

describe.each([
  // rule, how it is released, then what is told: when handed in, in a window, after closing
  ['at once', all(when('at once')), 'finished', [ALL, ALL, ALL]],
  ['after closing', all(when('closed')), 'finished', [NOTHING, NOTHING, ALL]],
  ['in a window', all(window), 'finished', [NOTHING, ALL, { score: true, key: false, feedback: false }]],
  ['never', all(when('never')), 'finished', [NOTHING, NOTHING, NOTHING]],
  [
    'only the score, after closing',
    { ...all(when('never')), score: when('closed') },
    'finished',
    [NOTHING, NOTHING, { ...NOTHING, score: true }],
  ],
  ['at once, the mark released by hand', { ...all(when('never')), score: when('at once') }, 'hand', [NOTHING, NOTHING, NOTHING]],
  [
    'at once, the mark released at a date',
    { ...all(when('never')), score: when('at once') },
    'date',
    [NOTHING, NOTHING, { ...NOTHING, score: true }],
  ],
] as const)('what a student is told where the score is seen %s', (_, review, releaseMode, [early, inWindow, late]) => {
  it('is what the rule says at each time', async () => {
    const release = releaseMode === 'date' ? { releaseMode, releaseAt: at(START + 4 * HOUR) } : { releaseMode };
    const quiz = await openQuiz(school, [halfRight()], { attemptsAllowed: 1, review }, release);
    const attemptId = await quiz.take('student', [B]);
    const job = () => doJob(school, releaseMarks);
    for (const [hours, told] of [
      [0, early],
      [2.5, inWindow],
      [4.5, late],
    ] as const) {
      school.clock.at = START + hours * HOUR;
      await job();
      const text = await everyAnswer(quiz, attemptId);
      expect({ hours, ...tells(text) }).toEqual({ hours, ...told });
    }
    // Its score must not be found by the next.
    await school.agents.instructor.delete(`/api/courses/${school.courseId}/items/${quiz.itemId}`).expect(200);
  });
});

describe('rules about the score that contradict each other', () => {
  it('cannot be made, from either side', async () => {
    const quiz = await openQuiz(school, [lever()], {}, { releaseMode: 'hand' });
    const { version } = (await quiz.detail()).setting;
    const late = await school.agents.instructor
      .put(quiz.base)
      .send({ version, review: { ...all(when('at once')), score: when('closed') } });
    expect([late.status, late.body.detail]).toEqual([422, expect.stringContaining('released by hand, and the score is seen then')]);
    const retry = await school.agents.instructor.put(quiz.base).send({ version, retryUntil: 1000 });
    expect([retry.status, retry.body.detail]).toEqual([422, expect.stringContaining('the score must be seen at once')]);
    const other = await openQuiz(school, [lever()], { review: { ...all(when('at once')), score: when('never') } });
    const item = (await school.agents.instructor.get(`/api/courses/${school.courseId}/items/${other.itemId}`)).body.item;
    const hand = await school.agents.instructor
      .patch(`/api/courses/${school.courseId}/items/${other.itemId}`)
      .send({ version: item.version, releaseMode: 'date', releaseAt: at(START) });
    expect([hand.status, hand.body.pointers[0].field]).toEqual([422, 'releaseMode']);
  });
  it('nor a mark of attainment that nobody can reach', async () => {
    const quiz = await openQuiz(school, [lever()]);
    const { version } = (await quiz.detail()).setting;
    const merit = await school.agents.instructor.put(quiz.base).send({ version, passPoints: 1000, meritPoints: 20_000 });
    expect([merit.status, merit.body.detail]).toEqual([422, '20 points cannot be reached: the quiz has 2. Type no more than that.']);
  });
});

describe('a mark that was taken back from a student', () => {
  it('is not given out again by the minute’s work', async () => {
    const quiz = await openQuiz(school, [lever()], {}, { releaseMode: 'date', releaseAt: at(START + HOUR) });
    await quiz.take('student', [A]);
    const job = (): Promise<number> => doJob(school, releaseMarks);
    school.clock.at = START + 2 * HOUR;
    await job();
    const marking = `/api/courses/${school.courseId}/marking/${quiz.itemId}`;
    await school.agents.instructor
      .post(`${marking}/withhold`)
      .send({ enrolmentIds: [school.students[0]] })
      .expect(200);
    expect(await job()).toBe(0);
    const grades = await school.agents.student.get(`/api/courses/${school.courseId}/own/items/${quiz.itemId}`).expect(200);
    expect(grades.body.returned).toBeNull();
  });
});
