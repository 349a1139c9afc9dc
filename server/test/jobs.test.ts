import { pino } from 'pino';
import { rows, run, withDb } from '../src/index.ts';
import { jobInSteps, jobOf, pauseAfter } from '../src/platform/jobs.ts';
import { handInQuizzes } from '../src/quizTaking/jobs.ts';
import { HOUR, lever, openQuiz } from './quizHelp.ts';
import { makeSchool, START, type TestSchool } from './school.ts';

/** Work done every minute: one bad piece holds up no other, is shown, and is tried again. */
let school: TestSchool;

const log = pino({ level: 'silent' });

beforeAll(async () => {
  school = await makeSchool('jobs');
}, 60_000);

afterAll(() => school.close());

const MINUTE = 60_000;

const failures = async () => (await school.agents.administrator.get('/api/school/jobs').expect(200)).body.failures;

describe('a job', () => {
  it('does ninety-nine of a hundred, and shows the bad one', async () => {
    const done: string[] = [];
    let isBad = true;
    const job = jobOf<{ id: string }>({
      name: 'release-marks',
      due: () => Promise.resolve(Array.from({ length: 100 }, (_, n) => ({ id: `piece ${n}` })).filter((p) => !done.includes(p.id))),
      one: async (db, piece) => {
        await run(db, 'select 1');
        if (piece.id === 'piece 40' && isBad) throw new Error('This piece is damaged.');
        done.push(piece.id);
      },
    });
    expect(await job.run(school.pool, log, START)).toEqual({ done: 99, failed: 1 });
    expect(await failures()).toMatchObject([
      {
        words: 'Releasing the marks of an item',
        piece: 'piece 40',
        tries: 1,
        reason: 'This piece is damaged.',
        nextAt: new Date(START + MINUTE).toISOString(),
      },
    ]);
    // Not before its pause is over, and then twice as long.
    expect(await job.run(school.pool, log, START + MINUTE / 2)).toEqual({ done: 0, failed: 0 });
    expect(await job.run(school.pool, log, START + MINUTE)).toEqual({ done: 0, failed: 1 });
    expect((await failures())[0]).toMatchObject({ tries: 2, nextAt: new Date(START + 3 * MINUTE).toISOString() });
    isBad = false;
    // The administrator need not wait.
    school.clock.at = START + 2 * MINUTE;
    await school.agents.administrator.post('/api/school/jobs/again').send({ job: 'release-marks', piece: 'piece 40' }).expect(200);
    expect(await job.run(school.pool, log, START + 2 * MINUTE)).toEqual({ done: 1, failed: 0 });
    expect(await failures()).toEqual([]);
    await school.agents.administrator.post('/api/school/jobs/again').send({ job: 'release-marks', piece: 'piece 40' }).expect(404);
    await school.agents.instructor.get('/api/school/jobs').expect(403);
  });
  it('pauses longer each time, a day at most', () => {
    expect([1, 2, 3, 4].map((tries) => pauseAfter(tries) / MINUTE)).toEqual([1, 2, 4, 8]);
    expect(pauseAfter(500)).toBe(24 * HOUR);
  });
});

describe('the hand-in of attempts whose time is over', () => {
  it('goes on where one attempt is damaged, and says which', async () => {
    school.clock.at = START;
    const quiz = await openQuiz(school, [lever()], { limitMinutes: 20 });
    const bad = await quiz.begin('student');
    const good = await quiz.begin('second');
    await withDb(school.pool, true, (db) => run(db, `update quiz_attempt set paper = '{"sections": 7}' where id = $1`, [bad]));
    school.clock.at = START + 30 * MINUTE;
    expect(await handInQuizzes.run(school.pool, log, school.clock.at)).toEqual({ done: 1, failed: 1 });
    const states = await withDb(school.pool, false, (db) =>
      rows<{ id: string; state: string }>(db, 'select id, state from quiz_attempt where item_id = $1', [quiz.itemId]),
    );
    expect(new Map(states.map((s) => [s.id, s.state]))).toEqual(
      new Map([
        [bad, 'open'],
        [good, 'handed in'],
      ]),
    );
    expect(await failures()).toMatchObject([{ job: 'hand-in-quizzes', piece: bad }]);
  });
});

describe('a piece that opens what somebody outside chose', () => {
  it('is counted when it is begun, set aside after the third try, and begun again when somebody asks', async () => {
    let begun = 0;
    const job = jobInSteps<{ id: string }>({
      name: 'match-texts',
      isRisky: true,
      due: () => Promise.resolve([{ id: 'bomb' }]),
      one: async () => {
        begun += 1;
        // What is known of it while it goes on is all that would be left of a server that ended here.
        expect((await failures())[0]).toMatchObject({ piece: 'bomb', tries: begun });
        throw new Error('It bursts.');
      },
    });
    let at = START;
    for (let n = 0; n < 6; n += 1) {
      await job.run(school.pool, log, at);
      at += 2 * HOUR;
    }
    expect(begun).toBe(3);
    expect((await failures())[0]).toMatchObject({ reason: 'It bursts.', tries: 3, nextAt: null });
    school.clock.at = at;
    await school.agents.administrator.post('/api/school/jobs/again').send({ job: 'match-texts', piece: 'bomb' }).expect(200);
    await job.run(school.pool, log, at);
    expect(begun).toBe(4);
    await job.run(school.pool, log, at + 24 * HOUR);
    expect(begun).toBe(4);
    await school.pool.query("delete from job_failure where piece = 'bomb'");
  });
});
