<script setup lang="ts">
import {
  beginSupposing,
  formatPoints,
  neededFor,
  parsePoints,
  pointsInWords,
  shareInWords,
  supposeTotals,
  type SchemeLevel,
  type SupposeFacts,
} from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';
import { useChosen } from '../platform/kept.ts';

/** Results that are not there yet, typed to see what they would make of the grade. They stay in this browser and change nothing. */
const props = defineProps<{ courseId: string; facts: SupposeFacts; levels: readonly SchemeLevel[]; showsRange: boolean }>();
const typed = useChosen<Record<string, string>>(() => `suppose ${props.courseId}`, {});
const supposing = computed(() => beginSupposing(props.facts));
/** What is typed in points, or as a percentage of them. */
function read(text: string, possible: number): number | string | null {
  const clean = text.trim();
  if (clean === '') return null;
  const share = /^(.+?)\s*%$/.exec(clean);
  const parsed = parsePoints(share?.[1] ?? clean);
  if (!parsed.ok) return share === null ? parsed.reason : `“${text}” is not a percentage. Type digits, such as 80 %.`;
  const value = share === null ? parsed.value : Math.round((parsed.value * possible) / 100_000);
  return value > possible ? `That is more than the ${pointsInWords(possible)}.` : value;
}
const lines = computed(() =>
  supposing.value.open.map((column) => ({
    column,
    text: typed.value[column.id] ?? '',
    value: read(typed.value[column.id] ?? '', column.possible),
  })),
);
const supposed = computed(
  () => new Map(lines.value.flatMap(({ column, value }): [string, number][] => (typeof value === 'number' ? [[column.id, value]] : []))),
);
const totals = computed(() => supposeTotals(supposing.value, supposed.value));
const isAnything = computed(() => Object.values(typed.value).some((text) => text.trim() !== ''));
function type(id: string, text: unknown): void {
  typed.value = { ...typed.value, [id]: String(text ?? '') };
}
const goal = ref<string | null>(null);
const letters = computed(() => props.levels.filter((level) => level.cutPoint > 0));
/** What is aimed at: what was chosen, else the next letter above the one that stands now, else the highest. */
const level = computed(() => {
  const now = letters.value.find((one) => one.label === totals.value.soFar?.letter)?.cutPoint ?? 0;
  const above = letters.value.filter((one) => one.cutPoint > now).at(-1);
  return letters.value.find((one) => one.label === goal.value) ?? above ?? letters.value[0] ?? null;
});
const needed = computed(() => (level.value === null ? null : neededFor(supposing.value, supposed.value, level.value.cutPoint)));
const aloneAt = (id: string): string => {
  const found = needed.value?.alone.find((one) => one.column.id === id);
  if (found === undefined) return '';
  return found.points === null
    ? 'more than full marks'
    : found.points === 0
      ? 'whatever comes'
      : `${formatPoints(found.points)} of ${formatPoints(found.column.possible)}`;
};
</script>

<template>
  <section class="suppose" aria-label="Suppose">
    <p class="soft">Type results that you do not have yet. They stay in this browser, change nothing, and nobody sees them.</p>
    <p v-if="lines.length === 0" class="soft">There is nothing left that can still bring a result.</p>
    <template v-else>
      <p class="made" aria-live="polite">
        So far <b>{{ totals.soFar ? `${totals.soFar.percent} %` : 'no total yet' }}</b>
        <b v-if="totals.soFar?.letter" class="letter">{{ totals.soFar.letter }}</b>
        <span v-if="showsRange && totals.floor && totals.reach" class="soft">
          · if nothing more came {{ totals.floor.percent }} · if all the rest were perfect {{ totals.reach.percent }}</span
        >
        <ActButton v-if="isAnything" look="act" @click="typed = {}">Clear</ActButton>
      </p>
      <div v-if="level && needed" class="need">
        What would I need for
        <ChoiceField :model-value="level.label" is-word aria-label="Letter that is aimed at" @change="goal = $event as string">
          <option v-for="l in letters" :key="l.label" :value="l.label">
            {{ l.label }}, from {{ formatPoints(l.cutPoint) }} %
          </option> </ChoiceField
        >?
        <b v-if="needed.alone.length === 0">{{
          totals.soFar?.letter === level.label ? 'It is reached so.' : 'Everything is supposed already.'
        }}</b>
        <b v-else-if="needed.share === null">Even full marks in all the rest are not enough.</b>
        <b v-else-if="needed.share === 0">Nothing more: it is reached whatever comes.</b>
        <b v-else
          >{{ shareInWords(needed.share) }} in
          {{ needed.alone.length === 1 ? 'what is left' : `each of the ${needed.alone.length} that are left` }}.</b
        >
      </div>
      <PlainTable>
        <thead>
          <tr>
            <th>Not yet marked</th>
            <th>I suppose</th>
            <th v-if="level" class="num">For {{ level.label }}, in this alone</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in lines" :key="l.column.id">
            <td>{{ l.column.title }}</td>
            <td>
              <LineField
                :model-value="l.text"
                size="6"
                inputmode="decimal"
                :placeholder="`of ${formatPoints(l.column.possible)}`"
                :aria-label="`Supposed result of ${l.column.title}`"
                :aria-invalid="typeof l.value === 'string'"
                @update:model-value="type(l.column.id, $event)"
              />
              <p v-if="typeof l.value === 'string'" class="fault" role="alert">{{ l.value }}</p>
            </td>
            <td v-if="level" class="num soft">{{ typeof l.value === 'number' ? 'supposed' : aloneAt(l.column.id) }}</td>
          </tr>
        </tbody>
      </PlainTable>
    </template>
  </section>
</template>

<style scoped>
.suppose {
  margin-top: 6px;
}
.made {
  font-size: 17px;
  margin: 8px 0 4px;
}
.letter {
  color: var(--needle);
  margin-left: 6px;
}
.need {
  margin-bottom: 10px;
}
</style>
