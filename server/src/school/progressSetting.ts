import type { ActivitySetting, TaskTypes, TaskTypesChange } from '@rosemary/api';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';

export async function listTaskTypes(db: Db): Promise<TaskTypes> {
  const taskTypes = await rows<{ id: string; title: string; uses: number }>(
    db,
    `select t.id, t.title, (select count(*) from item i where i.task_type_id = t.id and i.removed_at is null)::int as uses
     from task_type t where t.removed_at is null order by t.position, lower(t.title)`,
  );
  return { taskTypes };
}

/** Keeps the list as it is given. What is taken off stays with the items that are of it, and is offered no more. */
export async function changeTaskTypes(db: Db, change: TaskTypesChange, now: number): Promise<TaskTypes> {
  const { taskTypes } = await listTaskTypes(db);
  const known = new Set(taskTypes.map((t) => t.id));
  const unknown = change.taskTypes.find((t) => t.id !== null && !known.has(t.id));
  if (unknown !== undefined)
    throw invalid('taskTypes', `“${unknown.title}” is no longer in the list: somebody took it off meanwhile. Load the page again.`);
  const kept = change.taskTypes.flatMap((t) => t.id ?? []);
  await run(db, 'update task_type set removed_at = to_timestamp($2 / 1000.0) where removed_at is null and id <> all($1)', [kept, now]);
  // Titles that change places would meet on the way: each is first given one that no other has.
  await run(db, 'update task_type set title = id::text where id = any($1)', [kept]);
  await run(
    db,
    `update task_type t set title = n.title, position = n.place from unnest($1::uuid[], $2::text[]) with ordinality as n(id, title, place) where t.id = n.id`,
    [change.taskTypes.map((t) => t.id), change.taskTypes.map((t) => t.title)],
  );
  await run(
    db,
    `insert into task_type (title, position) select n.title, n.place from unnest($1::uuid[], $2::text[]) with ordinality as n(id, title, place) where n.id is null`,
    [change.taskTypes.map((t) => t.id), change.taskTypes.map((t) => t.title)],
  );
  return listTaskTypes(db);
}

export async function getActivitySetting(db: Db): Promise<ActivitySetting> {
  const row = await maybe<{ activity_months: number; shows_visits_against_results: boolean }>(
    db,
    'select activity_months, shows_visits_against_results from school',
  );
  return { months: row?.activity_months ?? 24, showsVisitsAgainstResults: row?.shows_visits_against_results ?? true };
}

/** What is older than the new span is forgotten the same day. */
export async function changeActivitySetting(db: Db, change: ActivitySetting): Promise<ActivitySetting> {
  await run(db, 'update school set activity_months = $1, shows_visits_against_results = $2, activity_forgotten_on = null', [
    change.months,
    change.showsVisitsAgainstResults,
  ]);
  return getActivitySetting(db);
}
