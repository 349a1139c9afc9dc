import type { Thousandths } from '../exact/points.ts';

/** A rubric without its place in the database: what is kept to be used again. */
export interface PlainRubric {
  readonly title: string;
  readonly criteria: readonly {
    readonly title: string;
    readonly levels: readonly { readonly title: string; readonly descriptor: string; readonly points: Thousandths }[];
  }[];
}

const bestOf = (levels: readonly { readonly points: Thousandths }[]): Thousandths =>
  levels.reduce((most, l) => Math.max(most, l.points), 0);

/**
 * A rubric whose best levels add up to the points of an item, exactly. The best level of each criterion is its weight: its share of
 * the points is taken in steps of half a point (of a thousandth where the points are no whole number of halves), and what is left
 * over by rounding down goes, a step each, to those that lost most (largest remainder). The other levels keep their share of the
 * best, rounded to the nearest step, half up. Where every weight is 0 all weigh the same.
 * Points are thousandths, at least 0; a rubric without criteria stays as it is.
 * Source of the rule: Hamilton’s method of apportionment.
 * Worked example: weights 20, 15, 15 for 60 points are 24, 18, 18; a level of 10 under the 20 becomes 12.
 */
export function fitRubric(criteria: PlainRubric['criteria'], possible: Thousandths): PlainRubric['criteria'] {
  const step = possible % 500 === 0 ? 500 : 1;
  const weights = criteria.map((c) => bestOf(c.levels));
  const sum = weights.reduce((a, b) => a + b, 0);
  const even = sum === 0;
  const total = BigInt(even ? criteria.length : sum);
  const steps = possible / step;
  // Whole numbers throughout: points times weight is larger than a double holds exactly.
  const shares = weights.map((w, n) => {
    const whole = BigInt(steps) * BigInt(even ? 1 : w);
    return { n, steps: total === 0n ? 0 : Number(whole / total), left: total === 0n ? 0n : whole % total };
  });
  let over = steps - shares.reduce((a, s) => a + s.steps, 0);
  for (const share of [...shares].sort((a, b) => (a.left === b.left ? a.n - b.n : a.left > b.left ? -1 : 1))) {
    if (over <= 0 || criteria.length === 0) break;
    share.steps += 1;
    over -= 1;
  }
  return criteria.map((c, n) => {
    const best = (shares[n]?.steps ?? 0) * step;
    const own = weights[n] ?? 0;
    return {
      title: c.title,
      levels: c.levels.map((l) => ({
        title: l.title,
        descriptor: l.descriptor,
        points: own === 0 ? (l === c.levels.at(-1) ? best : 0) : Math.floor((2 * l.points * best + own * step) / (2 * own * step)) * step,
      })),
    };
  });
}
