import { defineAsyncComponent } from 'vue';
import type { ShownKind } from '../shownKind.ts';

export const discussion: ShownKind = {
  editor: defineAsyncComponent(() => import('./DiscussionEditor.vue')),
  inspectorPart: null,
  study: defineAsyncComponent(() => import('./DiscussionStudy.vue')),
};
