<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PeerBoard, PeerWork } from '@rosemary/api';
import { ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import TextField from '../parts/fields/TextField.vue';
import { call, takeBack } from '../platform/call.ts';
import { useDraft } from '../platform/kept.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** Sets a review aside with its reason, so that it counts nothing for the work; its author keeps or loses the credit. */
const props = defineProps<{ review: PeerWork['reviews'][number]; base: { readonly courseId: string; readonly itemId: string } }>();
const emit = defineEmits<{ changed: [board: PeerBoard] }>();
const notices = useNotices();
const { isBusy, fault, run } = useBusy('Not done. Try again.');
const kept = useDraft<string>(() => `aside ${props.review.id}`);
const reason = ref(kept.find() ?? '');
const isOpen = ref(reason.value !== '');
const credit = ref<'with' | 'without'>('with');
async function set(isAside: boolean): Promise<void> {
  const at = { ...props.base, reviewId: props.review.id };
  const before = { isAside: props.review.state === 'set aside', reason: props.review.setAsideWhy, keepsCredit: props.review.keepsCredit };
  const body = { isAside, reason: isAside ? reason.value : '', keepsCredit: isAside ? credit.value === 'with' : true };
  const next = await run(() => call(api.setReviewAside, at, body, isAside ? 'A review set aside' : 'A review taken in again'));
  if (next === null) return;
  kept.forget();
  isOpen.value = false;
  emit('changed', next);
  notices.say(isAside ? 'The review is set aside.' : 'The review counts again.', async () => {
    emit('changed', await takeBack(api.setReviewAside, at, before));
  });
}
function type(words: string): void {
  reason.value = words;
  kept.keep(words);
}
function leave(): void {
  kept.forget();
  reason.value = '';
  isOpen.value = false;
}
</script>

<template>
  <p v-if="review.state === 'set aside'">
    <ActButton look="act" :disabled="isBusy" @click="set(false)">Take it in again</ActButton>
  </p>
  <form v-else-if="isOpen" @submit.prevent="set(true)">
    <label class="field"
      ><span class="label">Why it is set aside</span
      ><TextField :model-value="reason" rows="2" maxlength="600" takes-focus @input="type(($event.target as HTMLTextAreaElement).value)"
    /></label>
    <label class="field"
      ><span class="label">Whoever wrote it</span
      ><ChoiceField v-model="credit">
        <option value="with">keeps the credit: it is left out</option>
        <option value="without">loses the credit: it counts 0</option>
      </ChoiceField></label
    >
    <ActButton type="submit" look="go" :disabled="isBusy || reason.trim() === ''">Set it aside</ActButton>
    <ActButton look="quiet" @click="leave">Leave it</ActButton>
    <p v-if="reason.trim() === ''" class="label">Say why first; the reason is kept with it.</p>
  </form>
  <p v-else><ActButton look="act" @click="isOpen = true">Set it aside…</ActButton></p>
  <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
</template>
