import { createCanvas } from '@napi-rs/canvas';
import {
  type CorrectableQuestion,
  type OwnQuiz,
  type PaperReview,
  paragraphs,
  type QuestionAnswers,
  type QuestionTableDone,
  type QuizDetail,
  type QuizResults,
  type QuizStatistics,
  type StudentItem,
  type Taking,
} from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { rows, run, withDb } from '../src/index.ts';
import { recordResult } from '../src/quizTaking/index.ts';
import { markAgain } from '../src/quizResults/corrections.ts';
import { handInQuizzes } from '../src/quizTaking/jobs.ts';
import { columnOf, doJob, makeSchool, START, type TestSchool } from './school.ts';

/** A quiz from its making to its figures, by role, on the real database. */
let school: TestSchool;

let itemId: string;

const MINUTE = 60_000;

const HOUR = 60 * MINUTE;

beforeAll(async () => {
  school = await makeSchool('quiz');
}, 60_000);

afterAll(() => school.close());

const choice = (id: string, words: string, share = 0) => ({ id, words: paragraphs(words), share, feedback: null });

const single = (words: string) => ({
  words: paragraphs(words),
  key: {
    kind: 'single',
    hasDontKnow: false,
    choices: [choice('a', 'the lever', 100_000), choice('b', 'the roller'), choice('c', 'the barrel')],
  },
});

const numeric = {
  words: paragraphs('How many beats an hour?'),
  key: {
    kind: 'numeric',
    rules: {
      accepted: [{ value: '28800', tolerance: { kind: 'absolute', amount: '0' }, share: 100_000 }],
      units: [],
      isUnitNeeded: false,
      decimals: null,
      isSignFree: false,
    },
  },
};

const short = {
  words: paragraphs('What locks the wheel?'),
  key: {
    kind: 'short',
    rules: { accepted: [{ text: 'pallet', isPattern: false, share: 100_000 }], caseMatters: false, spaceMatters: false },
  },
};

const essay = { words: paragraphs('Describe the drop.'), key: { kind: 'essay' } };

const base = (): string => `/api/courses/${school.courseId}/quizzes/${itemId}`;

const own = (): string => `/api/courses/${school.courseId}/own/quizzes/${itemId}`;

const detail = async (): Promise<QuizDetail> => (await school.agents.instructor.get(base()).expect(200)).body as QuizDetail;

/** A quiz of its own with these questions, open now. */
async function makeQuiz(questions: readonly object[], setting: object = {}, item: object = {}): Promise<void> {
  school.clock.at = START;
  const made = await school.agents.instructor
    .post(`/api/courses/${school.courseId}/items`)
    .send({ unitId: school.unitId, kind: 'quiz', title: `Quiz ${randomUUID().slice(0, 6)}`, position: 0 })
    .expect(200);
  itemId = made.body.id as string;
  const fresh = await detail();
  if (questions.length > 0)
    await school.agents.instructor
      .post(`${base()}/questions`)
      .send({ sectionId: fresh.sections[0]?.id, position: 0, questions })
      .expect(200);
  const now = await detail();
  if (Object.keys(setting).length > 0)
    await school.agents.instructor
      .put(base())
      .send({ version: now.setting.version, ...setting })
      .expect(200);
  const plan = await school.agents.instructor.get(`/api/courses/${school.courseId}/items/${itemId}`).expect(200);
  await school.agents.instructor
    .patch(`/api/courses/${school.courseId}/items/${itemId}`)
    .send({ version: plan.body.item.version, isDraft: false, closesAt: new Date(START + 4 * HOUR).toISOString(), ...item })
    .expect(200);
}

type Who = 'student' | 'second';

async function beginAs(who: Who, code = ''): Promise<string> {
  const answer = await school.agents[who].post(`${own()}/attempts`).send({ key: randomUUID(), code }).expect(200);
  return answer.body.attemptId as string;
}

const taking = async (who: Who, attemptId: string): Promise<Taking> =>
  ((await school.agents[who].get(`${own()}/attempts/${attemptId}`).expect(200)).body as { taking: Taking }).taking;

const questionIds = (t: Taking): string[] => t.sections.flatMap((s) => s.questions).map((q) => q.id);

let turn = 0;

const save = (who: Who, attemptId: string, questionId: string, answer: object | null, more: object = {}) => {
  turn += 1;
  return school.agents[who]
    .put(`${own()}/attempts/${attemptId}/answers/${questionId}`)
    .send({ answer, isFlagged: false, device: `${who}-one`, turn, seen: 0, seconds: 4, ...more });
};

const handIn = (who: Who, attemptId: string) => school.agents[who].post(`${own()}/attempts/${attemptId}/hand-in`);

const review = async (who: Who, attemptId: string): Promise<PaperReview> =>
  (await school.agents[who].get(`${own()}/attempts/${attemptId}/review`).expect(200)).body as PaperReview;

const ownQuiz = async (who: Who): Promise<OwnQuiz> => {
  const { body } = await school.agents[who].get(`/api/courses/${school.courseId}/own/items/${itemId}`).expect(200);
  return (body as StudentItem).quiz as OwnQuiz;
};

const grade = (n: 0 | 1): Promise<{ raw: string | null; is_released: boolean }[]> =>
  withDb(school.pool, false, (db) =>
    rows(db, 'select raw, is_released from work_grade where item_id = $1 and enrolment_id = $2', [itemId, school.students[n]]),
  );

/** Takes the whole quiz with these answers in the order of its questions. */
async function take(who: Who, answers: readonly (object | null)[]): Promise<string> {
  const attemptId = await beginAs(who);
  const ids = questionIds(await taking(who, attemptId));
  for (const [n, answer] of answers.entries()) if (answer !== null) await save(who, attemptId, ids[n] ?? '', answer).expect(200);
  await handIn(who, attemptId).expect(200);
  return attemptId;
}

const A = { kind: 'choice', id: 'a' };

const B = { kind: 'choice', id: 'b' };

describe('making a quiz', () => {
  it('has the points of its questions, which join the bank of the subject', async () => {
    await makeQuiz([{ ...single('Which part locks?'), points: 2000 }, numeric]);
    const quiz = await detail();
    expect([quiz.possible, quiz.questions, quiz.faults]).toEqual([3000, 2, []]);
    const bank = await school.agents.instructor.get(`/api/courses/${school.courseId}/bank?text=locks`).expect(200);
    expect(bank.body.questions.map((q: { title: string }) => q.title)).toContain('Which part locks?');
  });

  it('says what is wrong with a key, and with a draw that cannot be filled', async () => {
    await makeQuiz(
      [
        {
          ...numeric,
          key: {
            ...numeric.key,
            rules: { ...numeric.key.rules, accepted: [{ value: '1', tolerance: { kind: 'absolute', amount: '-1' }, share: 100_000 }] },
          },
        },
      ],
      {},
      { isDraft: true },
    );
    const { body } = await school.agents.instructor.get(`/api/courses/${school.courseId}/items/${itemId}`).expect(200);
    const open = await school.agents.instructor
      .patch(`/api/courses/${school.courseId}/items/${itemId}`)
      .send({ version: body.item.version, isDraft: false })
      .expect(422);
    expect(open.body.detail).toContain('The tolerance is “-1”, which is below zero.');
    const quiz = await detail();
    expect(quiz.faults.join()).toContain('The tolerance is “-1”, which is below zero. Give 0 or more.');
    const draw = { count: 9, folderId: quiz.folderId, tags: ['nothing has this'], levels: [], objectives: [], kinds: [] };
    const section = quiz.sections[0];
    const saved = await school.agents.instructor
      .put(`${base()}/paper`)
      .send({
        version: quiz.setting.version,
        sections: [
          {
            id: section?.id,
            title: 'One',
            instructions: '',
            isShuffled: false,
            parts: [{ id: null, points: 1000, floor: 0, questionId: null, draw }],
          },
        ],
      })
      .expect(200);
    expect((saved.body as QuizDetail).faults.join()).toContain(
      'draws 9 of every question, tagged nothing has this, and none is left for it'.replace('every question, ', ''),
    );
  });

  it('keeps its paper once somebody has begun, and its version of a question', async () => {
    await makeQuiz([single('Which part?')]);
    await beginAs('student');
    const quiz = await detail();
    const refused = await school.agents.instructor
      .put(`${base()}/paper`)
      .send({
        version: quiz.setting.version,
        sections: [{ id: quiz.sections[0]?.id, title: '', instructions: '', isShuffled: false, parts: [] }],
      })
      .expect(409);
    expect(refused.body.detail).toContain('One attempt has begun');
    const question = quiz.sections[0]?.parts[0]?.question;
    const changed = await school.agents.instructor
      .put(`/api/courses/${school.courseId}/bank/questions/${question?.id}`)
      .send({ version: question?.version, words: paragraphs('Which part, then?') })
      .expect(200);
    expect(changed.body).toMatchObject({ number: 2, isNew: true });
    expect((await detail()).sections[0]?.parts[0]?.question).toMatchObject({ number: 1, newest: 2, title: 'Which part?' });
  });

  it('is made by instructors alone, and seen by those who teach', async () => {
    await makeQuiz([single('Which?')]);
    const { version } = (await detail()).setting;
    await school.agents.assistant.get(base()).expect(200);
    await school.agents.assistant.put(base()).send({ version, layout: 'page' }).expect(403);
    await school.agents.student.get(base()).expect(403);
    await school.agents.outsider.get(base()).expect(404);
    await school.agents.nobody.get(base()).expect(401);
    await school.agents.student.get(`/api/courses/${school.courseId}/bank`).expect(403);
    await school.agents.student.get(`${base()}/results`).expect(403);
    await school.agents.student.get(`${base()}/statistics`).expect(403);
  });
});

describe('a quiz in the Plan', () => {
  it('is not opened without a question, and has the points of its paper alone', async () => {
    await expect(makeQuiz([])).rejects.toThrow('422');
    const { body } = await school.agents.instructor.get(`/api/courses/${school.courseId}/items/${itemId}`).expect(200);
    const change = (more: object) =>
      school.agents.instructor.patch(`/api/courses/${school.courseId}/items/${itemId}`).send({ version: body.item.version, ...more });
    expect((await change({ isDraft: false }).expect(422)).body.detail).toContain('has no question yet, so it cannot be opened');
    expect((await change({ possible: 5000 }).expect(422)).body.detail).toContain('has the points of its questions');
  });

  it('is duplicated with its setting and its paper, but not with its code', async () => {
    await makeQuiz([single('Which?'), numeric], { limitMinutes: 25, accessCode: 'room' });
    const made = await school.agents.instructor
      .post(`/api/courses/${school.courseId}/items/duplicates`)
      .send({ itemIds: [itemId] })
      .expect(200);
    const [copy] = made.body.made as string[];
    const { body } = await school.agents.instructor.get(`/api/courses/${school.courseId}/quizzes/${copy}`).expect(200);
    expect((body as QuizDetail).sections[0]?.parts.map((p) => p.question?.title)).toEqual(['Which?', 'How many beats an hour?']);
    expect((body as QuizDetail).setting).toMatchObject({ limitMinutes: 25, accessCode: '' });
    expect((body as QuizDetail).possible).toBe(2000);
  });
});

describe('taking a quiz', () => {
  it('gives nothing of the key with the paper', async () => {
    await makeQuiz([single('Which part?'), numeric, short]);
    const attemptId = await beginAs('student');
    const { text } = await school.agents.student.get(`${own()}/attempts/${attemptId}`).expect(200);
    expect(text).not.toMatch(/share|28800|pallet|accepted|isRight|"key"/);
    expect(text).toContain('the roller');
  });

  it('acknowledges what is committed, does nothing twice, and keeps the later of one window', async () => {
    await makeQuiz([numeric]);
    const attemptId = await beginAs('student');
    const [id = ''] = questionIds(await taking('student', attemptId));
    const at = { kind: 'text', text: '28800' };
    const first = await save('student', attemptId, id, at, { turn: 10 }).expect(200);
    expect(first.body).toMatchObject({ version: 1, savedAt: new Date(START).toISOString() });
    await save('student', attemptId, id, at, { turn: 10 }).expect(200);
    await save('student', attemptId, id, { kind: 'text', text: 'older' }, { turn: 9 }).expect(200);
    await save('student', attemptId, id, { kind: 'text', text: '18000' }, { turn: 11 }).expect(200);
    expect((await taking('student', attemptId)).answers[id]).toMatchObject({ version: 2, answer: { text: '18000' } });
  });

  it('does not let one window write over another unseen', async () => {
    await makeQuiz([numeric]);
    const attemptId = await beginAs('student');
    const [id = ''] = questionIds(await taking('student', attemptId));
    await save('student', attemptId, id, { kind: 'text', text: '1' }).expect(200);
    const refused = await save('student', attemptId, id, { kind: 'text', text: '2' }, { device: 'student-two' }).expect(409);
    expect(refused.body.current).toMatchObject({ version: 1, answer: { text: '1' } });
    await save('student', attemptId, id, { kind: 'text', text: '2' }, { device: 'student-two', seen: 1 }).expect(200);
  });

  it('keeps one of two answers that come at the same moment, and tells the other window', async () => {
    await makeQuiz([numeric]);
    const attemptId = await beginAs('student');
    const [id = ''] = questionIds(await taking('student', attemptId));
    for (let n = 0; n < 5; n += 1) {
      const { version = 0 } = (await taking('student', attemptId)).answers[id] ?? {};
      const texts = ['one', 'two'].map((device) => `${device} ${n}`);
      const both = await Promise.all(
        texts.map((text) => save('student', attemptId, id, { kind: 'text', text }, { device: text.replace(' ', '-'), seen: version })),
      );
      expect(both.map((b) => b.status).sort()).toEqual([200, 409]);
      const kept = texts[both.findIndex((b) => b.status === 200)];
      expect((await taking('student', attemptId)).answers[id]).toMatchObject({ version: version + 1, answer: { text: kept } });
    }
  });

  it('acknowledges nothing that the hand-in beside it has not got', async () => {
    for (let n = 0; n < 6; n += 1) {
      await makeQuiz([numeric]);
      const attemptId = await beginAs('student');
      const [id = ''] = questionIds(await taking('student', attemptId));
      const [saved, handed] = await Promise.all([
        save('student', attemptId, id, { kind: 'text', text: '28800' }),
        handIn('student', attemptId),
      ]);
      expect([saved.status, handed.status]).toEqual([200, 200]);
      const isKept = !('late' in saved.body);
      expect((await review('student', attemptId)).attempt.scoreText).toBe(isKept ? '1' : '0');
    }
  });

  it('begins once, with the code of the room, from where it may be taken', async () => {
    await makeQuiz([numeric], { accessCode: 'Escape', allowedAddresses: ['192.0.2.0/24'] });
    const wrong = await school.agents.student.post(`${own()}/attempts`).send({ key: randomUUID(), code: 'other' }).expect(422);
    expect(wrong.body.detail).toContain('“other” is not the code');
    await school.agents.student.post(`${own()}/attempts`).send({ key: randomUUID(), code: 'escape' }).expect(403);
    const { version } = (await detail()).setting;
    await school.agents.instructor
      .put(base())
      .send({ version, allowedAddresses: ['127.0.0.0/8', '::1'] })
      .expect(200);
    const one = await beginAs('student', 'escape');
    expect(await beginAs('student', 'escape')).toBe(one);
    expect((await ownQuiz('student')).open?.id).toBe(one);
  });

  it('refuses addresses that are none', async () => {
    await makeQuiz([numeric]);
    const { version } = (await detail()).setting;
    const refused = await school.agents.instructor
      .put(base())
      .send({ version, allowedAddresses: ['the lab'] })
      .expect(422);
    expect(refused.body.detail).toContain('“the lab” is no address of the network');
  });

  it('is nobody else’s', async () => {
    await makeQuiz([numeric]);
    const attemptId = await beginAs('student');
    const [id = ''] = questionIds(await taking('student', attemptId));
    await save('second', attemptId, id, { kind: 'text', text: '1' }).expect(404);
    await school.agents.second.get(`${own()}/attempts/${attemptId}`).expect(404);
    await handIn('second', attemptId).expect(404);
    await school.agents.instructor.get(`${own()}/attempts/${attemptId}`).expect(403);
  });

  it('refuses an answer larger than the limit, naming it', async () => {
    await makeQuiz([numeric]);
    const attemptId = await beginAs('student');
    const [id = ''] = questionIds(await taking('student', attemptId));
    await save('student', attemptId, id, { kind: 'text', text: 'x'.repeat(4001) }).expect(422);
  });

  it('has no attempt where there is no question, none after closing, and no more than it allows', async () => {
    await makeQuiz([numeric]);
    await take('student', [null]);
    expect((await ownQuiz('student')).whyNot).toBe('You have taken this once, which is all there is.');
    school.clock.at = START + 5 * HOUR;
    await school.agents.second.post(`${own()}/attempts`).send({ key: randomUUID(), code: '' }).expect(409);
  });
});

describe('time', () => {
  it('is the server’s: what comes after it is kept beside, and the job hands in as of its end', async () => {
    await makeQuiz([numeric, short], { limitMinutes: 20 });
    const attemptId = await beginAs('student');
    const [one = '', two = ''] = questionIds(await taking('student', attemptId));
    await save('student', attemptId, one, { kind: 'text', text: '28800' }).expect(200);
    school.clock.at = START + 20 * MINUTE + 4000;
    expect((await save('student', attemptId, two, { kind: 'text', text: 'pallet' }).expect(200)).body).toMatchObject({ version: 1 });
    school.clock.at = START + 21 * MINUTE;
    expect((await save('student', attemptId, two, { kind: 'text', text: 'late' }).expect(200)).body).toEqual({ late: true });
    await doJob(school, handInQuizzes);
    const paper = await review('student', attemptId);
    expect(paper.attempt).toMatchObject({ how: 'time', handedInAt: new Date(START + 20 * MINUTE).toISOString(), scoreText: '2' });
    const results = (await school.agents.instructor.get(`${base()}/results`).expect(200)).body as QuizResults;
    expect(results.people.find((p) => p.name.includes('First'))?.attempts[0]).toMatchObject({ cameLate: 1, how: 'time' });
    expect(results.people.find((p) => p.name.includes('Second'))?.state).toBe('not begun');
    await school.agents.instructor
      .post(`${base()}/attempts/${attemptId}/acts`)
      .send({ action: 'take late', minutes: 0, reason: 'The line was down.' })
      .expect(200);
    expect((await review('student', attemptId)).attempt.scoreText).toBe('1');
  });

  it('is longer by an arrangement, and by what is added by hand', async () => {
    await makeQuiz([numeric], { limitMinutes: 20 });
    await withDb(school.pool, true, (db) =>
      run(db, 'insert into arrangement (enrolment_id, time_multiplier) values ($1, 1.5)', [school.students[1]]),
    );
    expect(await ownQuiz('second')).toMatchObject({ limitMinutes: 30, limitReason: '1.5 times the usual, by arrangement' });
    const attemptId = await beginAs('second');
    expect((await taking('second', attemptId)).endsAt).toBe(new Date(START + 30 * MINUTE).toISOString());
    await school.agents.instructor
      .post(`${base()}/attempts/${attemptId}/acts`)
      .send({ action: 'extend', minutes: 5, reason: '' })
      .expect(200);
    expect((await taking('second', attemptId)).endsAt).toBe(new Date(START + 35 * MINUTE).toISOString());
    await withDb(school.pool, true, (db) => run(db, 'delete from arrangement where enrolment_id = $1', [school.students[1]]));
  });

  it('follows a closing date that is moved for those who are at it too', async () => {
    await makeQuiz([numeric]);
    const attemptId = await beginAs('student');
    const { body } = await school.agents.instructor.get(`/api/courses/${school.courseId}/items/${itemId}`).expect(200);
    await school.agents.instructor
      .patch(`/api/courses/${school.courseId}/items/${itemId}`)
      .set('x-running', 'give')
      .send({ version: body.item.version, closesAt: new Date(START + HOUR).toISOString() })
      .expect(200);
    school.clock.at = START + HOUR + MINUTE;
    expect(await doJob(school, handInQuizzes)).toBeGreaterThan(0);
    expect((await review('student', attemptId)).attempt.handedInAt).toBe(new Date(START + HOUR).toISOString());
  });

  it('may be gone over where the quiz says so, and that is noted', async () => {
    await makeQuiz([numeric], { limitMinutes: 20, atEnd: 'flag' });
    const attemptId = await beginAs('student');
    school.clock.at = START + 25 * MINUTE;
    const [id = ''] = questionIds(await taking('student', attemptId));
    await save('student', attemptId, id, { kind: 'text', text: '28800' }).expect(200);
    await handIn('student', attemptId).expect(200);
    const results = (await school.agents.instructor.get(`${base()}/results`).expect(200)).body as QuizResults;
    expect(results.people.flatMap((p) => p.attempts)[0]).toMatchObject({ overSeconds: 300, score: 1000 });
  });
});

describe('results', () => {
  it('are there at once where all can be scored, and in the gradebook', async () => {
    await makeQuiz([{ ...single('Which?'), points: 2000 }, numeric]);
    const attemptId = await take('student', [A, { kind: 'text', text: '28 800' }]);
    expect(await grade(0)).toEqual([{ raw: '3.000', is_released: true }]);
    const paper = await review('student', attemptId);
    expect(paper.attempt.scoreText).toBe('3');
    expect(paper.working.at(-1)).toEqual({ words: 'Together, of 3', points: '3' });
  });

  it('wait for a person where one is needed, and come when the last is marked', async () => {
    await makeQuiz([numeric, { ...essay, points: 4000 }]);
    const attemptId = await take('student', [
      { kind: 'text', text: '28800' },
      { kind: 'work', document: paragraphs('It drops.'), fileId: null },
    ]);
    expect(await grade(0)).toEqual([]);
    expect((await review('student', attemptId)).attempt).toMatchObject({ isWaiting: true, scoreText: null });
    const results = (await school.agents.instructor.get(`${base()}/results`).expect(200)).body as QuizResults;
    expect(results.marked).toMatchObject([{ kind: 'essay', waiting: 1, title: 'Describe the drop.' }]);
    const answers = (await school.agents.instructor.get(`${base()}/questions/${results.marked[0]?.questionId}/answers`).expect(200)).body;
    expect(answers.answers[0]).toMatchObject({ text: 'It drops.', given: null, version: 1 });
    const score = `${base()}/attempts/${attemptId}/scores/${results.marked[0]?.questionId}`;
    await school.agents.student.put(score).send({ points: 4000, reason: '', version: 1 }).expect(403);
    const above = await school.agents.instructor.put(score).send({ points: 5000, reason: '', version: 1 }).expect(422);
    expect(above.body.detail).toContain('5 is not between 0 and the 4 points');
    await school.agents.instructor.put(score).send({ points: 2500, reason: 'Say why it drops.', version: 1 }).expect(200);
    await school.agents.instructor.put(score).send({ points: 1000, reason: '', version: 1 }).expect(409);
    expect(await grade(0)).toEqual([{ raw: '3.500', is_released: true }]);
    expect((await review('student', attemptId)).sections[0]?.questions[1]).toMatchObject({
      scoreText: '2.5',
      comment: 'Say why it drops.',
    });
  });

  it('of one question are given to a marker, who then marks them in every section, and nobody else but an instructor does', async () => {
    await makeQuiz([{ ...essay, points: 4000 }]);
    const work = (words: string) => [{ kind: 'work', document: paragraphs(words), fileId: null }];
    const [, other] = [await take('student', work('It drops.')), await take('second', work('It falls.'))];
    const { instructor, assistant } = school.agents;
    const asRole = async (who: typeof assistant): Promise<QuizResults> =>
      (await who.get(`${base()}/results`).expect(200)).body as QuizResults;
    const texts = async (): Promise<string[]> =>
      ((await assistant.get(`${base()}/questions/${id}/answers`).expect(200)).body as QuestionAnswers).answers.map((a) => a.text);
    const { marked, markers } = await asRole(instructor);
    const id = marked[0]?.questionId ?? '';
    expect(marked[0]).toMatchObject({ waiting: 2, markerIds: [], isTheirs: true });
    // Of their section alone, as long as nothing is shared out.
    expect(await texts()).toEqual(['It drops.']);
    expect((await asRole(assistant)).marked[0]).toMatchObject({ waiting: 1, isTheirs: true });
    const score = (attemptId: string) => assistant.put(`${base()}/attempts/${attemptId}/scores/${id}`);
    await score(other).send({ points: 2000, reason: '', version: 1 }).expect(404);
    const give = (who: typeof assistant, markerIds: unknown[]) => who.put(`${base()}/questions/${id}/markers`).send({ markerIds });
    const [teacher, helper] = ['instructor', 'assistant'].map((role) => markers.find((m) => m.name.toLowerCase().includes(role))?.id);
    await give(assistant, [helper]).expect(403);
    await give(school.agents.student, [helper]).expect(403);
    expect((await give(instructor, [randomUUID()]).expect(422)).body.detail).toContain('does not mark in this course');
    await instructor.put(`${base()}/questions/${randomUUID()}/markers`).send({ markerIds: [] }).expect(404);
    await give(instructor, [helper]).expect(200);
    expect(await texts()).toEqual(['It drops.', 'It falls.']);
    await score(other).send({ points: 2000, reason: '', version: 1 }).expect(200);
    await give(instructor, [teacher]).expect(200);
    expect((await asRole(assistant)).marked[0]).toMatchObject({ waiting: 0, isTheirs: false });
    await assistant.get(`${base()}/questions/${id}/answers`).expect(404);
    await give(instructor, []).expect(200);
    expect(await texts()).toEqual(['It drops.']);
  });

  it('tell the key when they may and no sooner', async () => {
    await makeQuiz([single('Which?'), short]);
    const attemptId = await take('student', [B, { kind: 'text', text: 'lever' }]);
    const before = await school.agents.student.get(`${own()}/attempts/${attemptId}/review`).expect(200);
    expect((before.body as PaperReview).sections[0]?.questions[0]?.key).toBeNull();
    expect(before.text).not.toContain('pallet');
    expect((before.body as PaperReview).later.join()).toContain('what is right after closing');
    school.clock.at = START + 4 * HOUR + 1;
    const after = await review('student', attemptId);
    expect(after.sections[0]?.questions.map((q) => q.key)).toEqual([
      { choiceIds: ['a'], words: [] },
      { choiceIds: [], words: ['pallet'] },
    ]);
  });

  it('tell nothing while another attempt is open, and count the best', async () => {
    await makeQuiz([numeric], { attemptsAllowed: 3, retryUntil: 1000 });
    const first = await take('student', [{ kind: 'text', text: '5' }]);
    const open = await beginAs('student');
    await school.agents.student.get(`${own()}/attempts/${first}/review`).expect(409);
    const [id = ''] = questionIds(await taking('student', open));
    await save('student', open, id, { kind: 'text', text: '28800' }).expect(200);
    await handIn('student', open).expect(200);
    expect(await grade(0)).toEqual([{ raw: '1.000', is_released: true }]);
    expect((await ownQuiz('student')).whyNot).toContain('You have reached what was to be reached');
  });

  it('leave a mark typed by hand alone', async () => {
    await makeQuiz([numeric]);
    await take('student', [{ kind: 'text', text: '5' }]);
    const [held] = await withDb(school.pool, false, (db) =>
      rows<{ last_event_id: string }>(db, 'select last_event_id from work_grade where item_id = $1', [itemId]),
    );
    await school.agents.instructor
      .put(`/api/courses/${school.courseId}/gradebook/cells`)
      .send({
        columnId: await columnOf(school.pool, itemId),
        enrolmentId: school.students[0],
        state: 'scored',
        raw: 700,
        seenEventId: held?.last_event_id,
        isAboveConfirmed: false,
        reason: 'spoken',
      })
      .expect(200);
    await school.agents.instructor
      .post(`${base()}/corrections`)
      .send({
        questionId: (await detail()).sections[0]?.parts[0]?.question?.id,
        kind: 'credit',
        key: null,
        points: null,
        reason: 'unclear',
      })
      .expect(200);
    expect(await grade(0)).toEqual([{ raw: '0.700', is_released: true }]);
  });

  it('of an attempt set aside count no more, and it says why', async () => {
    await makeQuiz([numeric]);
    const attemptId = await take('student', [{ kind: 'text', text: '28800' }]);
    const acts = `${base()}/attempts/${attemptId}/acts`;
    await school.agents.instructor.post(acts).send({ action: 'set aside', minutes: 0, reason: '' }).expect(422);
    await school.agents.instructor.post(acts).send({ action: 'set aside', minutes: 0, reason: 'taken for somebody else' }).expect(200);
    expect(await grade(0)).toEqual([{ raw: null, is_released: true }]);
    const paper = await school.agents.instructor.get(`${base()}/attempts/${attemptId}`).expect(200);
    expect(paper.body.events[0]).toMatchObject({ words: 'set aside: taken for somebody else', by: 'Instructor Tester' });
    expect((await ownQuiz('student')).whyNot).toBeNull();
  });

  it('can be resumed with minutes to use', async () => {
    await makeQuiz([numeric], { limitMinutes: 20 });
    const attemptId = await take('student', [null]);
    school.clock.at = START + 30 * MINUTE;
    await school.agents.instructor
      .post(`${base()}/attempts/${attemptId}/acts`)
      .send({ action: 'resume', minutes: 10, reason: 'power cut' })
      .expect(200);
    const t = await taking('student', attemptId);
    expect(t.endsAt).toBe(new Date(START + 40 * MINUTE).toISOString());
    await save('student', attemptId, questionIds(t)[0] ?? '', { kind: 'text', text: '28800' }).expect(200);
    await handIn('student', attemptId).expect(200);
    expect(await grade(0)).toEqual([{ raw: '1.000', is_released: true }]);
  });
});

describe('correcting a key', () => {
  it('shows the ripple, marks again, stands in the ledger, and is taken back', async () => {
    await makeQuiz([single('Which?'), numeric]);
    await take('student', [B, { kind: 'text', text: '28800' }]);
    await take('second', [A, null]);
    const question = (await detail()).sections[0]?.parts[0]?.question;
    const key = {
      kind: 'single',
      hasDontKnow: false,
      choices: [choice('a', 'the lever', 100_000), choice('b', 'the roller', 100_000), choice('c', 'the barrel')],
    };
    const body = { questionId: question?.id, kind: 'key', key, points: null, reason: 'both lock' };
    await school.agents.assistant.post(`${base()}/corrections`).send(body).expect(403);
    const ripple = await school.agents.instructor.post(`${base()}/corrections`).set('x-ripple', 'show').send(body).expect(200);
    expect(JSON.stringify(ripple.body)).toContain(school.students[0]);
    expect(await grade(0)).toEqual([{ raw: '1.000', is_released: true }]);
    const made = await school.agents.instructor.post(`${base()}/corrections`).send(body).expect(200);
    expect([await grade(0), await grade(1)]).toEqual([[{ raw: '2.000', is_released: true }], [{ raw: '1.000', is_released: true }]]);
    const events = await withDb(school.pool, false, (db) =>
      rows<{ source: string; reason: string }>(
        db,
        'select source, reason from grade_event e join grade_column c on c.id = e.column_id where c.item_id = $1 and e.enrolment_id = $2 order by e.id',
        [itemId, school.students[0]],
      ),
    );
    expect(events.at(-1)).toEqual({ source: 'quiz', reason: 'key corrected: both lock' });
    await school.agents.instructor.delete(`${base()}/corrections/${made.body.id}`).expect(200);
    expect(await grade(0)).toEqual([{ raw: '1.000', is_released: true }]);
    await school.agents.instructor.post(`${base()}/corrections/${made.body.id}/restore`).expect(200);
    expect(await grade(0)).toEqual([{ raw: '2.000', is_released: true }]);
  });

  it('begins with the version that was taken and what corrections made of it, and offers the bank’s newer key', async () => {
    await makeQuiz([single('Which?'), numeric]);
    await take('student', [B, null]);
    const { instructor, assistant, student } = school.agents;
    const question = (await detail()).sections[0]?.parts[0]?.question;
    const asked = async (who = instructor): Promise<CorrectableQuestion> =>
      (await who.get(`${base()}/corrections/${question?.id}`).expect(200)).body as CorrectableQuestion;
    expect(await asked()).toMatchObject({ question: { number: 1, key: question?.key }, newer: null });
    const choices = [choice('a', 'the lever'), choice('b', 'the roller', 100_000), choice('c', 'the barrel')];
    const key = { kind: 'single', hasDontKnow: false, choices };
    const change = { version: question?.version, words: paragraphs('Which, then?'), key };
    await instructor.put(`/api/courses/${school.courseId}/bank/questions/${question?.id}`).send(change).expect(200);
    // The quiz keeps what it was taken with; the newer key can be taken over, with its ripple.
    const offered = await asked(assistant);
    expect(offered).toMatchObject({ question: { number: 1, key: question?.key }, newer: { number: 2, key } });
    const body = { questionId: question?.id, kind: 'key', key: offered.newer?.key, points: null, reason: 'as the bank has it' };
    const ripple = await instructor.post(`${base()}/corrections`).set('x-ripple', 'show').send(body).expect(200);
    expect(JSON.stringify(ripple.body)).toContain(school.students[0]);
    await instructor.post(`${base()}/corrections`).send(body).expect(200);
    expect((await grade(0))[0]?.raw).toBe('1.000');
    expect((await asked()).question).toMatchObject({ number: 1, key });
    await student.get(`${base()}/corrections/${question?.id}`).expect(403);
    expect((await instructor.get(`${base()}/corrections/${randomUUID()}`).expect(409)).body.detail).toContain(
      'Nobody has had this question',
    );
  });

  it('offers answers that were scored by the rule of before, and moves them only once that was seen', async () => {
    const pairs = [
      { left: 'lever', right: 'locks' },
      { left: 'fusee', right: 'evens' },
      { left: '', right: 'rings' },
    ];
    await makeQuiz([{ words: paragraphs('What does what?'), key: { kind: 'matching', pairs } }, numeric]);
    const { instructor, assistant, student } = school.agents;
    const outdated = async () => (await instructor.get(`${base()}/outdated-scores`).expect(200)).body.questions;
    const attemptId = await take('student', [{ kind: 'pairs', pairs: { lever: 'locks', fusee: 'evens' } }, null]);
    expect(await grade(0)).toEqual([{ raw: '1.000', is_released: true }]);
    expect(await outdated()).toEqual([]);
    // As it was scored when each right side counted, the one that only distracts too.
    const questionId = (await detail()).sections[0]?.parts[0]?.question?.id;
    await withDb(school.pool, true, async (db) => {
      await run(db, "update quiz_score set share = '2/3' where attempt_id = $1 and question_id = $2", [attemptId, questionId]);
      await run(db, 'update quiz_attempt set score = 0.667 where id = $1', [attemptId]);
      await recordResult(db, school.courseId, itemId, school.students[0], { at: school.clock.at, actorId: null });
    });
    expect((await grade(0))[0]?.raw).toBe('0.667');
    expect(await outdated()).toEqual([{ questionId, title: 'What does what?', answers: 1 }]);
    const ripple = await instructor.post(`${base()}/outdated-scores`).set('x-ripple', 'show').send({ questionId }).expect(200);
    expect(JSON.stringify(ripple.body)).toContain(school.students[0]);
    expect((await grade(0))[0]?.raw).toBe('0.667');
    await assistant.get(`${base()}/outdated-scores`).expect(403);
    await student.post(`${base()}/outdated-scores`).send({ questionId }).expect(403);
    expect((await instructor.post(`${base()}/outdated-scores`).send({ questionId }).expect(200)).body).toEqual({ questions: [] });
    expect(await grade(0)).toEqual([{ raw: '1.000', is_released: true }]);
    expect(await outdated()).toEqual([]);
  });

  it('drops a question so that full marks are still the points of the quiz', async () => {
    await makeQuiz([single('Which?'), numeric]);
    await take('student', [B, { kind: 'text', text: '28800' }]);
    const questionId = (await detail()).sections[0]?.parts[0]?.question?.id;
    await school.agents.instructor
      .post(`${base()}/corrections`)
      .send({ questionId, kind: 'drop', key: null, points: null, reason: 'unclear' })
      .expect(200);
    expect(await grade(0)).toEqual([{ raw: '2.000', is_released: true }]);
  });

  it('is refused for a question nobody had, another kind, or a key with a fault', async () => {
    await makeQuiz([single('Which?')]);
    const questionId = (await detail()).sections[0]?.parts[0]?.question?.id;
    const send = (more: object) =>
      school.agents.instructor
        .post(`${base()}/corrections`)
        .send({ questionId, kind: 'key', key: numeric.key, points: null, reason: 'x', ...more });
    await send({}).expect(409);
    await take('student', [B]);
    expect((await send({}).expect(422)).body.detail).toContain('keeps the kind');
    const bare = { kind: 'single', hasDontKnow: false, choices: [choice('a', 'x'), choice('b', 'y')] };
    expect((await send({ key: bare }).expect(422)).body.detail).toContain('No answer is marked as right');
    expect(await doJob(school, markAgain, START)).toBe(0);
  });
});

describe('figures', () => {
  it('are of everybody’s first scored attempt, and honest about few', async () => {
    await makeQuiz([single('Which?'), numeric]);
    await take('student', [A, { kind: 'text', text: '28800' }]);
    await take('second', [B, { kind: 'text', text: '28800' }]);
    const found = (await school.agents.assistant.get(`${base()}/statistics`).expect(200)).body as QuizStatistics;
    expect(found.attempts).toBe(2);
    expect(found.questions.map((q) => q.shareRight)).toEqual([0.5, 1]);
    expect(found.questions[0]?.flags).toEqual(['2 attempts are too few to judge a question by; thirty are a beginning.']);
    expect(found.whyNoReliability).toContain('Fewer than three');
    const csv = await school.agents.instructor.get(`${base()}/statistics.csv`).expect(200);
    expect(csv.text).toContain('share correct');
  });
});

describe('the bank', () => {
  const bank = (): string => `/api/courses/${school.courseId}/bank`;
  it('is read by assistants, written by instructors, and shared by name', async () => {
    await makeQuiz([single('Shared?')]);
    const question = (await detail()).sections[0]?.parts[0]?.question;
    const read = await school.agents.assistant.get(`${bank()}/questions/${question?.id}`).expect(200);
    expect(read.body.question.canEdit).toBe(false);
    await school.agents.assistant.put(`${bank()}/questions/${question?.id}`).send({ version: question?.version, title: 'x' }).expect(403);
    const other = `/api/courses/${school.otherCourseId}/bank`;
    await school.agents.outsider.get(`${other}/questions/${question?.id}`).expect(404);
    const home = (await school.agents.instructor.get(bank()).expect(200)).body.home as string;
    const stranger = await school.agents.instructor
      .patch(`${bank()}/folders/${home}`)
      .send({ addShare: { email: 'who@example.org', canEdit: false } })
      .expect(422);
    expect(stranger.body.detail).toContain('Nobody here has the email “who@example.org”');
    await school.agents.instructor
      .patch(`${bank()}/folders/${home}`)
      .send({ addShare: { email: 'outsider@example.org', canEdit: false } })
      .expect(200);
    await school.agents.outsider.get(`${other}/questions/${question?.id}`).expect(200);
    await school.agents.outsider.put(`${other}/questions/${question?.id}`).send({ version: question?.version, title: 'mine' }).expect(403);
    const copy = await school.agents.outsider.post(`${other}/questions/${question?.id}/copies`).expect(200);
    expect(copy.body).toMatchObject({ title: 'Shared?', canEdit: true });
  });

  it('goes out as a table and comes in again as it was, row by row, and says what it does not understand', async () => {
    await makeQuiz([single('=1+1, or the lever?'), numeric, short, essay]);
    const { instructor, assistant, student } = school.agents;
    const asText = async (who: typeof instructor, query = ''): Promise<string> =>
      (await who.get(`${bank()}/questions.csv?${query}`).buffer(true).expect(200)).text;
    await student.get(`${bank()}/questions.csv`).expect(403);
    const { id: from } = (
      await instructor
        .post(`${bank()}/folders`)
        .send({ parentId: (await detail()).folderId, title: 'Out' })
        .expect(200)
    ).body;
    const ids = (await detail()).sections[0]?.parts.map((p) => p.question?.id) ?? [];
    await instructor.put(`${bank()}/questions`).send({ questionIds: ids, folderId: from }).expect(200);
    const out = await asText(assistant, `folder=${from}`);
    expect(out.split('\n')[0]).toBe('\uFEFFkind,title,level,tags,objectives,points,words,answers,rules,right,wrong,always');
    // A spreadsheet must not take a question for a formula.
    expect(out).toContain("'=1+1, or the lever?");
    const { id: into } = (
      await instructor
        .post(`${bank()}/folders`)
        .send({ parentId: (await detail()).folderId, title: 'In' })
        .expect(200)
    ).body;
    const bring = (csv: string, isPreview: boolean, who = instructor) =>
      who.post(`${bank()}/table`).send({ csv, folderId: into, isPreview });
    await bring(out, true, assistant).expect(403);
    const looked = (await bring(out, true).expect(200)).body as QuestionTableDone;
    expect(looked.rows.map((r) => [r.kind, r.problem])).toEqual(
      expect.arrayContaining([
        ['essay', ''],
        ['numeric', ''],
        ['short', ''],
        ['single', ''],
      ]),
    );
    expect((await asText(instructor, `folder=${into}`)).trim().split('\n')).toHaveLength(1);
    await bring(out, false).expect(200);
    const lines = (text: string): string[] => text.trim().split('\n').sort();
    expect(lines(await asText(instructor, `folder=${into}`))).toEqual(lines(out));
    const bad = 'kind;words;answers\nshort;Which?;100: lever\nriddle;Why?;x\nshort;Which?;lever\nsingle;Which?;100: a';
    const { rows: told } = (await bring(bad, false).expect(200)).body as QuestionTableDone;
    expect(told.map((r) => r.problem === '')).toEqual([true, false, false, true]);
    expect(told[1]?.problem).toContain('kind: “riddle” is none');
    expect(told[3]?.notes.join()).toMatch(/two/i);
    expect((await bring('words\nWhich?', false).expect(422)).body.detail).toContain('The first line names the columns: kind');
    expect((await bring('kind\n"essay', false).expect(422)).body.detail).toContain('cannot be read');
  });

  it('keeps a text that several questions share, which is listed, changed and taken over by version', async () => {
    await makeQuiz([numeric]);
    const { instructor, assistant, student } = school.agents;
    const put = (who: typeof instructor, body: object) => who.put(`${bank()}/stimuli`).send(body);
    const text = { id: null, title: 'The train', document: paragraphs('A wheel of 80 teeth.'), version: 0 };
    const made = (await put(instructor, text).expect(200)).body as { id: string; version: number };
    await put(assistant, text).expect(403);
    await student.get(`${bank()}/stimuli`).expect(403);
    const { stimuli } = (await assistant.get(`${bank()}/stimuli`).expect(200)).body as { stimuli: { id: string; title: string }[] };
    expect(stimuli.find((s) => s.id === made.id)?.title).toBe('The train');
    const question = (await detail()).sections[0]?.parts[0]?.question;
    await instructor.put(`${bank()}/questions/${question?.id}`).send({ version: question?.version, stimulusId: made.id }).expect(200);
    await put(instructor, { ...text, id: made.id, version: made.version, document: paragraphs('A wheel of 70 teeth.') }).expect(200);
    await put(instructor, { ...text, id: made.id, version: made.version }).expect(409);
    const attemptId = await beginAs('student');
    expect(JSON.stringify((await taking('student', attemptId)).sections)).toContain('A wheel of 70 teeth.');
  });

  it('shows the pictures of a shared text to those who take the quiz, and lends neither text nor picture to anybody else', async () => {
    await makeQuiz([numeric]);
    const { instructor, student, outsider, second } = school.agents;
    const picture = createCanvas(30, 20).toBuffer('image/png');
    const { id: fileId } = (await instructor.post(`/api/courses/${school.courseId}/files`).attach('file', picture, 'wheel.png').expect(200)).body; // prettier-ignore
    const shown = (id: string) => ({
      type: 'doc',
      content: [{ type: 'picture', attrs: { fileId: id, src: `/api/courses/${school.courseId}/files/${id}`, alt: 'A wheel', size: 'full', caption: '', source: '', licence: '' } }], // prettier-ignore
    });
    const text = { id: null, title: 'The wheel', document: shown(fileId), version: 0 };
    const { id: stimulusId } = (await instructor.put(`${bank()}/stimuli`).send(text).expect(200)).body;
    const question = (await detail()).sections[0]?.parts[0]?.question;
    await instructor.put(`${bank()}/questions/${question?.id}`).send({ version: question?.version, stimulusId }).expect(200);
    const attemptId = await beginAs('student');
    const address = /"src":"([^"]+)"/.exec(JSON.stringify((await taking('student', attemptId)).sections))?.[1] ?? '';
    expect(address).toContain(fileId);
    expect((await student.get(address).expect(200)).headers['content-type']).toBe('image/png');
    await second.get(address).expect(404);
    // Another subject reaches neither.
    const other = `/api/courses/${school.otherCourseId}/bank`;
    const refused = await outsider.put(`${other}/stimuli`).send(text).expect(422);
    expect(refused.body.detail).toContain('is not in a course you teach');
  });

  it('finds by level, tag, objective and kind, and leaves out what is retired', async () => {
    const made = await school.agents.instructor
      .post(`${bank()}/questions`)
      .send({ ...short, level: 'hard', tags: ['drop'], objectives: ['B7'] })
      .expect(200);
    const find = async (query: string): Promise<string[]> =>
      (await school.agents.instructor.get(`${bank()}?${query}`).expect(200)).body.questions.map((q: { id: string }) => q.id);
    for (const query of ['levels=hard', 'tags=Drop', 'objectives=b7', 'levels=hard&kinds=short', 'text=drop'])
      expect([query, await find(query)]).toEqual([query, expect.arrayContaining([made.body.id])]);
    expect(await find('levels=easy&tags=drop')).toEqual([]);
    await school.agents.instructor
      .put(`${bank()}/questions`)
      .send({ questionIds: [made.body.id], isRetired: true })
      .expect(200);
    expect(await find('tags=drop')).toEqual([]);
    expect(await find('tags=drop&retired=true')).toEqual([made.body.id]);
  });

  it('tries an answer, and runs a key against near misses', async () => {
    const made = await school.agents.instructor
      .post(`${bank()}/questions`)
      .send({
        ...short,
        key: { kind: 'short', rules: { ...short.key.rules, accepted: [{ text: 'pallets?.*', isPattern: true, share: 100_000 }] } },
      })
      .expect(200);
    const path = `${bank()}/questions/${made.body.id}`;
    const tried = await school.agents.instructor
      .post(`${path}/try`)
      .send({ answer: { kind: 'text', text: 'Pallets' }, seed: 'x' })
      .expect(200);
    expect(tried.body).toEqual({ share: '100', points: '1', rule: 'Accepted as “pallets?.*”.' });
    const rehearsed = await school.agents.instructor.post(`${path}/rehearsal`).send({ answer: null, seed: 'x' }).expect(200);
    expect(rehearsed.body.warnings.join()).toContain('A pattern takes more than may be meant');
  });
});
