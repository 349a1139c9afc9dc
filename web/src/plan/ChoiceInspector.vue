<script setup lang="ts">
import type { BatchFields, Plan, PlanItem } from '@rosemary/api';
import { moveDates, countOf } from '@rosemary/core';
import { computed, ref } from 'vue';
import DateField from '../parts/DateField.vue';
import WhomSelect from '../parts/WhomSelect.vue';
import { askedByItems } from './amounts.ts';
import SpreadField from './SpreadField.vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import ActionMenu from '../parts/ActionMenu.vue';

const props = defineProps<{
  items: readonly PlanItem[];
  of: number;
  plan: Plan;
  zone: string;
  now: number;
}>();
const emit = defineEmits<{
  change: [fields: ReadonlyMap<string, BatchFields>, words: string];
  move: [unitId: string];
  duplicate: [];

  remove: [];
  clear: [];
}>();
const days = ref('');
const minutes = ref('');
const fault = ref('');
const isSpreading = ref(false);
const many = computed(() => `${props.items.length} ${props.items.length === 1 ? 'item' : 'items'}`);
const sum = computed(() => askedByItems(props.items));
const on = computed(() => props.items.filter((i) => !i.isOff));
const off = computed(() => props.items.filter((i) => i.isOff));
const drafts = computed(() => on.value.filter((i) => i.isDraft).length);
const DATES = ['announcedAt', 'opensAt', 'dueAt', 'closesAt'] as const;

function all(fields: BatchFields, words: string, of = props.items): void {
  fault.value = '';
  emit('change', new Map(of.map((i) => [i.id, fields])), words);
}
const these = (some: readonly PlanItem[]): string => countOf(some.length, 'item');
function shift(): void {
  const by = Number(days.value.trim().replace('−', '-').replace('+', ''));
  if (!/^[+−-]?\d{1,3}$/.test(days.value.trim()) || by === 0) {
    fault.value = `“${days.value}” is not a number of days, such as 7 or -2.`;
    return;
  }
  fault.value = '';
  const dated = props.items.filter((i) => DATES.some((d) => i[d] !== null));
  emit(
    'change',
    new Map(dated.map((i) => [i.id, moveDates(i, by, props.zone)])),
    `The dates of ${dated.length} ${dated.length === 1 ? 'item are' : 'items are'} moved by ${by === 1 ? 'a day' : `${by} days`}.`,
  );
  days.value = '';
}
function setMinutes(): void {
  const text = minutes.value.trim();
  if (!/^\d{1,4}$/.test(text)) {
    fault.value = `“${text}” is not a whole number of minutes.`;
    return;
  }
  all({ estimatedMinutes: Number(text) }, `${many.value} now take ${countOf(text, 'minute')}.`);
  minutes.value = '';
}
</script>

<template>
  <aside class="inspector" aria-label="Chosen items">
    <div class="top">
      <span class="label">{{ items.length }} of {{ of }} chosen</span><ActButton look="act" @click="emit('clear')">choose none</ActButton>
    </div>
    <h3>{{ many }}</h3>
    <p class="label">{{ sum }}</p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <SpreadField
      v-if="isSpreading"
      :items="items"
      :term="plan.term"
      :zone="zone"
      :now="now"
      @leave="isSpreading = false"
      @apply="
        emit('change', $event, `${many} are spread over the teaching days.`);
        isSpreading = false;
      "
    />
    <template v-else>
      <form class="line" @submit.prevent="shift">
        <label class="field"
          ><span class="label">Move all their dates by days</span
          ><LineField v-model="days" inputmode="numeric" placeholder="7 or -2" /></label
        ><ActButton type="submit" look="quiet">Move</ActButton>
      </form>
      <DateField
        :model-value="null"
        label="Due, for all of them"
        :zone="zone"
        :now="now"
        @change="all({ dueAt: $event }, `${many} are due then.`)"
      />
      <p><ActButton look="act" @click="isSpreading = true">Spread them over the teaching days…</ActButton></p>
      <p class="states">
        <ActButton
          v-if="drafts > 0"
          look="act"
          @click="all({ isDraft: false }, `${countOf(on.length, 'item is', 'items are')} open by date.`, on)"
        >
          Open {{ drafts === items.length ? 'them' : drafts === 1 ? 'the one draft' : `the ${drafts} drafts` }}
        </ActButton>
        <ActButton
          v-if="drafts < on.length"
          look="act"
          @click="
            all(
              { isDraft: true },
              `${countOf(on.length, 'item is a draft: no student sees it', 'items are drafts: no student sees them')}.`,
              on,
            )
          "
        >
          Make them drafts
        </ActButton>
        <ActButton
          v-if="on.length > 0"
          look="act"
          @click="all({ isOff: true }, `Switched off: ${these(on)}. Students see nothing of what is off, and it counts nowhere.`, on)"
        >
          Switch {{ off.length === 0 ? 'them' : these(on) }} off
        </ActButton>
        <ActButton v-if="off.length > 0" look="act" @click="all({ isOff: false }, `On again as before: ${these(off)}.`, off)">
          Switch {{ on.length === 0 ? 'them' : these(off) }} on
        </ActButton>
      </p>
      <div class="field">
        <ActionMenu
          words="Set their category"
          @choose="all({ categoryId: $event === 'none' ? null : $event }, `${many} have another category.`)"
        >
          <option v-for="c in plan.categories" :key="c.id" :value="c.id">{{ c.title }}</option>
          <option value="none">none</option>
        </ActionMenu>
      </div>
      <div class="field">
        <WhomSelect
          label="For a section or a student, all of them"
          words="Show them only to"
          :taken="[]"
          @choose="
            all(
              { audience: [{ sectionId: $event.sectionId, enrolmentId: $event.enrolmentId, groupId: $event.groupId }] },
              `${many} are for ${$event.name} only.`,
            )
          "
        />
        <ActButton v-if="items.some((i) => i.audience.length > 0)" look="act" @click="all({ audience: [] }, `${many} are for everyone.`)">
          for everyone
        </ActButton>
      </div>
      <form class="line" @submit.prevent="setMinutes">
        <label class="field"
          ><span class="label">Minutes for a student, each</span><LineField v-model="minutes" inputmode="numeric" /></label
        ><ActButton type="submit" look="quiet">Set</ActButton>
      </form>
      <div class="field">
        <ActionMenu words="Move to the unit" @choose="emit('move', $event)">
          <option v-for="u in plan.units" :key="u.id" :value="u.id">{{ u.title }}</option>
        </ActionMenu>
      </div>
      <p>
        <router-link
          :to="{ name: 'give', params: { courseId: $route.params.courseId }, query: { items: items.map((i) => i.id).join(',') } }"
          >Give to classes: sections and other courses</router-link
        >
      </p>
      <div class="foot">
        <ActButton look="act" @click="emit('duplicate')">Duplicate</ActButton>
        <ActButton look="act" @click="emit('remove')">Delete</ActButton>
      </div>
    </template>
  </aside>
</template>

<style scoped>
.inspector .act {
  min-height: 24px;
}
.inspector > .label {
  margin-bottom: 12px;
}
p {
  margin-bottom: 8px;
}
.top,
.foot,
.states {
  display: flex;
  gap: 18px;
  justify-content: space-between;
}
.foot,
.states {
  justify-content: flex-start;
}
.line {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  align-items: end;
}
</style>
