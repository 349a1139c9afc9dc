<script setup lang="ts">
import type { PlanItem } from '@rosemary/api';
import { countOf, kindOfItem } from '@rosemary/core';
import { computed } from 'vue';
import DateField from '../parts/DateField.vue';
import PickMark from '../parts/fields/PickMark.vue';
import TextField from '../parts/fields/TextField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { atClockOf, type ClassLine, commonOf, type Wish } from './wishes.ts';

/** When and how what is chosen in the grid is given: what is set here is set for all of it. */
export interface ChosenPlace {
  readonly item: PlanItem;
  readonly to: ClassLine;
  /** Null where nothing is given yet. */
  readonly wish: Wish | null;
}
const props = defineProps<{ places: readonly ChosenPlace[]; now: number }>();
const emit = defineEmits<{ how: [how: Wish['how'] | 'not']; set: [change: (place: ChosenPlace) => Partial<Wish>] }>();
const heading = computed(() => {
  const [items, classes] = [new Set(props.places.map((p) => p.item.title)), new Set(props.places.map((p) => p.to.name))];
  const what = items.size === 1 ? `“${[...items][0] ?? ''}”` : countOf(items.size, 'item');
  return `${what} for ${classes.size === 1 ? ([...classes][0] ?? '') : countOf(classes.size, 'class', 'classes')}`;
});
const given = computed(() => props.places.filter((p): p is ChosenPlace & { wish: Wish } => p.wish !== null));
const how = computed(() => commonOf(props.places.map((p) => p.wish?.how ?? 'not')));
const zone = computed(() => props.places[0]?.to.place.zone ?? 'UTC');
const zones = computed(() => [...new Set(props.places.map((p) => p.to.place.zone))]);
const hows = computed(() => new Set(given.value.map((p) => p.wish.how)));
/** By the clock of each class, so that two in other time zones can have the same. */
const dateOf = (field: 'opensAt' | 'dueAt'): string | null =>
  commonOf(given.value.map((p) => atClockOf(p.wish[field], p.to.place.zone, zone.value))) ?? null;
const differs = (field: 'opensAt' | 'dueAt'): boolean =>
  commonOf(given.value.map((p) => atClockOf(p.wish[field], p.to.place.zone, zone.value))) === undefined;
const noteOf = computed(() => commonOf(given.value.map((p) => p.to.place.dates.find((d) => d.itemId === p.item.id)?.note ?? '')) ?? '');
const setDate = (field: 'opensAt' | 'dueAt', at: string | null): void => {
  emit('set', (place) => ({ [field]: atClockOf(at, zone.value, place.to.place.zone) }));
};
const hint = (field: 'opensAt' | 'dueAt'): string | null => {
  if (differs(field)) return 'They differ; a date set here is set for all of them.';
  if (zones.value.length > 1) return 'By the clock of each class: they are in different time zones.';
  return field === 'dueAt' && noteOf.value !== '' ? noteOf.value : null;
};
const wordless = computed(() => given.value.filter((p) => !kindOfItem(p.item.kind).hasText));
const words = computed(() => commonOf(given.value.map((p) => p.wish.words)));
const tells = computed(() => given.value.some((p) => p.wish.tells && p.wish.how !== 'draft'));
const HOWS = [
  ['not', 'not given'],
  ['draft', 'as a draft, which no student sees'],
  ['now', 'open at once'],
  ['later', 'opens at a time'],
] as const;
</script>

<template>
  <aside class="inspector" aria-label="How it is given">
    <p v-if="places.length === 0" class="soft">
      Choose places in the grid: click one, drag over several, or press Shift and an arrow. What is set here is set for all that is chosen.
    </p>
    <template v-else>
      <h3>{{ heading }}</h3>
      <div role="radiogroup" aria-label="Given">
        <label v-for="[value, text] in HOWS" :key="value" class="choice-line"
          ><PickMark :model-value="how" name="given" :value="value" @update:model-value="emit('how', value)" /> {{ text }}</label
        >
      </div>
      <template v-if="given.length > 0">
        <DateField
          v-if="hows.has('later')"
          :model-value="dateOf('opensAt')"
          label="Opens"
          time="08:00"
          :zone="zone"
          :now="now"
          :hint="hint('opensAt')"
          @change="setDate('opensAt', $event)"
        />
        <DateField
          :model-value="dateOf('dueAt')"
          label="Due"
          :zone="zone"
          :now="now"
          :hint="hint('dueAt')"
          @change="setDate('dueAt', $event)"
        />
        <label v-if="wordless.length < given.length" class="field"
          ><span class="label">Said first to the class, before the text of the item</span
          ><TextField
            rows="3"
            maxlength="2000"
            :model-value="words ?? ''"
            :placeholder="words === undefined ? 'They differ; what is written here is said in all of them.' : ''"
            @update:model-value="emit('set', (place) => (kindOfItem(place.item.kind).hasText ? { words: $event ?? '' } : {}))"
          />
        </label>
        <p v-if="wordless.length > 0" class="soft">
          “{{ wordless[0]?.item.title }}” is a {{ kindOfItem(wordless[0]!.item.kind).word }} and has no text to say something before.
        </p>
        <label v-if="hows.has('now') || hows.has('later')" class="tick-line"
          ><TickBox :model-value="tells" @update:model-value="emit('set', () => ({ tells: $event === true }))" /> tell the students when it
          opens</label
        >
        <p v-if="tells" class="soft">As an announcement with the due date, one for all that opens to a class at the same time.</p>
      </template>
    </template>
  </aside>
</template>

<style scoped>
.inspector > * + * {
  margin-top: 10px;
}
</style>
