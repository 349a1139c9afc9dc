import type { ReviewDate } from '@rosemary/api';
import { type Db, rows, run } from '../platform/database.ts';
import { isoOf } from '../platform/instants.ts';

/** The dates of the reviews of an item that hold for sections, groups and students alone. */
export async function listReviewDates(db: Db, itemId: string): Promise<ReviewDate[]> {
  const found = await rows<{
    section_id: string | null;
    enrolment_id: string | null;
    group_id: string | null;
    opens_at: Date | null;
    due_at: Date | null;
  }>(db, 'select section_id, enrolment_id, group_id, opens_at, due_at from review_date where item_id = $1 order by id', [itemId]);
  return found.map((row) => ({
    ...{ sectionId: row.section_id, enrolmentId: row.enrolment_id, groupId: row.group_id },
    ...{ opensAt: isoOf(row.opens_at), dueAt: isoOf(row.due_at) },
  }));
}

/** Writes them all as they shall stand. */
export async function putReviewDates(db: Db, itemId: string, dates: readonly ReviewDate[]): Promise<void> {
  await run(db, 'delete from review_date where item_id = $1', [itemId]);
  await run(
    db,
    `insert into review_date (item_id, section_id, enrolment_id, group_id, opens_at, due_at)
     select $1, * from unnest($2::uuid[], $3::uuid[], $4::uuid[], $5::timestamptz[], $6::timestamptz[])`,
    [
      ...[itemId, dates.map((d) => d.sectionId), dates.map((d) => d.enrolmentId), dates.map((d) => d.groupId)],
      ...[dates.map((d) => d.opensAt), dates.map((d) => d.dueAt)],
    ],
  );
}
