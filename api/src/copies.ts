import { id, instant, Joi } from './joi.ts';
import { LIMITS } from './limits.ts';

/** Where copies of items can go: a course one teaches, or one section of it; with the due date each would have there. */
export interface CopyPlace {
  readonly courseId: string;
  readonly course: string;
  readonly zone: string;
  readonly isHere: boolean;
  readonly sections: readonly { readonly id: string; readonly title: string }[];
  /** In the order of the items asked for. `note` says why a date moved or is none. */
  readonly dues: readonly { readonly itemId: string; readonly dueAt: string | null; readonly note: string }[];
}

export interface CopyWish {
  readonly itemIds: string[];
  readonly targets: {
    readonly courseId: string;
    readonly sectionId: string | null;
    readonly dues: { readonly itemId: string; readonly dueAt: string | null }[];
  }[];
}

export const copyWish = Joi.object<CopyWish, true>({
  itemIds: Joi.array().min(1).max(LIMITS.items).unique().items(id()).required().label('Items'),
  targets: Joi.array()
    .min(1)
    .max(60)
    .required()
    .label('Where the copies go')
    .items(
      Joi.object({
        courseId: id().required(),
        sectionId: id().allow(null).required(),
        dues: Joi.array()
          .max(LIMITS.items)
          .required()
          .items(Joi.object({ itemId: id().required(), dueAt: instant().required().label('Due') })),
      }),
    ),
});

/** What was made, course by course; deleting these items undoes it. */
export interface CopiesMade {
  readonly made: readonly {
    readonly courseId: string;
    readonly course: string;
    readonly section: string;
    readonly itemIds: readonly string[];
  }[];
}
