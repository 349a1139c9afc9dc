<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { EditedText } from '@rosemary/api';
import { dayAndTime, type DocumentNode } from '@rosemary/core';
import { defineAsyncComponent, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import type { ItemText } from './useItemText.ts';

const DifferenceView = defineAsyncComponent(() => import('../parts/DifferenceView.vue'));

/** Over the text of an item that students read: what is written is a working copy, which is published or dropped here. */
const props = defineProps<{ held: ItemText; base: { readonly courseId: string; readonly itemId: string } }>();
const emit = defineEmits<{
  /** This text stands in the editor now, and is saved. */
  shown: [document: DocumentNode];
  /** This text is written again. */
  put: [document: DocumentNode];
}>();
const course = useCourse();
const notices = useNotices();
const { isRead, isWorking, begun, text, saving, serial } = props.held;
const compared = ref<EditedText | null>(null);
const isBusy = ref(false);

/** What is typed is saved first; then one thing after another, so that the version is that of the last. */
async function act(what: () => Promise<void>): Promise<void> {
  isBusy.value = true;
  try {
    await saving.flush();
    if (['away', 'refused', 'conflict'].includes(saving.state.value)) notices.say(`Nothing was done: ${saving.words.value}`);
    else
      await serial(async () => {
        await what();
        return null;
      });
  } catch (error) {
    notices.sayFault(error);
  } finally {
    isBusy.value = false;
  }
}
/** Nothing waits any more; what is written next is begun anew. */
function settle(version: number): void {
  props.held.setVersion(version);
  isWorking.value = false;
  begun.value = null;
  compared.value = null;
}
const publish = (): Promise<void> =>
  act(async () => {
    const { version, before } = await call(api.publishText, props.base, { version: props.held.version() });
    settle(version);
    notices.say('Students read the new text now.', () =>
      act(async () => {
        props.held.setVersion(
          (await call(api.takeBackPublishing, props.base, { document: before, version: props.held.version() })).version,
        );
        isWorking.value = true;
      }),
    );
  });
const drop = (): Promise<void> =>
  act(async () => {
    const dropped = text.value;
    const { version, document } = await call(api.dropWorkingCopy, props.base, { version: props.held.version() });
    settle(version);
    emit('shown', document);
    notices.say('The changes are dropped; this is what students read.', () => {
      if (dropped !== null) emit('put', dropped);
      return Promise.resolve();
    });
  });
const compare = (): Promise<void> =>
  act(async () => {
    compared.value = compared.value === null ? (await call(api.getItem, props.base)).text : null;
  });
</script>

<template>
  <section v-if="isRead || isWorking" class="side-note no-print" aria-label="What students read">
    <template v-if="isWorking">
      <p class="wrapping">
        <b>Not published.</b>
        <span class="soft"
          >{{ isRead ? 'Students go on reading the text from before.' : 'Students would still read the text from before.'
          }}{{ begun === null ? '' : ` Begun by ${begun.by}, ${dayAndTime(Date.parse(begun.at), course.zone, course.now)}.` }}</span
        >
      </p>
      <p class="wrapping">
        <ActButton look="go" :disabled="isBusy" @click="publish">Publish changes</ActButton>
        <ActButton look="act" :disabled="isBusy" :aria-expanded="compared !== null" @click="compare">{{
          compared === null ? 'See what changes' : 'Hide what changes'
        }}</ActButton>
        <ActButton look="act" :disabled="isBusy" @click="drop">Drop the changes</ActButton>
      </p>
      <DifferenceView v-if="compared?.working" :before="compared.working.published" :after="text" since="what students read" is-short />
    </template>
    <p v-else class="soft">Students read this text. What you change waits until you publish it.</p>
  </section>
</template>
