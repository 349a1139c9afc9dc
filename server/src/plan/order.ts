import type { Order } from '@rosemary/api';
import type { ItemKind } from '@rosemary/core';
import { type Db, rows, run } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { requireStanding } from './standing.ts';

/** The order of units and of items in them, as it stands. */
export async function getOrder(db: Db, courseId: string): Promise<Order> {
  const units = await rows<{ id: string; itemIds: string[] }>(
    db,
    `select u.id, coalesce((select json_agg(ui.item_id order by ui.position) from unit_item ui join item i on i.id = ui.item_id and i.removed_at is null where ui.unit_id = u.id), '[]') as "itemIds"
     from unit u where u.course_id = $1 and u.removed_at is null order by u.position`,
    [courseId],
  );
  return { units };
}

/** Writes the order of units and of items in them. Every unit and item of the course must be named once, so that none is lost. */
export async function reorder(db: Db, courseId: string, order: Order): Promise<void> {
  const present = await rows<{ unit_id: string; is_standing: boolean; item_id: string | null; kind: ItemKind }>(
    db,
    `
    select u.id as unit_id, u.is_standing, i.id as item_id, i.kind from unit u left join unit_item ui on ui.unit_id = u.id left join item i on i.id = ui.item_id and i.removed_at is null
    where u.course_id = $1 and u.removed_at is null`,
    [courseId],
  );
  const named = order.units.flatMap((u) => u.itemIds);
  const units = new Set(present.map((p) => p.unit_id));
  const items = new Set(present.flatMap((p) => (p.item_id === null ? [] : [p.item_id])));
  const isWhole =
    order.units.length === units.size &&
    order.units.every((u) => units.has(u.id)) &&
    // One item may stand in several units, in each of them once.
    order.units.every((u) => new Set(u.itemIds).size === u.itemIds.length) &&
    new Set(named).size === items.size &&
    named.every((id) => items.has(id));
  if (!isWhole) throw new AppError('conflict', 'The Plan was changed by someone else meanwhile. It is shown afresh; move the item again.');
  const kindOf = new Map(present.map((p) => [p.item_id, p.kind]));
  const standing = present.find((p) => p.is_standing)?.unit_id;
  requireStanding(order.units.filter((u) => u.id === standing).flatMap((u) => u.itemIds.flatMap((id) => kindOf.get(id) ?? [])));
  const pairs = order.units.flatMap((u) => u.itemIds.map((itemId, position) => ({ unit: u.id, item: itemId, position })));
  await run(db, 'update unit u set position = t.n from unnest($1::uuid[]) with ordinality as t(id, n) where u.id = t.id', [
    order.units.map((u) => u.id),
  ]);
  await run(db, 'delete from unit_item ui using item i where i.id = ui.item_id and i.course_id = $1 and i.removed_at is null', [courseId]);
  await run(db, 'insert into unit_item (unit_id, item_id, position) select * from unnest($1::uuid[], $2::uuid[], $3::int[])', [
    pairs.map((p) => p.unit),
    pairs.map((p) => p.item),
    pairs.map((p) => p.position),
  ]);
}
