import { checkLedger } from '../src/gradebook/index.ts';
import { run, withDb } from '../src/index.ts';
import { doJob, finishScore, makeSchool, type TestSchool } from './school.ts';

/** The ledger is replayed every night and held against the grades that are kept. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('check_ledger');
  await finishScore(school, school.students[0], 30_000);
  await finishScore(school, school.students[1], 40_000);
}, 60_000);
afterAll(() => school.close());

const DAY = 86_400_000;
const checks = async () =>
  (await school.agents.administrator.get('/api/school/ledger').expect(200)).body.checks as {
    cells: number;
    differing: number;
    examples: string[];
  }[];

describe('the ledger', () => {
  it('comes to the grades that are kept, once a day', async () => {
    expect(await doJob(school, checkLedger)).toBe(1);
    expect(await doJob(school, checkLedger)).toBe(0);
    expect(await checks()).toMatchObject([{ cells: 2, differing: 0, examples: [] }]);
    school.clock.at += DAY;
    expect(await doJob(school, checkLedger)).toBe(1);
  });

  it('names what was changed past it', async () => {
    await withDb(school.pool, true, (db) => run(db, 'update grade set raw = 59 where enrolment_id = $1', [school.students[0]]));
    await school.agents.administrator.post('/api/school/ledger').expect(200);
    const [latest] = await checks();
    expect(latest).toMatchObject({ cells: 2, differing: 1 });
    expect(latest?.examples[0]).toMatch(/^scored 30\.000 in the ledger, scored 59\.000 kept \(Report, /);
  });

  it('is shown to the administrator alone', async () => {
    for (const who of ['instructor', 'student'] as const) {
      expect([403, 404]).toContain((await school.agents[who].get('/api/school/ledger')).status);
      expect([403, 404]).toContain((await school.agents[who].post('/api/school/ledger')).status);
    }
  });
});
