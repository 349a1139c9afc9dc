import { roundHalfUp, type Ratio } from '../exact/ratio.ts';
import { parsePoints, type Thousandths } from '../exact/points.ts';
import type { SchemeLevel } from './policy.ts';

export interface Reading {
  readonly percent: string;
  readonly letter: string | null;
}

/**
 * How an exact total is read: rounded half up once at the scheme's decimals, then the letter with the greatest
 * cut-point that is not above the rounded value. No total, no reading.
 * Worked example: 0.8695 at one decimal is 87.0, and with A from 87 that is an A.
 */
export function readTotal(total: Ratio | null, decimals: number, levels: readonly SchemeLevel[]): Reading | null {
  if (total === null) return null;
  const percent = roundHalfUp(total.mul(100), decimals);
  // The rounded value as a whole number of its last decimal; any size, since a share has no upper end.
  const value = BigInt(percent.replace('−', '-').replace('.', '')) * 1000n;
  const scale = 10n ** BigInt(decimals);
  const isReached = (level: SchemeLevel): boolean => BigInt(level.cutPoint) * scale <= value;
  const letter = levels.reduce<SchemeLevel | null>(
    (best, level) => (isReached(level) && (best === null || level.cutPoint > best.cutPoint) ? level : best),
    null,
  );
  return { percent, letter: letter?.label ?? null };
}

/** Cut-points are decimals, strictly falling, the last 0. Says what is wrong, or null. */
export function schemeFault(levels: readonly { readonly label: string; readonly cutPoint: string }[]): string | null {
  let before: Thousandths = Infinity;
  for (const { label, cutPoint } of levels) {
    const parsed = parsePoints(cutPoint);
    if (!parsed.ok) return `Cut-point of ${label}: ${parsed.reason}`;
    if (parsed.value >= before) return `Cut-point of ${label} is ${cutPoint}; it must be below the one before it.`;
    before = parsed.value;
  }
  return levels.length > 0 && before !== 0 ? 'The last cut-point must be 0, so that every total has a letter.' : null;
}
