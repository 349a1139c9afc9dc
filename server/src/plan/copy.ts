import { randomUUID } from 'node:crypto';
import { columnsOf, type Copied, copyPart } from '../items/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { copyQuizzes } from '../quiz/index.ts';
import { copyRubrics } from '../rubric/index.ts';

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

/** Links, discussions without their posts, and shown files come along; a file known in the new course under another name is that one. */
export async function copyMaterial(db: Db, copies: readonly Copied[], files: ReadonlyMap<string, string>): Promise<void> {
  const [old, made] = [copies.map((c) => c.itemId), copies.map((c) => c.copyId)];
  await copyPart(db, 'item_link', copies, false);
  await copyPart(db, 'discussion', copies, false);
  await copyPart(db, 'item_late', copies, false);
  await copyPart(db, 'match_setting', copies, false);
  await run(
    db,
    `
    insert into item_shown_file (item_id, file_id, note) select t.made, coalesce(m.made, s.file_id), s.note
    from unnest($1::uuid[], $2::uuid[]) as t(old, made) join item_shown_file s on s.item_id = t.old
    left join unnest($3::uuid[], $4::uuid[]) as m(old, made) on m.old = s.file_id`,
    [old, made, [...files.keys()], [...files.values()]],
  );
  await copyQuizzes(db, copies);
}

/** Rules of opening come along: what waits for another copied item waits for its copy, else for what `keepsOthers` leaves. */
export async function copyOpenings(db: Db, copies: readonly Copied[], keepsOthers: boolean): Promise<void> {
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

/**
 * Copies items within their course, each right after its original and as a draft: text, setting, rubric, files and
 * other dates come along; nothing of students does. A handful of statements, however many items.
 */
export async function duplicateItems(db: Db, courseId: string, ids: readonly string[]): Promise<readonly string[]> {
  const found = await rows<{ id: string; title: string }>(db, 'select id, title from item where course_id = $1 and removed_at is null', [
    courseId,
  ]);
  const taken = new Set(found.map((i) => i.title));
  const titles = new Map(found.map((i) => [i.id, i.title]));
  const copies = ids.map((itemId): Copied & { title: string } => {
    const title = titles.get(itemId);
    if (title === undefined) throw notFound();
    return { itemId, copyId: randomUUID(), title: copyTitle(title, taken) };
  });
  const [old, made] = [copies.map((c) => c.itemId), copies.map((c) => c.copyId)];
  const columns = columnsOf('item', true);
  await run(
    db,
    `insert into item (id, course_id, title, is_draft, ${columns.names})
    select t.new_id, i.course_id, t.title, true, ${columns.from('i')} from unnest($1::uuid[], $2::uuid[], $3::text[]) as t(old_id, new_id, title) join item i on i.id = t.old_id`,
    [old, made, copies.map((c) => c.title)],
  );
  await copyPart(db, 'page', copies, true);
  const setting = columnsOf('assignment', true);
  await run(
    db,
    `insert into assignment (item_id, instructions, ${setting.names})
    select t.new_id, a.instructions, ${setting.from('a')} from unnest($1::uuid[], $2::uuid[]) as t(old_id, new_id) join assignment a on a.item_id = t.old_id`,
    [old, made],
  );
  await copyMaterial(db, copies, new Map());
  for (const table of ['item_file', 'date_variant', 'audience', 'objective_use'] as const) await copyPart(db, table, copies, true);
  await copyOpenings(db, copies, true);
  await copyRubrics(db, courseId, copies);
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
