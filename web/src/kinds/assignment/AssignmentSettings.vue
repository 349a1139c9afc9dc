<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import {
  FILE_TYPES,
  type Anonymous,
  type Judged,
  type AssignmentChange,
  type AssignmentSetting,
  type Groups,
  type PlanItem,
} from '@rosemary/api';
import { COUNTING, type Counting, savedWords } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import DateField from '../../parts/DateField.vue';
import PeerLink from '../../peer/PeerLink.vue';
import LineInput from '../../parts/LineInput.vue';
import type { Serial } from '../../platform/serial.ts';
import { call } from '../../platform/call.ts';
import { HttpProblem } from '../../platform/http.ts';
import { useCourse } from '../../stores/courseStore.ts';
import TickBox from '../../parts/fields/TickBox.vue';
import ChoiceField from '../../parts/fields/ChoiceField.vue';

const props = defineProps<{
  base: { readonly courseId: string; readonly itemId: string };
  setting: AssignmentSetting;
  canEdit: boolean;
  item: PlanItem;
  hasPeers: boolean;
  version: () => number;
  serial: Serial;
}>();
const emit = defineEmits<{ saved: [setting: AssignmentSetting] }>();
const route = useRoute();
const fault = ref<string | null>(null);
const words = ref('');
async function set(change: Omit<AssignmentChange, 'version' | 'instructions'>, title = `“${props.item.title}”`): Promise<void> {
  fault.value = null;
  try {
    await props.serial(async () => {
      const saved = await call(api.saveAssignment, props.base, { ...change, version: props.version() }, title);
      if (saved === null) return;
      emit('saved', { ...props.setting, ...change, version: saved.version });
      words.value = savedWords(new Date());
    });
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
  }
}
const course = useCourse();
const courseId = computed(() => String(route.params.courseId));
/** The sets of groups there are; without any, work is each student’s own. */
const sets = ref<Groups['sets']>([]);
onMounted(async () => {
  sets.value = (await call(api.getGroups, { courseId: courseId.value }).catch(() => null))?.sets ?? [];
});
const JUDGED: readonly (readonly [judged: Judged, words: string])[] = [
  ['points', 'in points; with a rubric where there is one'],
  ['done', 'done or not'],
  ['words', 'in words'],
  ['none', 'not at all: a reminder with a date'],
];
const COUNTED: Readonly<Record<Counting, string>> = { latest: 'the latest', best: 'the best', first: 'the first', mean: 'the mean of all' };
const NAMES: readonly (readonly [value: Anonymous, words: string])[] = [
  ['none', 'shown to those who mark'],
  ['release', 'hidden until the mark is released'],
  ['date', 'hidden until a date'],
];
/** A date is needed with it; a fortnight from now until another is chosen. */
const setNames = (anonymous: Anonymous): Promise<void> =>
  set({
    anonymous,
    ...(anonymous === 'date' && props.setting.anonymousUntil === null
      ? { anonymousUntil: new Date(course.now + 14 * 86_400_000).toISOString() }
      : {}),
  });
const takesWork = computed(
  () => props.setting.acceptsText || props.setting.acceptsFiles || props.setting.acceptsLink || props.setting.acceptsRecording,
);
const checked = (event: Event): boolean => (event.target as HTMLInputElement).checked;
const turnType = (key: string, on: boolean): Promise<void> =>
  set({ fileTypes: on ? [...props.setting.fileTypes, key] : props.setting.fileTypes.filter((t) => t !== key) });
const MB = 1_048_576;
</script>

<template>
  <aside class="inspector" aria-label="Submissions">
    <h3>Submissions</h3>
    <p class="label" style="min-height: 18px" role="status">{{ words }}</p>
    <fieldset :disabled="!canEdit">
      <p>
        <label><TickBox :model-value="setting.acceptsText" @change="set({ acceptsText: checked($event) })" /> text, written here</label>
      </p>
      <p>
        <label><TickBox :model-value="setting.acceptsFiles" @change="set({ acceptsFiles: checked($event) })" /> files</label>
      </p>
      <div v-if="setting.acceptsFiles" class="inner">
        <p v-for="(type, key) in FILE_TYPES" :key="key">
          <label
            ><TickBox :model-value="setting.fileTypes.includes(String(key))" @change="turnType(String(key), checked($event))" />
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
              max="300"
              :value="Math.round(setting.mostBytes / MB)"
              @commit="set({ mostBytes: Number($event) * MB })"
          /></label>
        </div>
      </div>
      <p>
        <label
          ><TickBox :model-value="setting.acceptsRecording" @change="set({ acceptsRecording: checked($event) })" /> a recording of the
          voice, made here</label
        >
      </p>
      <p>
        <label><TickBox :model-value="setting.acceptsLink" @change="set({ acceptsLink: checked($event) })" /> a link</label>
      </p>
      <p>
        <label><TickBox :model-value="setting.onPaper" @change="set({ onPaper: checked($event) })" /> something on paper</label>
      </p>
      <p v-if="!takesWork" class="soft">
        {{ setting.onPaper ? 'It comes on paper' : 'Nothing comes in: it is observed' }}; nobody is missing by themselves.
      </p>
      <label class="field" style="margin-top: 12px"
        ><span class="label">How it is judged</span
        ><ChoiceField :model-value="setting.judged" @change="set({ judged: $event }, 'How it is judged')">
          <option v-for="[value, text] in JUDGED" :key="value" :value="value">{{ text }}</option>
        </ChoiceField></label
      >
      <p v-if="setting.judged === 'words' || setting.judged === 'none'" class="soft">It counts nothing and has no points.</p>
      <label class="field" style="margin-top: 12px"
        ><span class="label">Attempts</span
        ><ChoiceField
          :model-value="setting.attemptsAllowed ?? ''"
          @change="set({ attemptsAllowed: $event === '' ? null : Number($event) })"
        >
          <option value="">as many as one likes</option>
          <option v-for="n in 5" :key="n" :value="n">{{ n }}</option>
        </ChoiceField></label
      >
      <label v-if="setting.attemptsAllowed !== 1" class="field"
        ><span class="label">Attempt that counts</span
        ><ChoiceField :model-value="setting.counted" @change="set({ counted: $event }, 'Which attempt counts')">
          <option v-for="c in COUNTING" :key="c" :value="c">{{ COUNTED[c] }}</option>
        </ChoiceField></label
      >
      <p>
        <label
          ><TickBox :model-value="setting.allowsWithdrawal" @change="set({ allowsWithdrawal: checked($event) })" /> may be taken back until
          it is due</label
        >
      </p>
      <h3 class="part">Whose work</h3>
      <label class="field"
        ><span class="label">Handed in by</span
        ><ChoiceField :model-value="setting.groupSetId ?? ''" @change="set({ groupSetId: $event === '' ? null : $event })">
          <option value="">each student</option>
          <option v-for="s in sets" :key="s.id" :value="s.id">the groups of {{ s.title }}</option>
        </ChoiceField></label
      >
      <p v-if="sets.length === 0" class="label">
        For work in groups, make a set in <router-link :to="{ name: 'groups', params: { courseId } }">Groups</router-link> first.
      </p>
      <h3 class="part">Who else reads it</h3>
      <PeerLink :base="base" :is-reviewed="hasPeers" />
      <h3 class="part">Who marks, and how</h3>
      <label class="field"
        ><span class="label">Names while marking</span
        ><ChoiceField :model-value="setting.anonymous" @change="setNames($event as Anonymous)">
          <option v-for="[value, words] in NAMES" :key="value" :value="value">{{ words }}</option>
        </ChoiceField></label
      >
      <DateField
        v-if="setting.anonymous === 'date'"
        :model-value="setting.anonymousUntil"
        label="Names are shown from"
        :zone="course.zone"
        :now="course.now"
        is-required
        :is-fixed="!canEdit"
        @change="set({ anonymousUntil: $event })"
      />
      <p v-if="setting.anonymous !== 'none'" class="label">
        File names and what files say of their maker are hidden too; marks stand in the gradebook once they are released.
      </p>
      <label class="field"
        ><span class="label">Each work is marked by</span
        ><ChoiceField :model-value="setting.markers" @change="set({ markers: Number($event) === 2 ? 2 : 1 })">
          <option :value="1">one marker</option>
          <option :value="2">two, each on their own, who then agree</option>
        </ChoiceField></label
      >
    </fieldset>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p class="label">
      Sharing out, text matching and what goes to paper stand with
      <router-link :to="{ name: 'stack', params: { courseId, itemId: item.id } }">the whole stack</router-link>; dates, points and release
      in the <router-link :to="{ name: 'plan', params: { courseId: route.params.courseId }, query: { item: item.id } }">Plan</router-link>.
    </p>
  </aside>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
.part {
  margin: 18px 0 6px;
  padding-top: 10px;
  border-top: 1px solid var(--frost);
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
