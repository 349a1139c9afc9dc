<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PeerChange, PeerSetting, SampleLine } from '@rosemary/api';
import { countOf, type SamplesWhen } from '@rosemary/core';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import { call } from '../platform/call.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useNotices } from '../stores/noticeStore.ts';
import TakeWorkDialog from './TakeWorkDialog.vue';

/** The sample works of a peer review: when they are practised, which there are, and how to get one. */
const props = defineProps<{
  found: PeerSetting;
  base: { readonly courseId: string; readonly itemId: string };
  canEdit: boolean;
  set: (change: Partial<PeerChange>) => Promise<boolean>;
}>();
const emit = defineEmits<{ changed: [setting: PeerSetting] }>();
const router = useRouter();
const notices = useNotices();
const { isBusy, fault, run } = useBusy('Not done. Try again.');
const isTaking = ref(false);
const WHEN: readonly (readonly [SamplesWhen, string])[] = [
  ['before', 'must be practised before the first review'],
  ['any time', 'can be practised at any time'],
  ['after', 'are practised after the reviews are given'],
];
const toSample = (id: string): Promise<unknown> => router.push({ name: 'peer-sample', params: { ...props.base, sampleId: id } });
async function write(): Promise<void> {
  const made = await run(() => call(api.addPeerSample, props.base, { from: null }));
  if (made !== null) await toSample(made.id);
}
async function remove(sample: SampleLine): Promise<void> {
  const turn = (isRemoved: boolean): Promise<PeerSetting> =>
    call(api.removePeerSample, { ...props.base, sampleId: sample.id }, { isRemoved });
  const next = await run(() => turn(true));
  if (next === null) return;
  emit('changed', next);
  notices.say(`“${sample.title}” deleted.`, async () => {
    emit('changed', await turn(false));
  });
}
const stateOf = (s: SampleLine): string =>
  s.unjudged.length > 0
    ? `students do not see it yet: you have not judged ${s.unjudged.join(', ')}`
    : s.practised === 0
      ? 'assessed; nobody has practised on it yet'
      : `assessed; ${countOf(s.practised, 'student has', 'students have')} practised on it`;
</script>

<template>
  <section class="samples" aria-label="Sample works">
    <h2>Sample works</h2>
    <p class="soft">
      Students assess a sample work by the same form and see at once what you saw in it. It counts nothing. They can read it as soon as the
      assignment is open.
    </p>
    <label v-if="found.samples.length > 0 || found.setting.samples === 'before'" class="field"
      ><span class="label">They</span
      ><ChoiceField :model-value="found.setting.samples" :disabled="!canEdit" @change="set({ samples: $event as SamplesWhen })">
        <option v-for="[value, text] in WHEN" :key="value" :value="value">{{ text }}</option>
      </ChoiceField></label
    >
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <ul v-if="found.samples.length > 0" class="lines">
      <li v-for="s in found.samples" :key="s.id">
        <router-link :to="{ name: 'peer-sample', params: { ...base, sampleId: s.id } }">{{ s.title }}</router-link>
        <span class="soft">{{ countOf(s.wordCount, 'word') }}</span>
        <span :class="s.unjudged.length > 0 ? 'clay' : 'soft'">{{ stateOf(s) }}</span>
        <ActButton v-if="canEdit" look="act" :disabled="isBusy" :aria-label="`Delete “${s.title}”`" @click="remove(s)">Delete</ActButton>
      </li>
    </ul>
    <p v-if="canEdit" class="acts">
      <ActButton look="act" :disabled="isBusy" @click="write">Write a sample work</ActButton>
      <ActButton look="act" @click="isTaking = true">Take one from another course</ActButton>
    </p>
    <TakeWorkDialog v-if="isTaking" :base="base" @close="isTaking = false" @taken="toSample" />
  </section>
</template>
