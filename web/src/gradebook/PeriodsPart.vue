<script setup lang="ts">
import type { ColumnMove, PolicyChange, PolicyPeriod, PolicyView } from '@rosemary/api';
import { countOf, formatPoints, parsePoints } from '@rosemary/core';
import { computed } from 'vue';
import ActButton from '../parts/ActButton.vue';
import DateField from '../parts/DateField.vue';
import FoldOut from '../parts/FoldOut.vue';
import LineInput from '../parts/LineInput.vue';
import PlainTable from '../parts/PlainTable.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import { useCourse } from '../stores/courseStore.ts';
import NumberWord from './NumberWord.vue';

/** The grading periods of a course, and in which of them, and in which category, each column counts. */
const props = defineProps<{ draft: Pick<PolicyChange, 'periods' | 'categories' | 'moves' | 'total'>; columns: PolicyView['columns'] }>();
const emit = defineEmits<{ set: [change: Partial<PolicyChange>]; fault: [text: string] }>();
const course = useCourse();
const periods = computed(() => props.draft.periods);
const sum = computed(() => periods.value.reduce((total, p) => total + p.weightPercent, 0));
const edit = (period: PolicyPeriod, change: Partial<PolicyPeriod>): void => {
  emit('set', { periods: periods.value.map((p) => (p === period ? { ...p, ...change } : p)) });
};
function setWeight(period: PolicyPeriod, text: string): void {
  const p = parsePoints(text);
  if (p.ok && p.value <= 1_000_000) edit(period, { weightPercent: p.value });
  else emit('fault', `Weight of ${period.title}: ${p.ok ? 'at most 1000 %.' : p.reason}`);
}
/** The first two share the whole evenly; another begins with nothing. */
function add(): void {
  const fresh = (title: string, weightPercent: number): PolicyPeriod => ({ id: null, title, weightPercent, startsOn: null, endsOn: null });
  const { length } = periods.value;
  emit('set', {
    periods:
      length === 0 ? [fresh('First half', 50_000), fresh('Second half', 50_000)] : [...periods.value, fresh(`Period ${length + 1}`, 0)],
  });
}
const remove = (period: PolicyPeriod): void => {
  emit('set', {
    periods: periods.value.filter((p) => p !== period),
    moves: props.draft.moves.map((m) => (m.periodId === period.id ? { ...m, periodId: null } : m)),
  });
};
/** Where a column counts by the draft: as it was moved, else as it stands. */
const placeOf = (column: PolicyView['columns'][number]): ColumnMove =>
  props.draft.moves.find((m) => m.columnId === column.id) ?? {
    columnId: column.id,
    categoryId: column.categoryId,
    periodId: column.periodId,
  };
function move(column: PolicyView['columns'][number], change: Partial<ColumnMove>): void {
  const next = { ...placeOf(column), ...change };
  const rest = props.draft.moves.filter((m) => m.columnId !== column.id);
  const isAsBefore = next.categoryId === column.categoryId && next.periodId === column.periodId;
  emit('set', { moves: isAsBefore ? rest : [...rest, next] });
}
const byDate = (column: PolicyView['columns'][number]): string =>
  periods.value.find((p) => p.id !== null && p.id === column.inPeriodId)?.title ?? 'in each period: its date is in none';
const known = computed(() => periods.value.filter((p) => p.id !== null));
const loose = computed(() => props.columns.filter((c) => placeOf(c).periodId === null && c.inPeriodId === null).length);
</script>

<template>
  <div>
    <p v-if="periods.length === 0">
      The course is one whole, without grading periods. <ActButton look="act" class="minor" @click="add">Add grading periods</ActButton>
    </p>
    <template v-else>
      <div v-for="p in periods" :key="p.id ?? p.title" class="period" role="group" :aria-label="p.title">
        <span>
          <LineInput
            is-word
            is-quiet
            :value="p.title"
            :size="Math.max(6, p.title.length)"
            maxlength="60"
            aria-label="Grading period"
            @commit="edit(p, { title: $event })"
          />
          counts <NumberWord :value="formatPoints(p.weightPercent)" :label="`Weight of ${p.title}`" @set="setWeight(p, $event)" /> %</span
        >
        <DateField
          :model-value="p.startsOn"
          label="First day"
          is-day
          :zone="course.zone"
          :now="course.now"
          @change="edit(p, { startsOn: $event })"
        />
        <DateField
          :model-value="p.endsOn"
          label="Last day"
          is-day
          :zone="course.zone"
          :now="course.now"
          @change="edit(p, { endsOn: $event })"
        />
        <ActButton look="act" class="minor" :aria-label="`Remove ${p.title}`" @click="remove(p)">Remove</ActButton>
      </div>
      <p>
        The course total is their mean by weight<span v-if="sum !== 100000" class="clay"
          >; together they are {{ formatPoints(sum) }} %, so they are taken in proportion</span
        >. <ActButton look="act" class="minor" @click="add">Add grading period</ActButton>
      </p>
      <p v-if="loose > 0" class="clay">
        {{ countOf(loose, 'column') }} {{ loose === 1 ? 'has' : 'have' }} no date in any period and
        {{ loose === 1 ? 'counts' : 'count' }} in each. Choose a period for {{ loose === 1 ? 'it' : 'them' }} below.
      </p>
    </template>
    <FoldOut v-if="columns.length > 0 && (periods.length > 0 || draft.total === 'weights')" class="places">
      <template #summary>Where each column counts</template>
      <PlainTable>
        <thead>
          <tr>
            <th>Column</th>
            <th>Category</th>
            <th v-if="periods.length > 0">Grading period</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in columns" :key="c.id">
            <td>{{ c.title }}</td>
            <td>
              <ChoiceField
                :model-value="placeOf(c).categoryId"
                :aria-label="`Category of ${c.title}`"
                @change="move(c, { categoryId: $event as string | null })"
              >
                <option :value="null">none</option>
                <template v-for="k in draft.categories" :key="k.id ?? k.title"
                  ><option v-if="k.id" :value="k.id">{{ k.title }}</option></template
                >
              </ChoiceField>
            </td>
            <td v-if="periods.length > 0">
              <ChoiceField
                :model-value="placeOf(c).periodId"
                :aria-label="`Grading period of ${c.title}`"
                @change="move(c, { periodId: $event as string | null })"
              >
                <option :value="null">by its date: {{ byDate(c) }}</option>
                <option v-for="p in known" :key="p.id ?? ''" :value="p.id">{{ p.title }}</option>
              </ChoiceField>
            </td>
          </tr>
        </tbody>
      </PlainTable>
      <p v-if="known.length < periods.length || draft.categories.some((k) => k.id === null)" class="soft">
        What is new can be chosen here once it is applied.
      </p>
    </FoldOut>
  </div>
</template>

<style scoped>
.period {
  display: grid;
  grid-template-columns: 1fr 150px 150px 60px;
  gap: 0 16px;
  align-items: end;
  padding: 2px 0;
}
.period :deep(.field) {
  font: 14px/20px var(--sans);
  margin: 0 0 8px;
}
.places {
  font: 14px/22px var(--sans);
}
</style>
