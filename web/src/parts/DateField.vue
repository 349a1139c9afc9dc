<script setup lang="ts">
import { instantOfDay, readDate, writeDate } from '@rosemary/core';
import { DateTime } from 'luxon';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import ActButton from './ActButton.vue';
import FloatMenu from './FloatMenu.vue';
import LineField from './fields/LineField.vue';
import { mdiCalendarBlankOutline } from '@mdi/js';

const CalendarDays = defineAsyncComponent(() => import('./CalendarDays.vue'));
/** An instant as ISO text, or with `isDay` a calendar day such as 2026-11-17. `time` is taken where none is typed. */
const props = withDefaults(
  defineProps<{
    modelValue: string | null;
    label: string;
    zone: string;
    now?: number;
    time?: string;
    isDay?: boolean;
    fault?: string | null;
    hint?: string | null;
    isFixed?: boolean;
    isRequired?: boolean;
  }>(),
  { now: () => Date.now(), time: '23:59', isDay: false, fault: null, hint: null, isFixed: false, isRequired: false },
);
const emit = defineEmits<{ change: [value: string | null] }>();
const zone = computed(() => (props.isDay ? 'UTC' : props.zone));
const at = computed(() =>
  props.modelValue === null || props.modelValue === '' ? null : DateTime.fromISO(props.modelValue, { zone: zone.value }),
);
const shown = computed(() => (at.value === null ? '' : writeDate(at.value.toMillis(), zone.value, props.isDay)));
const text = ref(shown.value);
const ownFault = ref('');
const isOpen = ref(false);
const isFocused = ref(false);
// A date half typed is not removed by a save that comes back meanwhile.
watch(shown, (next) => {
  if (!isFocused.value) text.value = next;
});
const asValue = (moment: DateTime): string => (props.isDay ? moment.toFormat('yyyy-LL-dd') : (moment.toUTC().toISO() ?? ''));

function set(): void {
  ownFault.value = '';
  if (text.value.trim() === '' && !props.isRequired) {
    emit('change', null);
    return;
  }
  const read = readDate(text.value, { zone: zone.value, now: props.now, time: props.time });
  if (!read.ok) {
    ownFault.value = read.reason;
    return;
  }
  text.value = writeDate(read.at, zone.value, props.isDay);
  const value = asValue(DateTime.fromMillis(read.at, { zone: zone.value }));
  if (value !== props.modelValue) emit('change', value);
}
/** A day chosen in the calendar keeps the time that stands. */
function choose(day: string): void {
  const [hour = 23, minute = 59] = props.time.split(':').map(Number);
  const wall = at.value ?? { hour, minute };
  isOpen.value = false;
  text.value = writeDate(instantOfDay(day, wall.hour, wall.minute, zone.value), zone.value, props.isDay);
  set();
}
</script>

<template>
  <div class="field date">
    <label
      ><span class="label">{{ label }}</span
      ><LineField
        v-model="text"
        :disabled="isFixed"
        :required="isRequired"
        :aria-invalid="fault !== null || ownFault !== ''"
        placeholder="no date"
        autocomplete="off"
        @change="set"
        @focus="isFocused = true"
        @blur="isFocused = false"
    /></label>
    <FloatMenu v-if="!isFixed" v-model="isOpen" stays location="bottom end">
      <template #activator="{ props: opener }"
        ><ActButton v-bind="opener" look="act" class="open" :aria-label="`Choose ${label} in a calendar`">
          <v-icon :icon="mdiCalendarBlankOutline" size="17" aria-hidden="true" /></ActButton
      ></template>
      <CalendarDays :day="at?.toFormat('yyyy-LL-dd') ?? null" :now="now" :zone="zone" @choose="choose" />
    </FloatMenu>
    <span v-if="ownFault || fault" class="fault" role="alert">{{ ownFault || fault }}</span><span v-else-if="hint" class="label">{{
      hint
    }}</span>
  </div>
</template>

<style scoped>
.date {
  position: relative;
}
.date label {
  display: block;
}
.date .line-field {
  padding-right: 26px;
}
.open {
  position: absolute;
  right: 0;
  top: 20px;
  min-width: 24px;
  min-height: 26px;
  color: var(--soft);
}
</style>
