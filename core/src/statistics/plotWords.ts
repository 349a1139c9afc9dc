import type { BoxPlot } from './boxPlot.ts';

/** A share as a whole percentage, for a chart and its words. Example: 0.783 is `78 %`, −0.04 is `−4 %`. */
export function percentWords(share: number): string {
  const percent = Math.round(share * 100);
  return `${percent < 0 ? '−' : ''}${Math.abs(percent)} %`;
}

/** A share in percent for a table, at one decimal. Example: 0.7834 is 78.3. */
export const sharePercent = (share: number): number => Math.round(share * 1000) / 10;

/**
 * A box plot in words; `names` are those of the values in the order in which they were given.
 * Worked example: `median 78 %, middle half 62 to 88 %, reach 45 to 100 %, outside: Montoya 22 %`.
 */
export function plotInWords(plot: BoxPlot, values: readonly number[], names: readonly string[]): string {
  const bare = (share: number): string => percentWords(share).replace(' %', '');
  if (plot.kind === 'points')
    return plot.values.length === 0 ? 'no results yet' : `${values.map((v, n) => `${names[n] ?? ''} ${percentWords(v)}`).join(', ')}`;
  const outside = plot.outliers.map((at) => `${names[at] ?? ''} ${percentWords(values[at] ?? 0)}`);
  return [
    `median ${percentWords(plot.median)}`,
    `middle half ${bare(plot.lowQuartile)} to ${percentWords(plot.highQuartile)}`,
    `reach ${bare(plot.lowWhisker)} to ${percentWords(plot.highWhisker)}`,
    ...(outside.length === 0 ? [] : [`outside: ${outside.join(', ')}`]),
  ].join(', ');
}
