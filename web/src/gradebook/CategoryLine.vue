<script setup lang="ts">
import type { PolicyCategory } from '@rosemary/api';
import { countOf, formatPoints, parsePoints, pointsInWords, type LatePolicy } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import ActionMenu from '../parts/ActionMenu.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineInput from '../parts/LineInput.vue';
import LateWords from './LateWords.vue';
import NumberWord from './NumberWord.vue';

/** One category as a sentence whose words are changed in place. */
const props = defineProps<{
  category: PolicyCategory;
  /** As it stands in the policy that holds now; null where it is new. */
  was: PolicyCategory | null;
  courseLate: LatePolicy;
  /** What is built in it: how many columns, and how many points they have together. */
  built: { readonly pieces: number; readonly points: number };
  /** The grading periods, with what is built in each; none where the course is one whole. */
  periods: readonly { readonly id: string; readonly title: string; readonly pieces: number; readonly points: number }[];
  others: readonly { readonly id: string | null; readonly title: string }[];
  place: 'first' | 'middle' | 'last' | 'only';
}>();
const emit = defineEmits<{
  edit: [change: Partial<PolicyCategory>];
  fault: [text: string];
  move: [by: -1 | 1];
  remove: [goesTo: string | null];
}>();
const c = computed(() => props.category);
const isRemoving = ref(false);
const goesTo = ref<string | null>(null);
const keeps = computed(() => (c.value.keepBest > 0 ? 'best' : c.value.dropLowest > 0 ? 'lowest' : 'all'));
const declaresByPeriod = computed(() => props.periods.length > 0 && c.value.declaredIn.length > 0);
const declares = computed(() => declaresByPeriod.value || c.value.declaredItems > 0 || c.value.declaredPoints > 0);
/** What is said of each period, with what is built of it. */
const declared = computed(() =>
  props.periods.map((p) => {
    const said = c.value.declaredIn.find((d) => d.periodId === p.id);
    const items = said?.items ?? 0;
    return { ...p, items, said: said?.points ?? 0, toCome: Math.max(0, items - p.pieces) };
  }),
);
const toCome = computed(() => Math.max(0, c.value.declaredItems - props.built.pieces));
function setPercent(text: string): void {
  const p = parsePoints(text);
  if (p.ok && p.value <= 1_000_000) emit('edit', { weightPercent: p.value });
  else emit('fault', `Weight of ${c.value.title}: ${p.ok ? 'at most 1000 %.' : p.reason}`);
}
function setKeeping(how: unknown): void {
  emit('edit', {
    dropLowest: how === 'lowest' ? Math.max(1, c.value.dropLowest) : 0,
    keepBest: how === 'best' ? Math.max(1, c.value.keepBest) : 0,
  });
}
function setWhole(field: 'dropLowest' | 'keepBest' | 'dropHighest' | 'declaredItems', text: string, most: number): void {
  if (/^\d{1,3}$/.test(text) && Number(text) <= most) emit('edit', { [field]: Number(text) });
  else emit('fault', `“${text}” in ${c.value.title} is not a whole number from 0 to ${most}.`);
}
function setDeclaredPoints(text: string): void {
  const p = parsePoints(text);
  if (p.ok) emit('edit', { declaredPoints: p.value });
  else emit('fault', `Points that ${c.value.title} will hold: ${p.reason}`);
}
/** What is typed of one period; the others are said as they are shown. */
function setDeclared(periodId: string, change: { readonly items?: number; readonly points?: number }): void {
  const next = declared.value.map((d) => ({ periodId: d.id, items: d.items, points: d.said, ...(d.id === periodId ? change : {}) }));
  emit('edit', { declaredIn: next });
}
function setPeriodItems(periodId: string, text: string): void {
  if (/^\d{1,3}$/.test(text) && Number(text) <= 500) setDeclared(periodId, { items: Number(text) });
  else emit('fault', `“${text}” in ${c.value.title} is not a whole number from 0 to 500.`);
}
function setPeriodPoints(periodId: string, text: string): void {
  const p = parsePoints(text);
  if (p.ok) setDeclared(periodId, { points: p.value });
  else emit('fault', `Points that ${c.value.title} will hold: ${p.reason}`);
}
const asBuilt = () => ({ declaredItems: props.built.pieces, declaredPoints: props.built.points });
const nothing = { declaredItems: 0, declaredPoints: 0 } as const;
function act(does: string): void {
  const acts: { readonly [does: string]: () => void } = {
    late: () => emit('edit', { late: c.value.late === null ? props.courseLate : null }),
    extra: () => emit('edit', { isExtraCredit: !c.value.isExtraCredit }),
    cap: () => emit('edit', { isCapped: !c.value.isCapped }),
    highest: () => emit('edit', { dropHighest: c.value.dropHighest > 0 ? 0 : 1 }),
    declare: () => emit('edit', declares.value ? { ...nothing, declaredIn: [] } : { ...asBuilt(), declaredIn: [] }),
    whole: () => emit('edit', { ...asBuilt(), declaredIn: [] }),
    periods: () =>
      emit('edit', { ...nothing, declaredIn: props.periods.map((p) => ({ periodId: p.id, items: p.pieces, points: p.points })) }),
    up: () => emit('move', -1),
    down: () => emit('move', 1),
    remove: () => {
      if (props.built.pieces === 0) emit('remove', null);
      else isRemoving.value = true;
    },
  };
  acts[does]?.();
}
</script>

<template>
  <div class="category">
    <LineInput
      class="title"
      is-word
      is-quiet
      :value="c.title"
      :size="Math.max(6, c.title.length)"
      maxlength="60"
      aria-label="Category"
      @commit="emit('edit', { title: $event })"
    />
    count
    <NumberWord
      :value="formatPoints(c.weightPercent)"
      :label="`Weight of ${c.title}`"
      :was="was && was.weightPercent !== c.weightPercent ? formatPoints(was.weightPercent) : null"
      @set="setPercent"
    />
    % <template v-if="c.isExtraCredit">on top of the whole, </template>by
    <ChoiceField
      is-word
      :model-value="c.method"
      :aria-label="`Method of ${c.title}`"
      @change="emit('edit', { method: $event as 'points' })"
    >
      <option value="points">points</option>
      <option value="share">equal share</option></ChoiceField
    >,
    <ChoiceField is-word :model-value="keeps" :aria-label="`What is left out of ${c.title}`" @change="setKeeping">
      <option value="all">leaving nothing out</option>
      <option value="lowest">leaving out the lowest</option>
      <option value="best">keeping only the best</option> </ChoiceField
    ><template v-if="keeps === 'lowest'"
      >{{ ' '
      }}<NumberWord
        :value="String(c.dropLowest)"
        :label="`How many of the lowest are left out of ${c.title}`"
        @set="setWhole('dropLowest', $event, 50)" /></template
    ><template v-else-if="keeps === 'best'"
      >{{ ' '
      }}<NumberWord
        :value="String(c.keepBest)"
        :label="`How many of the best are kept in ${c.title}`"
        @set="setWhole('keepBest', $event, 50)" /></template
    ><template v-if="c.dropHighest > 0">
      and the highest
      <NumberWord
        :value="String(c.dropHighest)"
        :label="`How many of the highest are left out of ${c.title}`"
        @set="setWhole('dropHighest', $event, 50)" /></template
    ><template v-if="c.isCapped">, at most 100 %</template>.
    <span v-if="declaresByPeriod">
      <template v-for="(d, n) in declared" :key="d.id"
        >{{ n === 0 ? 'In' : ' In' }} {{ d.title }} it will hold
        <NumberWord
          :value="String(d.items)"
          :label="`Pieces that ${c.title} will hold in ${d.title}`"
          @set="setPeriodItems(d.id, $event)"
        />
        pieces of
        <NumberWord
          :value="formatPoints(d.said)"
          :label="`Points that ${c.title} will hold in ${d.title}`"
          @set="setPeriodPoints(d.id, $event)"
        />
        points together: {{ d.pieces }} built, {{ d.toCome }} to come.</template
      ></span
    >
    <span v-else-if="declares"
      >It will hold
      <NumberWord
        :value="String(c.declaredItems)"
        :label="`Pieces that ${c.title} will hold`"
        @set="setWhole('declaredItems', $event, 500)"
      />
      pieces of
      <NumberWord :value="formatPoints(c.declaredPoints)" :label="`Points that ${c.title} will hold`" @set="setDeclaredPoints" />
      points together: {{ built.pieces }} built, {{ toCome }} to come.</span
    >
    <span v-if="c.late"
      >Late work in it
      <LateWords :late="c.late" :about="` of ${c.title}`" @set="emit('edit', { late: $event })" @fault="emit('fault', $event)" />
    </span>
    <ActionMenu words="more" class="minor" :label="`What can be done with ${c.title}`" @choose="act">
      <option value="extra">{{ c.isExtraCredit ? 'No extra credit' : 'Make it extra credit' }}</option>
      <option value="cap">{{ c.isCapped ? 'No cap' : 'Cap it at 100 %' }}</option>
      <option v-if="c.method === 'share' || c.dropHighest > 0" value="highest">
        {{ c.dropHighest > 0 ? 'Leave no highest out' : 'Leave out the highest too' }}
      </option>
      <option value="declare">{{ declares ? 'Say nothing of how much it will hold' : 'Say how much it will hold' }}</option>
      <option v-if="periods.length > 0 && !declaresByPeriod" value="periods">Say how much it will hold in each period</option>
      <option v-if="declaresByPeriod" value="whole">Say it for the whole course instead</option>
      <option value="late">{{ c.late === null ? 'Give it a late rule of its own' : 'Late work as in the course' }}</option>
      <option v-if="place === 'middle' || place === 'last'" value="up">Move up</option>
      <option v-if="place === 'middle' || place === 'first'" value="down">Move down</option>
      <option value="remove">{{ built.pieces > 0 ? 'Remove or merge…' : 'Remove' }}</option>
    </ActionMenu>
    <p v-if="isRemoving" class="where" role="group" :aria-label="`Where the columns of ${c.title} go`">
      Its {{ countOf(built.pieces, 'column') }} ({{ pointsInWords(built.points) }}) {{ built.pieces === 1 ? 'goes' : 'go' }} to
      <ChoiceField v-model="goesTo" is-word :aria-label="`Category that takes the columns of ${c.title}`">
        <option :value="null">no category</option>
        <option v-for="o in others" :key="o.id ?? o.title" :value="o.id">{{ o.title }}</option></ChoiceField
      >. <ActButton look="act" @click="emit('remove', goesTo)">Remove “{{ c.title }}”</ActButton> ·
      <ActButton look="act" @click="isRemoving = false">Keep it</ActButton>
    </p>
  </div>
</template>

<style scoped>
.category {
  padding: 3px 0 5px;
}
.title {
  color: var(--ink);
}
.where {
  border-left: 3px solid var(--straw);
  padding-left: 12px;
}
</style>
