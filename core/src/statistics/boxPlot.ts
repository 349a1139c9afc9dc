import { LEAST_RESULTS } from './classStatistics.ts';
import { quantileOfSorted } from './quantile.ts';

/** How values lie, to be drawn. Below five values they are shown themselves; of more, a box with whiskers and what is outside. */
export type BoxPlot =
  | { readonly kind: 'points'; readonly values: readonly number[] }
  | {
      readonly kind: 'box';
      readonly number: number;
      readonly lowQuartile: number;
      readonly median: number;
      readonly highQuartile: number;
      /** The furthest values within 1.5 × the interquartile range of the box. */
      readonly lowWhisker: number;
      readonly highWhisker: number;
      /** The places of the values outside the whiskers, in the order in which they were given. */
      readonly outliers: readonly number[];
    };

const REACH = 1.5;

/**
 * A box plot of values in one unit: quartiles by linear interpolation (type 7), whiskers to the furthest value within 1.5 × the interquartile
 * range, what is beyond named by its place. Fewer than five values are given back in order instead. No value gives an empty list of points.
 * Source: Tukey 1977; Hyndman and Fan 1996 for the quartiles. A value that is not finite throws.
 * Worked example: 1, 2, 3, 4, 5, 20 has the quartiles 2.25, 3.5 and 4.75, whiskers from 1 to 5, and 20 (place 5) outside.
 */
export function boxPlot(values: readonly number[]): BoxPlot {
  if (values.some((v) => !Number.isFinite(v))) throw new RangeError('A value that is no number cannot be drawn.');
  const sorted = [...values].sort((a, b) => a - b);
  const [low, median, high] = [quantileOfSorted(sorted, 0.25), quantileOfSorted(sorted, 0.5), quantileOfSorted(sorted, 0.75)];
  if (sorted.length < LEAST_RESULTS || low === null || median === null || high === null) return { kind: 'points', values: sorted };
  const reach = REACH * (high - low);
  const isInside = (v: number): boolean => v >= low - reach && v <= high + reach;
  const inside = sorted.filter(isInside);
  return {
    kind: 'box',
    number: sorted.length,
    lowQuartile: low,
    median,
    highQuartile: high,
    lowWhisker: Math.min(low, inside[0] ?? low),
    highWhisker: Math.max(high, inside.at(-1) ?? high),
    outliers: values.flatMap((v, place) => (isInside(v) ? [] : [place])),
  };
}
