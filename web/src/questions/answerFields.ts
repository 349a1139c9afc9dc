import type { QuestionKind } from '@rosemary/core';
import { defineAsyncComponent, type Component } from 'vue';
import BlanksAnswer from './BlanksAnswer.vue';
import ChoiceAnswer from './ChoiceAnswer.vue';
import FileAnswer from './FileAnswer.vue';
import MatchingAnswer from './MatchingAnswer.vue';
import SpotAnswer from './SpotAnswer.vue';
import TextAnswer from './TextAnswer.vue';

interface Field {
  readonly is: Component;
  /** Draws the words of the question itself, since its places stand in them. */
  readonly hasWords?: boolean;
}
// Each brings a library of its own, for what few papers ask.
const ordering = defineAsyncComponent(() => import('./OrderingAnswer.vue'));
const essay = defineAsyncComponent(() => import('./EssayAnswer.vue'));

/** The place for an answer in each kind of question. */
export const ANSWER_FIELDS: { readonly [kind in QuestionKind]: Field } = {
  single: { is: ChoiceAnswer },
  truth: { is: ChoiceAnswer },
  several: { is: ChoiceAnswer },
  numeric: { is: TextAnswer },
  calculated: { is: TextAnswer },
  short: { is: TextAnswer },
  blanks: { is: BlanksAnswer, hasWords: true },
  matching: { is: MatchingAnswer },
  ordering: { is: ordering },
  hotspot: { is: SpotAnswer },
  essay: { is: essay },
  file: { is: FileAnswer },
};
