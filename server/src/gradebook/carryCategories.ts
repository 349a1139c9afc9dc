import { randomUUID } from 'node:crypto';
import { rows, run, type Db } from '../platform/database.ts';

/** Categories are met by their title; those not here yet are added with no weight, and said. */
export async function carryCategories(
  db: Db,
  fromId: string,
  courseId: string,
  itemIds: readonly string[],
): Promise<{ map: Map<string, string>; added: string[] }> {
  const used = await rows<{ id: string; title: string; method: string; here: string | null }>(
    db,
    `
    select c.id, c.title, c.method, (select h.id from category h where h.course_id = $2 and lower(h.title) = lower(c.title)) as here
    from category c where c.course_id = $1 and exists (select 1 from grade_column o where o.category_id = c.id and o.item_id = any($3)) order by c.position`,
    [fromId, courseId, itemIds],
  );
  const fresh = used.filter((c) => c.here === null).map((c) => ({ ...c, newId: randomUUID() }));
  await run(
    db,
    `insert into category (id, course_id, title, position, weight_percent, method)
    select t.id, $1, t.title, (select coalesce(max(position), -1) from category where course_id = $1) + t.n, 0, t.method from unnest($2::uuid[], $3::text[], $4::text[]) with ordinality as t(id, title, method, n)`,
    [courseId, fresh.map((c) => c.newId), fresh.map((c) => c.title), fresh.map((c) => c.method)],
  );
  await run(
    db,
    'insert into category_late (category_id, rate_percent, step_minutes, base, cap_percent, floor_percent, grace_minutes) select t.id, l.rate_percent, l.step_minutes, l.base, l.cap_percent, l.floor_percent, l.grace_minutes from unnest($1::uuid[], $2::uuid[]) as t(id, old) join category_late l on l.category_id = t.old',
    [fresh.map((c) => c.newId), fresh.map((c) => c.id)],
  );
  const map = new Map(used.flatMap((c) => (c.here === null ? [] : [[c.id, c.here]])));
  for (const c of fresh) map.set(c.id, c.newId);
  return { map, added: fresh.map((c) => c.title) };
}
