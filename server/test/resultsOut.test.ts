import JSZip from 'jszip';
import type { ColumnHistory } from '@rosemary/api';
import { run, withDb } from '../src/index.ts';
import { parseTable } from '../src/files/tableFile.ts';
import { finishScore, makeSchool, type TestSchool } from './school.ts';
import { bytesOf } from './zips.ts';

/** Results as files for a school’s records, and the history of a whole column. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('results_out');
  await finishScore(school, school.students[0], 37_500);
  await withDb(school.pool, true, (db) =>
    run(db, "update person set source = 'S-77' where id = (select person_id from enrolment where id = $1)", [school.students[0]]),
  );
}, 60_000);
afterAll(() => school.close());
/** What stands last in the cell of the second student. */
let last: string | null = null;
const base = (): string => `/api/courses/${school.courseId}/gradebook`;
const type = (enrolmentId: string, raw: number | null, state: 'scored' | 'exempt' | null, seenEventId: string | null, reason = '') =>
  school.agents.instructor
    .put(`${base()}/cells`)
    .send({ columnId: school.columnId, enrolmentId, state, raw, seenEventId, isAboveConfirmed: false, reason })
    .expect(200);

describe('results for a school’s records', () => {
  it('are three files and their manifest, by the keys of the registrar or else by address', async () => {
    const written = await type(school.students[1], null, 'exempt', null);
    const zip = await JSZip.loadAsync(await bytesOf(school.agents.instructor.get(`${base()}/oneroster`).expect(200)));
    expect(Object.keys(zip.files).sort()).toEqual(['categories.csv', 'lineItems.csv', 'manifest.csv', 'results.csv']);
    const table = async (name: string) => {
      const [head = [], ...lines] = parseTable((await zip.file(name)?.async('string')) ?? '');
      return lines.map((line): Record<string, string> => Object.fromEntries(head.map((h, n) => [h, line[n] ?? ''])));
    };
    const results = await table('results.csv');
    expect(results.find((r) => r.studentSourcedId === 'S-77')).toMatchObject({
      score: '37.5',
      scoreStatus: 'fully graded',
      missing: 'false',
    });
    expect(results.find((r) => r.scoreStatus === 'exempt')?.studentSourcedId).toContain('@');
    const lines = await table('lineItems.csv');
    // Every result has its line, and every line its category.
    expect(results.every((r) => lines.some((l) => l.sourcedId === r.lineItemSourcedId && l.classSourcedId === r.classSourcedId))).toBe(
      true,
    );
    const categories = await table('categories.csv');
    expect(lines.every((l) => l.categorySourcedId === '' || categories.some((c) => c.sourcedId === l.categorySourcedId))).toBe(true);
    last = (await type(school.students[1], null, null, written.body.eventId as string)).body.eventId as string;
  });

  it('are for those alone who write grades, and of a section of this course', async () => {
    for (const who of ['student', 'assistant', 'outsider'] as const)
      expect([403, 404]).toContain((await school.agents[who].get(`${base()}/oneroster`)).status);
  });
});

describe('the history of a column', () => {
  const read = async (who: 'instructor' | 'assistant' = 'instructor'): Promise<ColumnHistory> =>
    (await school.agents[who].get(`${base()}/columns/${school.columnId}/history`).expect(200)).body as ColumnHistory;

  it('tells what became what, whose it is, who did it and why, the latest first', async () => {
    const first = await type(school.students[1], 40_000, 'scored', last);
    await type(school.students[1], 42_000, 'scored', first.body.eventId as string, 'counted anew');
    const { entries } = await read();
    expect(entries.slice(0, 2).map((e) => [e.what, e.reason])).toEqual([
      ['40 → 42', 'counted anew'],
      ['40', ''],
    ]);
    expect(entries.every((e) => e.student.includes(','))).toBe(true);
    expect(entries.some((e) => e.what === '37.5')).toBe(true);
  });

  it('tells nothing while names are hidden, and nothing to whoever does not see the gradebook', async () => {
    await withDb(school.pool, true, (db) => run(db, "update assignment set anonymous = 'release' where item_id = $1", [school.itemId]));
    expect(await read()).toEqual({ entries: [], isHidden: true });
    await withDb(school.pool, true, (db) => run(db, "update assignment set anonymous = 'none' where item_id = $1", [school.itemId]));
    for (const who of ['student', 'outsider'] as const)
      expect([403, 404]).toContain((await school.agents[who].get(`${base()}/columns/${school.columnId}/history`)).status);
    await school.agents.instructor.get(`${base()}/columns/${school.unitId}/history`).expect(404);
  });
});
