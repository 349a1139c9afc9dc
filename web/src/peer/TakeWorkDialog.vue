<script setup lang="ts">
import { refDebounced } from '@vueuse/core';
import * as api from '@rosemary/api/endpoints';
import type { SampleSource } from '@rosemary/api';
import { countOf, formatPoints } from '@rosemary/core';
import { ref, shallowRef, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call } from '../platform/call.ts';
import { useBusy } from '../platform/useBusy.ts';

/** Works of other courses one teaches, to take one as a sample: with its authors’ leave, and without their names. */
const props = defineProps<{ base: { readonly courseId: string; readonly itemId: string } }>();
const emit = defineEmits<{ close: []; taken: [sampleId: string] }>();
const text = ref('');
const asked = refDebounced(text, 250);
const sources = shallowRef<readonly SampleSource[] | null>(null);
const listFault = ref('');
const chosen = shallowRef<SampleSource | null>(null);
const saysLeave = ref(false);
const { isBusy, fault, run } = useBusy('Not taken. Try again.');
async function list(): Promise<void> {
  const mine = asked.value;
  try {
    const found = await call(api.listSampleSources, { ...props.base, text: mine });
    if (mine === asked.value) sources.value = found.sources;
    listFault.value = '';
  } catch (error) {
    listFault.value = error instanceof Error ? error.message : 'It could not be read.';
  }
}
watch(asked, list, { immediate: true });
function choose(source: SampleSource): void {
  chosen.value = source;
  saysLeave.value = false;
}
async function take(): Promise<void> {
  const source = chosen.value;
  if (source === null) return;
  const from = { submissionId: source.submissionId, saysLeave: saysLeave.value };
  const made = await run(() => call(api.addPeerSample, props.base, { from }));
  if (made !== null) emit('taken', made.id);
}
const resultOf = (s: SampleSource): string => (s.result === null ? '' : `${formatPoints(s.result)} of ${formatPoints(s.possible)}`);
</script>

<template>
  <v-dialog :model-value="true" max-width="760" @update:model-value="emit('close')">
    <div class="sheet form take-work" role="dialog" aria-label="Take a work from another course">
      <h2>Take a work from another course</h2>
      <p class="soft">
        Of courses you teach, once results are out. Its text and files are copied without what they say of their author; read it for names
        before you assess it.
      </p>
      <label class="field"><span class="label">Search by title, course or author</span><LineField v-model="text" takes-focus /></label>
      <p v-if="listFault" class="fault" role="alert">{{ listFault }} <ActButton look="act" @click="list">Try again</ActButton></p>
      <div v-else-if="sources === null"><div v-for="n in 4" :key="n" class="skeleton" style="height: 18px; margin-top: 8px" /></div>
      <p v-else-if="sources.length === 0" class="soft">
        {{ text === '' ? 'No work of another course of yours has its result out yet.' : 'No work is found by these words.' }}
      </p>
      <ul v-else class="lines">
        <li v-for="s in sources" :key="s.submissionId" :class="{ chosen: chosen?.submissionId === s.submissionId }">
          <ActButton class="name" :aria-pressed="chosen?.submissionId === s.submissionId" @click="choose(s)"
            ><b>{{ s.itemTitle }}</b> <span class="soft">{{ s.course }} · {{ s.author }}</span></ActButton
          >
          <span class="soft">{{
            [resultOf(s), countOf(s.wordCount, 'word'), s.files > 0 ? countOf(s.files, 'file') : ''].filter((w) => w !== '').join(' · ')
          }}</span>
          <span class="label">{{ s.hasLeave ? 'with leave' : 'no leave given here' }}</span>
        </li>
      </ul>
      <p v-if="chosen && !chosen.hasLeave">
        <label><TickBox v-model="saysLeave" /> {{ chosen.author }} has given me leave to show this work to later classes</label>
      </p>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <p class="form-acts">
        <ActButton look="go" :disabled="chosen === null || isBusy || (!chosen.hasLeave && !saysLeave)" @click="take">Take it</ActButton>
        <ActButton look="quiet" @click="emit('close')">Leave it</ActButton>
        <span v-if="chosen === null" class="soft">Choose a work.</span>
        <span v-else-if="!chosen.hasLeave && !saysLeave" class="soft">It needs its author’s leave.</span>
      </p>
    </div>
  </v-dialog>
</template>
