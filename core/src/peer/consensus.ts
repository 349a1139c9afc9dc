import type { Thousandths } from '../exact/points.ts';
import { ratio, type Ratio } from '../exact/ratio.ts';
import type { ReviewScores } from './reviewScores.ts';
import { wholeMedian } from './wholeMedian.ts';

/** A criterion of the form: the most it gives. */
export interface ScoredCriterion {
  readonly id: string;
  readonly most: Thousandths;
}

/** One reviewer as the class’s reviews show them. */
export interface ReviewerTraits {
  readonly reviewerId: string;
  readonly reviews: number;
  /** How much kinder than the class, in millionths of full marks; less than 0 is harder. */
  readonly bias: number;
  /** Half the width of its 95 % interval, in millionths; null from one review. */
  readonly biasWithin: number | null;
  /** How much their reviews weigh, in thousandths: 1000 is as much as anybody’s. */
  readonly weight: number;
  /** How far their reviews lie from what the others saw, bias taken out: the root mean square, in millionths of full marks. */
  readonly spread: number | null;
}

/** One review as it told of its reviewer: how far above the others it lay, and what of that their bias leaves, both of full marks. */
export interface ReviewRead {
  readonly reviewId: string;
  readonly workId: string;
  /** Millionths; less than 0 is below the others. */
  readonly above: number;
  /** The mean square over the criteria of what their bias leaves, in thousandths squared. */
  readonly squares: number;
}
/** What the bias and the weight of a reviewer are made of. */
export interface TraitsParts {
  /** In the order of the reviews’ ids; those of works that nobody else reviewed are left out. */
  readonly reads: readonly ReviewRead[];
  /** The bias before those of the reviewers tied together were counted from their median, in millionths, and that median. */
  readonly raw: number;
  readonly median: number;
  /** The class’s mean square, in thousandths squared. */
  readonly classSquares: number;
}

export interface WorkConsensus {
  readonly workId: string;
  /** Points by criterion, rounded half up to a thousandth. */
  readonly points: { readonly [criterionId: string]: Thousandths };
  readonly total: Thousandths;
  /** The plain mean of the reviews, exactly, in thousandths. */
  readonly mean: Ratio;
  readonly reviews: number;
  /** Why the consensus is the plain mean; null where it is more. */
  readonly isMeanBecause: 'one review' | 'all equal' | null;
}

export interface Consensus {
  readonly works: ReadonlyMap<string, WorkConsensus>;
  readonly reviewers: ReadonlyMap<string, ReviewerTraits>;
  readonly iterations: number;
  readonly isSettled: boolean;
  /** What the traits of one reviewer are made of; null for somebody without reviews. */
  readonly partsOf: (reviewerId: string) => TraitsParts | null;
  /** What the others made of a work, by criterion in millionths of its most: one review left out. Null where there is no other. */
  readonly others: (review: ReviewScores) => { readonly [criterionId: string]: number } | null;
}

const MILLION = 1_000_000;
/** A reviewer’s own spread counts as much as the class’s with so many reviews: the prior of their reliability. */
export const RELIABILITY_PRIOR = 3;
/** So many reviews of no bias at all are supposed of everybody before their own are looked at: the prior of their bias. */
export const BIAS_PRIOR = 2;
/** A review never weighs less, nor more, in thousandths. */
export const [LEAST_WEIGHT, MOST_WEIGHT] = [200, 2000];
const MOST_ITERATIONS = 200;
/** Biases and weights count as settled when no further round moves one by more than this: below it rounding alone goes to and fro. */
const [SETTLED_BIAS, SETTLED_WEIGHT] = [10, 2];

/** A whole quotient rounded half up, for a denominator above 0. */
const rounded = (top: number, bottom: number): number => Math.floor((2 * top + bottom) / (2 * bottom));

/** The whole square root of a number at least 0, rounded down: whole numbers only, so that it is the same everywhere. */
function wholeRoot(value: number): number {
  let root = Math.floor(Math.sqrt(value));
  while (root * root > value) root -= 1;
  while ((root + 1) * (root + 1) <= value) root += 1;
  return root;
}

/** A review with its values in millionths of each criterion’s most, in the order of the criteria; null where it was not judged. */
interface Read {
  readonly work: number;
  readonly reviewer: number;
  readonly values: readonly (number | null)[];
}

/** Which reviewers are tied together by works they both reviewed: biases can be told apart only within such a part. */
function partsOf(reads: readonly Read[], reviewers: number): readonly number[][] {
  const parent = Array.from({ length: reviewers }, (_, n) => n);
  const top = (n: number): number => {
    let at = n;
    while (parent[at] !== at) at = parent[at] ?? at;
    parent[n] = at;
    return at;
  };
  const firstOf = new Map<number, number>();
  for (const { work, reviewer } of reads) {
    const first = firstOf.get(work);
    if (first === undefined) firstOf.set(work, reviewer);
    else parent[top(reviewer)] = top(first);
  }
  const parts = new Map<number, number[]>();
  for (let n = 0; n < reviewers; n += 1) parts.set(top(n), [...(parts.get(top(n)) ?? []), n]);
  return [...parts.values()];
}

/** Everything the iteration goes over, in whole numbers. */
class Estimate {
  readonly reads: readonly Read[];
  readonly byWork: Read[][];
  readonly byReviewer: Read[][];
  readonly weights: number[];
  readonly biases: number[];
  readonly #parts: readonly number[][];
  /** What each criterion weighs, in ten-thousandths of all. */
  readonly #shares: readonly number[];
  /** What the reviews of a work make of it, by criterion, each weighed and its bias taken out: sums, so that one can be left out. */
  #sums: { top: number; bottom: number }[][] = [];
  classSpread = 0;

  constructor(reads: readonly Read[], works: number, reviewers: number, criteria: readonly ScoredCriterion[]) {
    this.reads = reads;
    this.byWork = Array.from({ length: works }, () => []);
    this.byReviewer = Array.from({ length: reviewers }, () => []);
    for (const read of reads) {
      this.byWork[read.work]?.push(read);
      this.byReviewer[read.reviewer]?.push(read);
    }
    this.weights = Array.from({ length: reviewers }, () => 1000);
    this.biases = Array.from({ length: reviewers }, () => 0);
    this.#parts = partsOf(reads, reviewers);
    const most = criteria.reduce((sum, c) => sum + c.most, 0);
    this.#shares = criteria.map((c) => Math.max(1, rounded(c.most * 10_000, most)));
    this.weigh();
  }

  /** Sums by work and criterion of the weights, and of the weighed values less the bias. */
  weigh(): void {
    this.#sums = this.byWork.map((reads) =>
      this.#shares.map((_, c) => {
        let [top, bottom] = [0, 0];
        for (const { reviewer, values } of reads) {
          const value = values[c] ?? null;
          if (value === null) continue;
          top += (this.weights[reviewer] ?? 1000) * (value - (this.biases[reviewer] ?? 0));
          bottom += this.weights[reviewer] ?? 1000;
        }
        return { top, bottom };
      }),
    );
  }

  /** The consensus of a work on a criterion, in millionths; within what can be given at all. */
  at(work: number, c: number): number | null {
    const sum = this.#sums[work]?.[c];
    return sum === undefined || sum.bottom === 0 ? null : Math.min(MILLION, Math.max(0, rounded(sum.top, sum.bottom)));
  }

  /** The same of the others alone: with one review left out. */
  without(read: Read, c: number): number | null {
    const sum = this.#sums[read.work]?.[c];
    const value = read.values[c] ?? null;
    if (sum === undefined) return null;
    const weight = value === null ? 0 : (this.weights[read.reviewer] ?? 1000);
    const bottom = sum.bottom - weight;
    if (bottom <= 0) return null;
    const top = sum.top - weight * ((value ?? 0) - (this.biases[read.reviewer] ?? 0));
    return Math.min(MILLION, Math.max(0, rounded(top, bottom)));
  }

  /** How far a review lies above the others, over the criteria by their points, in millionths; null where nobody else judged the same. */
  #above(read: Read): { readonly above: number; readonly squares: number } | null {
    let [top, squares, bottom] = [0, 0, 0];
    for (const [c, share] of this.#shares.entries()) {
      const value = read.values[c] ?? null;
      const others = this.without(read, c);
      if (value === null || others === null) continue;
      const by = value - others;
      top += share * by;
      // In thousandths, so that the sums stay whole numbers that are held exactly.
      const rest = rounded(by - (this.biases[read.reviewer] ?? 0), 1000);
      squares += share * rest * rest;
      bottom += share;
    }
    return bottom === 0 ? null : { above: rounded(top, bottom), squares: rounded(squares, bottom) };
  }

  /** Each reviewer’s bias anew; those of one part are counted from their median. Gives the greatest change. */
  reviseBiases(): number {
    const next = this.byReviewer.map((reads) => {
      const found = reads.flatMap((read) => this.#above(read)?.above ?? []);
      return rounded(
        found.reduce((a, b) => a + b, 0),
        found.length + BIAS_PRIOR,
      );
    });
    for (const part of this.#parts) {
      const median = wholeMedian(part.map((r) => next[r] ?? 0));
      for (const r of part) next[r] = (next[r] ?? 0) - median;
    }
    // Half the way: two who review the same works would else swing about one another.
    return this.#take(
      this.biases,
      next.map((b, r) => rounded(b + (this.biases[r] ?? 0), 2)),
    );
  }

  /** Each reviewer’s weight anew: the class’s spread over their own, their own shrunk towards it. Gives the greatest change. */
  reviseWeights(): number {
    const own = this.byReviewer.map((reads) => reads.flatMap((read) => this.#above(read)?.squares ?? []));
    const all = own.flat();
    this.classSpread =
      all.length === 0
        ? 0
        : rounded(
            all.reduce((a, b) => a + b, 0),
            all.length,
          );
    if (this.classSpread === 0) return 0;
    const next = own.map((squares) => {
      const sum = squares.reduce((a, b) => a + b, 0) + RELIABILITY_PRIOR * this.classSpread;
      return Math.min(
        MOST_WEIGHT,
        Math.max(LEAST_WEIGHT, rounded(1000 * this.classSpread * (squares.length + RELIABILITY_PRIOR), Math.max(1, sum))),
      );
    });
    return this.#take(this.weights, next);
  }

  #take(held: number[], next: readonly number[]): number {
    let most = 0;
    for (const [n, value] of next.entries()) {
      most = Math.max(most, Math.abs(value - (held[n] ?? 0)));
      held[n] = value;
    }
    return most;
  }

  parts(r: number, idsOf: (read: Read) => { readonly reviewId: string; readonly workId: string }): TraitsParts {
    const reads = (this.byReviewer[r] ?? []).flatMap((read) => {
      const found = this.#above(read);
      return found === null ? [] : [{ ...idsOf(read), ...found }];
    });
    const raw = rounded(
      reads.reduce((sum, read) => sum + read.above, 0),
      reads.length + BIAS_PRIOR,
    );
    return { reads, raw, median: raw - (this.biases[r] ?? 0), classSquares: this.classSpread };
  }

  traits(r: number, reviewerId: string): ReviewerTraits {
    const found = (this.byReviewer[r] ?? []).flatMap((read) => this.#above(read) ?? []);
    const squares = found.reduce((sum, f) => sum + f.squares, 0);
    const spread = found.length === 0 ? null : 1000 * wholeRoot(rounded(squares, found.length));
    const mean = found.length === 0 ? 0 : found.reduce((sum, f) => sum + f.above, 0) / found.length;
    const variance = found.reduce((sum, f) => sum + (f.above - mean) ** 2, 0) / Math.max(1, found.length - 1);
    return {
      reviewerId,
      reviews: this.byReviewer[r]?.length ?? 0,
      bias: this.biases[r] ?? 0,
      biasWithin: found.length < 2 ? null : Math.round((1.96 * Math.sqrt(variance * found.length)) / (found.length + BIAS_PRIOR)),
      weight: this.weights[r] ?? 1000,
      spread,
    };
  }
}

function meanOf(
  reviews: readonly ReviewScores[],
  criteria: readonly ScoredCriterion[],
): { readonly points: Record<string, Thousandths>; readonly mean: Ratio } {
  const points: Record<string, Thousandths> = {};
  let mean = ratio(0);
  for (const { id } of criteria) {
    const values = reviews.flatMap((r) => r.points[id] ?? []);
    if (values.length === 0) continue;
    const sum = values.reduce((a, b) => a + b, 0);
    points[id] = rounded(sum, values.length);
    mean = mean.add(ratio(sum, values.length));
  }
  return { points, mean };
}

/**
 * What a class of reviewers makes of each work: the mean of its reviews with each reviewer’s bias taken out, weighed by how reliable
 * they are; beside it the plain mean.
 *
 * A review’s value on a criterion is its share of the criterion’s most, in millionths; criteria weigh by their points, in
 * ten-thousandths. A reviewer’s *bias* is how far their reviews lie above what the others made of the same works, on the average, with
 * `BIAS_PRIOR` reviews of no bias supposed; among reviewers who are tied together by
 * works biases are counted from the median, so that a few who are far off move nobody else (a sum of zero would spread what
 * one is too low over all the others). Their *spread* is the
 * mean square of what is left; shrunk towards the class’s with `RELIABILITY_PRIOR` reviews, and the weight is the class’s spread over
 * it, between a fifth and twice anybody’s. Each is estimated from the others anew until no bias changes by more
 * than a hundred-thousandth of full marks, or 200 times. All of it is done in whole numbers rounded half up, so that it comes out the same, to the last digit, wherever and
 * whenever it is computed. Points are rounded half up to a thousandth and stay between 0 and the criterion’s most.
 *
 * One review, or reviews that are all equal, give the plain mean. A work without reviews has no consensus. A criterion that no review
 * judged gives nothing. An interval of a bias takes its reviews as independent and holds its size with the prior. Reviews are those
 * that count: what is set aside is left out by whoever calls. Throws where no criterion gives points.
 * Source of the model: two-way effects fitted by turns, with weights from the residuals (iteratively reweighted least squares); residuals
 * against the others alone, so that nobody agrees with themselves.
 * Worked example: works seen as 20 by two and as 12 by one who is 8 below on every work: near 20, where the plain mean is 17.333….
 */
export function consensus(reviews: readonly ReviewScores[], criteria: readonly ScoredCriterion[]): Consensus {
  if (criteria.length === 0 || criteria.some((c) => c.most <= 0)) throw new RangeError('A consensus needs criteria that give points.');
  const indexed = (ids: readonly string[]): ReadonlyMap<string, number> => new Map([...new Set(ids)].sort().map((id, n) => [id, n]));
  const workAt = indexed(reviews.map((r) => r.workId));
  const reviewerAt = indexed(reviews.map((r) => r.reviewerId));
  const readOf = (review: ReviewScores): Read => ({
    work: workAt.get(review.workId) ?? 0,
    reviewer: reviewerAt.get(review.reviewerId) ?? 0,
    values: criteria.map((c) => {
      const points = review.points[c.id];
      return points === undefined ? null : rounded(points * MILLION, c.most);
    }),
  });
  const ordered = [...reviews].sort((a, b) => (a.id < b.id ? -1 : 1));
  const reads = ordered.map(readOf);
  const estimate = new Estimate(reads, workAt.size, reviewerAt.size, criteria);
  let [iterations, isSettled] = [0, reviews.length === 0];
  while (!isSettled && iterations < MOST_ITERATIONS) {
    iterations += 1;
    const moved = estimate.reviseBiases();
    estimate.weigh();
    const weighed = estimate.reviseWeights();
    estimate.weigh();
    isSettled = moved <= SETTLED_BIAS && weighed <= SETTLED_WEIGHT;
  }
  const readAt = new Map(ordered.map((review, n) => [review.id, reads[n]]));
  const byWork = new Map<string, ReviewScores[]>();
  for (const review of ordered) byWork.set(review.workId, [...(byWork.get(review.workId) ?? []), review]);
  const works = new Map<string, WorkConsensus>();
  for (const [workId, own] of byWork) {
    const plain = meanOf(own, criteria);
    const isEqual = own.every((r) => criteria.every((c) => r.points[c.id] === own[0]?.points[c.id]));
    const isMeanBecause = own.length === 1 ? 'one review' : isEqual ? 'all equal' : null;
    const points =
      isMeanBecause !== null
        ? plain.points
        : Object.fromEntries(
            criteria.flatMap((c, n) => {
              const share = estimate.at(workAt.get(workId) ?? 0, n);
              return share === null ? [] : [[c.id, rounded(share * c.most, MILLION)]];
            }),
          );
    const total = Object.values(points).reduce((a, b) => a + b, 0);
    works.set(workId, { workId, points, total, mean: plain.mean, reviews: own.length, isMeanBecause });
  }
  return {
    works,
    reviewers: new Map([...reviewerAt].map(([id, r]) => [id, estimate.traits(r, id)])),
    iterations,
    isSettled,
    partsOf: (reviewerId) => {
      const r = reviewerAt.get(reviewerId);
      if (r === undefined) return null;
      const reviewOf = new Map(ordered.map((review, n) => [reads[n], review]));
      return estimate.parts(r, (read) => {
        const review = reviewOf.get(read);
        return { reviewId: review?.id ?? '', workId: review?.workId ?? '' };
      });
    },
    others: (review) => {
      const read = readAt.get(review.id);
      if (read === undefined) return null;
      const found = criteria.flatMap((c, n) => {
        const share = estimate.without(read, n);
        return share === null ? [] : [[c.id, share] as const];
      });
      return found.length === 0 ? null : Object.fromEntries(found);
    },
  };
}
