import type { Thousandths } from '../exact/points.ts';
import { boxPlot, type BoxPlot } from '../statistics/boxPlot.ts';
import { pairedChange, type PairedChange } from '../statistics/pairedChange.ts';

/** A result of somebody as a share of the points: their place in the class, and the share. */
export interface PlacedShare {
  readonly place: number;
  readonly share: number;
}

/** The results of one piece of work and how they lie. The places of `plot.outliers` are those in `results`. */
export interface WorkSpread {
  readonly results: readonly PlacedShare[];
  readonly plot: BoxPlot;
}

/**
 * Results as shares of the points, for those places of a class that have a number there: neither exempt nor missing, unmarked or outside. They may lie below
 * 0 and above 1.
 * Worked example: 5000, `exempt` and 10000 of 10000 are 0.5 at place 0 and 1 at place 2.
 */
export function placedShares(results: readonly (number | string | null)[], possible: Thousandths): readonly PlacedShare[] {
  if (possible <= 0) return [];
  return results.flatMap((result, place) => (typeof result === 'number' ? [{ place, share: result / possible }] : []));
}

/** How results lie, to be drawn. Example: of the shares 0.2, 0.4 it gives the two points, since a box takes five. */
export const spreadOf = (results: readonly PlacedShare[]): WorkSpread => ({ results, plot: boxPlot(results.map((r) => r.share)) });

export interface Change {
  readonly place: number;
  readonly before: number;
  readonly after: number;
}
/**
 * The change of those who have both results, with the statistics of the pairs.
 * Worked example: 0.5 at place 0 and 0.6 at place 1 before, 0.7 at place 1 after: one change, from 0.6 to 0.7.
 */
export function changesOf(
  before: readonly PlacedShare[],
  after: readonly PlacedShare[],
): { readonly changes: readonly Change[]; readonly paired: PairedChange } {
  const later = new Map(after.map((r) => [r.place, r.share]));
  const changes = before.flatMap(({ place, share }): Change[] => {
    const then = later.get(place);
    return then === undefined ? [] : [{ place, before: share, after: then }];
  });
  return { changes, paired: pairedChange(changes.map((c) => [c.before, c.after])) };
}
