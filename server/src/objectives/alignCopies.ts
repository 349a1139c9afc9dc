import { run, type Db } from '../platform/database.ts';

/** Copied criteria serve what the first ones serve. */
export async function alignCopies(
  db: Db,
  courseId: string,
  criteria: readonly { readonly oldId: string; readonly newId: string }[],
): Promise<void> {
  // Within the same course what a criterion is aligned to is aligned to its copy too; elsewhere the objectives are met there.
  await run(
    db,
    `insert into objective_use (objective_id, criterion_id) select o.id, t.new_id from unnest($1::uuid[], $2::uuid[]) as t(old_id, new_id)
     join objective_use u on u.criterion_id = t.old_id join objective was on was.id = u.objective_id
     join objective o on o.course_id = $3 and o.removed_at is null and (o.id = was.id or (was.course_id <> $3 and lower(o.code) = lower(was.code) and (o.code <> '' or o.statement = was.statement)))
     on conflict do nothing`,
    [criteria.map((c) => c.oldId), criteria.map((c) => c.newId), courseId],
  );
}
