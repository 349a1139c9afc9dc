<script setup lang="ts">
import type { PlanUnit, UnitChange } from '@rosemary/api';
import { computed, ref } from 'vue';
import DateField from '../parts/DateField.vue';
import { HttpProblem } from '../platform/http.ts';
import { useCourse } from '../stores/courseStore.ts';
import AudienceField from './AudienceField.vue';
import ActButton from '../parts/ActButton.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { savedWords } from '@rosemary/core';

/** The dates of a whole unit and whom it is for. */
const props = defineProps<{ unit: PlanUnit; canEdit: boolean; change: (change: Omit<UnitChange, 'version'>) => Promise<boolean> }>();
const emit = defineEmits<{ close: []; switch: [isOff: boolean] }>();
const on = computed(() => props.unit.items.filter((i) => !i.isOff).length);
const course = useCourse();
const words = ref('');
const turn = ref(0);
const faults = ref<Record<string, string>>({});

async function set(change: Omit<UnitChange, 'version'>): Promise<void> {
  faults.value = {};
  try {
    const isApplied = await props.change(change);
    words.value = isApplied ? savedWords(new Date()) : 'Left as it was';
    if (!isApplied) turn.value += 1;
  } catch (error) {
    words.value = '';
    if (!(error instanceof HttpProblem)) throw error;
    faults.value = Object.fromEntries(
      (error.problem.pointers ?? [{ field: Object.keys(change)[0] ?? 'title', text: error.message }]).map((p) => [p.field, p.text]),
    );
  }
}
const DATES = [
  ['announcedAt', 'Announced from'],
  ['opensAt', 'Opens'],
  ['closesAt', 'Closes'],
] as const;
</script>

<template>
  <aside class="inspector" aria-label="Inspector">
    <div class="top spread">
      <span class="label">Unit</span><ActButton look="act" aria-label="Close the inspector" @click="emit('close')">close</ActButton>
    </div>
    <h3>{{ unit.title }}</h3>
    <p class="label" aria-live="polite" style="min-height: 18px">{{ words }}</p>
    <p class="soft says">
      Nothing in a unit is announced or opens before it, or stays open after it, save what is set for one student alone.
    </p>
    <p v-if="canEdit && unit.items.length > 0" class="wrapping says">
      <ActButton v-if="on > 0" look="act" @click="emit('switch', true)"
        >Switch {{ on === unit.items.length ? 'it' : on === 1 ? 'the other one' : `the other ${on}` }} off</ActButton
      >
      <ActButton v-if="on < unit.items.length" look="act" @click="emit('switch', false)"
        >Switch
        {{ on === 0 ? 'it' : unit.items.length - on === 1 ? 'the one that is off' : `the ${unit.items.length - on} that are off` }}
        on</ActButton
      >
      <span class="soft">What is off keeps everything; students see nothing of it, and it counts nowhere.</span>
    </p>
    <div :key="turn">
      <DateField
        v-for="[name, word] in DATES"
        :key="name"
        :model-value="unit[name]"
        :label="word"
        :time="name === 'closesAt' ? '23:59' : '08:00'"
        :zone="course.zone"
        :now="course.now"
        :fault="faults[name] ?? null"
        :is-fixed="!canEdit"
        @change="set({ [name]: $event })"
      />
      <label class="check"
        ><TickBox
          :model-value="unit.isStaffOnly"
          :disabled="!canEdit"
          @change="set({ isStaffOnly: ($event.target as HTMLInputElement).checked })"
        />
        for staff only, with everything in it</label
      >
      <AudienceField
        v-if="!unit.isStaffOnly"
        :audience="unit.audience"
        :can-edit="canEdit"
        :fault="faults.audience ?? null"
        @change="set({ audience: $event })"
      />
    </div>
  </aside>
</template>

<style scoped>
.says {
  margin-bottom: 12px;
}
.check {
  display: block;
  margin-bottom: 12px;
}
</style>
