<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PeerChange, StrictnessView } from '@rosemary/api';
import { formatPoints, STRICTNESSES, type Strictness, strictnessInWords } from '@rosemary/core';
import { onMounted, ref } from 'vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import PlainTable from '../parts/PlainTable.vue';
import { call } from '../platform/call.ts';

/** How near is near enough, with what each choice would make of the reviews that there are. */
const props = defineProps<{
  base: { readonly courseId: string; readonly itemId: string };
  strictness: Strictness;
  given: number;
  set: (change: Partial<PeerChange>) => Promise<boolean>;
}>();
const effects = ref<readonly StrictnessView[]>([]);
const fault = ref('');
onMounted(async () => {
  if (props.given === 0) return;
  try {
    effects.value = (await call(api.getStrictness, props.base)).effects;
  } catch (error) {
    fault.value = error instanceof Error ? error.message : 'What each strictness gives could not be read.';
  }
});
const points = (value: number | null): string => (value === null ? '·' : formatPoints(value));
</script>

<template>
  <label class="field"
    ><span class="label">How near is near enough</span
    ><ChoiceField :model-value="strictness" @change="set({ strictness: $event as Strictness })">
      <option v-for="s in STRICTNESSES" :key="s" :value="s">{{ strictnessInWords(s) }}</option>
    </ChoiceField></label
  >
  <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  <PlainTable v-if="effects.some((e) => e.mean !== null)">
    <caption class="label">
      What each would give now, in points
    </caption>
    <thead>
      <tr>
        <th scope="col">Strictness</th>
        <th scope="col" class="num">mean</th>
        <th scope="col" class="num">lowest</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="e in effects" :key="e.strictness" :class="{ on: e.strictness === strictness }">
        <th scope="row">{{ e.strictness }}</th>
        <td class="num">{{ points(e.mean) }}</td>
        <td class="num">{{ points(e.least) }}</td>
      </tr>
    </tbody>
  </PlainTable>
</template>
