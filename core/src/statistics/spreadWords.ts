import type { BoxPlot } from './boxPlot.ts';
import { quantile } from './quantile.ts';

const [EASY, HARD] = [0.9, 0.5];
const WIDE = 2;
/** So many other pieces have to be there before one is held against “the rest”. */
const LEAST_OTHERS = 3;

const percentOf = (share: number): string => `${Math.round(share * 100)} %`;
const widthOf = (plot: BoxPlot): number[] => (plot.kind === 'box' ? [plot.highQuartile - plot.lowQuartile] : []);

/**
 * What the spread of a piece of work suggests, each with its reason: that most found it easy (median of 90 % or more) or hard (below 50 %), and that
 * its middle half is twice as wide as that of the rest, or wider: the median of the others, where there are three or more. Shares of the points;
 * nothing is said where there are fewer than five results.
 * Worked example: a median of 0.94 gives `median 94 %: most found this easy`.
 */
export function spreadWords(plot: BoxPlot, others: readonly BoxPlot[]): readonly string[] {
  if (plot.kind !== 'box') return [];
  const words: string[] = [];
  if (plot.median >= EASY) words.push(`median ${percentOf(plot.median)}: most found this easy`);
  if (plot.median < HARD) words.push(`median ${percentOf(plot.median)}: most found this hard`);
  const widths = others.flatMap(widthOf);
  const usual = quantile(widths, 0.5);
  const [own = 0] = widthOf(plot);
  if (widths.length >= LEAST_OTHERS && usual !== null && usual > 0 && own >= WIDE * usual)
    words.push(`spread ${(own / usual).toFixed(1)} times that of the rest`);
  return words;
}
