import { defineAsyncComponent } from 'vue';
import type { ShownKind } from '../shownKind.ts';

export const link: ShownKind = {
  editor: defineAsyncComponent(() => import('./LinkItemEditor.vue')),
  inspectorPart: null,
  study: defineAsyncComponent(() => import('./LinkStudy.vue')),
};
