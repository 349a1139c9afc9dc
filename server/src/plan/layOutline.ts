import { decimalText, kindOfItem, type Outline } from '@rosemary/core';
import { randomUUID } from 'node:crypto';
import { addColumns, replaceCategories } from '../gradebook/index.ts';
import { byKind } from '../kinds/index.ts';
import { type Db, run } from '../platform/database.ts';

/** Fills a new course with a starter outline: its categories instead of the usual ones, its units, and its items as drafts. */
export async function layOutline(db: Db, courseId: string, outline: Outline): Promise<void> {
  const categories = outline.categories.map((c, position) => ({ ...c, id: randomUUID(), position }));
  await replaceCategories(db, courseId, categories);
  const units = outline.units.map((unit, position) => ({ ...unit, id: randomUUID(), position }));
  await run(
    db,
    'insert into unit (id, course_id, title, position) select t.id, $1, t.title, t.position from unnest($2::uuid[], $3::text[], $4::int[]) as t(id, title, position)',
    [courseId, units.map((u) => u.id), units.map((u) => u.title), units.map((u) => u.position)],
  );
  const items = units.flatMap((unit) => unit.items.map((item, position) => ({ ...item, id: randomUUID(), unitId: unit.id, position })));
  const categoryOf = new Map(categories.map((c) => [c.title, c.id]));
  await run(
    db,
    `insert into item (id, course_id, kind, title, done_rule, due_at, estimated_minutes, marking_minutes, release_mode)
    select t.id, $1, t.kind, t.title, t.done_rule, to_timestamp(t.due / 1000.0), t.minutes, t.marking, t.release
    from unnest($2::uuid[], $3::text[], $4::text[], $5::text[], $6::float8[], $7::int[], $8::int[], $9::text[]) as t(id, kind, title, done_rule, due, minutes, marking, release)`,
    [
      courseId,
      items.map((i) => i.id),
      items.map((i) => i.kind),
      items.map((i) => i.title),
      items.map((i) => kindOfItem(i.kind).doneRules[0]),
      items.map((i) => i.dueAt),
      items.map((i) => i.estimatedMinutes),
      items.map((i) => kindOfItem(i.kind).begins.markingMinutes),
      items.map((i) => kindOfItem(i.kind).begins.releaseMode),
    ],
  );
  await addColumns(
    db,
    courseId,
    items
      .filter((i) => kindOfItem(i.kind).column !== 'never')
      .map((i) => ({
        itemId: i.id,
        categoryId: i.category === null ? null : (categoryOf.get(i.category) ?? null),
        possible: decimalText(i.possible),
        counts: kindOfItem(i.kind).begins.counts,
      })),
  );
  await run(db, 'insert into unit_item (unit_id, item_id, position) select * from unnest($1::uuid[], $2::uuid[], $3::int[])', [
    items.map((i) => i.unitId),
    items.map((i) => i.id),
    items.map((i) => i.position),
  ]);
  for (const [kind, own] of byKind(items))
    await kind.insert(
      db,
      own.map((item) => item.id),
    );
}
