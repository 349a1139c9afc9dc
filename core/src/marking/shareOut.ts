import { shuffled } from '../groups/deal.ts';

/** A work to be shared out, and whose section it is of. The work of a group is one work. */
export interface SharedWork {
  readonly id: string;
  readonly sectionId: string | null;
}
/** Somebody who marks: the sections they are given; null is every section. */
export interface Marker {
  readonly id: string;
  readonly sectionIds: readonly string[] | null;
}

export interface ShareWish {
  /** Each marker gets works of their own sections only, or of all. */
  readonly within: 'sections' | 'all';
  /** How many works each marker gets at most; null shares out all of them. */
  readonly each: number | null;
  /** How many mark each work: 1, or 2 different ones. */
  readonly markers: 1 | 2;
}

export interface Shared {
  readonly workId: string;
  readonly markerIds: readonly string[];
}

/**
 * Shares works out to markers at random and evenly: of those who may have a work, whoever has fewest gets it, chance among equals.
 *
 * No marker has a work twice; with two markers a work that only one may have gets that one. A work that nobody may have, or that
 * comes when everybody has `each`, gets none. `random` gives numbers from 0 up to, but not, 1. Given in any order, answered in
 * the order of the works. Where all markers may have all works, their numbers differ by one at most.
 * Worked example: five works, two markers, all sections, no limit: three and two.
 */
export function shareOut(
  works: readonly SharedWork[],
  markers: readonly Marker[],
  wish: ShareWish,
  random: () => number,
): readonly Shared[] {
  const load = new Map(markers.map((m) => [m.id, 0]));
  const given = new Map<string, string[]>();
  const mayHave = (marker: Marker, work: SharedWork): boolean =>
    wish.within === 'all' || marker.sectionIds === null || (work.sectionId !== null && marker.sectionIds.includes(work.sectionId));
  for (const work of shuffled(works, random)) {
    const chosen: string[] = [];
    for (let n = 0; n < wish.markers; n += 1) {
      const able = shuffled(
        markers.filter((m) => mayHave(m, work) && !chosen.includes(m.id) && (wish.each === null || (load.get(m.id) ?? 0) < wish.each)),
        random,
      );
      const next = able.reduce<Marker | null>(
        (least, m) => (least === null || (load.get(m.id) ?? 0) < (load.get(least.id) ?? 0) ? m : least),
        null,
      );
      if (next === null) break;
      chosen.push(next.id);
      load.set(next.id, (load.get(next.id) ?? 0) + 1);
    }
    given.set(work.id, chosen);
  }
  return works.map((work) => ({ workId: work.id, markerIds: given.get(work.id) ?? [] }));
}
