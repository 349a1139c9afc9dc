import type { PlanItem } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { getCourse } from '../course/index.ts';
import { listReaders } from '../opening/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import type { Copied } from './copied.ts';
import { keepItemFiles } from './itemText.ts';

/** The text of an item where its kind keeps it. */
export interface KeptText {
  readonly read: (db: Db, itemId: string) => Promise<DocumentNode | null>;
  /** The text and the version counted on, or the version alone where no text is given; null where somebody else was quicker. */
  readonly write: (db: Db, itemId: string, version: number, document?: DocumentNode) => Promise<number | null>;
}

/** A text kept in a column of the kind’s own table. */
export const textIn = (table: string, column: string): KeptText => ({
  read: async (db, itemId) =>
    (await maybe<{ document: DocumentNode }>(db, `select ${column} as document from ${table} where item_id = $1`, [itemId]))?.document ??
    null,
  write: async (db, itemId, version, document) =>
    (
      await maybe<{ version: number }>(
        db,
        `update ${table} set ${column} = coalesce($3::jsonb, ${column}), version = version + 1 where item_id = $1 and version = $2 returning version`,
        [itemId, version, document === undefined ? null : JSON.stringify(document)],
      )
    )?.version ?? null,
});

export interface WorkingCopy {
  readonly document: DocumentNode;
  readonly begunAt: Date;
  readonly begunBy: string;
}
export const findWorkingCopy = (db: Db, itemId: string): Promise<WorkingCopy | null> =>
  maybe(
    db,
    `select w.document, w.begun_at as "begunAt", p.given_name || ' ' || p.family_name as "begunBy" from working_copy w join person p on p.id = w.begun_by where w.item_id = $1`,
    [itemId],
  );

/** A text as it is edited: what is not published of it, or else what is. */
export const findEdited = async (db: Db, itemId: string, published: DocumentNode): Promise<DocumentNode> =>
  (await findWorkingCopy(db, itemId))?.document ?? published;

/** A student reads this item now: the course is open, and to at least one the item is, or was. */
export async function isReadByStudents(db: Db, courseId: string, item: PlanItem, now: number): Promise<boolean> {
  if (item.isDraft || item.isStaffOnly || !(await getCourse(db, courseId)).is_open) return false;
  return (await listReaders(db, courseId, item.id, now)).length > 0;
}

export async function putWorkingCopy(
  db: Db,
  courseId: string,
  itemId: string,
  document: DocumentNode,
  personId: string,
  now: number,
): Promise<void> {
  await run(
    db,
    `insert into working_copy (item_id, document, begun_at, begun_by) values ($1, $2, to_timestamp($3 / 1000.0), $4)
     on conflict (item_id) do update set document = excluded.document`,
    [itemId, document, now, personId],
  );
  await keepItemFiles(db, courseId, itemId, document, 'working');
}

export async function dropWorkingCopy(db: Db, courseId: string, itemId: string): Promise<void> {
  await run(db, 'delete from working_copy where item_id = $1', [itemId]);
  await keepItemFiles(db, courseId, itemId, [], 'working');
}

/**
 * Takes a text as it was typed. Where students read the item it becomes the working copy, and what they read stays; elsewhere it is the
 * text itself, and a working copy from a time when they did is part of it. Answers what is now to stand in the text of the kind: nothing
 * where that stays as it was.
 */
export async function takeText(
  db: Db,
  courseId: string,
  item: PlanItem,
  document: DocumentNode,
  personId: string,
  now: number,
): Promise<DocumentNode | undefined> {
  if (await isReadByStudents(db, courseId, item, now)) {
    await putWorkingCopy(db, courseId, item.id, document, personId, now);
    return undefined;
  }
  await dropWorkingCopy(db, courseId, item.id);
  await keepItemFiles(db, courseId, item.id, document);
  return document;
}

/** The texts of items as their copies begin: with what is not published yet. */
export const listTextsToCopy = (
  db: Db,
  table: string,
  column: string,
  copies: readonly Copied[],
): Promise<{ old: string; made: string; document: DocumentNode }[]> =>
  rows(
    db,
    `select t.old, t.made, coalesce(w.document, d.${column}) as document
     from unnest($1::uuid[], $2::uuid[]) as t(old, made) join ${table} d on d.item_id = t.old left join working_copy w on w.item_id = t.old`,
    [copies.map((c) => c.itemId), copies.map((c) => c.copyId)],
  );

/** A copy has no working copy: the files of that of its original are those of its text. */
export async function settleCopiedFiles(db: Db, copies: readonly Copied[]): Promise<void> {
  const ids = copies.map((c) => c.copyId);
  await run(
    db,
    "delete from item_file f where f.item_id = any($1) and f.part = 'text' and exists (select 1 from item_file w where w.item_id = f.item_id and w.part = 'working')",
    [ids],
  );
  await run(db, "update item_file set part = 'text' where item_id = any($1) and part = 'working'", [ids]);
}
