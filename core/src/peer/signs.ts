import { kappaInParts, type KappaParts, type LevelPair } from '../agreement/kappa.ts';
import { iccRotating, type Icc, type OneWay } from '../agreement/icc.ts';
import { foldedWords } from '../matching/foldedWords.ts';
import type { RubricCriterion } from '../grading/rubric.ts';
import type { Consensus, ScoredCriterion } from './consensus.ts';
import { type ReviewScores, sumOfReview } from './reviewScores.ts';
import { wholeMedian } from './wholeMedian.ts';

/** What a review says of the work in words, and how long it took. */
export interface ReviewWords {
  readonly id: string;
  readonly reviewerId: string;
  readonly text: string;
  readonly seconds: number;
}

/** What makes a review worth a look. It accuses nobody: each has good reasons too. */
export interface ReviewSign {
  readonly sign: 'far from the rest' | 'no words' | 'copied words' | 'quick';
  /** In a sentence, with its figures. */
  readonly text: string;
}

/** From how far off the others, in full marks, a review is far from the rest: at least this share, and twice what is usual in the class. */
const FAR_MILLIONTHS = 200_000;
const QUICK_SECONDS = 60;
/** Words of another review that make this one copied: this share of its own, and so many in a row at least. */
const COPIED_SHARE = 0.5;
const RUN = 6;

/** How far a review lies from the consensus of the others, in millionths of full marks, with its sign; null where there are none. */
function awayFrom(review: ReviewScores, criteria: readonly ScoredCriterion[], found: Consensus): number | null {
  const others = found.others(review);
  if (others === null) return null;
  let [away, most] = [0, 0];
  for (const c of criteria) {
    const [given, seen] = [review.points[c.id], others[c.id]];
    if (given === undefined || seen === undefined) continue;
    away += given * 1_000_000 - seen * c.most;
    most += c.most;
  }
  return most === 0 ? null : Math.round(away / most);
}

/** Runs of words that stand in another review, as a share of this one’s words. */
function copiedShares(words: readonly ReviewWords[]): ReadonlyMap<string, number> {
  const texts = words.map((w) => ({ id: w.id, list: foldedWords(w.text).map((f) => f.word) }));
  const where = new Map<string, Set<string>>();
  for (const { id, list } of texts)
    for (let n = 0; n + RUN <= list.length; n += 1) {
      const run = list.slice(n, n + RUN).join(' ');
      const known = where.get(run);
      if (known === undefined) where.set(run, new Set([id]));
      else known.add(id);
    }
  return new Map(
    texts.map(({ id, list }) => {
      const isShared = new Array<boolean>(list.length).fill(false);
      for (let n = 0; n + RUN <= list.length; n += 1)
        if ((where.get(list.slice(n, n + RUN).join(' '))?.size ?? 0) > 1) isShared.fill(true, n, n + RUN);
      return [id, list.length === 0 ? 0 : isShared.filter(Boolean).length / list.length];
    }),
  );
}

/**
 * The signs of each review that is worth a look: *far from the rest*, a fifth of full marks at least and twice the usual distance (the
 * median of the class) from what the others made of that work; *no words*, fewer than asked for or none at all; *copied words*, half of
 * them at least standing in another review in runs of six; *quick*, less than a minute from opening it to handing it in.
 * Worked example: 16 of 40 where the others saw 30: far from the rest, 35 % of full marks lower.
 */
export function reviewSigns(
  reviews: readonly ReviewScores[],
  words: readonly ReviewWords[],
  criteria: readonly ScoredCriterion[],
  found: Consensus | null,
  leastWords: number,
): ReadonlyMap<string, readonly ReviewSign[]> {
  const away = new Map(reviews.map((r) => [r.id, found === null ? null : awayFrom(r, criteria, found)]));
  const usual = wholeMedian([...away.values()].flatMap((a) => (a === null ? [] : [Math.abs(a)])));
  const copied = copiedShares(words);
  return new Map(
    words.map((w) => {
      const signs: ReviewSign[] = [];
      const by = away.get(w.id) ?? null;
      if (by !== null && Math.abs(by) >= FAR_MILLIONTHS && Math.abs(by) >= 2 * usual)
        signs.push({
          sign: 'far from the rest',
          text: `${Math.round(Math.abs(by) / 10_000)} % of full marks ${by < 0 ? 'lower' : 'higher'} than the others`,
        });
      const many = foldedWords(w.text).length;
      if (many < Math.max(1, leastWords))
        signs.push({ sign: 'no words', text: many === 0 ? 'no words' : `${many} of ${leastWords} words asked for` });
      const share = copied.get(w.id) ?? 0;
      if (share >= COPIED_SHARE)
        signs.push({ sign: 'copied words', text: `${Math.round(share * 100)} % of its words stand in another review` });
      if (w.seconds < QUICK_SECONDS) signs.push({ sign: 'quick', text: `given in ${w.seconds} seconds` });
      return [w.id, signs];
    }),
  );
}

/** How far the reviewers of a class agree. */
export interface PeerAgreement {
  /** Quadratic-weighted kappa over all pairs of reviews of one work, over the criteria; null where there are too few. */
  readonly kappa: number | null;
  readonly pairs: number;
  /** ICC(1,1) of the totals, of the works with as many reviews as most works have. */
  readonly icc: (Icc & OneWay) | null;
  readonly works: number;
  /** The kappa of each criterion that has one. */
  readonly criteria: readonly (KappaParts & { readonly criterionId: string; readonly kappa: number; readonly pairs: number })[];
}

/**
 * Agreement of a class of reviewers. Kappa is the mean over the criteria, each by its number of pairs: every two reviews of one work are
 * a pair, taken both ways round since neither is the first. ICC(1,1) wants as many reviews of each work: the works with the most usual
 * number (the greater of equals) are taken, at least two reviews each.
 * Worked example: all reviews of each work equal, and the works not: kappa 1.
 */
export function peerAgreement(reviews: readonly ReviewScores[], criteria: readonly RubricCriterion[]): PeerAgreement {
  const byWork = new Map<string, ReviewScores[]>();
  for (const review of reviews) byWork.set(review.workId, [...(byWork.get(review.workId) ?? []), review]);
  const judged: PeerAgreement['criteria'][number][] = [];
  for (const criterion of criteria) {
    const levels = [...new Set(criterion.levels.map((l) => l.points))].sort((a, b) => a - b);
    if (levels.length < 2) continue;
    const placed = (review: ReviewScores): number | null => {
      const points = review.points[criterion.id];
      if (points === undefined) return null;
      // A range gives points between its levels: the nearest level stands for them.
      return levels.reduce((best, p, n) => (Math.abs(p - points) < Math.abs((levels[best] ?? 0) - points) ? n : best), 0);
    };
    const found: LevelPair[] = [];
    for (const own of byWork.values()) {
      const places = own.flatMap((r) => placed(r) ?? []);
      for (const [n, a] of places.entries()) for (const [m, b] of places.entries()) if (n !== m) found.push([a, b]);
    }
    const kappa = kappaInParts(found, levels.length);
    if (kappa !== null) judged.push({ criterionId: criterion.id, pairs: found.length / 2, ...kappa });
  }
  const pairs = judged.reduce((sum, c) => sum + c.pairs, 0);
  const sizes = new Map<number, number>();
  for (const own of byWork.values()) if (own.length >= 2) sizes.set(own.length, (sizes.get(own.length) ?? 0) + 1);
  const usual = [...sizes].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0]?.[0] ?? 0;
  const ratings = [...byWork.values()].filter((own) => own.length === usual).map((own) => own.map(sumOfReview));
  return {
    kappa: pairs === 0 ? null : judged.reduce((sum, c) => sum + c.kappa * c.pairs, 0) / pairs,
    ...{ pairs, icc: usual < 2 ? null : iccRotating(ratings), works: ratings.length, criteria: judged },
  };
}
