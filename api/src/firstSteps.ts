import type { FirstStepName } from '@rosemary/core';

/** What leads from nothing to a page that students read. */
export interface FirstSteps {
  /** Empty where nothing is to be begun any more. */
  readonly steps: readonly { readonly name: FirstStepName; readonly isDone: boolean }[];
  /** The course that is being begun; null before there is one. */
  readonly course: {
    readonly id: string;
    readonly title: string;
    /** Who teaches it. */
    readonly teachers: string;
    /** Whether whoever asks builds it, and can take its steps. */
    readonly isOwn: boolean;
    /** The sample student through whose eyes it is seen; null where it has no section. */
    readonly sampleId: string | null;
    /** Drafts in it. */
    readonly drafts: number;
  } | null;
}
