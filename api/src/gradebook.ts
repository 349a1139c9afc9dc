import type { CellState, ColumnRole, ItemKind, LatePolicy, Ripple, SchemeLevel, WorkingLine } from '@rosemary/core';
import { id, Joi, latePolicy, points, title, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';
import type { TotalsText } from './student.ts';

export interface CellChange {
  readonly columnId: string;
  readonly enrolmentId: string;
  readonly state: 'scored' | 'exempt' | 'unfinished' | 'missing' | null;
  readonly raw: number | null;
  readonly seenEventId: string | null;
  readonly isAboveConfirmed: boolean;
  readonly reason: string;
}

export const cellChange = Joi.object<CellChange, true>({
  columnId: id().required(),
  enrolmentId: id().required(),
  state: Joi.string().valid('scored', 'exempt', 'unfinished', 'missing').allow(null).required(),
  raw: points().allow(null).required().label('Score'),
  seenEventId: Joi.string().pattern(/^\d+$/).allow(null).required(),
  isAboveConfirmed: Joi.boolean().required(),
  reason: Joi.string().allow('').max(LIMITS.reason).required().label('Reason'),
});

export interface UndoEvent {
  readonly eventId: string;
}

export const undoEvent = Joi.object<UndoEvent, true>({ eventId: Joi.string().pattern(/^\d+$/).required() });

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
  /** A late policy of its own; null is the course's. */
  readonly late: LatePolicy | null;
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
  readonly categories: PolicyCategory[];
  readonly levels: { readonly label: string; readonly cutPoint: number }[];
}

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
        late: latePolicy().required(),
      }),
    ),
  levels: Joi.array()
    .max(20)
    .required()
    .items(
      Joi.object({
        label: Joi.string().trim().min(1).max(12).required().label('Letter'),
        cutPoint: whole(0, 1_000_000).required().label('Cut-point'),
      }),
    ),
});

/** A change of policy that was applied: who, when, and the policy on either side of it. */
export interface PolicyPast {
  readonly id: string;
  readonly at: string;
  readonly who: string;
  readonly before: PolicyChange;
  readonly after: PolicyChange;
}

/** Who moves by a change not yet made, with the scheme it would be read by. */
export interface RippleAnswer extends Ripple {
  readonly levels: readonly SchemeLevel[];
}

export interface BookColumn {
  readonly id: string;
  /** The item it is of; null where it stands in the gradebook alone. */
  readonly itemId: string | null;
  readonly role: ColumnRole;
  readonly kind: ItemKind | null;
  readonly title: string;
  readonly categoryId: string | null;
  readonly possible: number;
  readonly dueAt: string | null;
  readonly isDraft: boolean;
  readonly counts: boolean;
}

/** What was given, before lateness: what is edited. */
type Given = number | 'exempt' | 'unfinished' | 'missing' | null;
/**
 * A cell travels as a short row: state, result as it is read, released, late, last event, waiting, what was given. Where staff
 * read it otherwise than students, the other reading stands at the end.
 */
export type BookCell =
  | readonly [state: CellState, text: string, isReleased: 0 | 1, isLate: 0 | 1, eventId: string | null, waits: 0 | 1, given: Given]
  | readonly [
      state: CellState,
      text: string,
      isReleased: 0 | 1,
      isLate: 0 | 1,
      eventId: string | null,
      waits: 0 | 1,
      given: Given,
      alsoReads: string,
    ];

export interface BookRow {
  readonly enrolmentId: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly sectionId: string | null;
  readonly cells: readonly (BookCell | 0)[];
  readonly subtotals: readonly (string | null)[];
  readonly totals: TotalsText;
}

export interface Gradebook {
  readonly columns: readonly BookColumn[];
  readonly categories: readonly { readonly id: string; readonly title: string; readonly weightPercent: number }[];
  readonly rows: readonly BookRow[];
  readonly total: string;
  readonly weightsSum: number;
  readonly shares: readonly (readonly number[])[];
}

export interface CellSaved {
  readonly eventId: string | null;
  readonly row: BookRow;
}

export interface WorkingView {
  readonly who: string;
  readonly title: string;
  readonly rule: string;
  readonly lines: readonly WorkingLine[];
  readonly inTotal: string | null;
}

export interface HistoryEntry {
  readonly eventId: string;
  readonly at: string;
  readonly who: string;
  readonly what: string;
  readonly source: string;
  readonly reason: string;
  readonly canUndo: boolean;
}

export interface PolicyView extends PolicyChange {
  readonly weightsSum: number;
  readonly totals: readonly { readonly id: string; readonly name: string; readonly percent: string | null }[];
}

export type RippleView = Ripple;
