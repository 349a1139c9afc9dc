import { defineAsyncComponent } from 'vue';
import type { ShownKind } from '../shownKind.ts';

export const file: ShownKind = {
  editor: defineAsyncComponent(() => import('./FileEditor.vue')),
  inspectorPart: null,
  study: defineAsyncComponent(() => import('./FileStudy.vue')),
};
