import { formatPoints, type Thousandths } from '../exact/points.ts';
import { ONE, ratio, ZERO, type Ratio } from '../exact/ratio.ts';
import { scoreQuestion, type QuestionScore } from './scoreQuestion.ts';
import type { Answer, QuestionKey } from './question.ts';

/** A change to how a question is scored, made after answers came in. The later of one kind counts. */
export type Correction =
  | { readonly kind: 'key'; readonly questionId: string; readonly key: QuestionKey }
  | { readonly kind: 'drop' | 'credit'; readonly questionId: string }
  | { readonly kind: 'points'; readonly questionId: string; readonly points: Thousandths };

/** A question of one attempt as it was taken. */
export interface TakenQuestion {
  readonly questionId: string;
  readonly key: QuestionKey;
  readonly points: Thousandths;
  readonly floor: Thousandths | null;
  readonly wanted?: Ratio | undefined;
  readonly answer: Answer | null;
  /** What a person gave, which counts before the key: a share of the points with its reason. */
  readonly given: { readonly share: Ratio; readonly reason: string } | null;
}

export interface ScoredPart extends QuestionScore {
  readonly questionId: string;
  /** The points it has after corrections; 0 where it was dropped. */
  readonly points: Thousandths;
  readonly isDropped: boolean;
}
export interface AttemptScore {
  readonly parts: readonly ScoredPart[];
  /** Null while a part waits for a person, or where every question was dropped. */
  readonly score: Thousandths | null;
  /** What is known so far, counting parts that wait as nothing. */
  readonly soFar: Thousandths;
  /** The points of the questions that count. */
  readonly counted: Thousandths;
}

/** One question of an attempt with the corrections that touch it: what it earned, by which rule, of how many points. */
export function scorePart(question: TakenQuestion, corrections: readonly Correction[]): ScoredPart {
  const own = corrections.filter((c) => c.questionId === question.questionId);
  const points = own.reduce((held, c) => (c.kind === 'points' ? c.points : held), question.points);
  const last = own.filter((c) => c.kind === 'drop' || c.kind === 'credit').at(-1);
  const base = { questionId: question.questionId, points, isDropped: false };
  if (last?.kind === 'drop') return { ...base, points: 0, isDropped: true, share: ZERO, rule: 'Left out for everybody.' };
  if (last?.kind === 'credit') return { ...base, share: ONE, rule: 'Everybody has all its points.' };
  if (question.given !== null) return { ...base, share: question.given.share, rule: question.given.reason };
  const key = own.reduce<QuestionKey>((held, c) => (c.kind === 'key' ? c.key : held), question.key);
  const scored = { key, points, floor: question.floor, ...(question.wanted === undefined ? {} : { wanted: question.wanted }) };
  return { ...base, ...scoreQuestion(scored, question.answer) };
}

const rounded = (value: Ratio): Thousandths => (value.compare(ZERO) < 0 ? 0 : Number((2n * value.n + value.d) / (2n * value.d)));

/**
 * The score of one attempt, in thousandths of a point. Each question's exact share of its points is added; where corrections left
 * questions out or changed their points, the sum is scaled so that full marks are still the `possible` points of the quiz:
 * Σ share × points / Σ points × possible. Rounded half up once, at the end; never below nothing. Corrections apply in their order.
 * Worked example: questions of 2 and 1 points, right and half right, in a quiz of 3: 2.5. With the first dropped: 0.5 / 1 × 3 = 1.5.
 */
export function scoreAttempt(questions: readonly TakenQuestion[], corrections: readonly Correction[], possible: Thousandths): AttemptScore {
  return sumParts(
    questions.map((q) => scorePart(q, corrections)),
    possible,
  );
}

/** The score of an attempt from what its questions earned; see {@link scoreAttempt}. Example: 1 of 2 and 1 of 1 in a quiz of 3: 2. */
export function sumParts(parts: readonly ScoredPart[], possible: Thousandths): AttemptScore {
  const counted = parts.reduce((sum, p) => sum + p.points, 0);
  const earned = parts.reduce((sum, p) => sum.add((p.share ?? ZERO).mul(ratio(p.points))), ZERO);
  const factor = counted === 0 ? null : ratio(possible, counted);
  const soFar = factor === null ? 0 : rounded(earned.mul(factor));
  return { parts, score: factor === null || parts.some((p) => p.share === null) ? null : soFar, soFar, counted };
}

/** How the score of an attempt came about, as lines: each question's rule and points, then the sum, scaled where it was. */
export function attemptWorking(
  scored: AttemptScore,
  possible: Thousandths,
  nameOf: (questionId: string) => string,
): readonly { readonly words: string; readonly points: string }[] {
  const lines = scored.parts.map((p) => ({
    words: `${nameOf(p.questionId)}: ${p.rule}`,
    points: p.isDropped
      ? '–'
      : p.share === null
        ? 'waits'
        : `${p.share.n === 0n || p.share.equals(ONE) ? '' : `${p.share.toFraction()} of `}${p.share.n === 0n ? '0 of ' : ''}${formatPoints(p.points)}`,
  }));
  const isScaled = scored.counted !== possible && scored.counted > 0;
  const sum = isScaled
    ? [
        {
          words: `Together, of ${formatPoints(scored.counted)}, brought to the quiz’s ${formatPoints(possible)}`,
          points: formatPoints(scored.soFar),
        },
      ]
    : [{ words: `Together, of ${formatPoints(possible)}`, points: formatPoints(scored.soFar) }];
  return [...lines, ...sum];
}

/** A share as it is kept: `1/3`. */
export const shareText = (share: Ratio): string => `${share.s * share.n}/${share.d}`;
/** A share read again; anything else than whole numbers with a stroke between throws. Example: `-1/2`. */
export function parseShare(text: string): Ratio {
  const match = /^(-?\d+)\/(\d+)$/.exec(text);
  if (match === null) throw new RangeError(`“${text}” is no share.`);
  return ratio(BigInt(match[1] ?? '0'), BigInt(match[2] ?? '1'));
}
