<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { DiscussionView } from '@rosemary/api';
import { ref, shallowRef } from 'vue';
import { call } from '../../platform/call.ts';
import { useNotices } from '../../stores/noticeStore.ts';
import DiscussionBody from '../../talk/DiscussionBody.vue';
import ItemSheet from '../ItemSheet.vue';
import ItemText from '../ItemText.vue';
import type { EditorEmits, EditorProps } from '../shownKind.ts';
import { useItemText } from '../useItemText.ts';
import DiscussionSide from './DiscussionSide.vue';

/** The words that open a discussion, saved as they are typed; its threads stand below and look after themselves. */
const props = defineProps<EditorProps>();
defineEmits<EditorEmits>();
const notices = useNotices();
const talk = shallowRef<DiscussionView | null>(null);
const turn = ref(0);
const held = useItemText(
  () => `discussion ${props.base.itemId}`,
  (document, version) => call(api.changeDiscussion, props.base, { document, version }),
);
function onShown(view: DiscussionView): void {
  // What is being typed is not drawn afresh by somebody's post, nor is its version: a change by someone else is a conflict.
  if (talk.value === null) void held.begin(props.detail.text, view.version);
  talk.value = view;
}
async function set(change: { isPostFirst?: boolean; isClosed?: boolean }): Promise<void> {
  try {
    await held.saving.flush();
    await held.serial(async () => {
      held.setVersion((await call(api.changeDiscussion, props.base, { ...change, version: held.version() })).version);
    });
    if (talk.value) talk.value = { ...talk.value, ...change };
    turn.value += 1;
  } catch (error) {
    notices.sayFault(error);
  }
}
</script>

<template>
  <ItemSheet>
    <slot name="head" />
    <ItemText :held="held" label="What is discussed" :base="base" :can-edit="canEdit" />
    <DiscussionBody :key="turn" :course-id="base.courseId" :item-id="base.itemId" @shown="onShown" />
  </ItemSheet>
  <DiscussionSide
    v-if="talk"
    :view="talk"
    :can-edit="canEdit"
    :counts="detail.item.counts"
    :base="base"
    :is-reviewed="detail.item.isReviewed"
    @set="set"
  />
</template>
