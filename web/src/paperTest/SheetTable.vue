<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { PaperTestView, SheetView } from '@rosemary/api';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import LineInput from '../parts/LineInput.vue';
import { useCourse } from '../stores/courseStore.ts';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

/** Every sheet with its student and its answers, which can be typed as well as scanned. */
const props = defineProps<{
  view: PaperTestView;
  base: { readonly courseId: string; readonly itemId: string };
  say: (sheet: SheetView, answers: string) => Promise<string>;
}>();
const emit = defineEmits<{ owner: [sheet: SheetView, enrolmentId: string | null]; back: [sheet: SheetView] }>();
const route = useRoute();
const course = useCourse();
const faults = ref<Record<string, string>>({});
const only = ref<SheetView['state'] | ''>('');
const WORDS: Readonly<Record<SheetView['state'], string>> = {
  'nothing yet': 'nothing yet',
  'pages missing': 'a page is missing',
  doubts: 'rows to look at',
  ready: 'ready',
  recorded: 'in the gradebook',
  'changed since': 'changed since it was recorded',
};
const STATES = Object.keys(WORDS) as SheetView['state'][];
const chips = computed(() =>
  STATES.map((s) => [s, props.view.sheets.filter((x) => x.state === s).length] as const).filter(([, n]) => n > 0),
);
const shown = computed(() => props.view.sheets.filter((s) => only.value === '' || s.state === only.value));
const people = computed(() =>
  [
    ...props.view.without,
    ...props.view.sheets.flatMap((s) => (s.enrolmentId === null ? [] : [{ enrolmentId: s.enrolmentId, name: s.name }])),
  ].sort((a, b) => a.name.localeCompare(b.name)),
);
const canPrint = computed(() => course.head?.role === 'instructor');
async function commit(sheet: SheetView, answers: string): Promise<void> {
  faults.value[sheet.id] = answers === sheet.answers ? '' : await props.say(sheet, answers);
}
</script>

<template>
  <div>
    <p class="chips" role="group" aria-label="Only those">
      <ActButton :class="['chip', { on: only === '' }]" :aria-pressed="only === ''" @click="only = ''"
        >All {{ view.sheets.length }}</ActButton
      >
      <ActButton
        v-for="[state, n] in chips"
        :key="state"
        :class="['chip', { on: only === state }]"
        :aria-pressed="only === state"
        @click="only = state"
      >
        {{ WORDS[state] }} {{ n }}
      </ActButton>
    </p>
    <PlainTable>
      <thead>
        <tr>
          <th class="num">Sheet</th>
          <th>Student</th>
          <th v-if="view.setting.forms > 1">Paper</th>
          <th>Answers, as BDA-C; several in brackets</th>
          <th>State</th>
          <th class="num">Score</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in shown" :key="s.id">
          <td class="num soft">{{ s.number }}</td>
          <td class="name">
            <template v-if="s.enrolmentId">{{ s.name }}</template>
            <ChoiceField v-else :aria-label="`Whose sheet ${s.number} is`" :model-value="''" @change="emit('owner', s, $event)">
              <option value="">a spare sheet; whose?</option>
              <option v-for="p in people" :key="p.enrolmentId" :value="p.enrolmentId">{{ p.name }}</option>
            </ChoiceField>
          </td>
          <td v-if="view.setting.forms > 1">{{ s.form }}</td>
          <td class="answers">
            <LineInput
              :key="s.answers"
              :value="s.answers"
              class="mono"
              spellcheck="false"
              autocomplete="off"
              :aria-label="`Answers of ${s.name || `sheet ${s.number}`}`"
              :placeholder="s.state === 'nothing yet' ? 'not scanned yet; type them' : ''"
              @commit="commit(s, $event)"
            />
            <p v-if="faults[s.id]" class="fault" role="alert">{{ faults[s.id] }}</p>
          </td>
          <td :class="['soft', { clay: s.state === 'doubts' || s.state === 'pages missing' || s.state === 'changed since' }]">
            {{ WORDS[s.state] }}
          </td>
          <td class="num">
            <router-link
              v-if="s.attemptId && s.scoreText"
              :to="{ name: 'quiz-attempt', params: { ...route.params, attemptId: s.attemptId } }"
              >{{ s.scoreText }}</router-link
            >
          </td>
          <td class="end">
            <ActButton v-if="s.attemptId" look="act" @click="emit('back', s)">take back</ActButton>
            <a v-else-if="canPrint" :href="urlOf(api.getSheets, { ...base, sheet: s.id })" download>print</a>
          </td>
        </tr>
      </tbody>
    </PlainTable>
  </div>
</template>

<style scoped>
.chips {
  display: flex;
  gap: 4px;
  margin: 6px 0;
}
.plain td,
.plain th {
  padding: 4px 14px 4px 0;
}
.name {
  white-space: nowrap;
}
.answers {
  width: 46%;
}
.mono {
  font-family: 'Source Sans 3 Variable', sans-serif;
  letter-spacing: 0.08em;
  width: 100%;
}
.end {
  white-space: nowrap;
}
</style>
