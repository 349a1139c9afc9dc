import type { ItemKind } from '@rosemary/core';
import { randomUUID } from 'node:crypto';
import { columnsOf, COMMON_PARTS, type Copied, copyParts, settleCopiedFiles } from '../items/index.ts';
import { copyColumns } from '../gradebook/index.ts';
import { byKind } from '../kinds/index.ts';
import { copyOpenings } from '../opening/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

/** Titles of copies: the first free of “Title (copy)”, “Title (copy 2)” … */
function copyTitle(title: string, taken: Set<string>): string {
  for (let n = 1; ; n += 1) {
    const end = n === 1 ? ' (copy)' : ` (copy ${n})`;
    const next = `${title.slice(0, 160 - end.length)}${end}`;
    if (taken.has(next)) continue;
    taken.add(next);
    return next;
  }
}

/**
 * Copies items within their course, each right after its original and as a draft: text, setting, rubric, files and
 * other dates come along; nothing of students does. A handful of statements, however many items.
 */
export async function duplicateItems(db: Db, courseId: string, ids: readonly string[]): Promise<readonly string[]> {
  const found = await rows<{ id: string; title: string; kind: ItemKind }>(
    db,
    'select id, title, kind from item where course_id = $1 and removed_at is null',
    [courseId],
  );
  const taken = new Set(found.map((i) => i.title));
  const here = new Map(found.map((i) => [i.id, i]));
  const copies = ids.map((itemId): Copied & { title: string; kind: ItemKind } => {
    const item = here.get(itemId);
    if (item === undefined) throw notFound();
    return { itemId, copyId: randomUUID(), title: copyTitle(item.title, taken), kind: item.kind };
  });
  const [old, made] = [copies.map((c) => c.itemId), copies.map((c) => c.copyId)];
  const columns = columnsOf(COMMON_PARTS.item, true);
  await run(
    db,
    `insert into item (id, course_id, title, is_draft, ${columns.names})
    select t.new_id, i.course_id, t.title, true, ${columns.from('i')} from unnest($1::uuid[], $2::uuid[], $3::text[]) as t(old_id, new_id, title) join item i on i.id = t.old_id`,
    [old, made, copies.map((c) => c.title)],
  );
  await copyColumns(db, courseId, copies, 'the same course');
  await copyParts(db, COMMON_PARTS, ['match_setting', 'item_file', 'date_variant', 'audience', 'objective_use'], copies, true);
  for (const [kind, own] of byKind(copies))
    await kind.copy({ db, copies: own, courseId, isWithinCourse: true, files: new Map(), moved: (document) => document });
  await settleCopiedFiles(db, copies);
  await copyOpenings(db, copies, true);
  await placeAfter(db, courseId, copies);
  return made;
}

/** Puts each copy after its original, in every unit it stands in, and numbers those units afresh. */
async function placeAfter(db: Db, courseId: string, copies: readonly Copied[]): Promise<void> {
  await run(
    db,
    `
    with wanted as (
      select ui.unit_id, ui.item_id, ui.position as at, 0 as after from unit_item ui join unit u on u.id = ui.unit_id where u.course_id = $1
      union all
      select ui.unit_id, t.copy_id, ui.position, 1 from unnest($2::uuid[], $3::uuid[]) as t(item_id, copy_id) join unit_item ui on ui.item_id = t.item_id),
    numbered as (select unit_id, item_id, row_number() over (partition by unit_id order by at, after, item_id) - 1 as position from wanted)
    insert into unit_item (unit_id, item_id, position) select unit_id, item_id, position from numbered
    on conflict (unit_id, item_id) do update set position = excluded.position`,
    [courseId, copies.map((c) => c.itemId), copies.map((c) => c.copyId)],
  );
}
