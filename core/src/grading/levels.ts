import type { Thousandths } from '../exact/points.ts';
import type { SchemeLevel } from './policy.ts';

const FULL: Thousandths = 100_000;

/**
 * The share that a level of a scheme stands for where it is given instead of a number, in thousandths of a percent: its stated value, else
 * the middle between its cut-point and the next one above; the highest reaches up to 100 %.
 * Worked example: with A from 87 and B from 73 a B without a value of its own is 80 % (80000), an A 93.5 %.
 */
export function valueOfLevel(levels: readonly SchemeLevel[], level: SchemeLevel): Thousandths {
  if (level.value !== undefined && level.value !== null) return level.value;
  const above = levels.filter((other) => other.cutPoint > level.cutPoint).map((other) => other.cutPoint);
  const top = above.length === 0 ? Math.max(FULL, level.cutPoint) : Math.min(...above);
  return Math.round((level.cutPoint + top) / 2);
}

/** The level that is named, whatever its case; null where none is. Worked example: `b` names B. */
export const levelNamed = (levels: readonly SchemeLevel[], word: string): SchemeLevel | null =>
  levels.find((level) => level.label.toLowerCase() === word.trim().toLowerCase()) ?? null;
