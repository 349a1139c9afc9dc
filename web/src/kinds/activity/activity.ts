import { defineAsyncComponent } from 'vue';
import type { ShownKind } from '../shownKind.ts';

export const activity: ShownKind = {
  editor: defineAsyncComponent(() => import('./ActivityEditor.vue')),
  inspectorPart: null,
  study: defineAsyncComponent(() => import('./ActivityStudy.vue')),
};
