<script setup lang="ts">
import { FILE_TYPES, type Judged, type AssignmentChange, type AssignmentSetting, type PlanItem } from '@rosemary/api';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import LineInput from '../parts/LineInput.vue';
import type { Serial } from '../platform/serial.ts';
import { HttpProblem, send } from '../platform/http.ts';
import { useRipple } from '../shell/rippleStore.ts';

const props = defineProps<{
  base: string;
  setting: AssignmentSetting;
  canEdit: boolean;
  item: PlanItem;
  version: () => number;
  serial: Serial;
}>();
const emit = defineEmits<{ saved: [setting: AssignmentSetting] }>();
const route = useRoute();
const fault = ref<string | null>(null);
const words = ref('');
async function set(change: Omit<AssignmentChange, 'version' | 'instructions'>): Promise<void> {
  fault.value = null;
  try {
    await props.serial(async () => {
      const { version } = await send<{ version: number }>('PUT', `${props.base}/assignment`, { ...change, version: props.version() });
      emit('saved', { ...props.setting, ...change, version });
    });
    words.value = `Saved ${new Date().toLocaleTimeString('en-GB')}`;
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
  }
}
const ripple = useRipple();
const JUDGED: readonly (readonly [judged: Judged, words: string])[] = [
  ['points', 'in points; with a rubric where there is one'],
  ['done', 'done or not'],
  ['words', 'in words'],
  ['none', 'not at all: a reminder with a date'],
];
/** How it is judged decides what counts, so whom it moves is shown first. */
async function setJudged(event: Event): Promise<void> {
  const select = event.target as HTMLSelectElement;
  const judged = select.value as Judged;
  fault.value = null;
  try {
    const body = { judged, version: props.version() };
    if (await ripple.confirm('How it is judged', 'PUT', `${props.base}/assignment`, body)) await set({ judged });
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
  }
  select.value = props.setting.judged;
}
const takesWork = computed(
  () => props.setting.acceptsText || props.setting.acceptsFiles || props.setting.acceptsLink || props.setting.acceptsRecording,
);
const checked = (event: Event): boolean => (event.target as HTMLInputElement).checked;
const number = (event: Event): number => Number((event.target as HTMLInputElement).value);
const turnType = (key: string, on: boolean): Promise<void> =>
  set({ fileTypes: on ? [...props.setting.fileTypes, key] : props.setting.fileTypes.filter((t) => t !== key) });
const MB = 1_048_576;
</script>

<template>
  <aside class="inspector" aria-label="What comes in">
    <h3>What comes in</h3>
    <p class="label" style="min-height: 18px" role="status">{{ words }}</p>
    <fieldset :disabled="!canEdit">
      <p>
        <label
          ><input type="checkbox" :checked="setting.acceptsText" @change="set({ acceptsText: checked($event) })" /> text, written
          here</label
        >
      </p>
      <p>
        <label><input type="checkbox" :checked="setting.acceptsFiles" @change="set({ acceptsFiles: checked($event) })" /> files</label>
      </p>
      <div v-if="setting.acceptsFiles" class="inner">
        <p v-for="(type, key) in FILE_TYPES" :key="key">
          <label
            ><input type="checkbox" :checked="setting.fileTypes.includes(String(key))" @change="turnType(String(key), checked($event))" />
            {{ type.name }}</label
          >
          <span v-if="!type.canNote" class="label">no notes in its margin</span>
        </p>
        <div class="pair">
          <label class="field"
            ><span class="label">Files at most</span
            ><LineInput type="number" min="1" max="50" :value="setting.mostFiles" @commit="set({ mostFiles: Number($event) })" /></label
          ><label class="field"
            ><span class="label">Largest, MB</span
            ><LineInput
              type="number"
              min="1"
              max="100"
              :value="Math.round(setting.mostBytes / MB)"
              @commit="set({ mostBytes: Number($event) * MB })"
          /></label>
        </div>
      </div>
      <p>
        <label
          ><input type="checkbox" :checked="setting.acceptsRecording" @change="set({ acceptsRecording: checked($event) })" /> a recording of
          the voice, made here</label
        >
      </p>
      <p>
        <label><input type="checkbox" :checked="setting.acceptsLink" @change="set({ acceptsLink: checked($event) })" /> a link</label>
      </p>
      <p>
        <label><input type="checkbox" :checked="setting.onPaper" @change="set({ onPaper: checked($event) })" /> something on paper</label>
      </p>
      <p v-if="!takesWork" class="soft">
        {{ setting.onPaper ? 'It comes on paper' : 'Nothing comes in: it is observed' }}; nobody is missing by themselves.
      </p>
      <label class="field" style="margin-top: 12px"
        ><span class="label">How it is judged</span
        ><select class="line-input" :value="setting.judged" @change="setJudged">
          <option v-for="[value, text] in JUDGED" :key="value" :value="value">{{ text }}</option>
        </select></label
      >
      <p v-if="setting.judged === 'words' || setting.judged === 'none'" class="soft">It counts nothing and has no points.</p>
      <label class="field" style="margin-top: 12px"
        ><span class="label">Attempts</span
        ><select
          class="line-input"
          :value="setting.attemptsAllowed ?? ''"
          @change="set({ attemptsAllowed: ($event.target as HTMLSelectElement).value === '' ? null : number($event) })"
        >
          <option value="">as many as one likes</option>
          <option v-for="n in 5" :key="n" :value="n">{{ n }}</option>
        </select></label
      >
    </fieldset>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p class="label">
      Dates, points and release are set in the
      <router-link :to="{ name: 'plan', params: { courseId: route.params.courseId }, query: { item: item.id } }">Plan</router-link>.
    </p>
  </aside>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
.inner {
  padding: 4px 0 4px 22px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
  margin-top: 8px;
}
p {
  margin-bottom: 4px;
}
</style>
