import type { NewShares, ShareDraw, SharesView } from '@rosemary/api';
import { type Marker, type Membership, reachesSection, shareOut } from '@rosemary/core';
import type { FactPerson } from '../gradebook/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';

export interface Share {
  readonly markerId: string;
  readonly marker: string;
  readonly slot: number;
}

/** Which works of one item are shared out to whom; nothing shared out means that everybody marks those they reach. */
export interface Shares {
  readonly isAny: boolean;
  readonly of: (enrolmentId: string) => readonly Share[] | undefined;
  readonly markerIds: ReadonlySet<string>;
}

const NONE: Shares = { isAny: false, of: () => undefined, markerIds: new Set() };

interface ShareRow {
  item_id: string;
  enrolment_id: string;
  marker_id: string;
  slot: number;
  marker: string;
}

async function readShares(db: Db, courseId: string | null, itemId: string | null): Promise<Map<string, Shares>> {
  const found = await rows<ShareRow>(
    db,
    `select h.item_id, h.enrolment_id, h.marker_id, h.slot, p.given_name || ' ' || p.family_name as marker
     from marking_share h join item i on i.id = h.item_id join person p on p.id = h.marker_id
     where ($1::uuid is null or i.course_id = $1) and ($2::uuid is null or i.id = $2) order by h.slot`,
    [courseId, itemId],
  );
  const byItem = new Map<string, { of: Map<string, Share[]>; markers: Set<string> }>();
  for (const row of found) {
    const item = byItem.get(row.item_id) ?? { of: new Map<string, Share[]>(), markers: new Set<string>() };
    byItem.set(row.item_id, item);
    item.of.set(row.enrolment_id, [
      ...(item.of.get(row.enrolment_id) ?? []),
      { markerId: row.marker_id, marker: row.marker, slot: row.slot },
    ]);
    item.markers.add(row.marker_id);
  }
  return new Map([...byItem].map(([id, item]) => [id, { isAny: true, of: (e: string) => item.of.get(e), markerIds: item.markers }]));
}

export const listShares = async (db: Db, itemId: string): Promise<Shares> => (await readShares(db, null, itemId)).get(itemId) ?? NONE;

export const listAllShares = (db: Db, courseId: string): Promise<Map<string, Shares>> => readShares(db, courseId, null);

/** Whose facts an assistant needs: those of their sections, or everybody's where works are shared out across sections. */
export const scopeOf = (member: Membership, shares: Shares): readonly string[] | null => (shares.isAny ? null : member.sectionIds);

/** Whether this member of staff marks this student's work: an instructor any; an assistant those shared out to them, else those of their sections. */
export function reachesWork(
  member: Membership,
  personId: string,
  person: Pick<FactPerson, 'enrolmentId' | 'sectionId'>,
  shares: Shares | undefined,
): boolean {
  if (member.role === 'instructor') return true;
  if (shares === undefined || !shares.isAny) return reachesSection(member, person.sectionId);
  return (shares.of(person.enrolmentId) ?? []).some((s) => s.markerId === personId);
}

interface MarkerRow {
  id: string;
  name: string;
  section_ids: string[] | null;
}

export async function listMarkers(db: Db, courseId: string): Promise<MarkerRow[]> {
  return rows<MarkerRow>(
    db,
    `select e.person_id as id, p.given_name || ' ' || p.family_name as name,
       case when e.role = 'instructor' then null else coalesce((select array_agg(s.section_id::text) from assistant_section s where s.enrolment_id = e.id), '{}') end as section_ids
     from enrolment e join person p on p.id = e.person_id
     where e.course_id = $1 and e.role in ('instructor', 'assistant') and e.withdrawn_at is null order by e.role desc, p.family_name, p.given_name`,
    [courseId],
  );
}

/** Who marks here, with how many works are theirs. `works` are those of the item, under the identifiers the reader knows them by. */
export async function makeSharesView(
  db: Db,
  courseId: string,
  itemId: string,
  works: readonly { readonly id: string; readonly name: string; readonly mates: readonly string[] }[],
): Promise<SharesView> {
  const shares = await listShares(db, itemId);
  const markers = await listMarkers(db, courseId);
  const listed = works.map((w) => ({
    id: w.id,
    name: w.name,
    markerIds: (shares.of(w.mates[0] ?? '') ?? []).map((s) => s.markerId),
  }));
  return {
    markers: markers.map((m) => ({ id: m.id, name: m.name, works: listed.filter((w) => w.markerIds.includes(m.id)).length })),
    works: listed,
  };
}

/** Draws who marks what, to be seen before it is kept. */
export async function drawShares(
  db: Db,
  courseId: string,
  works: readonly { readonly id: string; readonly sectionId: string | null }[],
  wish: ShareDraw,
  markers: 1 | 2,
  random: () => number = Math.random,
): Promise<NewShares['shares']> {
  const known = await listMarkers(db, courseId);
  const chosen = wish.markerIds.map((id): Marker => {
    const marker = known.find((m) => m.id === id);
    if (marker === undefined) throw invalid('markerIds', 'Somebody chosen does not mark in this course. Choose again.');
    return { id: marker.id, sectionIds: marker.section_ids };
  });
  if (chosen.length < markers) throw invalid('markerIds', 'Two mark each work here. Choose two at least.');
  return shareOut(works, chosen, { within: wish.within, each: wish.each, markers }, random).map((s) => ({
    workId: s.workId,
    markerIds: [...s.markerIds],
  }));
}

/** Keeps who marks what, for every member of a group; works not named, or named with nobody, are shared out to nobody. */
export async function saveShares(
  db: Db,
  courseId: string,
  itemId: string,
  shares: readonly { readonly mates: readonly string[]; readonly markerIds: readonly string[] }[],
  markers: 1 | 2,
): Promise<void> {
  const known = new Set((await listMarkers(db, courseId)).map((m) => m.id));
  const stranger = shares.flatMap((s) => s.markerIds).find((id) => !known.has(id));
  if (stranger !== undefined) throw invalid('shares', 'Somebody named does not mark in this course. Choose again.');
  if (shares.some((s) => s.markerIds.length > markers))
    throw invalid('shares', markers === 1 ? 'One marks each work here.' : 'Two mark each work here, and no more.');
  await run(db, 'delete from marking_share where item_id = $1', [itemId]);
  const made = shares.flatMap((s) =>
    s.mates.flatMap((enrolmentId) => s.markerIds.map((markerId, n) => ({ enrolmentId, markerId, slot: markers === 1 ? 1 : n + 2 }))),
  );
  await run(
    db,
    'insert into marking_share (item_id, enrolment_id, marker_id, slot) select $1, unnest($2::uuid[]), unnest($3::uuid[]), unnest($4::int[])',
    [itemId, made.map((m) => m.enrolmentId), made.map((m) => m.markerId), made.map((m) => m.slot)],
  );
}
