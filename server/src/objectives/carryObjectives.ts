import { randomUUID } from 'node:crypto';
import { rows, run, type Db } from '../platform/database.ts';

interface Row {
  readonly id: string;
  readonly parent_id: string | null;
  readonly code: string;
  readonly statement: string;
}

const listRows = (db: Db, courseId: string): Promise<Row[]> =>
  rows<Row>(db, 'select id, parent_id, code, statement from objective where course_id = $1 and removed_at is null order by position, id', [
    courseId,
  ]);
/** A code is one objective’s alone in a course; without one it is known by what it says. */
const nameOf = (o: Row): string => (o.code === '' ? ` ${o.statement}` : o.code.toLowerCase());

/**
 * What the items of another course and their criteria are aligned to is aligned to their copies too. An objective is met by its code, or by
 * what it says where it has none; one that is not here yet is added, with those above it.
 */
export async function carryObjectives(
  db: Db,
  fromCourseId: string,
  courseId: string,
  copies: readonly { readonly itemId: string; readonly copyId: string }[],
): Promise<void> {
  const itemIds = copies.map((c) => c.itemId);
  const uses = await rows<{ objective_id: string; item_id: string | null }>(
    db,
    `select u.objective_id, u.item_id from objective_use u left join rubric_criterion c on c.id = u.criterion_id and c.removed_at is null left join assignment a on a.rubric_id = c.rubric_id
     where u.item_id = any($1) or a.item_id = any($1)`,
    [itemIds],
  );
  if (uses.length === 0) return;
  const there = new Map((await listRows(db, fromCourseId)).map((o) => [o.id, o]));
  const here = new Map((await listRows(db, courseId)).map((o) => [nameOf(o), o.id]));
  const made: (Row & { readonly parentId: string | null })[] = [];
  const bring = (id: string): string | null => {
    const wanted = there.get(id);
    if (wanted === undefined) return null;
    const known = here.get(nameOf(wanted));
    if (known !== undefined) return known;
    const parentId = wanted.parent_id === null ? null : bring(wanted.parent_id);
    const fresh = { ...wanted, id: randomUUID(), parentId };
    made.push(fresh);
    here.set(nameOf(wanted), fresh.id);
    return fresh.id;
  };
  const aligned = uses.map((u) => ({ itemId: u.item_id, objectiveId: bring(u.objective_id) }));
  await run(
    db,
    `insert into objective (id, course_id, parent_id, code, statement, position)
     select t.id, $1, t.parent_id, t.code, t.statement, (select coalesce(max(position), -1) from objective where course_id = $1) + t.n
     from unnest($2::uuid[], $3::uuid[], $4::text[], $5::text[]) with ordinality as t(id, parent_id, code, statement, n)`,
    [courseId, made.map((m) => m.id), made.map((m) => m.parentId), made.map((m) => m.code), made.map((m) => m.statement)],
  );
  const copyOf = new Map(copies.map((c) => [c.itemId, c.copyId]));
  const own = aligned.flatMap((a) =>
    a.itemId === null || a.objectiveId === null ? [] : [{ objective: a.objectiveId, item: copyOf.get(a.itemId) }],
  );
  await run(db, 'insert into objective_use (objective_id, item_id) select * from unnest($1::uuid[], $2::uuid[]) on conflict do nothing', [
    own.map((o) => o.objective),
    own.map((o) => o.item),
  ]);
}
