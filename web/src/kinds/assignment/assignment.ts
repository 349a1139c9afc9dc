import { defineAsyncComponent } from 'vue';
import type { ShownKind } from '../shownKind.ts';

export const assignment: ShownKind = {
  editor: defineAsyncComponent(() => import('./AssignmentEditor.vue')),
  inspectorPart: defineAsyncComponent(() => import('./AssignmentPart.vue')),
  study: defineAsyncComponent(() => import('./AssignmentStudy.vue')),
};
