import {
  type Audience,
  type DateBounds,
  EVERYONE,
  isForStudent,
  NO_OPENING,
  type Opening,
  type OpeningRule,
  type UnitReach,
} from '@rosemary/core';
import { type Db, often } from '../platform/database.ts';
import { millis } from '../platform/instants.ts';

interface Who {
  readonly enrolmentId: string;
  readonly sectionId: string | null;
}

/** Who reaches what in a course, and what holds it shut or open, read once. */
export interface Reach {
  readonly isFor: (itemId: string, person: Who) => boolean;
  readonly boundsOf: (itemId: string, person: Who) => DateBounds;
  readonly isOpenedByHand: (itemId: string, person: Who, now: number) => boolean;
  readonly openingOf: (itemId: string) => Opening;
  /** Items and students that something of their own is said about: the rest share what is worked out once. */
  readonly ownHand: ReadonlySet<string>;
}

interface UnitRow {
  item_id: string;
  unit_id: string;
  title: string;
  is_staff_only: boolean;
  announced_at: Date | null;
  opens_at: Date | null;
  closes_at: Date | null;
}

interface HandRow {
  item_id: string;
  enrolment_id: string | null;
  opened_at: Date;
  until_at: Date;
}

interface RuleRow {
  item_id: string;
  kind: OpeningRule['kind'];
  at: Date | null;
  other_item_id: string | null;
  least: number | null;
}

/** A group is its members; one that nobody is in stands for itself, so that it is not read as everyone. */
async function readAudiences(db: Db, courseId: string): Promise<ReadonlyMap<string, Audience>> {
  const found = await often<{ owner: string; section_ids: string[]; enrolment_ids: string[] }>(
    db,
    `
    select coalesce(a.item_id, a.unit_id) as owner, coalesce(array_agg(a.section_id) filter (where a.section_id is not null), '{}') as section_ids,
           coalesce(array_agg(coalesce(a.enrolment_id, m.enrolment_id, a.group_id)) filter (where a.section_id is null), '{}') as enrolment_ids
    from audience a left join group_member m on m.group_id = a.group_id left join item i on i.id = a.item_id left join unit u on u.id = a.unit_id where coalesce(i.course_id, u.course_id) = $1 group by 1`,
    [courseId],
  );
  return new Map(found.map((row) => [row.owner, { sectionIds: row.section_ids, enrolmentIds: row.enrolment_ids }]));
}

function toRule(row: RuleRow): OpeningRule {
  if (row.kind === 'date') return { kind: 'date', at: row.at?.getTime() ?? 0 };
  const itemId = row.other_item_id ?? '';
  return row.kind === 'done' ? { kind: 'done', itemId } : { kind: 'score', itemId, least: row.least ?? 0 };
}

async function readOpenings(db: Db, courseId: string): Promise<ReadonlyMap<string, Opening>> {
  const found = await often<RuleRow & { needs: Opening['needs'] }>(
    db,
    `
    select r.item_id, r.kind, r.at, r.other_item_id, (r.least * 1000)::int as least, i.opening_needs as needs
    from opening_rule r join item i on i.id = r.item_id where i.course_id = $1 order by r.item_id, r.position`,
    [courseId],
  );
  const openings = new Map<string, { needs: Opening['needs']; rules: OpeningRule[] }>();
  for (const row of found) {
    const opening = openings.get(row.item_id) ?? { needs: row.needs, rules: [] };
    opening.rules.push(toRule(row));
    openings.set(row.item_id, opening);
  }
  return openings;
}

const listHands = (db: Db, courseId: string): Promise<HandRow[]> =>
  often<HandRow>(
    db,
    'select h.item_id, h.enrolment_id, h.opened_at, h.until_at from hand_opening h join item i on i.id = h.item_id where i.course_id = $1 and h.ended_at is null',
    [courseId],
  );

/** The units each item stands in. */
const listPlaces = (db: Db, courseId: string): Promise<UnitRow[]> =>
  often<UnitRow>(
    db,
    `
    select ui.item_id, u.id as unit_id, u.title, u.is_staff_only, u.announced_at, u.opens_at, u.closes_at
    from unit_item ui join unit u on u.id = ui.unit_id where u.course_id = $1 and u.removed_at is null`,
    [courseId],
  );

/** The sections students came from that were joined to theirs. */
const listFormer = (db: Db, courseId: string): Promise<{ enrolment_id: string; section_id: string }[]> =>
  often(
    db,
    `select m.enrolment_id, m.from_section_id as section_id from section_joining j join section_move m on m.act_id = j.act_id
     where j.course_id = $1 and j.parted_at is null`,
    [courseId],
  );

function groupBy<T>(all: readonly T[], keyOf: (one: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const one of all) {
    const group = groups.get(keyOf(one));
    if (group === undefined) groups.set(keyOf(one), [one]);
    else group.push(one);
  }
  return groups;
}

export async function readReach(db: Db, courseId: string): Promise<Reach> {
  const [audiences, openings, moved, opened, placed] = await Promise.all([
    readAudiences(db, courseId),
    readOpenings(db, courseId),
    listFormer(db, courseId),
    listHands(db, courseId),
    listPlaces(db, courseId),
  ]);
  const former = groupBy(moved, (row) => row.enrolment_id);
  const hands = groupBy(opened, (hand) => hand.item_id);
  const units = groupBy(placed, (row) => row.item_id);
  const reaches = new Map<string, readonly UnitReach[]>();
  const bounds = new Map<string, DateBounds['units']>();
  for (const [itemId, list] of units) {
    const reach = list.map((u): UnitReach => ({ isStaffOnly: u.is_staff_only, audience: audiences.get(u.unit_id) ?? EVERYONE }));
    // Most items are for everyone: those are not looked at again for each student.
    if (audiences.has(itemId) || reach.every((u) => u.isStaffOnly || u.audience !== EVERYONE)) reaches.set(itemId, reach);
    if (list.some((u) => u.announced_at !== null || u.opens_at !== null || u.closes_at !== null))
      bounds.set(
        itemId,
        list.map((u) => ({ title: u.title, announced: millis(u.announced_at), opens: millis(u.opens_at), closes: millis(u.closes_at) })),
      );
  }
  const handsFor = (itemId: string, person: Who): readonly HandRow[] =>
    hands.get(itemId)?.filter((h) => h.enrolment_id === null || h.enrolment_id === person.enrolmentId) ?? [];
  return {
    isFor: (itemId, person) => {
      const reach = reaches.get(itemId);
      if (reach === undefined && !audiences.has(itemId)) return true;
      const isFor = (sectionId: string | null): boolean =>
        isForStudent(audiences.get(itemId) ?? EVERYONE, reach ?? [], { ...person, sectionId });
      // What is for a section that was joined to another stays with those who came from it.
      return isFor(person.sectionId) || (former.get(person.enrolmentId) ?? []).some((row) => isFor(row.section_id));
    },
    boundsOf: (itemId, person) => {
      const own = handsFor(itemId, person);
      return {
        units: bounds.get(itemId) ?? [],
        openUntil: own.length === 0 ? null : Math.max(...own.map((h) => h.until_at.getTime())),
      };
    },
    isOpenedByHand: (itemId, person, now) =>
      handsFor(itemId, person).some((h) => h.opened_at.getTime() <= now && now < h.until_at.getTime()),
    openingOf: (itemId) => openings.get(itemId) ?? NO_OPENING,
    ownHand: new Set([...hands.values()].flat().flatMap((h) => h.enrolment_id ?? [])),
  };
}
