import type { PlanItem } from '@rosemary/api';
import { type Db, run } from '../platform/database.ts';
import type { CARRIED_DATES } from './carryPreview.ts';

/** Gives items that were made just now their titles and dates, and opens those that are no drafts. */
export async function settleItems(
  db: Db,
  items: readonly ({ readonly id: string; readonly title: string; readonly isDraft: boolean } & Pick<
    PlanItem,
    (typeof CARRIED_DATES)[number]
  >)[],
): Promise<void> {
  await run(
    db,
    `update item i set title = t.title, announced_at = t.announced, opens_at = t.opens, due_at = t.due, closes_at = t.closes, is_draft = t.is_draft
     from unnest($1::uuid[], $2::timestamptz[], $3::timestamptz[], $4::timestamptz[], $5::timestamptz[], $6::bool[], $7::text[]) as t(id, announced, opens, due, closes, is_draft, title)
     where i.id = t.id`,
    [
      items.map((i) => i.id),
      items.map((i) => i.announcedAt),
      items.map((i) => i.opensAt),
      items.map((i) => i.dueAt),
      items.map((i) => i.closesAt),
      items.map((i) => i.isDraft),
      items.map((i) => i.title),
    ],
  );
}
