<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { AgreeRow, FinalRow, FinalsView, RowHistoryEntry } from '@rosemary/api';
import { ACTIVITIES, dayAndTime, parsePoints, registrarLetter, ROW_STATES } from '@rosemary/core';
import { computed, onMounted, ref, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import DateField from '../parts/DateField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';
import { call } from '../platform/call.ts';
import { useDraft } from '../platform/kept.ts';
import { useCourse } from '../stores/courseStore.ts';
import { asCalculated, stageOf } from './useFinals.ts';

/** One student’s final grade: what is calculated, what is agreed with all that the registrar needs of it, and its way so far. */
const props = defineProps<{ courseId: string; row: FinalRow; view: FinalsView; isBusy: boolean }>();
const emit = defineEmits<{ agree: [row: AgreeRow]; close: []; takeBack: [] }>();
const course = useCourse();
interface Typed {
  letter: string | null;
  number: string;
  reason: string;
  lastDay: string | null;
  lastDayFrom: string;
  expiresOn: string | null;
  lapsesTo: string | null;
}
const draft = useDraft<Typed>(() => `final ${props.courseId} ${props.row.enrolmentId}`);
const standing = (): Typed => {
  const { agreed } = props.row;
  const { lastDay, lastDayFrom } = asCalculated(props.row);
  return {
    letter: agreed?.isOverride === true ? agreed.sentLetter : null,
    number: agreed?.isOverride === true ? (agreed.percent ?? '') : '',
    reason: agreed?.reason ?? '',
    lastDay,
    lastDayFrom,
    expiresOn: agreed?.expiresOn ?? null,
    lapsesTo: agreed?.lapsesTo ?? null,
  };
};
const typed = ref<Typed>({ ...standing(), ...draft.find() });
watch(
  typed,
  (now) => {
    draft.keep(now);
  },
  { deep: true },
);
const history = ref<readonly RowHistoryEntry[]>([]);
onMounted(async () => {
  const read = await call(api.getFinalHistory, { courseId: props.courseId, enrolmentId: props.row.enrolmentId }).catch(() => null);
  history.value = read?.entries ?? [];
});
/** What the registrar holds is corrected, not taken back. */
const isHeld = computed(() => stageOf(props.row) === 'held' || stageOf(props.row) === 'under way');
const name = computed(() => `${props.row.givenName} ${props.row.familyName}`);
const letters = computed(() => props.view.rules?.letters ?? []);
const letter = computed(() => typed.value.letter ?? props.row.calculated.sentLetter);
const known = computed(() => (props.view.rules === null || letter.value === null ? null : registrarLetter(props.view.rules, letter.value)));
const isIncomplete = computed(() => known.value?.isIncomplete === true);
const finalLetters = computed(() => letters.value.filter((l) => !l.isIncomplete));
/** A day of the calendar, as the field of dates holds it. */
const asDay = (iso: string | null): string | null => (iso === null ? null : iso.slice(0, 10));
function takeDay(day: string, from: string): void {
  typed.value = { ...typed.value, lastDay: day, lastDayFrom: from };
}
const fault = ref('');
function agree(): void {
  const typedNumber = typed.value.number.trim();
  const number = typedNumber === '' ? null : parsePoints(typedNumber);
  fault.value = number?.ok === false ? `Number: ${number.reason}` : '';
  if (number?.ok === false) return;
  const { letter: sentLetter, reason, lastDay, lastDayFrom, expiresOn, lapsesTo } = typed.value;
  draft.forget();
  emit('agree', {
    number: number?.value ?? null,
    ...{ enrolmentId: props.row.enrolmentId, sentLetter, reason: reason.trim(), lastDay, lastDayFrom },
    expiresOn: isIncomplete.value ? expiresOn : null,
    lapsesTo: isIncomplete.value ? lapsesTo : null,
    seenPercent: props.row.calculated.percent,
  });
}
const when = (iso: string): string => dayAndTime(Date.parse(iso), course.zone, course.now);
</script>

<template>
  <aside class="inspector" aria-label="Final grade">
    <div class="top spread">
      <h3>{{ name }}</h3>
      <ActButton look="act" aria-label="Close" @click="emit('close')">close</ActButton>
    </div>
    <p v-if="row.standing !== 'enrolled'" class="soft">
      {{ row.standing === 'withdrawn' ? 'Withdrew from the course.' : 'Only listens, and is not graded.' }}
    </p>
    <p>
      Calculated:
      <router-link :to="{ name: 'gradebook', params: { courseId } }">{{
        row.calculated.percent === null ? 'nothing yet' : `${row.calculated.percent} %, ${row.calculated.letter ?? 'no letter'}`
      }}</router-link><template v-if="row.calculated.letter !== null"
        >, for the registrar <b>{{ row.calculated.sentLetter ?? 'nothing, since he has no letter for it' }}</b></template
      >.
    </p>
    <p v-if="row.agreed">
      Agreed: <b>{{ row.agreed.sentLetter }}</b>, {{ row.agreed.who }}, {{ when(row.agreed.at)
      }}{{ row.agreed.reason ? `: ${row.agreed.reason}` : '' }}
      <ActButton v-if="!isHeld" look="act" :disabled="isBusy" @click="emit('takeBack')">Take back</ActButton>
    </p>
    <p v-if="row.moved" class="clay">
      Was {{ row.moved.from }} when it was agreed, and is {{ row.moved.to }} now{{ row.moved.by ? `: ${row.moved.by}` : '' }}. What was
      agreed stands until you agree anew.
    </p>
    <p v-for="f in row.faults" :key="f" class="fault">{{ f }}</p>
    <p v-if="row.row && row.row.says" class="fault">{{ row.row.says }} {{ row.row.mend }}</p>
    <form v-if="view.rules" @submit.prevent="agree">
      <div class="field">
        Letter
        <ChoiceField v-model="typed.letter" aria-label="Letter that is agreed">
          <option :value="null">as calculated{{ row.calculated.sentLetter ? `: ${row.calculated.sentLetter}` : '' }}</option>
          <option v-for="l in letters" :key="l.letter" :value="l.letter">{{ l.letter }}{{ l.isIncomplete ? ', incomplete' : '' }}</option>
        </ChoiceField>
      </div>
      <label v-if="view.rules.takesNumber" class="field"
        >Number, in percent
        <LineField v-model="typed.number" inputmode="decimal" :placeholder="row.calculated.percent ?? '—'" />
      </label>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <label v-if="(typed.letter !== null && typed.letter !== row.calculated.sentLetter) || typed.number !== ''" class="field"
        >Why it stands instead of the calculated one
        <LineField v-model="typed.reason" maxlength="600" />
      </label>
      <template v-if="isIncomplete && view.rules.takesExpiry">
        <DateField
          :model-value="typed.expiresOn"
          label="May be finished until"
          is-day
          :zone="course.zone"
          :now="course.now"
          @change="typed.expiresOn = asDay($event)"
        />
        <div v-if="view.rules.takesLapse" class="field">
          Becomes, when nothing comes
          <ChoiceField v-model="typed.lapsesTo" aria-label="The letter it becomes when nothing comes">
            <option :value="null">not chosen</option>
            <option v-for="l in finalLetters" :key="l.letter" :value="l.letter">{{ l.letter }}</option>
          </ChoiceField>
        </div>
      </template>
      <template v-if="view.rules.takesLastDay && known?.needsLastDay">
        <DateField
          :model-value="typed.lastDay"
          label="Last day of attendance"
          is-day
          :zone="course.zone"
          :now="course.now"
          @change="takeDay(asDay($event) ?? '', '')"
        />
        <p v-if="row.lastDays.length === 0" class="soft">Nothing was recorded of this student within the term.</p>
        <p v-for="o in row.lastDays" :key="o.kind">
          <ActButton look="act" @click="takeDay(o.day, o.title)">{{ o.day }}</ActButton>
          <span class="soft"> {{ ACTIVITIES[o.kind] }}: {{ o.title }}</span>
        </p>
      </template>
      <p class="form-acts">
        <ActButton look="go" type="submit" :disabled="isBusy">{{ row.agreed ? 'Agree anew' : 'Agree' }}</ActButton>
      </p>
    </form>
    <template v-if="history.length > 0">
      <h4>On its way</h4>
      <ol class="bare-list">
        <li v-for="(e, n) in history" :key="n">
          <div>{{ ROW_STATES[e.state] }}{{ e.said ? `: ${e.said}` : '' }}</div>
          <div class="label">{{ e.who }}, {{ when(e.at) }}</div>
        </li>
      </ol>
    </template>
  </aside>
</template>

<style scoped>
li {
  padding: 4px 0;
}
</style>
