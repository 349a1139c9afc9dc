<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { NoticeChoice, NoticesView } from '@rosemary/api';
import { defineAsyncComponent, onBeforeUnmount, onMounted, ref } from 'vue';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import ActButton from '../parts/ActButton.vue';
import FloatMenu from '../parts/FloatMenu.vue';
import { mdiBellOutline } from '@mdi/js';

// What is in it is loaded when it is opened.
const NoticesList = defineAsyncComponent(() => import('./NoticesList.vue'));
const ASK_MS = 60_000;
const notices = useNotices();
const session = useSession();
const view = ref<NoticesView | null>(null);
const isOpen = ref(false);
let timer: ReturnType<typeof setInterval> | undefined;
async function load(): Promise<void> {
  if (!document.hidden && session.me?.person) view.value = await call(api.getNotices, {}).catch(() => view.value);
}
onMounted(() => {
  void load();
  timer = setInterval(() => void load(), ASK_MS);
});
onBeforeUnmount(() => {
  clearInterval(timer);
});
async function onOpen(open: boolean): Promise<void> {
  isOpen.value = open;
  if (!open) {
    // What was new when it was opened is known once it is shut.
    if ((view.value?.unseen ?? 0) > 0) view.value = await call(api.seeNotices, {}).catch(() => view.value);
  } else await load();
}
async function choose(choice: NoticeChoice): Promise<void> {
  try {
    view.value = await call(api.chooseNotices, {}, choice);
  } catch (error) {
    notices.sayFault(error);
  }
}
</script>

<template>
  <FloatMenu :model-value="isOpen" stays location="bottom end" @update:model-value="onOpen">
    <template #activator="{ props }"
      ><ActButton
        v-bind="props"
        look="act"
        class="here bell"
        :aria-label="view && view.unseen > 0 ? `Notices, ${view.unseen} new` : 'Notices'"
      >
        <v-icon :icon="mdiBellOutline" size="19" aria-hidden="true" /><span v-if="view && view.unseen > 0" class="many">{{
          view.unseen
        }}</span>
      </ActButton></template
    >
    <NoticesList v-if="isOpen" :view="view" @leave="onOpen(false)" @choose="choose" />
  </FloatMenu>
</template>

<style scoped>
.bell {
  display: inline-flex;
  align-items: center;
  gap: 3px;
  min-height: 28px;
}
.many {
  color: var(--clay);
  font-weight: 600;
}
</style>
