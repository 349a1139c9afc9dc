import type { CarryDone, CarryWish } from '@rosemary/api';
import type { ItemKind } from '@rosemary/core';
import { randomUUID } from 'node:crypto';
import { carryItemFiles, columnsOf, COMMON_PARTS, copyParts, listItemFiles, rewrite, settleCopiedFiles } from '../items/index.ts';
import { copyFiles } from '../files/index.ts';
import { carryCategories, copyColumns } from '../gradebook/index.ts';
import { byKind } from '../kinds/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { AppError, invalid } from '../platform/errors.ts';
import { carryObjectives } from '../objectives/index.ts';
import { carryPolicy } from './carryPolicy.ts';
import { type CARRIED_DATES, type Moved, readCarriage } from './carryPreview.ts';
import { copyOpenings } from '../opening/index.ts';

interface Copied {
  readonly itemId: string;
  readonly copyId: string;
  readonly kind: ItemKind;
  readonly unitId: string;
  readonly position: number;
}

/** Items of the old course in what is to come over, with how those that are here already are met. */
function chosenItems(
  wish: CarryWish,
  existing: ReadonlyMap<string, { hasWork: boolean; title: string }>,
  known: ReadonlySet<string>,
): string[] {
  const how = new Map(wish.again.map((a) => [a.itemId, a.how]));
  for (const id of wish.itemIds)
    if (!known.has(id)) throw invalid('itemIds', 'An item chosen is no longer in the course it comes from. Look again at what to copy.');
  return wish.itemIds.filter((id) => {
    const own = existing.get(id);
    if (own === undefined) return true;
    const choice = how.get(id) ?? 'skip';
    if (choice === 'replace' && own.hasWork)
      throw new AppError('not-now', `“${own.title}” has work or marks of students, so it is not replaced. Skip it or add it again.`);
    return choice !== 'skip';
  });
}

/** Units are met by their title at the end of what is there; new ones are put after the last. */
async function carryUnits(
  db: Db,
  courseId: string,
  units: readonly { title: string; isStanding: boolean; items: readonly { readonly id: string; readonly kind: ItemKind }[] }[],
): Promise<{ copies: Copied[]; made: string[] }> {
  const here = await rows<{ id: string; title: string; is_standing: boolean; items: number }>(
    db,
    'select u.id, u.title, u.is_standing, (select coalesce(max(ui.position), -1) + 1 from unit_item ui where ui.unit_id = u.id)::int as items from unit u where u.course_id = $1 and u.removed_at is null',
    [courseId],
  );
  const placed = units.map((unit) => {
    const own = here.find((h) => (unit.isStanding ? h.is_standing : !h.is_standing && h.title === unit.title));
    return { ...unit, id: own?.id ?? randomUUID(), start: own?.items ?? 0, isNew: own === undefined };
  });
  const fresh = placed.filter((u) => u.isNew);
  await run(
    db,
    `insert into unit (id, course_id, title, is_standing, position) select t.id, $1, t.title, t.standing, (select coalesce(max(position), -1) from unit where course_id = $1) + t.n from unnest($2::uuid[], $3::text[], $4::boolean[]) with ordinality as t(id, title, standing, n)`,
    [courseId, fresh.map((u) => u.id), fresh.map((u) => u.title), fresh.map((u) => u.isStanding)],
  );
  const copies = placed.flatMap((u) =>
    u.items.map(({ id, kind }, n): Copied => ({ itemId: id, copyId: randomUUID(), kind, unitId: u.id, position: u.start + n })),
  );
  return { copies, made: fresh.map((u) => u.id) };
}

/** Quizzes that were taken in a room: its code stays behind, and the addresses of its computers may be others now. */
async function listRoomed(db: Db, copies: readonly Copied[]): Promise<string[]> {
  const found = await rows<{ title: string; had_code: boolean; addresses: string[] }>(
    db,
    `select i.title, q.access_code <> '' as had_code, q.allowed_addresses as addresses from quiz q join item i on i.id = q.item_id
     where q.item_id = any($1) and (q.access_code <> '' or q.allowed_addresses <> '{}') order by i.title`,
    [copies.map((c) => c.itemId)],
  );
  return found.map(({ title, had_code: hadCode, addresses }) =>
    [
      `${title}:`,
      hadCode ? 'it was opened with a code, which is not copied; set a new one' : '',
      hadCode && addresses.length > 0 ? 'and' : '',
      addresses.length > 0 ? `it can be taken only at ${addresses.join(', ')}; look whether these are still the room’s` : '',
    ]
      .filter(Boolean)
      .join(' '),
  );
}

async function copyItems(db: Db, courseId: string, copies: readonly Copied[], dates: ReadonlyMap<string, readonly Moved[]>): Promise<void> {
  const at = (name: (typeof CARRIED_DATES)[number]): (string | null)[] =>
    copies.map((c) => {
      const will = dates.get(c.itemId)?.find((m) => m.name === name)?.will ?? null;
      return will === null ? null : new Date(will).toISOString();
    });
  const columns = columnsOf(COMMON_PARTS.item, false);
  await run(
    db,
    `insert into item (id, course_id, source_item_id, title, is_draft, announced_at, opens_at, due_at, closes_at, ${columns.names}, release_mode)
    select t.made, $1, i.id, i.title, true, t.announced, t.opens, t.due, t.closes, ${columns.from('i')},
           case when i.release_mode = 'date' then 'hand' else i.release_mode end
    from unnest($2::uuid[], $3::uuid[], $4::timestamptz[], $5::timestamptz[], $6::timestamptz[], $7::timestamptz[]) as t(old, made, announced, opens, due, closes)
    join item i on i.id = t.old`,
    [courseId, copies.map((c) => c.itemId), copies.map((c) => c.copyId), at('announcedAt'), at('opensAt'), at('dueAt'), at('closesAt')],
  );
  await run(db, 'insert into unit_item (unit_id, item_id, position) select * from unnest($1::uuid[], $2::uuid[], $3::int[])', [
    copies.map((c) => c.unitId),
    copies.map((c) => c.copyId),
    copies.map((c) => c.position),
  ]);
}

/**
 * Brings items of another course into this one, beside what is there and never over it: texts, settings, rubrics, files and,
 * if wished, dates by teaching week. Everything arrives as a draft. A report says what came, what moved, what could not be placed.
 */
export async function carry(db: Db, courseId: string, wish: CarryWish, actorId: string, now: number): Promise<CarryDone> {
  const { preview, dates } = await readCarriage(db, courseId, wish, now);
  const all = preview.units.flatMap((u) => u.items);
  const existing = new Map(all.flatMap((i) => (i.existing === null ? [] : [[i.id, i.existing]])));
  const chosen = new Set(chosenItems(wish, existing, new Set(all.map((i) => i.id))));
  const replaced = wish.again.flatMap((a) => (a.how === 'replace' && chosen.has(a.itemId) ? [existing.get(a.itemId)?.id ?? ''] : []));
  await run(db, 'update item set removed_at = to_timestamp($2 / 1000.0), version = version + 1 where course_id = $3 and id = any($1)', [
    replaced,
    now,
    courseId,
  ]);
  // First, so that the items that come find their categories with their weights.
  const policy = wish.hasPolicy ? await carryPolicy(db, wish.fromCourseId, courseId) : null;
  const units = preview.units
    .map((u) => ({ title: u.title, isStanding: u.isStanding, items: u.items.filter((i) => chosen.has(i.id)) }))
    .filter((u) => u.items.length > 0);
  const { copies, made } = await carryUnits(db, courseId, units);
  const ids = copies.map((c) => c.itemId);
  const { map, added } = await carryCategories(db, wish.fromCourseId, courseId, ids);
  const files = await copyFiles(db, courseId, await listItemFiles(db, ids), actorId, now);
  await copyItems(db, courseId, copies, dates);
  await copyColumns(db, courseId, copies, map);
  await copyParts(db, COMMON_PARTS, ['match_setting'], copies, false);
  await carryItemFiles(db, copies, files);
  // Before the rubrics, whose criteria are aligned to what is here by then.
  await carryObjectives(db, wish.fromCourseId, courseId, copies);
  // Links lead to the copies, and to what came before.
  const copyOf = new Map([...[...existing].map(([id, own]) => [id, own.id] as const), ...copies.map((c) => [c.itemId, c.copyId] as const)]);
  const moved = <T extends object>(document: T): T => rewrite(document, wish.fromCourseId, courseId, files, copyOf);
  for (const [kind, own] of byKind(copies)) await kind.copy({ db, copies: own, courseId, isWithinCourse: false, files, moved });
  await settleCopiedFiles(db, copies);
  await copyOpenings(db, copies, false);
  const came = all.filter((i) => chosen.has(i.id));
  const noted = (test: (note: string) => boolean): string[] =>
    came.flatMap((i) =>
      i.dates
        .filter((d) => test(d.note))
        .map((d) => `${i.title}, ${d.name} ${d.was}: ${d.note}${d.will === null ? '' : `, now ${d.will}`}`),
    );
  return {
    itemIds: copies.map((c) => c.copyId),
    unitIds: made,
    replacedIds: replaced,
    skipped: wish.itemIds.length - chosen.size,
    moved: noted((note) => note.startsWith('moved')),
    unplaced: noted((note) => note.startsWith('not placed')),
    categories: [...(policy?.unweighted ?? []), ...added],
    policy: policy === null ? null : { before: policy.before, after: policy.after },
    rooms: await listRoomed(db, copies),
    mentions: came.flatMap((i) => i.mentions.map((m) => `${i.title}: ${m}`)),
  };
}
