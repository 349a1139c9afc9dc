<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { HolidayCountries, PublicHolidays } from '@rosemary/api';
import { writeDate } from '@rosemary/core';
import { computed, ref, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import SearchChoice from '../parts/fields/SearchChoice.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call } from '../platform/call.ts';
import { useChosen } from '../platform/kept.ts';

/** The public holidays of a country that fall into a term, ticked where they are on a day on which anybody meets. */
type Holiday = PublicHolidays['holidays'][number];
const props = defineProps<{ from: string; to: string; meetingDays: readonly number[]; there: readonly Holiday[] }>();
const emit = defineEmits<{ add: [holidays: readonly Holiday[]] }>();
const countries = ref<HolidayCountries['countries']>([]);
const country = useChosen<string>(() => 'country of holidays', (new Intl.Locale(navigator.language).region ?? '').toUpperCase());
const region = useChosen<string>(() => 'region of holidays', '');
const found = ref<PublicHolidays | null>(null);
const chosen = ref<readonly string[]>([]);
const fault = ref('');

async function load(): Promise<void> {
  try {
    ({ countries: countries.value } = await call(api.listHolidayCountries, {}));
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
/** Letters that are typed before the countries have come wait for them. */
const loading = load();
const weekday = (day: string): number => ((new Date(`${day}T12:00:00Z`).getUTCDay() + 6) % 7) + 1;
const isMet = (one: Holiday): boolean => one.startsOn !== one.endsOn || props.meetingDays.includes(weekday(one.startsOn));
/** Those that are not in the term already. */
const offered = computed(() =>
  (found.value?.holidays ?? []).filter((one) => !props.there.some((t) => t.startsOn <= one.startsOn && t.endsOn >= one.endsOn)),
);
const keyOf = (one: Holiday): string => `${one.startsOn} ${one.title}`;
let asked = 0;
watch(
  () => [country.value, region.value, props.from, props.to],
  async () => {
    found.value = null;
    fault.value = '';
    if (country.value === '' || props.from === '' || props.to === '' || props.to < props.from) return;
    const mine = (asked += 1);
    try {
      const next = await call(api.listPublicHolidays, {
        country: country.value,
        from: props.from,
        to: props.to,
        ...(region.value === '' ? {} : { region: region.value }),
      });
      if (mine !== asked) return;
      found.value = next;
      chosen.value = next.holidays.filter(isMet).map(keyOf);
    } catch (error) {
      if (mine === asked) fault.value = error instanceof Error ? error.message : '';
    }
  },
  { immediate: true },
);
/** A country stands in its field by its name. */
const name = computed(() => countries.value.find((one) => one.code === country.value)?.name ?? '');
async function find(letters: string): Promise<readonly { readonly id: string }[]> {
  await loading;
  return countries.value.filter((one) => one.name.toLowerCase().includes(letters.toLowerCase())).map((one) => ({ id: one.name }));
}
function choose(wanted: string): void {
  region.value = '';
  country.value = countries.value.find((one) => one.name === wanted)?.code ?? '';
}
const turn = (one: Holiday): void => {
  const key = keyOf(one);
  chosen.value = chosen.value.includes(key) ? chosen.value.filter((k) => k !== key) : [...chosen.value, key];
};
const picked = computed(() => offered.value.filter((one) => chosen.value.includes(keyOf(one))));
const day = (iso: string): string => writeDate(Date.parse(iso), 'UTC', true);
const whenOf = (one: Holiday): string =>
  [one.startsOn === one.endsOn ? day(one.startsOn) : `${day(one.startsOn)} to ${day(one.endsOn)}`, isMet(one) ? '' : 'no meeting day']
    .filter(Boolean)
    .join(', ');
const isReady = computed(() => props.from !== '' && props.to !== '' && props.to >= props.from);
</script>

<template>
  <div>
    <div class="two-columns">
      <SearchChoice
        class="field"
        :model-value="name"
        label="Public holidays of"
        placeholder="letters of a country"
        nothing="No country has these letters."
        :find="find"
        :words-of="(one) => one.id"
        @update:model-value="choose($event)"
      />
      <label v-if="found && found.regions.length > 0" class="field"
        ><span class="label">Region</span
        ><ChoiceField v-model="region">
          <option value="">the whole country</option>
          <option v-for="r in found.regions" :key="r.code" :value="r.code">{{ r.name }}</option>
        </ChoiceField></label
      >
    </div>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="country !== '' && !isReady" class="soft">They stand here once the first and the last day are set.</p>
    <p v-else-if="found && offered.length === 0" class="soft">
      {{ found.holidays.length === 0 ? 'None falls between the first and the last day.' : 'All of them are in the term.' }}
    </p>
    <ul v-if="offered.length > 0" class="bare-list">
      <li v-for="one in offered" :key="keyOf(one)">
        <label
          ><TickBox :model-value="chosen.includes(keyOf(one))" @change="turn(one)" /> {{ one.title }}
          <span class="soft">{{ whenOf(one) }}</span></label
        >
      </li>
    </ul>
    <ActButton v-if="picked.length > 0" look="quiet" @click="emit('add', picked)">{{
      picked.length === 1 ? 'Add this holiday' : `Add these ${picked.length} holidays`
    }}</ActButton>
  </div>
</template>
