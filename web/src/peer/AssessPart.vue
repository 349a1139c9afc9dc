<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PeerWork, ReviewContent } from '@rosemary/api';
import { unjudgedCriteria } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import { call, takeBack } from '../platform/call.ts';
import { useDraft } from '../platform/kept.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useNotices } from '../stores/noticeStore.ts';
import ReviewForm from './ReviewForm.vue';

/** The teacher’s own assessment of a work, by the form the students use. */
const props = defineProps<{ work: PeerWork; base: { readonly courseId: string; readonly itemId: string } }>();
const emit = defineEmits<{ saved: [work: PeerWork] }>();
const notices = useNotices();
const { isBusy, fault, run } = useBusy('Not saved. Try again.');
const NOTHING: ReviewContent = { choices: {}, given: {}, comments: {}, words: '' };
const held = (): ReviewContent =>
  props.work.own === null
    ? NOTHING
    : { choices: props.work.own.choices, given: props.work.own.given, comments: props.work.own.comments, words: props.work.own.words };
const kept = useDraft<ReviewContent>(() => `assess ${props.work.id}`);
const content = ref<ReviewContent>(kept.find() ?? held());
const open = computed(() => unjudgedCriteria(props.work.form.criteria, content.value));
function change(next: Partial<ReviewContent>): void {
  content.value = { ...content.value, ...next };
  kept.keep(content.value);
}
async function save(isGiven: boolean): Promise<void> {
  const params = { ...props.base, workId: props.work.id };
  const { own } = props.work;
  const was = held();
  const body = { ...content.value, isGiven, version: own?.version ?? 0 };
  const next = await run(() => call(api.assessPeerWork, params, body, 'The teacher’s own assessment'));
  if (next === null) return;
  kept.forget();
  emit('saved', next);
  notices.say(isGiven ? 'Your assessment counts.' : 'Your assessment is kept, and counts nothing yet.', async () => {
    const before = own === null ? { ...NOTHING, isGiven: false } : { ...was, isGiven: own.handedInAt !== null };
    emit('saved', await takeBack(api.assessPeerWork, params, { ...before, version: next.own?.version ?? 0 }));
  });
}
</script>

<template>
  <form @submit.prevent="save(true)">
    <ReviewForm :form="work.form" :content="content" @change="change" />
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <ActButton type="submit" look="go" :disabled="isBusy || open.length > 0">Let it count</ActButton>
    <ActButton look="quiet" :disabled="isBusy" @click="save(false)">Keep as a draft</ActButton>
    <p v-if="open.length > 0" class="label">Still to judge: {{ open.map((c) => c.title).join(', ') }}.</p>
  </form>
</template>
