import type { ItemKind, StackState } from '@rosemary/core';
import { id, instant, Joi } from './joi.ts';
import { LIMITS } from './limits.ts';

/** Where copies of items can go: a course one teaches, or one section of it; with the dates each would have there. */
export interface GivePlace {
  readonly courseId: string;
  readonly course: string;
  readonly zone: string;
  readonly isHere: boolean;
  /** Students see nothing of a course before it is open. */
  readonly isOpen: boolean;
  readonly sections: readonly { readonly id: string; readonly title: string }[];
  /** In the order of the items asked for. `note` says why a date moved or is none. */
  readonly dates: readonly {
    readonly itemId: string;
    readonly opensAt: string | null;
    readonly dueAt: string | null;
    readonly note: string;
  }[];
}

/** One item for one class: a course, or a section of it. */
export interface GivenCell {
  readonly itemId: string;
  readonly courseId: string;
  readonly sectionId: string | null;
  readonly isDraft: boolean;
  /** Null: at once. */
  readonly opensAt: string | null;
  readonly dueAt: string | null;
  /** What this class is told before the text of the item. */
  readonly words: string;
  /** Its students hear of it when it opens. */
  readonly tells: boolean;
}
export interface GiveWish {
  readonly cells: GivenCell[];
}

export const giveWish = Joi.object<GiveWish, true>({
  cells: Joi.array()
    .min(1)
    .max(600)
    .required()
    .label('What is given')
    .unique((a: GivenCell, b: GivenCell) => a.itemId === b.itemId && a.courseId === b.courseId && a.sectionId === b.sectionId)
    .items(
      Joi.object({
        itemId: id().required(),
        courseId: id().required(),
        sectionId: id().allow(null).required(),
        isDraft: Joi.boolean().required(),
        opensAt: instant().required().label('Opens'),
        dueAt: instant().required().label('Due'),
        words: Joi.string().allow('').max(LIMITS.note).required().label('Said first to this class'),
        tells: Joi.boolean().required(),
      }),
    ),
});

/** What was made, class by class. */
export interface GivingDone {
  readonly id: string;
  readonly made: readonly {
    readonly courseId: string;
    readonly name: string;
    readonly itemIds: readonly string[];
  }[];
  /** What students do not see yet although it was to be open, with the reason. */
  readonly notYet: readonly string[];
}

/** Whether the copies and what was announced of them are deleted, all together. */
export interface GivingChange {
  readonly isTakenBack: boolean;
}
export const givingChange = Joi.object<GivingChange, true>({ isTakenBack: Joi.boolean().required() });

export interface GivingLine {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  readonly titles: readonly string[];
  readonly classes: number;
}

/** How one student stands to one item that was given. */
export interface GivenState {
  readonly state: StackState;
  readonly handedInAt: string | null;
  readonly lateText: string | null;
  readonly files: number;
}
export interface GivenClass {
  readonly courseId: string;
  readonly sectionId: string | null;
  readonly name: string;
  readonly zone: string;
  /** The copies of this class, in the order of the items of the board; null where there is none, or none any more. */
  readonly copies: readonly ({
    readonly itemId: string;
    readonly isDraft: boolean;
    /** False where there is nothing to hand in. */
    readonly takesWork: boolean;
    readonly opensAt: string | null;
    readonly dueAt: string | null;
    readonly handedIn: number;
    readonly of: number;
    /** Names are hidden there while it is marked, so that only the number is said. */
    readonly isVeiled: boolean;
  } | null)[];
  readonly people: readonly {
    readonly enrolmentId: string;
    readonly personId: string;
    readonly name: string;
    /** In the order of the copies; null where it is not for this student, or not said. */
    readonly states: readonly (GivenState | null)[];
  }[];
}
export interface GivenBoard {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  readonly items: readonly { readonly id: string; readonly title: string; readonly kind: ItemKind }[];
  readonly classes: readonly GivenClass[];
  /** Classes of courses that this reader does not teach. */
  readonly elsewhere: number;
}
