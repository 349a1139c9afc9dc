import type { Thousandths } from '../exact/points.ts';
import type { QuestionKind } from './question.ts';
import { expectedReliability } from './reliability.ts';

export const QUESTION_LEVELS = ['easy', 'medium', 'hard'] as const;
export type QuestionLevel = (typeof QUESTION_LEVELS)[number];

/** A question of a paper, or one of so many that a draw takes. */
export interface PlannedQuestion {
  readonly kind: QuestionKind;
  readonly level: QuestionLevel | null;
  readonly objectives: readonly string[];
  readonly points: Thousandths;
  /** From past use; null where there is none. */
  readonly shareRight: number | null;
  readonly itemRest: number | null;
}
export interface BlueprintRow {
  /** The objective's code; empty is what is aligned to none. */
  readonly code: string;
  readonly counts: { readonly [level in QuestionLevel]: number };
  /** Those whose level nobody said. */
  readonly unsaid: number;
  readonly points: Thousandths;
}

function row(code: string, questions: readonly PlannedQuestion[]): BlueprintRow {
  const of = (level: QuestionLevel | null): number => questions.filter((q) => q.level === level).length;
  return {
    code,
    counts: { easy: of('easy'), medium: of('medium'), hard: of('hard') },
    unsaid: of(null),
    points: questions.reduce((sum, q) => sum + q.points, 0),
  };
}

/**
 * The table of objectives against levels, with counts and points, and the whole. A question aligned to two objectives stands in both
 * rows, and once in the whole. Rows by code; what is aligned to nothing comes last.
 * Worked example: two questions of B1, one of them of B2 too: rows B1 (2), B2 (1), together 2.
 */
export function blueprint(questions: readonly PlannedQuestion[]): {
  readonly rows: readonly BlueprintRow[];
  readonly together: BlueprintRow;
} {
  const codes = [...new Set(questions.flatMap((q) => q.objectives))].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  const none = questions.filter((q) => q.objectives.length === 0);
  return {
    rows: [
      ...codes.map((code) =>
        row(
          code,
          questions.filter((q) => q.objectives.includes(code)),
        ),
      ),
      ...(none.length > 0 && codes.length > 0 ? [row('', none)] : []),
    ],
    together: row('', questions),
  };
}

/** Minutes most people take for one question of a kind, to begin with: a teacher sees and changes the sum. */
const MINUTES: { readonly [kind in QuestionKind]: number } = {
  single: 1.25,
  truth: 0.75,
  several: 1.75,
  numeric: 2,
  calculated: 3.5,
  short: 1.25,
  blanks: 2,
  matching: 2.5,
  ordering: 2,
  hotspot: 1,
  essay: 12,
  file: 15,
};
const SHARE_OF_LEVEL: { readonly [level in QuestionLevel]: number } = { easy: 0.85, medium: 0.65, hard: 0.45 };
/** How questions of one test go with one another where nothing is known of them. */
const USUAL_CORRELATION = 0.1;
/** The item-rest correlation of one of k questions that all go with one another so: (k − 1)ρ / √((k − 1)(1 + (k − 2)ρ)). */
const usualItemRest = (k: number): number => ((k - 1) * USUAL_CORRELATION) / Math.sqrt((k - 1) * (1 + (k - 2) * USUAL_CORRELATION));

export interface Expected {
  readonly minutes: number;
  /** The reliability to be expected; null below three questions. */
  readonly reliability: number | null;
  /** With four questions more, of the same kind; null where there is none. */
  readonly withFourMore: number | null;
  /** What it rests on. */
  readonly from: {
    readonly questions: number;
    /** How many have a share right from past use, and how many an item-rest correlation; the others count as usual. */
    readonly known: number;
    readonly knownRest: number;
    readonly sumOfVariances: number;
    readonly totalVariance: number;
    /** Minutes by kind, with how many of each. */
    readonly minutes: readonly { readonly kind: QuestionKind; readonly many: number; readonly each: number }[];
  };
}

/**
 * What can be expected of a paper before anybody took it: minutes by kind, and reliability from the questions' share right p and item-rest
 * correlation r. With σᵢ = √(p(1 − p)) the total's spread is Σ rᵢσᵢ, and reliability k/(k − 1) · (1 − Σσᵢ² / (Σ rᵢσᵢ)²), where r of a
 * question with the whole is taken from its item-rest correlation by adding its own share of the spread. What was never used counts by its
 * level (0.85, 0.65, 0.45; medium where none is said) and as if questions went with one another by 0.1. Each question counts alike, whatever its points.
 * Source: H. Gulliksen, Theory of Mental Tests (1950), ch. 21 (reliability from item variances and item-test correlations).
 * Worked example: twenty medium questions never used: reliability near 0.69, with four more 0.73.
 */
export function expectedOf(questions: readonly PlannedQuestion[]): Expected {
  const minutes = Math.round(questions.reduce((sum, q) => sum + MINUTES[q.kind], 0));
  const k = questions.length;
  const kinds = [...new Set(questions.map((q) => q.kind))];
  const from = {
    ...{ questions: k, sumOfVariances: 0, totalVariance: 0 },
    known: questions.filter((q) => q.shareRight !== null).length,
    knownRest: questions.filter((q) => q.itemRest !== null).length,
    minutes: kinds.map((kind) => ({ kind, many: questions.filter((q) => q.kind === kind).length, each: MINUTES[kind] })),
  };
  if (k < 3) return { minutes, reliability: null, withFourMore: null, from };
  const spread = questions.map((q) => {
    const p = q.shareRight ?? SHARE_OF_LEVEL[q.level ?? 'medium'];
    return Math.sqrt(Math.max(0, p * (1 - p)));
  });
  const usual = usualItemRest(k);
  const rest = questions.map((q) => Math.max(0, q.itemRest ?? usual));
  const sumOfVariances = spread.reduce((sum, s) => sum + s * s, 0);
  // The total's spread S solves S = Σ σᵢ · corr(i, total), where corr(i, total) · S = rᵢ · Sᵢ + σᵢ and Sᵢ² = S² − 2σᵢ·corr·S + σᵢ².
  let total = Math.sqrt(sumOfVariances);
  for (let n = 0; n < 60; n += 1) {
    const covariances = spread.map((s, i) => {
      const r = rest[i] ?? 0;
      // Spread of the rest where its correlation with the item is r: total² = rest² + 2·r·σ·rest + σ².
      const ofRest = -r * s + Math.sqrt(Math.max(0, r * r * s * s - s * s + total * total));
      return s * s + r * s * ofRest;
    });
    total = Math.sqrt(covariances.reduce((sum, c) => sum + c, 0));
  }
  const reliability = total <= 0 ? null : Math.max(0, (k / (k - 1)) * (1 - sumOfVariances / (total * total)));
  return {
    minutes,
    reliability,
    withFourMore: reliability === null || reliability === 0 ? null : expectedReliability(reliability, (k + 4) / k),
    from: { ...from, sumOfVariances, totalVariance: total * total },
  };
}
