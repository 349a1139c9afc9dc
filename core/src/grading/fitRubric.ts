import type { Thousandths } from '../exact/points.ts';
import type { CriterionForm } from './rubric.ts';

/** A rubric without its place in the database: what is kept to be used again. */
export interface PlainRubric {
  readonly title: string;
  readonly criteria: readonly {
    readonly title: string;
    readonly form?: CriterionForm;
    readonly levels: readonly {
      readonly title: string;
      readonly descriptor: string;
      readonly points: Thousandths;
      readonly least?: Thousandths | null;
      readonly upTo?: number | null;
    }[];
  }[];
}

const bestOf = (levels: readonly { readonly points: Thousandths }[]): Thousandths =>
  levels.reduce((most, l) => Math.max(most, l.points), 0);

/**
 * A rubric whose best levels add up to the points of an item, exactly. The best level of each criterion is its weight: its share of
 * the points is taken in steps of half a point (of a thousandth where the points are no whole number of halves), and what is left
 * over by rounding down goes, a step each, to those that lost most (largest remainder). The other levels keep their share of the
 * best, rounded to the nearest step, half up, and so does the least of a range. Where every weight is 0 all weigh the same; a
 * criterion judged in words weighs nothing. What kind of criterion it is, and how many errors reach a level, stays.
 * Points are thousandths, at least 0; a rubric without criteria stays as it is.
 * Source of the rule: Hamilton’s method of apportionment.
 * Worked example: weights 20, 15, 15 for 60 points are 24, 18, 18; a level of 10 under the 20 becomes 12.
 */
export function fitRubric(criteria: PlainRubric['criteria'], possible: Thousandths): PlainRubric['criteria'] {
  const step = possible % 500 === 0 ? 500 : 1;
  const weights = criteria.map((c) => bestOf(c.levels));
  const sum = weights.reduce((a, b) => a + b, 0);
  const even = sum === 0;
  const scored = criteria.map((c) => c.form !== 'comment');
  const total = BigInt(even ? scored.filter(Boolean).length : sum);
  const steps = possible / step;
  // Whole numbers throughout: points times weight is larger than a double holds exactly.
  const shares = weights.map((w, n) => {
    const whole = BigInt(steps) * BigInt(scored[n] === true ? (even ? 1 : w) : 0);
    return { n, steps: total === 0n ? 0 : Number(whole / total), left: total === 0n ? 0n : whole % total };
  });
  let over = steps - shares.reduce((a, s) => a + s.steps, 0);
  for (const share of [...shares].sort((a, b) => (a.left === b.left ? a.n - b.n : a.left > b.left ? -1 : 1))) {
    if (over <= 0 || total === 0n) break;
    if (scored[share.n] !== true) continue;
    share.steps += 1;
    over -= 1;
  }
  return criteria.map((c, n) => {
    const best = (shares[n]?.steps ?? 0) * step;
    const own = weights[n] ?? 0;
    const scaled = (points: Thousandths): Thousandths => Math.floor((2 * points * best + own * step) / (2 * own * step)) * step;
    return {
      ...c,
      levels: c.levels.map((l) => ({
        ...l,
        points: own === 0 ? (l === c.levels.at(-1) ? best : 0) : scaled(l.points),
        ...(l.least === undefined || l.least === null ? {} : { least: own === 0 ? 0 : scaled(l.least) }),
      })),
    };
  });
}

/**
 * A rubric whose criteria weigh as given, in whole percent, with the points that follow: each criterion's best level is its weight of
 * the points of the item, as `fitRubric` shares them out. Weights are at least 0; they need not add up to 100, only their proportions
 * count. Worked example: weights 50, 30, 20 for 60 points: 30, 18, 12.
 */
export function weighRubric(criteria: PlainRubric['criteria'], weights: readonly number[], possible: Thousandths): PlainRubric['criteria'] {
  // A weight is a best level before it is fitted: the levels keep their share of it.
  const weighed = criteria.map((c, n) => {
    const [own, wanted] = [bestOf(c.levels), (weights[n] ?? 0) * 1_000_000];
    const scaled = (points: Thousandths): Thousandths => (own === 0 ? 0 : Math.round((points * wanted) / own));
    return {
      ...c,
      levels: c.levels.map((l) => ({
        ...l,
        points: own === 0 && l === c.levels.at(-1) ? wanted : scaled(l.points),
        ...(l.least === undefined || l.least === null ? {} : { least: scaled(l.least) }),
      })),
    };
  });
  return fitRubric(weighed, possible);
}
