import type { Target } from '../anonymity/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';

/** 1 is the mark that counts; where two mark each work on their own, 2 and 3 are theirs. */
export type Slot = 1 | 2 | 3;

export interface OwnSlot {
  readonly slot: Slot;
  readonly markerId: string;
  readonly marker: string;
  readonly state: 'draft' | 'finished';
}

/** The marks two markers have made of a work on their own, in order. */
export async function listOwnSlots(db: Db, target: Target): Promise<OwnSlot[]> {
  const found = await rows<{ slot: Slot; marker_id: string; marker: string; state: 'draft' | 'finished' }>(
    db,
    `select m.slot, m.marker_id, p.given_name || ' ' || p.family_name as marker, m.state from mark m join submission s on s.id = m.submission_id join person p on p.id = m.marker_id
     where s.item_id = $1 and s.enrolment_id = $2 and m.slot > 1 order by m.slot`,
    [target.itemId, target.enrolmentId],
  );
  return found.map((row) => ({ slot: row.slot, markerId: row.marker_id, marker: row.marker, state: row.state }));
}

/** Whether each work of an item is marked by two. */
async function isMarkedByTwo(db: Db, itemId: string): Promise<boolean> {
  return (await maybe(db, 'select 1 as one from assignment where item_id = $1 and markers = 2', [itemId])) !== null;
}

/** How a person stands to a work: marks it, marks it as one of two, agrees the two marks, or only looks on. */
export type Part =
  { readonly kind: 'marks'; readonly slot: Slot } | { readonly kind: 'agrees'; readonly slot: 1 } | { readonly kind: 'looks' };

/**
 * What part this person has in marking a work. By one: they mark it. By two: their own slot, else the one shared out to them, else
 * the first that is free; once both stand by theirs, the two of them or an instructor agree on the one that counts.
 */
export async function partOf(db: Db, target: Target, personId: string, isInstructor: boolean): Promise<Part> {
  if (!(await isMarkedByTwo(db, target.itemId))) return { kind: 'marks', slot: 1 };
  const taken = await listOwnSlots(db, target);
  const own = taken.find((m) => m.markerId === personId);
  if (taken.length === 2 && taken.every((m) => m.state === 'finished'))
    return own !== undefined || isInstructor ? { kind: 'agrees', slot: 1 } : { kind: 'looks' };
  if (own !== undefined) return { kind: 'marks', slot: own.slot };
  const shared = await rows<{ slot: Slot; marker_id: string }>(
    db,
    'select slot, marker_id from marking_share where item_id = $1 and enrolment_id = $2 order by slot',
    [target.itemId, target.enrolmentId],
  );
  const held = new Set([...taken.map((m) => m.slot), ...shared.filter((s) => s.marker_id !== personId).map((s) => s.slot)]);
  const mine = shared.find((s) => s.marker_id === personId && !taken.some((m) => m.slot === s.slot));
  if (mine !== undefined) return { kind: 'marks', slot: mine.slot };
  const free = ([2, 3] as const).find((slot) => !held.has(slot));
  return free === undefined ? { kind: 'looks' } : { kind: 'marks', slot: free };
}
