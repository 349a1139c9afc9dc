import { defineAsyncComponent } from 'vue';
import type { ShownKind } from '../shownKind.ts';

export const page: ShownKind = {
  editor: defineAsyncComponent(() => import('./PageEditor.vue')),
  inspectorPart: null,
  study: defineAsyncComponent(() => import('./PageStudy.vue')),
};
