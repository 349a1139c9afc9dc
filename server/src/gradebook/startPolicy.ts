import { type Db, rows, run } from '../platform/database.ts';

const STARTING_CATEGORIES = [
  ['Assignments', 60],
  ['Class work', 40],
] as const;

const STARTING_LETTERS = [
  ['A', 87],
  ['B', 73],
  ['C', 61],
  ['D', 50],
  ['F', 0],
] as const;

/** The policy a new course starts from. */
export async function startPolicy(db: Db, courseId: string): Promise<void> {
  const scheme = await rows<{ id: string }>(db, "insert into scheme (course_id, title) values ($1, 'letters') returning id", [courseId]);
  await run(
    db,
    'insert into scheme_level (scheme_id, position, label, cut_point) select $1, t.n - 1, t.label, t.cut from unnest($2::text[], $3::numeric[]) with ordinality as t(label, cut, n)',
    [scheme[0]?.id, STARTING_LETTERS.map(([label]) => label), STARTING_LETTERS.map(([, cut]) => cut)],
  );
  await run(db, 'insert into grading_policy (course_id, scheme_id) values ($1, $2)', [courseId, scheme[0]?.id]);
  await run(
    db,
    'insert into category (course_id, title, position, weight_percent) select $1, t.title, t.n - 1, t.weight from unnest($2::text[], $3::numeric[]) with ordinality as t(title, weight, n)',
    [courseId, STARTING_CATEGORIES.map(([title]) => title), STARTING_CATEGORIES.map(([, weight]) => weight)],
  );
}

/** Categories instead of those a course has; nothing may count in these yet. */
export async function replaceCategories(
  db: Db,
  courseId: string,
  categories: readonly { readonly id: string; readonly title: string; readonly position: number; readonly weightPercent: number }[],
): Promise<void> {
  await run(db, 'delete from category where course_id = $1', [courseId]);
  await run(
    db,
    'insert into category (id, course_id, title, position, weight_percent) select t.id, $1, t.title, t.position, t.weight from unnest($2::uuid[], $3::text[], $4::int[], $5::numeric[]) as t(id, title, position, weight)',
    [
      courseId,
      categories.map((c) => c.id),
      categories.map((c) => c.title),
      categories.map((c) => c.position),
      categories.map((c) => c.weightPercent),
    ],
  );
}
