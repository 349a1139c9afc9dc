import type { ItemKind, Term } from '@rosemary/core';
import type { PolicyChange } from './policy.ts';
import { id, Joi, whole } from './joi.ts';
import { LIMITS } from './limits.ts';

/** What to bring from another course, and how. */
export interface CarryWish {
  readonly fromCourseId: string;
  readonly itemIds: string[];
  /** The grading policy as well. */
  readonly hasPolicy: boolean;
  /** Dates by teaching week, or none. */
  readonly hasDates: boolean;
  readonly weekdays: { readonly from: number; readonly to: number }[];
  /** For items that came before: nothing said is `skip`. */
  readonly again: { readonly itemId: string; readonly how: 'skip' | 'replace' | 'add' }[];
}

export const carryWish = Joi.object<CarryWish, true>({
  fromCourseId: id().required(),
  itemIds: Joi.array().max(LIMITS.items).unique().items(id()).required(),
  hasPolicy: Joi.boolean().required(),
  hasDates: Joi.boolean().required(),
  weekdays: Joi.array()
    .max(7)
    .unique('from')
    .required()
    .items(Joi.object({ from: whole(1, 7).required(), to: whole(1, 7).required() })),
  again: Joi.array()
    .max(LIMITS.items)
    .unique('itemId')
    .required()
    .items(Joi.object({ itemId: id().required(), how: Joi.string().valid('skip', 'replace', 'add').required() })),
});

/** One item of another course as it would come over. */
export interface CarryItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly dates: readonly { readonly name: string; readonly was: string; readonly will: string | null; readonly note: string }[];
  readonly mentions: readonly string[];
  /** What its teacher noted for the next time. */
  readonly nextNote: string;
  /** It came before. */
  readonly existing: { readonly id: string; readonly title: string; readonly hasWork: boolean } | null;
}

/** The grading policy of both courses in sentences; `refused` says why it cannot come over. */
export interface CarryPolicy {
  readonly from: readonly string[];
  readonly here: readonly string[];
  readonly refused: string | null;
  /** Nothing counts here yet, so that the policy of the other course is the one to begin with. */
  readonly isUnused: boolean;
}

export interface CarryPreview {
  readonly from: { readonly id: string; readonly title: string; readonly run: string; readonly term: Term };
  readonly to: Term;
  readonly policy: CarryPolicy;
  readonly units: readonly {
    readonly id: string;
    readonly title: string;
    readonly isStanding: boolean;
    readonly items: readonly CarryItem[];
  }[];
}

/** What came over, what changed, what could not. */
export interface CarryDone {
  readonly itemIds: readonly string[];
  readonly unitIds: readonly string[];
  readonly replacedIds: readonly string[];
  readonly skipped: number;
  readonly moved: readonly string[];
  readonly unplaced: readonly string[];
  readonly categories: readonly string[];
  /** The policy as it was and as it is, where it came over. */
  readonly policy: { readonly before: PolicyChange; readonly after: PolicyChange } | null;
  readonly mentions: readonly string[];
  /** Quizzes whose code for a room, or whose addresses, are to be set anew. */
  readonly rooms: readonly string[];
}
