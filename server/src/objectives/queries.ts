import type { NewObjective, ObjectiveChange, Objectives, ObjectiveView } from '@rosemary/api';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';

interface Row {
  id: string;
  parent_id: string | null;
  code: string;
  statement: string;
  position: number;
  version: number;
  source: string | null;
  uses: ObjectiveView['uses'];
}

const listRows = (db: Db, courseId: string): Promise<Row[]> =>
  rows<Row>(
    db,
    `
    select o.id, o.parent_id, o.code, o.statement, o.position, o.version, o.source,
           coalesce((select json_agg(json_build_object('itemId', i.id, 'title', i.title, 'criterion', c.title) order by i.title, c.position nulls first)
                     from objective_use u left join rubric_criterion c on c.id = u.criterion_id and c.removed_at is null
                     join item i on (i.id = u.item_id or i.id = (select a.item_id from assignment a where a.rubric_id = c.rubric_id limit 1)) and i.removed_at is null
                     where u.objective_id = o.id), '[]') as uses
    from objective o where o.course_id = $1 and o.removed_at is null order by o.position, lower(o.code), o.id limit 5000`,
    [courseId],
  );

/** The objectives of a course, parents before children, each with what is aligned to it. */
export async function listObjectives(db: Db, courseId: string): Promise<Objectives & { sources: ReadonlyMap<string, string | null> }> {
  const found = await listRows(db, courseId);
  const known = new Set(found.map((row) => row.id));
  const below = new Map<string | null, Row[]>();
  for (const row of found) {
    // What stood below an objective since removed stands at the top.
    const parent = row.parent_id !== null && known.has(row.parent_id) ? row.parent_id : null;
    below.set(parent, [...(below.get(parent) ?? []), { ...row, parent_id: parent }]);
  }
  const walk = (parent: string | null): ObjectiveView[] =>
    (below.get(parent) ?? []).flatMap((row) => [
      {
        id: row.id,
        parentId: row.parent_id,
        code: row.code,
        statement: row.statement,
        position: row.position,
        version: row.version,
        uses: row.uses,
      },
      ...walk(row.id),
    ]);
  return { objectives: walk(null), sources: new Map(found.map((row) => [row.id, row.source])) };
}

async function requireCode(db: Db, courseId: string, code: string | undefined, besides: string | null): Promise<void> {
  if (code === undefined || code === '') return;
  const taken = await maybe<{ statement: string }>(
    db,
    'select statement from objective where course_id = $1 and lower(code) = lower($2) and removed_at is null and id is distinct from $3',
    [courseId, code, besides],
  );
  if (taken !== null) throw invalid('code', `The code “${code}” is taken by “${taken.statement.slice(0, 80)}”. Choose another.`);
}

async function requireParent(db: Db, courseId: string, parentId: string | null | undefined): Promise<void> {
  if (parentId === null || parentId === undefined) return;
  if (
    (await maybe(db, 'select 1 as one from objective where id = $1 and course_id = $2 and removed_at is null', [parentId, courseId])) ===
    null
  )
    throw invalid('parentId', 'The objective it shall stand below is no longer here. Choose another.');
}

export async function addObjective(db: Db, courseId: string, wish: NewObjective, source: string | null = null): Promise<string> {
  await requireCode(db, courseId, wish.code, null);
  await requireParent(db, courseId, wish.parentId);
  const made = await rows<{ id: string }>(
    db,
    `
    insert into objective (course_id, parent_id, code, statement, source, position)
    select $1, $2, $3, $4, $5, coalesce(max(position), -1) + 1 from objective where course_id = $1 and parent_id is not distinct from $2 returning id`,
    [courseId, wish.parentId, wish.code, wish.statement, source],
  );
  return made[0]?.id ?? '';
}

/** Changes an objective; it may not come to stand below itself. */
export async function changeObjective(db: Db, courseId: string, id: string, change: ObjectiveChange): Promise<void> {
  const current = await maybe<Row>(
    db,
    'select id, parent_id, code, statement, position, version from objective where id = $1 and course_id = $2 and removed_at is null for update',
    [id, courseId],
  );
  if (current === null) throw notFound();
  if (current.version !== change.version) throw conflict({ code: current.code, statement: current.statement, version: current.version });
  await requireCode(db, courseId, change.code, id);
  await requireParent(db, courseId, change.parentId);
  if (change.parentId) {
    const isBelow = await maybe(
      db,
      `
      with recursive up as (select id, parent_id from objective where id = $1 union select o.id, o.parent_id from objective o join up on up.parent_id = o.id)
      select 1 as one from up where id = $2`,
      [change.parentId, id],
    );
    if (isBelow !== null) throw invalid('parentId', 'An objective cannot stand below itself. Choose one outside it.');
  }
  const parentId = change.parentId === undefined ? current.parent_id : change.parentId;
  await run(db, 'update objective set parent_id = $2, code = $3, statement = $4, version = version + 1 where id = $1', [
    id,
    parentId,
    change.code ?? current.code,
    change.statement ?? current.statement,
  ]);
  if (change.position !== undefined) await place(db, courseId, id, parentId, change.position);
}

/** Numbers an objective and its neighbours afresh, with it at its place. */
async function place(db: Db, courseId: string, id: string, parentId: string | null, position: number): Promise<void> {
  await run(
    db,
    `
    with others as (select id, row_number() over (order by position, lower(code), id) - 1 as n from objective
                    where course_id = $1 and parent_id is not distinct from $2 and removed_at is null and id <> $3)
    update objective o set position = case when o.id = $3 then $4 else (select n + case when n >= $4 then 1 else 0 end from others where others.id = o.id) end
    where o.id = $3 or o.id in (select id from others)`,
    [courseId, parentId, id, position],
  );
}

/** Puts what a file says in the place of what is here; one that comes to stand elsewhere stands last there. */
export async function overwriteObjective(
  db: Db,
  courseId: string,
  id: string,
  next: { readonly parentId: string | null; readonly code: string; readonly statement: string; readonly source: string },
): Promise<void> {
  await run(
    db,
    `
    update objective set code = $3, statement = $4, source = coalesce(source, $5), version = version + 1, parent_id = $6::uuid,
      position = case when parent_id is not distinct from $6::uuid then position
                 else (select coalesce(max(o.position), -1) + 1 from objective o where o.course_id = $2 and o.parent_id is not distinct from $6::uuid and o.removed_at is null) end
    where id = $1 and course_id = $2`,
    [id, courseId, next.code, next.statement, next.source, next.parentId],
  );
}

/** Takes an objective away with all that stands below it, or brings it back; what was aligned stays aligned. */
export async function setObjectiveRemoved(db: Db, courseId: string, id: string, removedAt: number | null): Promise<void> {
  const changed = await run(
    db,
    `
    with recursive down as (select id from objective where id = $1 and course_id = $2 union select o.id from objective o join down on o.parent_id = down.id
                            where ($3::float8 is null) or o.removed_at is null)
    update objective set removed_at = to_timestamp($3 / 1000.0), version = version + 1 where id in (select id from down)`,
    [id, courseId, removedAt],
  ).catch((error: unknown) => {
    // Brought back after another took its code.
    if ((error as { constraint?: string }).constraint === 'objective_code')
      throw new AppError('not-now', 'Its code was given to another objective meanwhile. Change that one first.');
    throw error;
  });
  if (changed === 0) throw notFound();
}

/** Aligns one item or one criterion with exactly these objectives. */
export async function align(
  db: Db,
  courseId: string,
  owner: 'item' | 'criterion',
  ownerId: string,
  objectiveIds: readonly string[],
): Promise<void> {
  const own =
    owner === 'item'
      ? 'select 1 as one from item where id = $1 and course_id = $2 and removed_at is null'
      : 'select 1 as one from rubric_criterion c join rubric r on r.id = c.rubric_id where c.id = $1 and r.course_id = $2 and c.removed_at is null';
  if ((await maybe(db, own, [ownerId, courseId])) === null) throw notFound();
  const column = owner === 'item' ? 'item_id' : 'criterion_id';
  await run(db, `delete from objective_use where ${column} = $1`, [ownerId]);
  const kept = await run(
    db,
    `insert into objective_use (objective_id, ${column}) select o.id, $1 from objective o where o.course_id = $2 and o.removed_at is null and o.id = any($3)`,
    [ownerId, courseId, objectiveIds],
  );
  if (kept !== objectiveIds.length) throw invalid('objectiveIds', 'An objective chosen is no longer here. Choose again.');
}

export async function listAligned(db: Db, owner: 'item' | 'criterion', ownerId: string): Promise<string[]> {
  const column = owner === 'item' ? 'item_id' : 'criterion_id';
  return (
    await rows<{ id: string }>(
      db,
      `select o.id from objective_use u join objective o on o.id = u.objective_id and o.removed_at is null where u.${column} = $1 order by lower(o.code), o.id`,
      [ownerId],
    )
  ).map((row) => row.id);
}
