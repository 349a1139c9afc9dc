import type { VariantsChange } from '@rosemary/api';
import { rows, run, type Db } from '../platform/database.ts';

/** The dates of an item for sections, groups and students, all of them as they shall stand. One that is as it was keeps what it came from. */
export async function putOtherDates(db: Db, itemId: string, variants: VariantsChange['variants']): Promise<void> {
  const held = await rows<{ enrolment_id: string; opens_at: Date | null; due_at: Date | null; closes_at: Date | null; move_id: string }>(
    db,
    'select enrolment_id, opens_at, due_at, closes_at, move_id from date_variant where item_id = $1 and move_id is not null',
    [itemId],
  );
  const moveOf = (v: VariantsChange['variants'][number]): string | null => {
    const own = held.find((h) => h.enrolment_id === v.enrolmentId);
    const isAsItWas = (was: Date | null | undefined, is: string | null): boolean =>
      (was?.getTime() ?? null) === (is === null ? null : Date.parse(is));
    const same = isAsItWas(own?.opens_at, v.opensAt) && isAsItWas(own?.due_at, v.dueAt) && isAsItWas(own?.closes_at, v.closesAt);
    return same ? (own?.move_id ?? null) : null;
  };
  await run(db, 'delete from date_variant where item_id = $1', [itemId]);
  await run(
    db,
    `insert into date_variant (item_id, section_id, enrolment_id, group_id, opens_at, due_at, closes_at, move_id)
     select $1, * from unnest($2::uuid[], $3::uuid[], $4::uuid[], $5::timestamptz[], $6::timestamptz[], $7::timestamptz[], $8::uuid[])`,
    [
      itemId,
      variants.map((v) => v.sectionId),
      variants.map((v) => v.enrolmentId),
      variants.map((v) => v.groupId ?? null),
      variants.map((v) => v.opensAt),
      variants.map((v) => v.dueAt),
      variants.map((v) => v.closesAt),
      variants.map(moveOf),
    ],
  );
}
