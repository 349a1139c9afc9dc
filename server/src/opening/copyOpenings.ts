import { run, type Db } from '../platform/database.ts';

/** Rules of opening come along: what waits for another copied item waits for its copy, else for what `keepsOthers` leaves. */
export async function copyOpenings(
  db: Db,
  copies: readonly { readonly itemId: string; readonly copyId: string }[],
  keepsOthers: boolean,
): Promise<void> {
  await run(
    db,
    `
    insert into opening_rule (item_id, position, kind, at, other_item_id, least)
    select t.copy_id, r.position, r.kind, r.at, coalesce(o.copy_id, r.other_item_id), r.least
    from unnest($1::uuid[], $2::uuid[]) as t(item_id, copy_id) join opening_rule r on r.item_id = t.item_id
    left join unnest($1::uuid[], $2::uuid[]) as o(item_id, copy_id) on o.item_id = r.other_item_id
    where $3 or o.copy_id is not null`,
    [copies.map((c) => c.itemId), copies.map((c) => c.copyId), keepsOthers],
  );
}
