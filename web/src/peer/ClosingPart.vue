<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ClosingWord } from '@rosemary/api';
import { type DocumentNode, plainText } from '@rosemary/core';
import { onMounted, ref } from 'vue';
import DocumentEditor from '../parts/DocumentEditor.vue';
import FoldOut from '../parts/FoldOut.vue';
import TwoVersions from '../parts/TwoVersions.vue';
import { call } from '../platform/call.ts';
import { useWritten } from './useWritten.ts';

/** What the teacher says to everybody once the reviews are out. It is saved as it is typed; of two windows it is asked which holds. */
const props = defineProps<{
  closing: ClosingWord;
  base: { readonly courseId: string; readonly itemId: string };
  isOut: boolean;
  canEdit: boolean;
}>();
const { held, content, other, saving, take, change, settle } = useWritten<ClosingWord, { readonly document: DocumentNode | null }>({
  key: () => `closing ${props.base.itemId}`,
  read: async () => (await call(api.getPeerBoard, props.base)).closing,
  save: async (typed, version) => {
    const document = typed.document === null || plainText(typed.document).trim() === '' ? null : typed.document;
    const saved = await call(api.setClosingWord, props.base, { version, document });
    return { version: saved.closing.version, savedAt: null };
  },
  contentOf: ({ document }) => ({ document }),
  isOpen: () => props.canEdit,
  nothing: { document: null },
});
/** The editor is made anew where its text comes from elsewhere. */
const round = ref(0);
onMounted(async () => {
  take(props.closing);
  const kept = props.canEdit ? await saving.findKept() : null;
  if (kept === null) return;
  change(kept);
  round.value += 1;
});
async function hold(which: 'other' | 'mine'): Promise<void> {
  await settle(which);
  round.value += 1;
}
</script>

<template>
  <FoldOut class="closing">
    <template #summary
      >Closing word
      <span class="soft">{{
        content.document === null ? 'none yet' : isOut ? 'students read it with their reviews' : 'students read it once results are out'
      }}</span></template
    >
    <DocumentEditor
      v-if="held"
      :key="round"
      :model-value="content.document"
      label="Closing word"
      :course-id="base.courseId"
      :is-fixed="!canEdit"
      @change="change({ document: $event })"
    />
    <TwoVersions
      v-if="other"
      says="Another window saved this closing word too. Which one holds?"
      :lines="[{ what: 'Words', theirs: plainText(other.document), mine: plainText(content.document) }]"
      their-word="The other window"
      my-word="This one"
      @theirs="hold('other')"
      @mine="hold('mine')"
    />
    <p class="label saved" role="status">{{ saving.words.value }}</p>
  </FoldOut>
</template>
