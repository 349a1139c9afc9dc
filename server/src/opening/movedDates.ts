import { type Db, run } from '../platform/database.ts';

/** Dates set for a section stay with those who leave it: they become their own, beside what they have of their own already. */
export async function keepSectionDates(
  db: Db,
  moves: readonly { readonly id: string; readonly enrolmentId: string; readonly from: string }[],
): Promise<void> {
  const moved = [moves.map((m) => m.id), moves.map((m) => m.enrolmentId), moves.map((m) => m.from)];
  await run(
    db,
    `
    insert into date_variant (item_id, enrolment_id, announced_at, opens_at, due_at, closes_at, move_id)
    select v.item_id, t.enrolment_id, v.announced_at, v.opens_at, v.due_at, v.closes_at, t.move_id
    from unnest($1::uuid[], $2::uuid[], $3::uuid[]) as t(move_id, enrolment_id, section_id) join date_variant v on v.section_id = t.section_id
    where not exists (select 1 from date_variant o where o.item_id = v.item_id and o.enrolment_id = t.enrolment_id)`,
    moved,
  );
  await run(
    db,
    `
    insert into review_date (item_id, enrolment_id, opens_at, due_at, move_id)
    select v.item_id, t.enrolment_id, v.opens_at, v.due_at, t.move_id
    from unnest($1::uuid[], $2::uuid[], $3::uuid[]) as t(move_id, enrolment_id, section_id) join review_date v on v.section_id = t.section_id
    where not exists (select 1 from review_date o where o.item_id = v.item_id and o.enrolment_id = t.enrolment_id)`,
    moved,
  );
}

/** Takes back what {@link keepSectionDates} made for these moves; a date that was changed since stays. */
export async function dropKeptDates(db: Db, moveIds: readonly string[]): Promise<void> {
  await run(db, 'delete from date_variant where move_id = any($1)', [moveIds]);
  await run(db, 'delete from review_date where move_id = any($1)', [moveIds]);
}
