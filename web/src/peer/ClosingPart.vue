<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ClosingWord } from '@rosemary/api';
import { type DocumentNode, plainText } from '@rosemary/core';
import DocumentEditor from '../parts/DocumentEditor.vue';
import FoldOut from '../parts/FoldOut.vue';
import { call } from '../platform/call.ts';
import { useSaving } from '../platform/useSaving.ts';

/** What the teacher says to everybody once the reviews are out. It is saved as it is typed. */
const props = defineProps<{
  closing: ClosingWord;
  base: { readonly courseId: string; readonly itemId: string };
  isOut: boolean;
  canEdit: boolean;
}>();
let { version } = props.closing;
const saving = useSaving<DocumentNode>(
  () => `closing ${props.base.itemId}`,
  async (typed) => {
    const document = plainText(typed).trim() === '' ? null : typed;
    ({ version } = (await call(api.setClosingWord, props.base, { version, document })).closing);
    return null;
  },
);
</script>

<template>
  <FoldOut class="closing">
    <template #summary
      >Closing word
      <span class="soft">{{
        closing.document === null ? 'none yet' : isOut ? 'students read it with their reviews' : 'students read it once results are out'
      }}</span></template
    >
    <DocumentEditor
      :model-value="closing.document"
      label="Closing word"
      :course-id="base.courseId"
      :is-fixed="!canEdit"
      @change="saving.push($event)"
    />
    <p class="label saved" role="status">{{ saving.words.value }}</p>
  </FoldOut>
</template>
