import type { QuestionKind } from '@rosemary/core';
import { defineAsyncComponent, type Component } from 'vue';

interface Field {
  readonly is: Component;
  /** Fetches what draws it ahead of time, for a paper that must go on when the connection is gone. */
  readonly load: () => Promise<unknown>;
  /** Draws the words of the question itself, since its places stand in them. */
  readonly hasWords?: boolean;
}
// Nobody waits for the kinds that a paper does not ask.
const later = (load: () => Promise<{ default: Component }>): Field => ({ is: defineAsyncComponent(load), load });
const choice = later(() => import('./ChoiceAnswer.vue'));
const text = later(() => import('./TextAnswer.vue'));

/** The place for an answer in each kind of question. */
export const ANSWER_FIELDS: { readonly [kind in QuestionKind]: Field } = {
  single: choice,
  truth: choice,
  several: choice,
  numeric: text,
  calculated: text,
  short: text,
  blanks: { ...later(() => import('./BlanksAnswer.vue')), hasWords: true },
  matching: later(() => import('./MatchingAnswer.vue')),
  ordering: later(() => import('./OrderingAnswer.vue')),
  hotspot: later(() => import('./SpotAnswer.vue')),
  essay: later(() => import('./EssayAnswer.vue')),
  file: later(() => import('./FileAnswer.vue')),
};
