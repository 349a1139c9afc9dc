import { type Db, maybe, rows, run } from '../platform/database.ts';

/**
 * The tables that grades are made from and whose past is kept: how a row is named, and which rows belong to a course (`x` is the row). A test
 * holds the list against the triggers of the database.
 */
export const PAST_TABLES = {
  item: ['x.id::text', 'x.course_id = $1'],
  grade_column: ['x.id::text', 'x.course_id = $1'],
  column_late: ['x.column_id::text', 'x.column_id in (select id from public.grade_column where course_id = $1)'],
  column_curve: ['x.column_id::text', 'x.column_id in (select id from public.grade_column where course_id = $1)'],
  category: ['x.id::text', 'x.course_id = $1'],
  declared_work: ["x.category_id || ' ' || x.period_id", 'x.category_id in (select id from public.category where course_id = $1)'],
  category_late: ['x.category_id::text', 'x.category_id in (select id from public.category where course_id = $1)'],
  grading_policy: ['x.course_id::text', 'x.course_id = $1'],
  scheme_level: ["x.scheme_id || ' ' || x.position", 'x.scheme_id in (select id from public.scheme where course_id = $1)'],
  grading_period: ['x.id::text', 'x.course_id = $1'],
  date_variant: ['x.id::text', 'x.item_id in (select id from public.item where course_id = $1)'],
  audience: [
    'x.id::text',
    '(x.item_id in (select id from public.item where course_id = $1) or x.unit_id in (select id from public.unit where course_id = $1))',
  ],
  arrangement: ['x.id::text', 'x.enrolment_id in (select id from public.enrolment where course_id = $1)'],
  enrolment: ['x.id::text', 'x.course_id = $1'],
  assignment: ['x.item_id::text', 'x.item_id in (select id from public.item where course_id = $1)'],
  quiz: ['x.item_id::text', 'x.item_id in (select id from public.item where course_id = $1)'],
  unit: ['x.id::text', 'x.course_id = $1'],
  unit_item: ["x.unit_id || ' ' || x.item_id", 'x.unit_id in (select id from public.unit where course_id = $1)'],
  group_member: [
    "x.group_id || ' ' || x.enrolment_id",
    'x.group_id in (select g.id from public.course_group g join public.group_set s on s.id = g.set_id where s.course_id = $1)',
  ],
} as const satisfies { readonly [table: string]: readonly [key: string, ofCourse: string] };

/** Views over these tables: they are made anew over those of the past. */
const VIEWS = ['graded_item', 'work_grade'] as const;
/** What students did has a time of its own: of what came by then, and what was taken away only later. */
const EVENTS = { hand_in: ['x.handed_in_at', null], post: ['x.created_at', 'removed_at'] } as const;
const eventsOf = (table: keyof typeof EVENTS): string => {
  const [came, went] = EVENTS[table];
  const row =
    went === null
      ? 'x.*'
      : `(jsonb_populate_record(x, case when x.${went} > to_timestamp($2 / 1000.0) then '{"${went}": null}' else '{}' end::jsonb)).*`;
  return `insert into ${table} select ${row} from public.${table} x join public.item i on i.id = x.item_id where i.course_id = $1 and ${came} <= to_timestamp($2 / 1000.0)`;
};

/** Every row as it stood: where it was changed later, as it was before the first of these changes. */
const rowsOf = (table: keyof typeof PAST_TABLES): string => {
  const [key, ofCourse] = PAST_TABLES[table];
  return `
    with first as (select distinct on (row_key) row_key, row_before from past where course_id = $1 and table_name = '${table}' and at > to_timestamp($2 / 1000.0) order by row_key, id)
    insert into ${table} select x.* from public.${table} x where ${ofCourse} and not exists (select 1 from first f where f.row_key = ${key})
    union all select r.* from first f cross join lateral jsonb_populate_record(null::public.${table}, f.row_before) r where f.row_before is not null`;
};

const FILLED: readonly string[] = [
  ...(Object.keys(PAST_TABLES) as (keyof typeof PAST_TABLES)[]).map(rowsOf),
  // Each cell as the ledger last said it.
  `insert into grade (column_id, enrolment_id, state, raw, is_released, last_event_id)
   select distinct on (e.column_id, e.enrolment_id) e.column_id, e.enrolment_id, e.state, e.raw, e.is_released, e.id
   from grade_event e join public.grade_column c on c.id = e.column_id where c.course_id = $1 and e.at <= to_timestamp($2 / 1000.0) order by e.column_id, e.enrolment_id, e.id desc`,
  ...(Object.keys(EVENTS) as (keyof typeof EVENTS)[]).map(eventsOf),
];

/**
 * Does something with the gradebook of a course as it stood at an instant. What is read meanwhile on this connection is read from tables of
 * the past, which stand before the real ones by their names and are gone at the end: so the one calculation makes the past as well. Nothing
 * can be written in it.
 */
export async function asOf<T>(db: Db, courseId: string, at: number, work: () => Promise<T>): Promise<T> {
  const views = await rows<{ name: string; text: string }>(
    db,
    'select v as name, pg_get_viewdef(v::regclass) as text from unnest($1::text[]) as v',
    [VIEWS],
  );
  await db.query('begin');
  try {
    const made = [...Object.keys(PAST_TABLES), 'grade', ...Object.keys(EVENTS)].map(
      (t) => `create temp table ${t} as select * from public.${t} with no data`,
    );
    await db.query(made.join('; '));
    await Promise.all(FILLED.map((text) => run(db, text, [courseId, at])));
    await db.query(
      [...views.map((v) => `create temp view ${v.name} as ${v.text.replace(/;\s*$/, '')}`), 'analyze grade', 'analyze hand_in'].join('; '),
    );
    // Statements that this connection has planned before name the real tables until they are read anew.
    await db.query('discard plans');
    return await work();
  } finally {
    await db.query('rollback');
    await db.query('discard plans');
  }
}

/** Since when the past of a course is known beside its marks; null where it is from the beginning. */
export async function findPastSince(db: Db, courseId: string): Promise<string | null> {
  const found = await maybe<{ at: Date }>(db, 'select at from past_since where course_id = $1', [courseId]);
  return found?.at.toISOString() ?? null;
}
