/** One person's first complete attempt, question by question in the order of the items. */
export interface StatisticAttempt {
  /** Points earned; a question left blank is 0, one that this attempt did not hold is null. */
  readonly earned: readonly (number | null)[];
  /** The answers picked of each, where it has answers to pick from. */
  readonly picked?: readonly (readonly string[] | null)[];
}
export interface StatisticItem {
  readonly id: string;
  readonly points: number;
  /** The answers to pick from, with whether the key takes them for right. */
  readonly options?: readonly { readonly id: string; readonly isRight: boolean }[];
}

/** How many of each third of the class, by total score, picked an answer; people tied at an edge are shared between both. */
export interface OptionCount {
  readonly id: string;
  readonly isRight: boolean;
  readonly upper: number;
  readonly middle: number;
  readonly lower: number;
}
export interface ItemStatistics {
  readonly id: string;
  /** How many attempts held the question. */
  readonly attempts: number;
  /** Mean share of its points; null where nobody had it, or it has none. */
  readonly shareRight: number | null;
  /** Correlation with the total less the item; null where either does not vary. */
  readonly itemRest: number | null;
  /** Share right of the upper 27 % less that of the lower; null below four attempts. */
  readonly upperLower: number | null;
  readonly options: readonly OptionCount[];
  /** What the figures were worked out from, in points: sums and spreads over those who had the question. */
  readonly from: {
    readonly points: number;
    readonly earned: number;
    readonly spread: number;
    readonly spreadOfRest: number;
    readonly covariance: number;
    /** How many make the upper and the lower group, and what each earned on average; null where they are not told apart. */
    readonly groupSize: number;
    readonly upperMean: number | null;
    readonly lowerMean: number | null;
  };
}

/**
 * How far each person belongs to the `size` with the highest totals: 1 wholly, 0 not at all, and those tied at the edge share what is left
 * of it equally. `size` need not be whole. The weights add up to `size`. In the order of `totals`.
 * Worked example: totals 9, 7, 7, 3 with size 2: 1, 0.5, 0.5, 0.
 */
export function upperWeights(totals: readonly number[], size: number): number[] {
  const sorted = [...totals].sort((a, b) => b - a);
  const edge = sorted[Math.min(sorted.length, Math.ceil(size)) - 1];
  if (edge === undefined || size <= 0) return totals.map(() => 0);
  let above = 0;
  let tied = 0;
  for (const total of totals) {
    if (total > edge) above += 1;
    else if (total === edge) tied += 1;
  }
  const ofTied = Math.min(1, (size - above) / tied);
  return totals.map((total) => (total > edge ? 1 : total === edge ? ofTied : 0));
}
const lowerWeights = (totals: readonly number[], size: number): number[] =>
  upperWeights(
    totals.map((t) => -t),
    size,
  );

/** Size of the upper and lower groups: 27 % of n, rounded half up. */
export const kelleySize = (n: number): number => Math.floor(0.27 * n + 0.5);

interface Sums {
  n: number;
  x: number;
  xx: number;
  t: number;
  tt: number;
  xt: number;
  upper: number;
  upperN: number;
  lower: number;
  lowerN: number;
}

interface Rest {
  readonly itemRest: number | null;
  readonly spread: number;
  readonly spreadOfRest: number;
  readonly covariance: number;
}
/** Correlation of the item with the rest, from sums: cov(x, t − x) / √(var x · var(t − x)). Null where either does not vary. */
function itemRestOf(s: Sums): Rest {
  if (s.n === 0) return { itemRest: null, spread: 0, spreadOfRest: 0, covariance: 0 };
  const [mx, mt] = [s.x / s.n, s.t / s.n];
  const vx = s.xx / s.n - mx * mx;
  const vt = s.tt / s.n - mt * mt;
  const cxt = s.xt / s.n - mx * mt;
  const rest = vt + vx - 2 * cxt;
  // What is left of a spread that is none, by rounding of the sums.
  const none = 1e-12 * Math.max(1, mt * mt, mx * mx);
  const isFlat = s.n < 3 || vx <= none || rest <= none;
  return {
    itemRest: isFlat ? null : Math.max(-1, Math.min(1, (cxt - vx) / Math.sqrt(vx * rest))),
    spread: Math.sqrt(Math.max(0, vx)),
    spreadOfRest: Math.sqrt(Math.max(0, rest)),
    covariance: cxt - vx,
  };
}

/**
 * Share right, item-rest correlation, upper-lower index by 27 %, and the answers picked by thirds, of every item.
 *
 * `attempts` are one a person, the first complete one. Totals are the points earned over all questions of an attempt. Groups are made by
 * total, with ties at their edges shared fractionally. One pass over the matrix and two sorts of the totals.
 * Sources: the item-rest (corrected item-total) correlation as in J. C. Nunnally and I. H. Bernstein, Psychometric Theory (1994), ch. 8;
 * 27 % by T. L. Kelley, The selection of upper and lower groups for the validation of test items, J. Educ. Psychol. 30 (1939).
 * Worked example: four people with totals 3, 2, 1, 0 of three items of one point: share right of the first, missed by the last alone, 0.75.
 */
export function itemStatistics(items: readonly StatisticItem[], attempts: readonly StatisticAttempt[]): readonly ItemStatistics[] {
  const n = attempts.length;
  const totals = attempts.map((a) => a.earned.reduce<number>((total, x) => total + (x ?? 0), 0));
  const size = kelleySize(n);
  const [high, low] = [upperWeights(totals, size), lowerWeights(totals, size)];
  const [top, bottom] = [upperWeights(totals, n / 3), lowerWeights(totals, n / 3)];
  const sums = items.map((): Sums => ({ n: 0, x: 0, xx: 0, t: 0, tt: 0, xt: 0, upper: 0, upperN: 0, lower: 0, lowerN: 0 }));
  const counts = items.map((item) => new Map((item.options ?? []).map((o) => [o.id, { upper: 0, middle: 0, lower: 0 }])));
  attempts.forEach(({ earned, picked }, person) => {
    const [t, u, l] = [totals[person] ?? 0, high[person] ?? 0, low[person] ?? 0];
    for (let i = 0; i < sums.length; i += 1) {
      const x = earned[i];
      const s = sums[i];
      if (x === undefined || x === null || s === undefined) continue;
      s.n += 1;
      s.x += x;
      s.xx += x * x;
      s.t += t;
      s.tt += t * t;
      s.xt += x * t;
      s.upper += u * x;
      s.upperN += u;
      s.lower += l * x;
      s.lowerN += l;
      for (const id of picked?.[i] ?? []) {
        const count = counts[i]?.get(id);
        if (count === undefined) continue;
        const [inTop, inBottom] = [top[person] ?? 0, bottom[person] ?? 0];
        count.upper += inTop;
        count.lower += inBottom;
        count.middle += 1 - inTop - inBottom;
      }
    }
  });
  return items.map((item, i) => {
    const s = sums[i] as Sums;
    const isMeasured = s.n > 0 && item.points > 0;
    const isSplit = isMeasured && n >= 4 && s.upperN > 0 && s.lowerN > 0;
    const { itemRest, ...spreads } = itemRestOf(s);
    return {
      id: item.id,
      attempts: s.n,
      shareRight: isMeasured ? s.x / s.n / item.points : null,
      itemRest,
      upperLower: isSplit ? (s.upper / s.upperN - s.lower / s.lowerN) / item.points : null,
      options: (item.options ?? []).map(({ id, isRight }) => ({
        id,
        isRight,
        ...(counts[i]?.get(id) ?? { upper: 0, middle: 0, lower: 0 }),
      })),
      from: {
        ...{ points: item.points, earned: s.x, ...spreads, groupSize: size },
        upperMean: isSplit ? s.upper / s.upperN : null,
        lowerMean: isSplit ? s.lower / s.lowerN : null,
      },
    };
  });
}
