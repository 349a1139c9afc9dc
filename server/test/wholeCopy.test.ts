import { paragraphs } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { type Db, rows, run, withDb } from '../src/index.ts';
import { columnsOf, NOT_OF_ITEM, type PartOfItem } from '../src/items/itemParts.ts';
import { ITEM_PARTS } from '../src/kinds/index.ts';
import { makeSchool, START, type TestSchool } from './school.ts';

/** A copy of an item is the whole item: every column of every table of it, held against the list that all copying rests on. */
let school: TestSchool;

let groupId: string;

beforeAll(async () => {
  school = await makeSchool('whole_copy');
}, 60_000);

afterAll(() => school.close());

const DAY = 86_400_000;

const course = (): string => `/api/courses/${school.courseId}`;

const read = <T extends Record<string, unknown>>(sql: string, values: unknown[] = []): Promise<T[]> =>
  withDb(school.pool, false, (db) => rows<T>(db, sql, values));

const TABLES = Object.keys(ITEM_PARTS);
const partFor = (table: string): PartOfItem => ITEM_PARTS[table] as PartOfItem;

describe('the list of what an item consists of', () => {
  it('names every column of its tables, each once', async () => {
    for (const table of TABLES) {
      const part = partFor(table);
      const there = await read<{ name: string }>(
        "select column_name as name from information_schema.columns where table_schema = 'public' and table_name = $1",
        [table],
      );
      const named = [...part.copied, ...part.ofCourse, ...Object.keys(part.left)];
      expect({ table, columns: [...named].sort() }).toEqual({ table, columns: there.map((c) => c.name).sort() });
    }
  });
  it('knows every table that points at an item', async () => {
    const found = await read<{ name: string }>(
      "select distinct c.conrelid::regclass::text as name from pg_constraint c where c.contype = 'f' and c.confrelid in ('item'::regclass, 'grade_column'::regclass, 'quiz'::regclass, 'assignment'::regclass, 'page'::regclass, 'discussion'::regclass)",
    );
    const unknown = found.map((f) => f.name).filter((name) => !(name in ITEM_PARTS) && !(name in NOT_OF_ITEM));
    expect(unknown).toEqual([]);
  });
});

describe('foreign keys that are searched', () => {
  /** Who did something: looked for when a person is erased, and never else. */
  const UNSEARCHED = /(_by|by_person|author_id|actor_id|marker_id|by_id|asked_by|person_id)$/;
  const NAMED = new Set(['grade_event(undoes)', 'quiz_part(question_id)', 'visit(item_id)']);
  it('have an index', async () => {
    const found = await read<{ name: string }>(
      `select c.conrelid::regclass || '(' || string_agg(a.attname, ',' order by k.n) || ')' as name from pg_constraint c cross join lateral unnest(c.conkey) with ordinality k(attnum, n)
         join pg_attribute a on a.attrelid = c.conrelid and a.attnum = k.attnum join pg_class t on t.oid = c.conrelid join pg_namespace s on s.oid = t.relnamespace and s.nspname = 'public'
       where c.contype = 'f' and not exists (select 1 from pg_index i where i.indrelid = c.conrelid and i.indkey[0] = c.conkey[1] and i.indpred is null)
       group by c.oid, c.conrelid`,
    );
    expect(found.map((f) => f.name).filter((name) => !UNSEARCHED.test(name.slice(0, -1)) && !NAMED.has(name))).toEqual([]);
  });
});

/** Values that no fresh item has, by table and column. */
async function fill(db: Db, kind: string, itemId: string): Promise<void> {
  const at = (days: number): string => new Date(START + days * DAY).toISOString();
  const [category] = await rows<{ id: string }>(db, 'select id from category where course_id = $1 limit 1', [school.courseId]);
  const [type] = await rows<{ id: string }>(
    db,
    "insert into task_type (title) values ('Practical') on conflict (lower(title)) where removed_at is null do update set title = excluded.title returning id",
  );
  const [period] = await rows<{ id: string }>(
    db,
    "insert into grading_period (course_id, title, position) values ($1, 'Half', 0) returning id",
    [school.courseId],
  );
  await run(
    db,
    `update item set is_required = false, announced_at = $2, opens_at = $3, due_at = $4, closes_at = $5,
       week = 3, estimated_minutes = 77, marking_minutes = 9, done_rule = case done_rule when 'opened' then 'ticked' else 'opened' end, done_score = 2.5, release_mode = 'date', release_at = $6, is_staff_only = true, opening_needs = 'any', task_type_id = $7, next_note = 'Take more time' where id = $1`,
    [itemId, at(1), at(2), at(3), at(4), at(9), type?.id],
  );
  await run(
    db,
    `update grade_column set title = 'Otherwise called', category_id = $2, period_id = $3, possible = 37.5, multiplier = 1.5, is_extra_credit = true, counts = not counts, shows_statistics = not shows_statistics,
       student_reads = 'percent', staff_reads = 'letter', own_levels = '[{"label": "done", "cutPoint": 0, "value": null}]' where item_id = $1`,
    [itemId, category?.id, period?.id],
  );
  await run(
    db,
    'insert into column_late (column_id, rate_percent, step_minutes, base, cap_percent, floor_percent, grace_minutes) select id, 7, 60, $2, 33, 11, 5 from grade_column where item_id = $1',
    [itemId, 'possible'],
  );
  await run(db, 'insert into date_variant (item_id, group_id, announced_at, opens_at, due_at, closes_at) values ($1, $2, $3, $4, $5, $6)', [
    itemId,
    groupId,
    at(1),
    at(2),
    at(5),
    at(6),
  ]);
  await run(db, 'insert into date_variant (item_id, section_id, due_at) values ($1, $2, $3)', [itemId, school.sections[0], at(5)]);
  await run(db, 'insert into date_variant (item_id, enrolment_id, due_at) values ($1, $2, $3)', [itemId, school.students[0], at(5)]);
  await run(db, 'insert into audience (item_id, group_id) values ($1, $2)', [itemId, groupId]);
  await run(db, 'insert into audience (item_id, section_id) values ($1, $2)', [itemId, school.sections[0]]);
  await run(db, 'insert into audience (item_id, enrolment_id) values ($1, $2)', [itemId, school.students[1]]);
  await run(db, "insert into opening_rule (item_id, position, kind, other_item_id, least) values ($1, 0, 'score', $2, 3.5)", [
    itemId,
    school.itemId,
  ]);
  const [objective] = await rows<{ id: string }>(
    db,
    "insert into objective (course_id, code, statement) values ($1, $2, 'Reads a movement') returning id",
    [school.courseId, `O${randomUUID().slice(0, 6)}`],
  );
  await run(db, 'insert into objective_use (objective_id, item_id) values ($1, $2)', [objective?.id, itemId]);
  if (kind === 'assignment') {
    const [set] = await rows<{ set_id: string }>(db, 'select set_id from course_group where id = $1', [groupId]);
    await run(
      db,
      `update assignment set accepts_text = not accepts_text, accepts_files = true, file_types = '{docx}', most_files = 7, most_bytes = 4096, attempts_allowed = 3, accepts_link = true, accepts_recording = true, on_paper = true,
         judged = 'done', counted = 'best', allows_withdrawal = not allows_withdrawal, markers = 2, group_set_id = $2, anonymous = 'date', anonymous_until = $3 where item_id = $1`,
      [itemId, set?.set_id, at(8)],
    );
    await run(
      db,
      'insert into match_setting (item_id, looks_at_class, looks_at_earlier, looks_at_collection, leaves_quotations, shows_students, joins_collection) select $1, not looks_at_class, not looks_at_earlier, not looks_at_collection, not leaves_quotations, not shows_students, not joins_collection from (select true as looks_at_class, true as looks_at_earlier, false as looks_at_collection, true as leaves_quotations, false as shows_students, false as joins_collection) d',
      [itemId],
    );
  }
  if (kind === 'quiz') {
    await run(
      db,
      `update quiz set taken = 'both', instructions = $2, layout = case layout when 'one' then 'page' else 'one' end, may_go_back = not may_go_back, shuffles_sections = true, shuffles_answers = not shuffles_answers, limit_minutes = 41, at_end = 'flag',
         attempts_allowed = 4, counted = 'first', retry_until = 1.5, review = jsonb_set(review, '{key}', '{"kind": "window", "from": "2026-10-06T09:00:00Z", "to": "2026-10-07T09:00:00Z"}'), allows_calculator = true, records_leaving = true, discourages_copying = true, pass_points = 1, merit_points = 2, allowed_addresses = '{192.0.2.7}' where item_id = $1`,
      [itemId, paragraphs('Read twice.')],
    );
    await run(db, "update quiz_section set title = 'One', instructions = $2, is_shuffled = true, position = 3 where item_id = $1", [
      itemId,
      JSON.stringify('Slowly.'),
    ]);
  }
  if (kind === 'link')
    await run(db, "update item_link set address = 'https://example.org/x', note = $2 where item_id = $1", [itemId, 'Read it.']);
  if (kind === 'page') await run(db, 'update page set document = $2 where item_id = $1', [itemId, paragraphs('A page.')]);
  if (kind === 'discussion')
    await run(db, 'update discussion set document = $2, is_post_first = not is_post_first where item_id = $1', [
      itemId,
      paragraphs('Talk.'),
    ]);
}

const KINDS = ['assignment', 'quiz', 'discussion', 'page', 'link', 'activity'] as const;

async function addItem(kind: string): Promise<string> {
  const made = await school.agents.instructor
    .post(`${course()}/items`)
    .send({ unitId: school.unitId, kind, title: `A ${kind} ${randomUUID().slice(0, 4)}`, position: 0 })
    .expect(200);
  return made.body.id as string;
}

/** The rows of a part of an item, without what is the copy's own, in an order of their own. */
async function partOf(table: string, itemId: string, names: string): Promise<string[]> {
  const key = table === 'item' ? 'id' : 'item_id';
  const sql =
    table === 'quiz_part'
      ? 'select p.* from quiz_part p join quiz_section s on s.id = p.section_id where s.item_id = $1'
      : table === 'column_late'
        ? 'select l.* from column_late l join grade_column c on c.id = l.column_id where c.item_id = $1'
        : `select * from ${table} where ${key} = $1`;
  const found = await read<{ row: unknown }>(`select to_jsonb(t) as row from (select ${names} from (${sql}) p) t`, [itemId]);
  return found.map((f) => JSON.stringify(f.row)).sort();
}

const placed = (table: string): boolean => !['unit_item', 'item_file', 'item_shown_file', 'quiz_part'].includes(table);

describe.each(KINDS)('a copy of a %s', (kind) => {
  let source: string;
  let fresh: string;
  beforeAll(async () => {
    const [known] = await read<{ id: string }>(
      'select g.id from course_group g join group_set s on s.id = g.set_id where s.course_id = $1 limit 1',
      [school.courseId],
    );
    groupId = known?.id ?? (await makeGroup());
    fresh = await addItem(kind);
    source = await addItem(kind);
    await withDb(school.pool, true, (db) => fill(db, kind, source));
  });

  it('within its course has every column of every part', async () => {
    const { body } = await school.agents.instructor
      .post(`${course()}/items/duplicates`)
      .send({ itemIds: [source] })
      .expect(200);
    const copy = (body.made as string[])[0] ?? '';
    for (const table of TABLES.filter(placed)) {
      const { names } = columnsOf(partFor(table), true);
      const [was, is, plain] = [await partOf(table, source, names), await partOf(table, copy, names), await partOf(table, fresh, names)];
      expect({ kind, table, rows: is }).toEqual({ kind, table, rows: was });
      // What is filled differs from what a fresh item has, in every column: nothing agrees by being empty.
      const [before, after] = [JSON.parse(plain[0] ?? '{}'), JSON.parse(was[0] ?? '{}')] as Record<string, unknown>[];
      const same = Object.keys(after ?? {}).filter(
        (c) => c !== 'kind' && c !== 'role' && plain.length > 0 && JSON.stringify(before?.[c]) === JSON.stringify(after?.[c]),
      );
      expect({ kind, table, unfilled: same }).toEqual({ kind, table, unfilled: [] });
    }
  });

  it('in another course has all that is not of this one', async () => {
    await withDb(school.pool, true, (db) =>
      run(
        db,
        "insert into enrolment (course_id, person_id, role) select $1, person_id, 'instructor' from enrolment where course_id = $2 and role = 'instructor' on conflict do nothing",
        [school.otherCourseId, school.courseId],
      ),
    );
    const draft = { isDraft: true, opensAt: null, dueAt: null, words: '', tells: false };
    const wish = { cells: [{ ...draft, itemId: source, courseId: school.otherCourseId, sectionId: null }] };
    const { body } = await school.agents.instructor.post(`${course()}/giving`).send(wish).expect(200);
    const copy = body.made[0].itemIds[0] as string;
    for (const table of TABLES.filter((t) => placed(t) && t !== 'opening_rule' && t !== 'objective_use')) {
      const { names } = columnsOf(partFor(table), false);
      if (names === '') continue;
      expect({ kind, table, rows: await partOf(table, copy, names) }).toEqual({ kind, table, rows: await partOf(table, source, names) });
    }
    const aligned = await read<{ code: string; course_id: string }>(
      'select o.code, o.course_id from objective_use u join objective o on o.id = u.objective_id where u.item_id = $1',
      [copy],
    );
    const wanted = await read<{ code: string }>(
      'select o.code from objective_use u join objective o on o.id = u.objective_id where u.item_id = $1',
      [source],
    );
    expect(aligned).toEqual([{ code: wanted[0]?.code, course_id: school.otherCourseId }]);
  });
});

async function makeGroup(): Promise<string> {
  const [set] = await withDb(school.pool, true, (db) =>
    rows<{ id: string }>(db, "insert into group_set (course_id, title, position) values ($1, 'Benches', 0) returning id", [
      school.courseId,
    ]),
  );
  const [group] = await withDb(school.pool, true, (db) =>
    rows<{ id: string }>(db, "insert into course_group (set_id, title, position) values ($1, 'Bench one', 0) returning id", [set?.id]),
  );
  return group?.id ?? '';
}
