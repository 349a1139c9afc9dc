import { paragraphs } from '@rosemary/api';
import { forgetAnswers } from '../src/platform/keptAnswers.ts';
import { withDb } from '../src/index.ts';
import { handInText, makeSchool, type TestSchool } from './school.ts';

/** A write whose answer was lost on the way is sent again: it is answered as it was, and not as if somebody else had been there. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('sent_again');
  await handInText(school, 'student', 'A report');
}, 60_000);
afterAll(() => school.close());

const at = (): string => `/api/courses/${school.courseId}/marking/${school.itemId}/${school.students[0]}`;
const versionOf = async (): Promise<number> => (await school.agents.instructor.get(at()).expect(200)).body.mark.version as number;
const judged = (version: number, score: number) => ({ version, choices: {}, score, scoreReason: '', feedback: paragraphs('Well seen.') });
const write = (body: object, who: 'instructor' | 'assistant' = 'instructor') => school.agents[who].put(`${at()}/mark`).send(body);

describe('a mark that is sent again', () => {
  it('is answered as it was, once, and stands there once', async () => {
    const body = judged(await versionOf(), 41_000);
    const first = await write(body).expect(200);
    const again = await write(body).expect(200);
    expect(again.body).toEqual(first.body);
    expect(await versionOf()).toBe(first.body.version);
  });
  it('is a conflict for whoever else sends it, where it says something else, and where it was changed since', async () => {
    const body = judged(await versionOf(), 42_000);
    const { version } = (await write(body).expect(200)).body as { version: number };
    await write(body, 'assistant').expect(409);
    await write({ ...body, score: 12_000 }).expect(409);
    await write(judged(version, 43_000)).expect(200);
    await write(body).expect(409);
  });
  it('is refused as it was where nothing was done', async () => {
    const old = judged((await versionOf()) - 1, 1000);
    await write(old).expect(409);
    await write(old).expect(409);
  });
  it('is a conflict again after a day, when what was answered is forgotten', async () => {
    const body = judged(await versionOf(), 44_000);
    await write(body).expect(200);
    await withDb(school.pool, true, (db) => forgetAnswers(db, school.clock.at + 86_400_001));
    await write(body).expect(409);
  });
});

describe('a cell that is typed again', () => {
  it('is answered as it was', async () => {
    const path = `/api/courses/${school.courseId}/gradebook/cells`;
    const cell = {
      columnId: school.columnId,
      enrolmentId: school.students[1],
      state: 'scored',
      raw: 30_000,
      reason: '',
      seenEventId: null,
      isAboveConfirmed: false,
    };
    const first = await school.agents.instructor.put(path).send(cell);
    expect(first.status).toBe(200);
    const again = await school.agents.instructor.put(path).send(cell).expect(200);
    expect(again.body).toEqual(first.body);
    const { rows } = await school.pool.query('select count(*)::int as many from grade_event where enrolment_id = $1', [school.students[1]]);
    expect(rows[0].many).toBe(1);
    await school.agents.instructor
      .put(path)
      .send({ ...cell, raw: 31_000, seenEventId: first.body.eventId })
      .expect(200);
    await school.agents.instructor.put(path).send(cell).expect(409);
  });
});
