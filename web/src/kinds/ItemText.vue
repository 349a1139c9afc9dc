<script setup lang="ts">
import { plainText, type DocumentNode } from '@rosemary/core';
import { defineAsyncComponent, ref } from 'vue';
import DocumentEditor from '../parts/DocumentEditor.vue';
import DocumentView from '../parts/DocumentView.vue';
import { useNotices } from '../stores/noticeStore.ts';
import type { ItemText } from './useItemText.ts';
import WorkingBar from './WorkingBar.vue';

// Seldom needed, with what compares two texts.
const TwoVersions = defineAsyncComponent(() => import('../parts/TwoVersions.vue'));

/** The text of an item, to write or to read, with what somebody else saved meanwhile. */
const props = defineProps<{
  held: ItemText;
  label: string;
  base: { readonly courseId: string; readonly itemId: string };
  canEdit: boolean;
}>();
const editor = ref<InstanceType<typeof DocumentEditor> | null>(null);
const notices = useNotices();
const { text, isReady, saving, theirs } = props.held;

async function takeTheirs(): Promise<void> {
  const document = await props.held.takeTheirs();
  if (document !== null) editor.value?.replace(document);
}
/** A text that is saved already stands here. */
function replaceBy(document: DocumentNode): void {
  props.held.show(document);
  editor.value?.replace(document);
}
/** Another text in place of this one, with the way back. */
function put(document: DocumentNode, words: string): void {
  const before = text.value;
  const show = (next: DocumentNode): void => {
    editor.value?.replace(next);
    props.held.change(next, true);
  };
  show(document);
  if (before !== null)
    notices.say(words, () => {
      show(before);
      return Promise.resolve();
    });
}
defineExpose({ put });
</script>

<template>
  <TwoVersions
    v-if="theirs"
    says="Somebody else saved this text after you opened it."
    :lines="[{ what: label, theirs: plainText(theirs.document), mine: plainText(text) }]"
    @theirs="takeTheirs"
    @mine="held.keepMine()"
    >To merge them, write into yours below what you wish to have of theirs; then keep yours.</TwoVersions
  >
  <template v-if="isReady">
    <WorkingBar v-if="canEdit && !theirs" :held="held" :base="base" @shown="replaceBy" @put="put($event, 'The changes are back.')" />
    <DocumentEditor v-if="canEdit" ref="editor" :model-value="text" :label="label" :course-id="base.courseId" @change="held.change($event)"
      ><template #state
        ><span class="label saved" role="status">{{ saving.words.value }}</span></template
      ></DocumentEditor
    >
    <DocumentView v-else :document="text" />
  </template>
</template>

<style scoped>
.saved {
  margin-left: auto;
}
</style>
