import { decimalText, type LatePolicy, type SchemeLevel } from '@rosemary/core';
import { type Db, maybe, run } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';
import { lateValues } from './policyRows.ts';

/** What is chosen of the column of an item’s work; a field that is left out stays as it is. */
export interface ColumnFields {
  readonly categoryId?: string | null;
  /** In points, as decimal text. */
  readonly possible?: string;
  readonly multiplier?: string;
  readonly isExtraCredit?: boolean;
  readonly counts?: boolean;
  readonly showsStatistics?: boolean;
  readonly studentReads?: string;
  readonly staffReads?: string;
  readonly ownLevels?: readonly SchemeLevel[] | null;
}

const NAMES: { readonly [field in keyof ColumnFields]-?: string } = {
  categoryId: 'category_id',
  possible: 'possible',
  multiplier: 'multiplier',
  isExtraCredit: 'is_extra_credit',
  counts: 'counts',
  showsStatistics: 'shows_statistics',
  studentReads: 'student_reads',
  staffReads: 'staff_reads',
  ownLevels: 'own_levels',
};
export const COLUMN_FIELDS = Object.keys(NAMES) as readonly (keyof ColumnFields)[];

/** What a column consists of, as far as copies of its item take it along; a test holds it against the database. */
export const COLUMN_PARTS = {
  grade_column: {
    copied: [
      'role',
      'title',
      'possible',
      'multiplier',
      'is_extra_credit',
      'counts',
      'shows_statistics',
      'student_reads',
      'staff_reads',
      'own_levels',
    ],
    ofCourse: ['category_id', 'period_id'],
    left: {
      id: 'the copy has its own',
      item_id: 'the copy',
      course_id: 'the course it is copied to',
      removed_at: 'what is deleted is not copied',
    },
  },
  column_late: {
    copied: ['rate_percent', 'step_minutes', 'base', 'cap_percent', 'floor_percent', 'grace_minutes'],
    ofCourse: [],
    left: { column_id: 'the copy’s column' },
  },
} as const;

/** The column of an item’s work: what its marks, scores and releases are written to. */
export async function getWorkColumn(db: Db, itemId: string): Promise<string> {
  const found = await maybe<{ id: string }>(db, "select id from grade_column where item_id = $1 and role = 'work'", [itemId]);
  if (found === null) throw notFound();
  return found.id;
}

export interface NewColumn {
  readonly itemId: string;
  readonly categoryId: string | null;
  readonly possible: string;
  readonly counts: boolean;
}

/** Gives items the columns of their work. */
export async function addColumns(db: Db, courseId: string, columns: readonly NewColumn[]): Promise<void> {
  await run(
    db,
    `insert into grade_column (course_id, item_id, role, category_id, possible, counts)
     select $1, t.item, 'work', t.category, t.possible, t.counts from unnest($2::uuid[], $3::uuid[], $4::numeric[], $5::boolean[]) as t(item, category, possible, counts)`,
    [
      courseId,
      columns.map((c) => c.itemId),
      columns.map((c) => c.categoryId),
      columns.map((c) => c.possible),
      columns.map((c) => c.counts),
    ],
  );
}

/** Changes the fields named of the column of an item’s work; an item without one has nothing to change. */
export async function changeColumn(db: Db, itemId: string, fields: ColumnFields): Promise<void> {
  const named = COLUMN_FIELDS.filter((field) => fields[field] !== undefined);
  if (named.length === 0) return;
  await run(
    db,
    `update grade_column set ${named.map((field, n) => `${NAMES[field]} = $${n + 2}`).join(', ')} where item_id = $1 and role = 'work'`,
    // A list would be written as an array of the database.
    [itemId, ...named.map((field) => (fields[field] instanceof Array ? JSON.stringify(fields[field]) : fields[field]))],
  );
}

/** Category and points of several items’ works at once. */
export async function setColumns(db: Db, columns: readonly Omit<NewColumn, 'counts'>[]): Promise<void> {
  await run(
    db,
    `update grade_column c set category_id = t.category, possible = t.possible
     from unnest($1::uuid[], $2::uuid[], $3::numeric[]) as t(item, category, possible) where c.item_id = t.item and c.role = 'work'`,
    [columns.map((c) => c.itemId), columns.map((c) => c.categoryId), columns.map((c) => c.possible)],
  );
}

/** The grading period in which an item’s work counts, whatever its date. */
export async function setPeriod(db: Db, courseId: string, itemId: string, periodId: string): Promise<void> {
  const done = await run(
    db,
    "update grade_column set period_id = $3 where item_id = $2 and role = 'work' and exists (select 1 from grading_period where id = $3 and course_id = $1)",
    [courseId, itemId, periodId],
  );
  if (done === 0) throw invalid('periodId', 'This grading period is no longer in the policy. Choose another.');
}

/** A late policy of the column’s own, or none: then its category’s or the course’s holds. */
export async function saveColumnLate(db: Db, itemId: string, late: LatePolicy | null): Promise<void> {
  await run(db, "delete from column_late l using grade_column c where c.id = l.column_id and c.item_id = $1 and c.role = 'work'", [itemId]);
  if (late === null) return;
  await run(
    db,
    'insert into column_late (column_id, rate_percent, step_minutes, base, cap_percent, floor_percent, grace_minutes) values ($1, $2, $3, $4, $5, $6, $7)',
    [await getWorkColumn(db, itemId), ...lateValues(late)],
  );
}

/**
 * The columns of items, with their late policies, to the copies of the items. Within the course they keep category and grading period;
 * in another course they stand in the category that `categories` gives for their own.
 */
export async function copyColumns(
  db: Db,
  courseId: string,
  copies: readonly { readonly itemId: string; readonly copyId: string }[],
  categories: ReadonlyMap<string, string> | 'the same course',
): Promise<void> {
  const [old, made] = [copies.map((c) => c.itemId), copies.map((c) => c.copyId)];
  const isHere = categories === 'the same course';
  const { copied } = COLUMN_PARTS.grade_column;
  const map = isHere ? new Map<string, string>() : categories;
  await run(
    db,
    `insert into grade_column (course_id, item_id, category_id, period_id, ${copied.join(', ')})
     select $1, t.made, case when $4 then c.category_id else m.made end, case when $4 then c.period_id end, ${copied.map((name) => `c.${name}`).join(', ')}
     from unnest($2::uuid[], $3::uuid[]) as t(old, made) join grade_column c on c.item_id = t.old and c.removed_at is null
     left join unnest($5::uuid[], $6::uuid[]) as m(old, made) on m.old = c.category_id`,
    [courseId, old, made, isHere, [...map.keys()], [...map.values()]],
  );
  const late = COLUMN_PARTS.column_late.copied;
  await run(
    db,
    `insert into column_late (column_id, ${late.join(', ')})
     select n.id, ${late.map((name) => `l.${name}`).join(', ')} from unnest($1::uuid[], $2::uuid[]) as t(old, made)
     join grade_column c on c.item_id = t.old and c.removed_at is null join column_late l on l.column_id = c.id join grade_column n on n.item_id = t.made and n.role = c.role`,
    [old, made],
  );
}

/** The column of the reviewing of an item’s works, or none: one that is taken away keeps what stands in it, and comes back with it. */
export async function setReviewingColumn(
  db: Db,
  courseId: string,
  itemId: string,
  column: { readonly possible: number; readonly categoryId: string | null } | null,
  now: number,
): Promise<void> {
  if (column === null) {
    await run(
      db,
      "update grade_column set removed_at = to_timestamp($2 / 1000.0) where item_id = $1 and role = 'reviewing' and removed_at is null",
      [itemId, now],
    );
    return;
  }
  const isKnown =
    column.categoryId === null ||
    (await maybe(db, 'select 1 as one from category where id = $1 and course_id = $2', [column.categoryId, courseId])) !== null;
  if (!isKnown) throw invalid('reviewing.categoryId', 'This category is no longer in the policy. Choose another.');
  const values = [courseId, itemId, column.categoryId, decimalText(column.possible)];
  const changed = await run(
    db,
    "update grade_column set category_id = $3, possible = $4, removed_at = null where course_id = $1 and item_id = $2 and role = 'reviewing'",
    values,
  );
  if (changed === 0)
    await run(
      db,
      // It counts where the work does, until that is chosen otherwise.
      `insert into grade_column (course_id, item_id, role, category_id, possible, counts)
       select $1, $2, 'reviewing', $3, $4, coalesce((select counts from grade_column where item_id = $2 and role = 'work'), true)`,
      values,
    );
}

/** The column of the reviewing of an item’s works, where there is one. */
export async function findReviewingColumn(
  db: Db,
  itemId: string,
): Promise<{ readonly id: string; readonly possible: number; readonly categoryId: string | null } | null> {
  const row = await maybe<{ id: string; possible: number; category_id: string | null }>(
    db,
    "select id, (possible * 1000)::int as possible, category_id from grade_column where item_id = $1 and role = 'reviewing' and removed_at is null",
    [itemId],
  );
  return row === null ? null : { id: row.id, possible: row.possible, categoryId: row.category_id };
}
