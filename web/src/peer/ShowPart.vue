<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PeerWork, ShowingWork } from '@rosemary/api';
import { allowsClass } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import TextField from '../parts/fields/TextField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call } from '../platform/call.ts';
import { useDraft } from '../platform/kept.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** Whether a work is shown to the class: how its authors allow it, with the name or without, and with a word on it. */
const props = defineProps<{ work: PeerWork; base: { readonly courseId: string; readonly itemId: string } }>();
const emit = defineEmits<{ changed: [work: PeerWork] }>();
const notices = useNotices();
const { isBusy, fault, run } = useBusy('Not done. Try again.');
const isOpen = ref(false);
const kept = useDraft<ShowingWork>(() => `show ${props.work.id}`);
const first = (): ShowingWork => {
  const { showing, leave } = props.work;
  return showing === null
    ? { isShown: true, isNamed: leave.toClass === 'with name', saysLeave: false, words: '' }
    : { isShown: true, isNamed: showing.isNamed, saysLeave: showing.saysLeave, words: showing.words };
};
const wish = ref<ShowingWork>(kept.find() ?? first());
const isShown = computed(() => props.work.showing?.isShown === true);
const isAllowed = computed(() => allowsClass(props.work.leave, wish.value.isNamed));
const ALLOWS = {
  no: 'Its author has not said that it may be shown.',
  'without name': 'Its author lets it be shown without the name.',
  'with name': 'Its author lets it be shown with the name.',
} as const;
function change(next: Partial<ShowingWork>): void {
  wish.value = { ...wish.value, ...next };
  kept.keep(wish.value);
}
async function save(next: ShowingWork): Promise<void> {
  const params = { ...props.base, workId: props.work.id };
  const before = props.work.showing;
  const made = await run(() => call(api.showPeerWork, params, next));
  if (made === null) return;
  kept.forget();
  isOpen.value = false;
  emit('changed', made);
  notices.say(next.isShown ? 'The class can read it.' : 'It is shown no more.', async () => {
    const { isShown: was, isNamed, saysLeave, words } = before ?? { ...next, isShown: false };
    emit('changed', await call(api.showPeerWork, params, { isShown: was, isNamed, saysLeave, words }));
  });
}
</script>

<template>
  <section class="part" aria-label="Shown to the class">
    <p class="soft">
      {{ isShown ? `Shown to the class ${work.showing?.isNamed ? 'with' : 'without'} the name.` : ALLOWS[work.leave.toClass] }}
      <ActButton look="act" :aria-expanded="isOpen" @click="isOpen = !isOpen">{{
        isOpen ? 'Close' : isShown ? 'Change' : 'Show to the class'
      }}</ActButton>
      <ActButton v-if="isShown" look="act" :disabled="isBusy" @click="save({ ...first(), isShown: false })">Hide it</ActButton>
    </p>
    <form v-if="isOpen" @submit.prevent="save({ ...wish, isShown: true })">
      <p>
        <label><TickBox :model-value="wish.isNamed" @update:model-value="change({ isNamed: $event === true })" /> with the name</label>
      </p>
      <p v-if="!isAllowed">
        <label
          ><TickBox :model-value="wish.saysLeave" @update:model-value="change({ saysLeave: $event === true })" /> its author has given me
          leave {{ wish.isNamed ? 'to show it with the name' : 'to show it' }}</label
        >
      </p>
      <label class="field"
        ><span class="label">A word on it, for the class</span
        ><TextField
          :model-value="wish.words"
          rows="3"
          auto-grow
          maxlength="4000"
          @input="change({ words: ($event.target as HTMLTextAreaElement).value })"
      /></label>
      <ActButton type="submit" look="go" :disabled="isBusy || (!isAllowed && !wish.saysLeave)">{{
        isShown ? 'Keep it so' : 'Show it'
      }}</ActButton>
      <p v-if="!isAllowed && !wish.saysLeave" class="label">It needs its author’s leave.</p>
    </form>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </section>
</template>
