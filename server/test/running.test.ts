import type { RunningAsked } from '@rosemary/api';
import { handInQuizzes } from '../src/quizTaking/index.ts';
import { HOUR, lever, openQuiz, type TestQuiz } from './quizHelp.ts';
import { doJob, makeSchool, START, type TestSchool } from './school.ts';

/** Whatever a teacher changes, those who are taking a quiz keep what they began under, unless it is said that it is for them too. */
const A = { kind: 'choice', id: 'a' };
const MINUTE = 60_000;
const DAY = 24 * HOUR;
let school: TestSchool;
let quiz: TestQuiz;
let attemptId: string;
beforeAll(async () => {
  school = await makeSchool('running');
}, 60_000);
afterAll(() => school.close());
beforeEach(async () => {
  school.clock.at = START;
  const closesAt = new Date(START + 5 * DAY).toISOString();
  quiz = await openQuiz(school, [lever(), lever('Which part turns?')], { limitMinutes: 60, attemptsAllowed: 2 }, { closesAt });
  attemptId = await quiz.begin('student');
});

type For = 'keep' | 'give' | null;
const teacher = () => school.agents.instructor;
const withChoice = <R extends { set: (name: string, value: string) => R }>(request: R, choice: For): R =>
  choice === null ? request : request.set('x-running', choice);
const setting = async (change: object, choice: For = null) =>
  withChoice(teacher().put(quiz.base), choice).send({ version: (await quiz.detail()).setting.version, ...change });
const item = async (change: object, choice: For = null) => {
  const path = `/api/courses/${school.courseId}/items/${quiz.itemId}`;
  const { version } = (await teacher().get(path).expect(200)).body.item;
  return withChoice(teacher().patch(path), choice).send({ version, ...change });
};
const asked = (answer: { body: { current?: unknown } }): RunningAsked => answer.body.current as RunningAsked;
const endsAt = async (who: 'student' | 'second' = 'student', id = attemptId): Promise<string | null> => (await quiz.taking(who, id)).endsAt;
const at = (ms: number): string => new Date(ms).toISOString();

describe('a change while somebody is taking a quiz', () => {
  it('is not made before it is said whom it is for, and names whom and what', async () => {
    const answer = await setting({ limitMinutes: 1 });
    expect([answer.status, answer.body.type]).toEqual([409, 'urn:rosemary:running']);
    expect(answer.body.detail).toMatch(
      /^1 student is taking “Quiz .*” now, and this changes the time limit\. Nothing was changed: say first whether it is for them too\.$/,
    );
    expect(asked(answer)).toMatchObject({
      fields: ['the time limit'],
      canKeep: true,
      running: [{ name: 'First Tester', begunAt: at(START) }],
    });
    expect((await quiz.detail()).setting.limitMinutes).toBe(60);
    await school.agents.student.get(quiz.base).expect(403);
  });

  it('of the time is for those who begin later, unless it is given to those who are at it too', async () => {
    expect((await setting({ limitMinutes: 1 }, 'keep')).status).toBe(200);
    school.clock.at = START + 10 * MINUTE;
    expect(await doJob(school, handInQuizzes)).toBe(0);
    expect(await endsAt()).toBe(at(START + HOUR));
    const other = await quiz.begin('second');
    expect(await endsAt('second', other)).toBe(at(START + 11 * MINUTE));
    // What was kept once is asked again with the next change.
    expect(asked(await setting({ limitMinutes: 30 })).running).toHaveLength(2);
    expect((await setting({ limitMinutes: 30 }, 'give')).status).toBe(200);
    expect(await endsAt()).toBe(at(START + 30 * MINUTE));
  });

  it('of when it closes does not hand in what is running, whoever writes it', async () => {
    const sooner = at(START + 10 * MINUTE);
    expect(asked(await item({ closesAt: sooner })).fields).toEqual(['when it closes']);
    const { status } = await item({ closesAt: sooner }, 'keep');
    expect(status).toBe(200);
    school.clock.at = START + 20 * MINUTE;
    await doJob(school, handInQuizzes);
    expect(await endsAt()).toBe(at(START + HOUR));
    expect((await item({ closesAt: at(START + 30 * MINUTE) }, 'give')).status).toBe(200);
    expect(await endsAt()).toBe(at(START + 30 * MINUTE));
    // By the dates of a section, in another request altogether.
    const dates = [
      { sectionId: school.sections[0], enrolmentId: null, groupId: null, opensAt: null, dueAt: null, closesAt: at(START + 25 * MINUTE) },
    ];
    const own = await teacher().put(`/api/courses/${school.courseId}/items/${quiz.itemId}/variants`).send({ variants: dates });
    expect([own.status, asked(own).running.map((r) => r.name)]).toEqual([409, ['First Tester']]);
  });

  it('of paging, order of answers, and what is noted is as it was for who has begun', async () => {
    const before = (await quiz.taking('student', attemptId)).setting;
    const change = {
      layout: before.layout === 'one' ? 'page' : 'one',
      mayGoBack: !before.mayGoBack,
      allowsCalculator: !before.allowsCalculator,
      recordsLeaving: !before.recordsLeaving,
    };
    expect((await setting(change, 'keep')).status).toBe(200);
    expect((await quiz.taking('student', attemptId)).setting).toEqual(before);
    // Going back is asked where an answer is saved, too.
    await quiz.answer('student', attemptId, [null, A]);
    await quiz.answer('student', attemptId, [A]);
    expect((await quiz.taking('second', await quiz.begin('second'))).setting).toMatchObject(change);
    expect((await setting({ mayGoBack: before.mayGoBack })).status).toBe(409);
  });

  it('of the number of attempts leaves those who have begun what they were told', async () => {
    expect((await setting({ attemptsAllowed: 1 }, 'keep')).status).toBe(200);
    await quiz.handIn('student', attemptId);
    const second = await quiz.begin('student');
    await quiz.handIn('student', second);
    await quiz.take('second', [null]);
    const again = await school.agents.second.post(`${quiz.own}/attempts`).send({ key: 'once more', code: '' });
    expect([again.status, again.body.detail]).toEqual([409, 'You have taken this once, which is all there is.']);
  });

  it('of what is shown afterwards is as they were told, until it is changed once more after they handed in', async () => {
    const { review } = (await quiz.detail()).setting;
    const [open, never] = [{ kind: 'at once' }, { kind: 'never' }];
    expect((await setting({ review: { ...review, score: open, answers: open } }, 'give')).status).toBe(200);
    const closed = { ...review, score: never, answers: never, key: never, feedback: never };
    expect((await setting({ review: closed }, 'keep')).status).toBe(200);
    await quiz.answer('student', attemptId, [A]);
    await quiz.handIn('student', attemptId);
    expect((await quiz.review('student', attemptId)).attempt.scoreText).toBe('2');
    const other = await quiz.take('second', [A]);
    expect((await quiz.review('second', other)).attempt.scoreText).toBeNull();
    expect((await setting({ review: { ...closed, answers: { kind: 'closed' } } })).status).toBe(200);
    expect((await quiz.review('student', attemptId)).sections.flatMap((s) => s.questions)[0]?.answer ?? null).toBeNull();
  });

  it('that takes the quiz from them can only be for them too', async () => {
    const answer = await item({ isDraft: true });
    expect([answer.status, asked(answer).canKeep]).toEqual([409, false]);
    const kept = await item({ isDraft: true }, 'keep');
    expect([kept.status, kept.body.detail]).toEqual([
      409,
      'Nobody can go on with a quiz they no longer have. Wait until they have handed in, or take it from them too.',
    ]);
    expect((await item({ isDraft: true }, 'give')).status).toBe(200);
  });

  it('that touches none of their terms asks nobody', async () => {
    expect((await setting({ accessCode: 'lantern', allowedAddresses: ['192.0.2.0/24'], passPoints: 1000 })).status).toBe(200);
    expect((await item({ title: 'Another name', closesAt: at(START + 5 * DAY) })).status).toBe(200);
    expect((await quiz.taking('student', attemptId)).attemptId).toBe(attemptId);
  });
});
