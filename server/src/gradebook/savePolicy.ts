import type { ColumnMove, PolicyChange } from '@rosemary/api';
import { countOf, decimalText } from '@rosemary/core';
import { randomUUID } from 'node:crypto';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, invalid } from '../platform/errors.ts';
import { lateValues } from './policyRows.ts';

/** A category that was removed comes back as itself, where a change of policy of this course once held it. */
async function wasHere(db: Db, courseId: string, list: 'categories' | 'periods', id: string): Promise<boolean> {
  const found = await maybe(
    db,
    `select 1 as one from audit where course_id = $1 and action = 'policy changed' and before -> $2 @> $3::jsonb
     and not exists (select 1 from category where id = $4) and not exists (select 1 from grading_period where id = $4) limit 1`,
    [courseId, list, JSON.stringify([{ id }]), id],
  );
  return found !== null;
}

/** Whatever names an identifier names one that stands in the policy now, or once stood there. */
export async function requireKnown(db: Db, courseId: string, before: PolicyChange, change: PolicyChange): Promise<void> {
  const lists = { categories: 'category', periods: 'grading period' } as const;
  const strange = (['categories', 'periods'] as const).flatMap((list) =>
    change[list].flatMap(({ id, title }) => (id === null || before[list].some((b) => b.id === id) ? [] : [{ list, id, title }])),
  );
  const known = await Promise.all(strange.map(({ list, id }) => wasHere(db, courseId, list, id)));
  const lost = strange.find((_, n) => known[n] === false);
  if (lost !== undefined)
    throw new AppError('invalid', `The ${lists[lost.list]} “${lost.title}” is no longer here.`, [
      { field: lost.list, text: 'no longer here' },
    ]);
}

export async function saveLevels(db: Db, courseId: string, schemeId: string | null, levels: PolicyChange['levels']): Promise<void> {
  let id = schemeId;
  if (id === null) {
    id =
      (await rows<{ id: string }>(db, "insert into scheme (course_id, title) values ($1, 'letters') returning id", [courseId]))[0]?.id ??
      null;
    await run(db, 'update grading_policy set scheme_id = $2 where course_id = $1', [courseId, id]);
  }
  await run(db, 'delete from scheme_level where scheme_id = $1', [id]);
  await run(
    db,
    `insert into scheme_level (scheme_id, position, label, cut_point, value_percent)
    select $1, n, label, cut / 1000.0, value / 1000.0 from unnest($2::text[], $3::numeric[], $4::numeric[]) with ordinality as t(label, cut, value, n)`,
    [id, levels.map((l) => l.label), levels.map((l) => l.cutPoint), levels.map((l) => l.value)],
  );
}

/** Where each column of a course counts, as far as its policy says it. */
export const listPlaces = (db: Db, courseId: string): Promise<ColumnMove[]> =>
  rows<ColumnMove & Record<string, unknown>>(
    db,
    'select id as "columnId", category_id as "categoryId", period_id as "periodId" from grade_column where course_id = $1 order by id',
    [courseId],
  );

/** The columns whose place differs between two moments, as they stood at the first. */
export function movedBetween(first: readonly ColumnMove[], second: readonly ColumnMove[]): ColumnMove[] {
  const later = new Map(second.map((m) => [m.columnId, m]));
  return first.filter((m) => {
    const other = later.get(m.columnId);
    return other !== undefined && (other.categoryId !== m.categoryId || other.periodId !== m.periodId);
  });
}

async function putCategories(db: Db, courseId: string, change: PolicyChange): Promise<string[]> {
  // Titles may change places, so they step aside first.
  await run(db, "update category set title = 'was ' || id where course_id = $1", [courseId]);
  const put = change.categories.map((c, position) => ({ ...c, position, id: c.id ?? randomUUID() }));
  await run(
    db,
    `insert into category (id, course_id, title, position, weight_percent, method, drop_lowest, keep_best, drop_highest, is_extra_credit, is_capped, declared_items, declared_points)
     select t.id, $1, t.title, t.position, t.weight, t.method, t.drop_lowest, t.keep_best, t.drop_highest, t.is_extra_credit, t.is_capped, t.items, t.points
     from unnest($2::uuid[], $3::text[], $4::int[], $5::numeric[], $6::text[], $7::int[], $8::int[], $9::int[], $10::boolean[], $11::boolean[], $12::int[], $13::numeric[])
       as t(id, title, position, weight, method, drop_lowest, keep_best, drop_highest, is_extra_credit, is_capped, items, points)
     on conflict (id) do update set title = excluded.title, position = excluded.position, weight_percent = excluded.weight_percent, method = excluded.method, drop_lowest = excluded.drop_lowest,
       keep_best = excluded.keep_best, drop_highest = excluded.drop_highest, is_extra_credit = excluded.is_extra_credit, is_capped = excluded.is_capped, declared_items = excluded.declared_items,
       declared_points = excluded.declared_points where category.course_id = $1`,
    [
      courseId,
      put.map((c) => c.id),
      put.map((c) => c.title),
      put.map((c) => c.position),
      put.map((c) => decimalText(c.weightPercent)),
      put.map((c) => c.method),
      put.map((c) => c.dropLowest),
      put.map((c) => c.keepBest),
      put.map((c) => c.dropHighest),
      put.map((c) => c.isExtraCredit),
      put.map((c) => c.isCapped),
      put.map((c) => c.declaredItems),
      put.map((c) => decimalText(c.declaredPoints)),
    ],
  );
  await run(db, 'delete from category_late where category_id = any($1)', [put.map((c) => c.id)]);
  const late = put.flatMap((c) => (c.late === null ? [] : [[c.id, ...lateValues(c.late)]]));
  const column = (n: number): unknown[] => late.map((values) => values[n]);
  await run(
    db,
    `insert into category_late (category_id, rate_percent, step_minutes, base, cap_percent, floor_percent, grace_minutes)
     select * from unnest($1::uuid[], $2::numeric[], $3::int[], $4::text[], $5::numeric[], $6::numeric[], $7::int[])`,
    [0, 1, 2, 3, 4, 5, 6].map(column),
  );
  return put.map((c) => c.id);
}

async function putPeriods(db: Db, courseId: string, periods: PolicyChange['periods']): Promise<string[]> {
  const put = periods.map((p, position) => ({ ...p, position, id: p.id ?? randomUUID() }));
  await run(
    db,
    `insert into grading_period (id, course_id, title, position, weight_percent, starts_on, ends_on)
     select t.id, $1, t.title, t.position, t.weight, t.starts_on, t.ends_on from unnest($2::uuid[], $3::text[], $4::int[], $5::numeric[], $6::date[], $7::date[]) as t(id, title, position, weight, starts_on, ends_on)
     on conflict (id) do update set title = excluded.title, position = excluded.position, weight_percent = excluded.weight_percent, starts_on = excluded.starts_on, ends_on = excluded.ends_on
     where grading_period.course_id = $1`,
    [
      courseId,
      put.map((p) => p.id),
      put.map((p) => p.title),
      put.map((p) => p.position),
      put.map((p) => decimalText(p.weightPercent)),
      put.map((p) => p.startsOn),
      put.map((p) => p.endsOn),
    ],
  );
  return put.map((p) => p.id);
}

/** How much each category will hold in each period; what is said of a period that goes, goes with it. */
async function putDeclared(db: Db, change: PolicyChange, categories: readonly string[], periods: readonly string[]): Promise<void> {
  const said = change.categories.flatMap((c, n) =>
    c.declaredIn.filter((d) => periods.includes(d.periodId)).map((d) => ({ ...d, categoryId: categories[n] })),
  );
  await run(
    db,
    `delete from declared_work d where category_id = any($1)
     and not exists (select 1 from unnest($2::uuid[], $3::uuid[]) as t(category, period) where t.category = d.category_id and t.period = d.period_id)`,
    [categories, said.map((d) => d.categoryId), said.map((d) => d.periodId)],
  );
  await run(
    db,
    `insert into declared_work (category_id, period_id, items, points) select * from unnest($1::uuid[], $2::uuid[], $3::int[], $4::numeric[])
     on conflict (category_id, period_id) do update set items = excluded.items, points = excluded.points`,
    [said.map((d) => d.categoryId), said.map((d) => d.periodId), said.map((d) => d.items), said.map((d) => decimalText(d.points))],
  );
}

async function move(
  db: Db,
  courseId: string,
  moves: readonly ColumnMove[],
  categories: readonly string[],
  periods: readonly string[],
): Promise<void> {
  const bad = moves.find(
    (m) => (m.categoryId !== null && !categories.includes(m.categoryId)) || (m.periodId !== null && !periods.includes(m.periodId)),
  );
  if (bad !== undefined) throw invalid('moves', 'A column goes to a category or grading period that is not in the policy. Choose another.');
  await run(
    db,
    `update grade_column c set category_id = t.category, period_id = t.period from unnest($2::uuid[], $3::uuid[], $4::uuid[]) as t(id, category, period) where c.id = t.id and c.course_id = $1`,
    [courseId, moves.map((m) => m.columnId), moves.map((m) => m.categoryId), moves.map((m) => m.periodId)],
  );
}

/** Writes categories and grading periods, moves columns between them, and takes away what is not named any more; what still holds a column stays. */
export async function saveParts(db: Db, courseId: string, change: PolicyChange): Promise<void> {
  const titles = await rows<{ id: string; title: string }>(db, 'select id, title from category where course_id = $1', [courseId]);
  const categories = await putCategories(db, courseId, change);
  const periods = await putPeriods(db, courseId, change.periods);
  await putDeclared(db, change, categories, periods);
  await move(db, courseId, change.moves, categories, periods);
  const inUse = await maybe<{ id: string; many: string }>(
    db,
    `select c.id, count(*) as many from category c join grade_column o on o.category_id = c.id and o.removed_at is null
     left join item i on i.id = o.item_id where i.removed_at is null and c.course_id = $1 and not (c.id = any($2)) group by c.id limit 1`,
    [courseId, categories],
  );
  if (inUse !== null)
    throw invalid(
      'categories',
      `“${titles.find((t) => t.id === inUse.id)?.title ?? ''}” still holds ${countOf(inUse.many, 'column')}. Say where ${inUse.many === '1' ? 'it goes' : 'they go'}.`,
    );
  await run(
    db,
    'update grade_column set category_id = null where course_id = $1 and category_id is not null and not (category_id = any($2))',
    [courseId, categories],
  );
  await run(
    db,
    'update unit set default_category_id = null where course_id = $1 and default_category_id is not null and not (default_category_id = any($2))',
    [courseId, categories],
  );
  await run(db, 'delete from category where course_id = $1 and not (id = any($2))', [courseId, categories]);
  await run(db, 'update grade_column set period_id = null where course_id = $1 and period_id is not null and not (period_id = any($2))', [
    courseId,
    periods,
  ]);
  await run(db, 'delete from grading_period where course_id = $1 and not (id = any($2))', [courseId, periods]);
}

/** A new category at the end, with no weight; one of this title that is there already is taken. */
export async function addCategory(db: Db, courseId: string, title: string): Promise<string> {
  const there = await maybe<{ id: string }>(db, 'select id from category where course_id = $1 and lower(title) = lower($2)', [
    courseId,
    title,
  ]);
  if (there !== null) return there.id;
  const made = await rows<{ id: string }>(
    db,
    'insert into category (course_id, title, position) select $1, $2, coalesce(max(position), -1) + 1 from category where course_id = $1 returning id',
    [courseId, title],
  );
  return made[0]?.id ?? '';
}
