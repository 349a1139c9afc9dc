import { calculate, readFacts, rows, run, withDb } from '../src/index.ts';
import { releaseMarks } from '../src/markRelease/releases.ts';
import { doJob, finishScore, handInText, makeSchool, START, type TestSchool } from './school.ts';

let school: TestSchool;

beforeAll(async () => {
  school = await makeSchool('book');
  await handInText(school, 'student', 'some words');
  await finishScore(school, school.students[0], 45_000);
}, 60_000);

afterAll(() => school.close());

const base = (): string => `/api/courses/${school.courseId}`;

const type = (enrolmentId: string, raw: number | null, seenEventId: string | null, more = {}) =>
  school.agents.instructor.put(`${base()}/gradebook/cells`).send({
    columnId: school.columnId,
    enrolmentId,
    state: raw === null ? null : 'scored',
    raw,
    seenEventId,
    isAboveConfirmed: false,
    reason: '',
    ...more,
  });

describe('typing into a cell', () => {
  it.each([
    [-1, 'at least 0'],
    [10_000_001, 'at most'],
    ['x', 'not a number'],
  ])('refuses %p and names the field', async (raw, words) => {
    const answer = await type(school.students[1], raw as number, null).expect(422);
    expect(answer.body.pointers[0]).toMatchObject({ field: 'raw' });
    expect(answer.body.detail).toContain(words);
  });

  it('asks before a score above the points, then takes it', async () => {
    expect((await type(school.students[1], 60_001, null).expect(409)).body.type).toBe('urn:rosemary:confirm');
    const saved = await type(school.students[1], 61_000, null, { isAboveConfirmed: true }).expect(200);
    expect(saved.body.row.totals.soFar).toBe('101.7');
  });

  it('refuses to write over what someone else wrote meanwhile, and gives both', async () => {
    const conflict = await type(school.students[1], 30_000, null).expect(409);
    expect(conflict.body.current).toMatchObject({ raw: 61_000, state: 'scored' });
    await type(school.students[1], 30_000, conflict.body.current.eventId).expect(200);
  });

  it('keeps every change in order, and undoes the latest only', async () => {
    const path = `${base()}/gradebook/history/${school.columnId}/${school.students[1]}`;
    const { body: history } = await school.agents.instructor.get(path).expect(200);
    expect(history.map((h: { what: string }) => h.what)).toEqual(['61 → 30', '61']);
    await school.agents.instructor.post(`${base()}/gradebook/undo`).send({ eventId: history[1].eventId }).expect(409);
    const undone = await school.agents.instructor.post(`${base()}/gradebook/undo`).send({ eventId: history[0].eventId }).expect(200);
    expect(undone.body.row.totals.soFar).toBe('101.7');
    expect((await school.agents.instructor.get(path)).body[0].what).toBe('undone, back to 61');
  });

  it('puts a cell back to any of its earlier values, and keeps why a change was made', async () => {
    const path = `${base()}/gradebook/history/${school.columnId}/${school.students[1]}`;
    const read = async () =>
      (await school.agents.instructor.get(path).expect(200)).body as { eventId: string; what: string; reason: string; isMine: boolean }[];
    const before = await read();
    const middle = before.find((h) => h.what === '61 → 30');
    const done = await school.agents.instructor.post(`${base()}/gradebook/put-back`).send({ eventId: middle?.eventId }).expect(200);
    expect(done.body.row.totals.soFar).toBe('50.0');
    const [latest] = await read();
    expect(latest).toMatchObject({ what: '61 → 30', reason: 'put back to an earlier value', isMine: true });
    // Once more changes nothing.
    expect(
      (await school.agents.instructor.post(`${base()}/gradebook/put-back`).send({ eventId: middle?.eventId }).expect(200)).body.eventId,
    ).toBe(latest?.eventId);
    const reason = (who: 'instructor' | 'assistant', eventId: string) =>
      school.agents[who].put(`${base()}/gradebook/reasons`).send({ eventId, reason: ' A page was overlooked ' });
    await reason('instructor', middle?.eventId ?? '').expect(200);
    expect((await read()).find((h) => h.eventId === middle?.eventId)?.reason).toBe('A page was overlooked');
    await reason('instructor', 'x').expect(422);
    await reason('instructor', '999999').expect(404);
    expect([403, 404]).toContain((await reason('assistant', middle?.eventId ?? '')).status);
    await school.agents.instructor.post(`${base()}/gradebook/undo`).send({ eventId: latest?.eventId }).expect(200);
  });

  it('opens the working of every number down to the item', async () => {
    const working = async (of: string) =>
      (await school.agents.instructor.get(`${base()}/gradebook/working/${school.students[0]}?of=${of}`).expect(200)).body;
    expect(await working('soFar')).toMatchObject({ title: 'Total so far: 75.0 %, B' });
    expect(JSON.stringify(await working('soFar'))).toContain('45 / 60');
    expect((await working('floor')).title).toMatch(/^Floor: 75/);
    expect((await working('reach')).title).toMatch(/^Reach: 75/);
    expect((await working(`column:${school.columnId}`)).lines[0]).toMatchObject({ rule: 'Report', value: '45 / 60' });
    await school.agents.instructor.get(`${base()}/gradebook/working/${school.students[0]}?of=column:nothing`).expect(404);
  });
});

describe('the ledger', () => {
  it('cannot be changed or emptied by the application, nor by anyone past the trigger', async () => {
    await expect(school.pool.query('update grade_event set raw = 0')).rejects.toThrow('permission denied');
    await expect(school.pool.query('delete from grade_event')).rejects.toThrow('permission denied');
    const { default: pg } = await import('pg');
    const owner = new pg.Client({
      connectionString: (process.env.ROSEMARY_OWNER_URL ?? '').replace(/\/rosemary$/, `/${new URL(school.url).pathname.slice(1)}`),
    });
    await owner.connect();
    await expect(owner.query('delete from grade_event')).rejects.toThrow('append-only');
    await expect(owner.query('truncate grade_event cascade')).rejects.toThrow('append-only');
    await owner.end();
  });

  it('rebuilds every current grade', async () => {
    const differing = await withDb(school.pool, false, (db) =>
      rows(
        db,
        `
      select g.* from grade g full join (select distinct on (column_id, enrolment_id) * from grade_event order by column_id, enrolment_id, id desc) e using (column_id, enrolment_id)
      where (g.state, g.raw, g.is_released, g.last_event_id) is distinct from (e.state, e.raw, e.is_released, e.id)`,
      ),
    );
    expect(differing).toEqual([]);
  });
});

describe('the policy', () => {
  const read = async () => (await school.agents.instructor.get(`${base()}/policy`).expect(200)).body;
  const change = async (more: object) => {
    const { weightsSum, totals, columns, ...policy } = await read();
    void weightsSum;
    void totals;
    void columns;
    return { ...policy, ...more };
  };

  it('shows its ripple before anything moves', async () => {
    const levels = [
      { label: 'A', cutPoint: 76_000 },
      { label: 'B', cutPoint: 75_500 },
      { label: 'F', cutPoint: 0 },
    ];
    const ripple = (
      await school.agents.instructor
        .put(`${base()}/policy`)
        .set('x-ripple', 'show')
        .send(await change({ levels }))
        .expect(200)
    ).body;
    expect(ripple.sentence).toBe('None rise, none fall, 1 crosses a letter');
    expect(ripple.rows[0]).toMatchObject({ letterBefore: 'B', letterAfter: 'F' });
    expect((await read()).levels).toHaveLength(5);
  });

  it('computes though weights do not add to 100, and says so', async () => {
    const policy = await change({});
    policy.categories[0].weightPercent = 50_000;
    await school.agents.instructor.put(`${base()}/policy`).send(policy).expect(200);
    const book = (await school.agents.instructor.get(`${base()}/gradebook`)).body;
    expect(book.weightsSum).toBe(90_000);
    expect(book.rows[0].totals.soFar).toBe('75.0');
  });

  it('refuses what another changed meanwhile, cut-points that rise, and a category that still holds items', async () => {
    const policy = await change({});
    await school.agents.instructor
      .put(`${base()}/policy`)
      .send({ ...policy, version: policy.version - 1, decimals: policy.decimals === 0 ? 1 : 0 })
      .expect(409);
    const rising = await school.agents.instructor
      .put(`${base()}/policy`)
      .send({
        ...policy,
        levels: [
          { label: 'B', cutPoint: 10_000 },
          { label: 'A', cutPoint: 20_000 },
        ],
      })
      .expect(422);
    expect(rising.body.detail).toContain('below the one before');
    const held = await school.agents.instructor
      .put(`${base()}/policy`)
      .send({ ...policy, categories: policy.categories.slice(1) })
      .expect(422);
    expect(held.body.detail).toContain('still holds');
  });

  it('reduces late work by the policy, exactly', async () => {
    await school.agents.instructor
      .put(`${base()}/policy`)
      .send(await change({ lateRatePercent: 5000, lateCapPercent: 50_000 }))
      .expect(200);
    await withDb(school.pool, true, (db) =>
      run(db, 'update attempt set handed_in_at = to_timestamp($1 / 1000.0)', [START + 3 * 86_400_000 - 3_600_000]),
    );
    const book = (await school.agents.instructor.get(`${base()}/gradebook`)).body;
    expect(book.rows[0].cells[0][1]).toBe('42.75');
    const working = (await school.agents.instructor.get(`${base()}/gradebook/working/${school.students[0]}?of=column:${school.columnId}`))
      .body;
    expect(JSON.stringify(working)).toContain('− 2.25');
  });
});

describe('release at a date', () => {
  it('is done by the job once the date has come, and once only', async () => {
    await withDb(school.pool, true, (db) =>
      run(db, "update item set release_mode = 'date', release_at = to_timestamp($2 / 1000.0) where id = $1", [school.itemId, START + 1000]),
    );
    const at = (now: number) => doJob(school, releaseMarks, now);
    expect([await at(START), await at(START + 2000), await at(START + 3000)]).toEqual([0, 1, 0]);
  });
});

describe('one engine', () => {
  it('gives the student the same total as the gradebook once all is released', async () => {
    const own = (await school.agents.student.get(`${base()}/own/grades`).expect(200)).body;
    const book = (await school.agents.instructor.get(`${base()}/gradebook`)).body;
    expect(own.totals.soFar).toBe(book.rows.find((r: { enrolmentId: string }) => r.enrolmentId === school.students[0]).totals.soFar);
    const says = (lines: { rule: string }[], total: string): boolean => lines.some((l) => l.rule === `Total ${total}`);
    expect([says(own.working, 'so far'), says(own.floorWorking, 'floor'), says(own.reachWorking, 'reach')]).toEqual([true, true, true]);
    await school.pool.query('update grading_policy set shows_floor_and_reach = false where course_id = $1', [school.courseId]);
    const hidden = (await school.agents.student.get(`${base()}/own/grades`).expect(200)).body;
    expect([hidden.totals.floor, hidden.floorWorking, hidden.reachWorking]).toEqual([null, [], []]);
    const facts = await withDb(school.pool, false, (db) => readFacts(db, school.courseId));
    const calculation = calculate(facts, START, false);
    expect(calculation.totalsOf(calculation.cellsOf(facts.people[0]!)).soFar.kind).toBe('so far');
  });
});

describe('how the class stands', () => {
  it('is the mean of the totals, each of which is listed, by section where one is chosen', async () => {
    const whole = (await school.agents.instructor.get(`${base()}/gradebook/class`).expect(200)).body;
    const book = (await school.agents.instructor.get(`${base()}/gradebook`).expect(200)).body;
    const totals = (book.rows as { totals: { soFar: string | null } }[]).flatMap((r) =>
      r.totals.soFar === null ? [] : [Number(r.totals.soFar)],
    );
    const mean = totals.reduce((sum, t) => sum + t, 0) / totals.length;
    expect(Number(/([\d.]+) %/.exec(whole.title as string)?.[1])).toBeCloseTo(mean, 0);
    expect(whole.lines.slice(0, 2).map((l: { rule: string }) => l.rule)).toEqual(['Tester, First', 'Tester, Second']);
    const one = (await school.agents.instructor.get(`${base()}/gradebook/class?section=${school.sections[1]}`).expect(200)).body;
    expect(one.lines[0].rule).toBe('Tester, Second');
  });

  it('is an assistant’s only for the sections given', async () => {
    const own = (await school.agents.assistant.get(`${base()}/gradebook/class`).expect(200)).body;
    expect(JSON.stringify(own)).not.toContain('Second');
    await school.agents.assistant.get(`${base()}/gradebook/class?section=${school.sections[1]}`).expect(404);
  });
});
