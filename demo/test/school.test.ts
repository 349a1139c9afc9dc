import pg from 'pg';
import { calculate, getStatistics, readStanding, makePool, readFacts, rows, withDb, type Db, type Pool } from '@rosemary/server';
import { readTotal } from '@rosemary/core';
import { demoInstant } from '../src/load.ts';
import { makeDatabase } from '../../server/test/school.ts';
// @ts-expect-error the start scripts are plain modules
import { DEMO_CLOCK, layOutDemo, layOutTemplate } from '../../scripts/demoTemplate.mjs';

/** Every picture, test and number of the demo agrees with every other: what must be true of it, whatever the seed drew. */
const NOW = Date.parse(DEMO_CLOCK as string);
let database: Awaited<ReturnType<typeof makeDatabase>>;
let pool: Pool;
beforeAll(async () => {
  database = await makeDatabase('demo', (await layOutTemplate(process.env)) as string);
  pool = makePool(database.appUrl, 2);
}, 240_000);
afterAll(async () => {
  await pool.end();
  await database.drop();
});
const ask = <T extends object>(sql: string, values: unknown[] = []): Promise<T[]> =>
  withDb(pool, false, (db: Db) => rows<T & Record<string, unknown>>(db, sql, values));
const count = async (sql: string, values: unknown[] = []): Promise<number> =>
  Number((await ask<{ n: string }>(`select count(*) as n from ${sql}`, values))[0]?.n);

describe('the demo school', () => {
  it('stands on the Wednesday of week 9 of 15, whatever the day of the week it is started on', () => {
    for (const day of ['2026-11-16T00:10:00Z', '2026-11-18T10:20:00Z', '2026-11-22T23:40:00Z'])
      expect(new Date(demoInstant(Date.parse(day))).toISOString()).toBe('2026-11-18T10:20:00.000Z');
  });

  it('has its courses with their sections and students', async () => {
    const found = await ask<{ code: string; run: string; sections: string; students: string }>(`
      select c.code, c.run, (select count(*) from section s where s.course_id = c.id) as sections,
             (select count(*) from enrolment e where e.course_id = c.id and e.role = 'student' and not e.is_sample and e.withdrawn_at is null) as students
      from course c order by c.code, c.run`);
    expect(found).toEqual([
      { code: 'HOR-110', run: 'autumn', sections: '3', students: '48' },
      { code: 'HOR-110', run: 'spring', sections: '1', students: '14' },
      { code: 'HOR-205', run: 'autumn', sections: '2', students: '26' },
    ]);
  });

  it('has six units of about forty items, of every kind built so far', async () => {
    const units = await ask<{ title: string; items: string }>(`
      select u.title, count(*) as items from unit u join unit_item ui on ui.unit_id = u.id join course c on c.id = u.course_id
      where c.code = 'HOR-110' and c.run = 'autumn' and not u.is_standing group by u.id order by u.position`);
    expect(units.map((u) => u.title)).toEqual([
      'Tools and the bench',
      'The going train',
      'The escapement',
      'Balance and timing',
      'Cleaning and oil',
      'Restoring with care',
    ]);
    expect(
      await ask<{ items: string }>('select count(*) as items from unit_item ui join unit u on u.id = ui.unit_id where u.is_standing'),
    ).toEqual([{ items: '3' }]);
    const many = units.reduce((sum, u) => sum + Number(u.items), 0);
    expect(many).toBeGreaterThanOrEqual(36);
    expect(many).toBeLessThanOrEqual(46);
    expect((await ask<{ kind: string }>('select distinct kind from item order by kind')).map((k) => k.kind)).toEqual([
      'activity',
      'assignment',
      'discussion',
      'file',
      'link',
      'page',
      'quiz',
    ]);
  });

  it('has every text published', async () => {
    const waiting = await pool.query('select i.title from working_copy w join item i on i.id = w.item_id');
    expect(waiting.rows).toEqual([]);
  });

  it('has nothing that happens after now, nor before its term', async () => {
    const now = new Date(NOW).toISOString();
    for (const [table, column] of [
      ['attempt', 'handed_in_at'],
      ['grade_event', 'at'],
      ['item_opened', 'first_at'],
      ['visit', 'last_at'],
      ['mark', 'saved_at'],
      ['post', 'created_at'],
      ['notice', 'at'],
      ['margin_note', 'created_at'],
      ['quiz_attempt', 'begun_at'],
      ['quiz_attempt', 'handed_in_at'],
      ['quiz_answer', 'saved_at'],
      ['quiz_score', 'given_at'],
    ] as const)
      expect([table, await count(`${table} where ${column} > $1 or ${column} < '2026-01-01'`, [now])]).toEqual([table, 0]);
  });

  it('has no mark before its work, and no work before its item opened', async () => {
    expect(
      await count(
        `mark m join submission s on s.id = m.submission_id join attempt a on a.submission_id = s.id where m.finished_at is not null and m.finished_at < a.handed_in_at`,
      ),
    ).toBe(0);
    expect(
      await count(
        'attempt a join submission s on s.id = a.submission_id join item i on i.id = s.item_id where a.handed_in_at < i.opens_at',
      ),
    ).toBe(0);
    expect(await count('submission s join item i on i.id = s.item_id where i.is_draft')).toBe(0);
  });

  it('has a current grade that is what its ledger says, in every cell', async () => {
    expect(
      await count(`grade g left join lateral (select state, raw, is_released, id from grade_event e where e.column_id = g.column_id and e.enrolment_id = g.enrolment_id order by id desc limit 1) e on true
        where (e.state, e.raw, e.is_released, e.id) is distinct from (g.state, g.raw, g.is_released, g.last_event_id)`),
    ).toBe(0);
    expect(await count('grade_event')).toBeGreaterThan(500);
  });

  it('has scores within their points, in halves or finer steps of a rubric', async () => {
    expect(await count('grade g join grade_column c on c.id = g.column_id where g.raw < 0 or g.raw > c.possible')).toBe(0);
  });

  it('has people of every kind: silent since week 5, late, arranged for, withdrawn, far ahead', async () => {
    const foundations = (await ask<{ id: string }>("select id from course where code = 'HOR-110' and run = 'autumn'"))[0]!.id;
    const silent = await ask<{ last: Date }>(
      `select max(a.handed_in_at) as last from attempt a join submission s on s.id = a.submission_id join enrolment e on e.id = s.enrolment_id join person p on p.id = e.person_id
       where e.course_id = $1 and p.family_name = 'Montoya' and a.lead_id is null`,
      [foundations],
    );
    expect(silent[0]!.last.getTime()).toBeLessThan(NOW - 21 * 86_400_000);
    expect(await count('arrangement')).toBe(2);
    expect(await count('enrolment where withdrawn_at is not null and course_id = $1', [foundations])).toBe(1);
    const late = await count(
      `attempt a join submission s on s.id = a.submission_id join item i on i.id = s.item_id join enrolment e on e.id = s.enrolment_id join person p on p.id = e.person_id
       where e.course_id = $1 and p.family_name in ('Brannagh', 'Jurado') and a.handed_in_at > i.due_at`,
      [foundations],
    );
    expect(late).toBeGreaterThanOrEqual(3);
  });

  it('has work waiting, work finished and work released, so that every state of marking is there', async () => {
    const waiting = await count(
      'attempt a join submission s on s.id = a.submission_id where not exists (select 1 from mark m where m.submission_id = s.id)',
    );
    expect(waiting).toBeGreaterThan(10);
    expect(await count('grade where state is not null and not is_released')).toBeGreaterThan(10);
    expect(await count('grade where is_released')).toBeGreaterThan(200);
    expect(await count('margin_note')).toBeGreaterThan(20);
  });

  it('has questions of every kind in its bank, and a quiz with something to find', async () => {
    const kinds = await ask<{ kind: string }>('select distinct kind from question_version order by kind');
    expect(kinds.map((k) => k.kind)).toEqual([
      ...['blanks', 'calculated', 'essay', 'hotspot', 'matching', 'numeric', 'ordering', 'several', 'short', 'single', 'truth'],
    ]);
    const [item] = await ask<{ id: string; course_id: string }>(
      "select i.id, i.course_id from item i join course c on c.id = i.course_id where i.title = 'Trains and locks' and c.run = 'autumn'",
    );
    const figures = await withDb(pool, false, (db) => getStatistics(db, item?.course_id ?? '', item?.id ?? '', NOW));
    const flagOf = (words: string): string => figures.questions.find((q) => q.title.includes(words))?.flags.join(' ') ?? '';
    expect(figures.attempts).toBeGreaterThanOrEqual(30);
    expect(flagOf('turns once an hour')).toContain('Most of the best students chose B, which the key calls wrong: is the key right?');
    expect(flagOf('fitted to the slot')).toContain('Nearly everybody is right');
    expect(flagOf('In which town')).toMatch(/tells little about anybody|did worse here/);
    expect(figures.reliability?.alpha ?? 0).toBeGreaterThan(0.4);
  });

  it('has a quiz that is open now, with people in the middle of it and people done', async () => {
    const states = await ask<{ state: string; n: string }>(
      "select t.state, count(*) as n from quiz_attempt t join item i on i.id = t.item_id where i.title = 'Hairspring check' group by t.state order by t.state",
    );
    expect(states.map((s) => s.state)).toEqual(['handed in', 'open']);
    for (const s of states) expect(Number(s.n)).toBeGreaterThan(3);
    expect(await count("quiz_attempt where state = 'handed in' and score is null")).toBeGreaterThan(5);
  });

  it('has a test on paper whose scans wait: some to be looked at, one on a spare sheet, most ready to be brought in', async () => {
    const [item] = await ask<{ id: string }>("select id from item where title = 'Names of the parts'");
    const { sheets, scans } = await withDb(pool, false, (db) => readStanding(db, item?.id ?? ''));
    const read = sheets.filter((s) => s.rows.some((row) => row !== null));
    expect(scans.filter((s) => s.problem !== '')).toEqual([]);
    expect(read.length).toBe(scans.length);
    expect(read.length).toBeGreaterThan(15);
    expect(read.filter((s) => s.enrolmentId === null)).toHaveLength(1);
    const doubtful = read.filter((s) => s.rows.some((row) => row !== null && row.doubt !== null));
    expect(doubtful.length).toBeGreaterThan(0);
    expect(doubtful.length).toBeLessThan(read.length / 2);
    expect(sheets.every((s) => s.broughtIn === null)).toBe(true);
  });

  it('has a spread of totals, with somebody at every letter of the scheme but the last', async () => {
    const id = (await ask<{ id: string }>("select id from course where code = 'HOR-110' and run = 'autumn'"))[0]!.id;
    const facts = await withDb(pool, false, (db) => readFacts(db, id));
    const calculation = calculate(facts, NOW, false);
    const letters = facts.people.map(
      (p) => readTotal(calculation.totalsOf(calculation.cellsOf(p)).soFar.ratio, 1, facts.policy.levels)?.letter ?? '—',
    );
    expect([...new Set(letters)].sort()).toEqual(expect.arrayContaining(['A', 'B', 'C']));
    expect(letters).not.toContain('—');
  });

  it('has a text alternative on every picture and words in every work written here', async () => {
    // One of this week’s is answered in a sentence.
    const short =
      'join submission s on s.id = a.submission_id join item i on i.id = s.item_id where a.document is not null and a.word_count';
    expect(await count(`attempt a ${short} < 20 and i.title <> 'Name the fault'`)).toBe(0);
    expect(await count(`attempt a ${short} < 2`)).toBe(0);
    expect(await count('attempt a where length(a.content_hash) <> 64')).toBe(0);
  });

  it('is the same school again from the same seed and clock', async () => {
    const { ROSEMARY_SUPER_URL: superUrl = '', ROSEMARY_DATABASE_URL: appUrl = '' } = process.env;
    const admin = new pg.Client({ connectionString: superUrl });
    await admin.connect();
    const name = `demo_again_${process.pid}`;
    await layOutDemo(admin, process.env, name);
    const other = makePool(appUrl.replace(/\/rosemary$/, `/${name}`), 2);
    try {
      const digest = `
        select md5(string_agg(line, '|' order by line)) as sum from (
          select p.email || i.title || coalesce(g.raw::text, '') || coalesce(g.state, '') || g.is_released as line from work_grade g join enrolment e on e.id = g.enrolment_id join person p on p.id = e.person_id join item i on i.id = g.item_id
          union all select p.email || i.title || a.content_hash || a.handed_in_at from attempt a join submission s on s.id = a.submission_id join enrolment e on e.id = s.enrolment_id join person p on p.id = e.person_id join item i on i.id = s.item_id) t`;
      const [first, again] = [await ask<{ sum: string }>(digest), await withDb(other, false, (db) => rows<{ sum: string }>(db, digest))];
      expect(again).toEqual(first);
    } finally {
      await other.end();
      await admin.query(`drop database if exists ${name} with (force)`);
      await admin.end();
    }
  }, 240_000);
});
