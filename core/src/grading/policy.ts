import type { Thousandths } from '../exact/points.ts';

export type Method = 'points' | 'share';

/** How late work is reduced. Percentages are in thousandths of a percent: 5 % is 5000. */
export interface LatePolicy {
  readonly ratePercent: Thousandths;
  readonly stepMinutes: number;
  readonly base: 'earned' | 'possible';
  readonly capPercent: Thousandths;
  readonly floorPercent: Thousandths;
  readonly graceMinutes: number;
}

/** How many pieces, and how many points together, a category will hold in one grading period. */
export interface DeclaredWork {
  readonly periodId: string;
  readonly items: number;
  readonly points: Thousandths;
}

export interface Category {
  readonly id: string;
  readonly title: string;
  /** Thousandths of a percent of the total: 20 % is 20000. */
  readonly weightPercent: Thousandths;
  readonly method: Method;
  readonly dropLowest: number;
  /** Keep the best n; 0 keeps all. Stronger than `dropLowest` when it leaves out more. */
  readonly keepBest: number;
  /** Offered by equal share only. */
  readonly dropHighest: number;
  readonly isExtraCredit: boolean;
  readonly isCapped: boolean;
  /** Declared work: how many pieces and how many points the category will hold; 0 says nothing. */
  readonly declaredItems: number;
  readonly declaredPoints: Thousandths;
  /** The same for each grading period; where it says anything, it stands instead of the two above. */
  readonly declaredIn?: readonly DeclaredWork[];
  readonly late: LatePolicy | null;
}

export interface Period {
  readonly id: string;
  readonly title: string;
  readonly weightPercent: Thousandths;
  /** Its first instant and the one after its last, by which items without a period of their own are placed; null where it has none. */
  readonly startsAt?: number | null;
  readonly endsAt?: number | null;
}

export interface SchemeLevel {
  readonly label: string;
  readonly cutPoint: Thousandths;
  /** What it stands for where it is given instead of a number, in thousandths of a percent; null leaves it to its cut-points. */
  readonly value?: Thousandths | null;
}

export interface Policy {
  /** `weights`: categories by weight. `points` or `share`: the whole course as one category. */
  readonly total: 'weights' | Method;
  readonly whole: { readonly dropLowest: number; readonly keepBest: number; readonly dropHighest: number; readonly isCapped: boolean };
  /** Categories with no result are left aside (true) or count 0 (false). */
  readonly isRenormalised: boolean;
  readonly isMissingZero: boolean;
  readonly decimals: number;
  readonly categories: readonly Category[];
  readonly periods: readonly Period[];
  readonly levels: readonly SchemeLevel[];
  /** From which total a course is passed, in thousandths of a percent; null where nothing is said of it. */
  readonly passPercent?: Thousandths | null;
}
