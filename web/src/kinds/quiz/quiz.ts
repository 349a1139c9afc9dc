import { defineAsyncComponent } from 'vue';
import type { ShownKind } from '../shownKind.ts';

export const quiz: ShownKind = {
  editor: { route: 'quiz' },
  inspectorPart: null,
  study: defineAsyncComponent(() => import('./QuizStudy.vue')),
};
