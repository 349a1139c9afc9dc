import type { LatePolicy } from '@rosemary/core';
import { day, id, Joi, latePolicy, points, title, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';

export interface DeclaredWork {
  readonly periodId: string;
  readonly items: number;
  readonly points: number;
}
export interface PolicyCategory {
  readonly id: string | null;
  readonly title: string;
  readonly weightPercent: number;
  readonly method: 'points' | 'share';
  readonly dropLowest: number;
  readonly keepBest: number;
  readonly dropHighest: number;
  readonly isExtraCredit: boolean;
  readonly isCapped: boolean;
  readonly declaredItems: number;
  readonly declaredPoints: number;
  /** The same for each grading period; where it says anything, it stands instead of the two above. */
  readonly declaredIn: DeclaredWork[];
  /** A late policy of its own; null is the course's. */
  readonly late: LatePolicy | null;
}

/** A grading period; its days are whole days of the course. */
export interface PolicyPeriod {
  readonly id: string | null;
  readonly title: string;
  readonly weightPercent: number;
  readonly startsOn: string | null;
  readonly endsOn: string | null;
}

/** A letter or word of a scheme, from which share it is reached, and what it stands for where it is given instead of a number. */
export interface LevelChange {
  readonly label: string;
  readonly cutPoint: number;
  readonly value: number | null;
}

/** A column that changes its category or its grading period with the policy. */
export interface ColumnMove {
  readonly columnId: string;
  readonly categoryId: string | null;
  /** Null leaves it to the date on which it is due. */
  readonly periodId: string | null;
}

export interface PolicyChange {
  readonly version: number;
  readonly total: 'weights' | 'points' | 'share';
  readonly wholeDropLowest: number;
  readonly isRenormalised: boolean;
  readonly isMissingZero: boolean;
  readonly decimals: number;
  readonly showsFloorAndReach: boolean;
  readonly lateRatePercent: number;
  readonly lateStepMinutes: number;
  readonly lateBase: 'earned' | 'possible';
  readonly lateCapPercent: number;
  readonly lateFloorPercent: number;
  readonly lateGraceMinutes: number;
  readonly wholeKeepBest: number;
  readonly wholeDropHighest: number;
  readonly wholeIsCapped: boolean;
  readonly passPercent: number | null;
  readonly categories: PolicyCategory[];
  readonly periods: PolicyPeriod[];
  readonly levels: LevelChange[];
  /** Columns that change their place with it; those that are not named stay where they are. */
  readonly moves: ColumnMove[];
}

export const schemeLevels = () =>
  Joi.array()
    .max(20)
    .items(
      Joi.object({
        label: Joi.string().trim().min(1).max(12).required().label('Letter'),
        cutPoint: whole(0, 1_000_000).required().label('Cut-point'),
        value: whole(0, 1_000_000).allow(null).default(null).label('Value'),
      }),
    );

export const policyChange = Joi.object<PolicyChange, true>({
  version: version(),
  total: Joi.string().valid('weights', 'points', 'share').required(),
  wholeDropLowest: whole(0, 50).required(),
  isRenormalised: Joi.boolean().required(),
  isMissingZero: Joi.boolean().required(),
  decimals: whole(0, 3).required(),
  showsFloorAndReach: Joi.boolean().required(),
  lateRatePercent: whole(0, 100_000).required().label('Late penalty'),
  lateStepMinutes: whole(1, 10_080).required(),
  lateBase: Joi.string().valid('earned', 'possible').required(),
  lateCapPercent: whole(0, 100_000).required(),
  lateFloorPercent: whole(0, 100_000).required(),
  lateGraceMinutes: whole(0, 10_080).required(),
  // An archive or a draft from before these were there says nothing of them.
  wholeKeepBest: whole(0, 50).default(0),
  wholeDropHighest: whole(0, 50).default(0),
  wholeIsCapped: Joi.boolean().default(false),
  passPercent: whole(0, 1_000_000).allow(null).default(null).label('Pass mark'),
  periods: Joi.array()
    .max(12)
    .default([])
    .items(
      Joi.object({
        id: id().allow(null).required(),
        title: title(LIMITS.categoryTitle).required().label('Grading period'),
        weightPercent: whole(0, 1_000_000).required().label('Weight'),
        startsOn: day().allow(null).required().label('First day'),
        endsOn: day().allow(null).required().label('Last day'),
      }),
    ),
  categories: Joi.array()
    .max(LIMITS.categories)
    .required()
    .items(
      Joi.object({
        id: id().allow(null).required(),
        title: title(LIMITS.categoryTitle).required().label('Category'),
        weightPercent: whole(0, 1_000_000).required().label('Weight'),
        method: Joi.string().valid('points', 'share').required(),
        dropLowest: whole(0, 50).required(),
        keepBest: whole(0, 50).required(),
        dropHighest: whole(0, 50).required(),
        isExtraCredit: Joi.boolean().required(),
        isCapped: Joi.boolean().required(),
        declaredItems: whole(0, 500).required(),
        declaredPoints: points().required(),
        declaredIn: Joi.array()
          .max(12)
          .default([])
          .items(Joi.object({ periodId: id().required(), items: whole(0, 500).required(), points: points().required() })),
        late: latePolicy().required(),
      }),
    ),
  levels: schemeLevels().required(),
  moves: Joi.array()
    .max(1000)
    .default([])
    .items(Joi.object({ columnId: id().required(), categoryId: id().allow(null).required(), periodId: id().allow(null).required() })),
});

/** A change of policy that was applied: who, when, and the policy on either side of it. */
export interface PolicyPast {
  readonly id: string;
  readonly at: string;
  readonly who: string;
  readonly before: PolicyChange;
  readonly after: PolicyChange;
}

export interface PolicyView extends PolicyChange {
  readonly weightsSum: number;
  /** What stands in the gradebook, with where it counts. `inPeriodId` is the period that its date puts it in. */
  readonly columns: readonly {
    readonly id: string;
    readonly title: string;
    readonly possible: number;
    readonly categoryId: string | null;
    readonly periodId: string | null;
    readonly inPeriodId: string | null;
  }[];
  readonly totals: readonly { readonly id: string; readonly name: string; readonly percent: string | null }[];
}
