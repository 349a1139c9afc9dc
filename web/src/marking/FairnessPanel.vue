<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { FairnessView } from '@rosemary/api';
import { dayAndTime, formatPoints, countOf } from '@rosemary/core';
import { scaleLinear } from 'd3';
import { computed, onMounted, ref } from 'vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';

/** How far two markers agree, and whether a marker changes while marking; every figure with what it was made from. */
const props = defineProps<{ base: { readonly courseId: string; readonly itemId: string } }>();
const course = useCourse();
const view = ref<FairnessView | null>(null);
const fault = ref('');
const showsPairs = ref(false);
onMounted(async () => {
  try {
    view.value = await call(api.getFairness, props.base);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const two = (value: number): string => value.toFixed(2).replace('-', '−');
const one = (value: number): string => value.toFixed(1).replace('-', '−');
/** What a coefficient says, in words; bounds as usual in the trade, and only a help to read. */
const inWords = (value: number): string =>
  value < 0.4 ? 'little agreement' : value < 0.6 ? 'some agreement' : value < 0.75 ? 'good agreement' : 'very good agreement';
const bar = computed(() => scaleLinear().domain([0, 100]).range([0, 150]));
const when = (at: string): string => dayAndTime(Date.parse(at), course.zone, course.now);
</script>

<template>
  <section class="part" aria-label="Fairness">
    <h3>Fairness</h3>
    <p v-if="fault" class="fault">{{ fault }}</p>
    <div v-else-if="!view" class="skeleton" style="height: 60px" />
    <template v-else>
      <template v-if="view.pairs.length > 0">
        <p>
          <template v-if="view.icc"
            ><b>{{ inWords(view.icc.value) }}</b> on the scores: ICC({{ view.icc.kind === 'same' ? '2,1' : '1,1' }})
            {{ two(view.icc.value) }}, between {{ two(view.icc.low) }} and {{ two(view.icc.high) }} with 95 %; from
            {{ countOf(view.pairs.length, 'work') }} marked by
            {{ view.icc.kind === 'same' ? 'the same two' : 'pairs that change' }}.</template
          ><template v-else>Marked by two: {{ view.pairs.length }}; too few, or too alike, for a figure of agreement.</template>
          <template v-if="view.limits"
            >The second gives {{ one(Math.abs(view.limits.mean)) }} points {{ view.limits.mean < 0 ? 'less' : 'more' }} on average; 95 of
            100 differences lie between {{ one(view.limits.low) }} and {{ one(view.limits.high) }}.</template
          >
          <ActButton look="act" :aria-expanded="showsPairs" @click="showsPairs = !showsPairs">working</ActButton>
        </p>
        <PlainTable v-if="view.criteria.length > 0" class="narrow">
          <thead>
            <tr>
              <th>criterion</th>
              <th class="num">weighted kappa</th>
              <th></th>
              <th class="num">works</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in view.criteria" :key="c.title">
              <td>{{ c.title }}</td>
              <td class="num">{{ c.kappa === null ? '–' : two(c.kappa) }}</td>
              <td class="soft">{{ c.kappa === null ? 'too few, or too alike' : inWords(c.kappa) }}</td>
              <td class="num">{{ c.pairs }}</td>
            </tr>
          </tbody>
        </PlainTable>
        <PlainTable v-if="showsPairs" class="narrow">
          <caption class="label">
            The works it is made from, furthest apart first
          </caption>
          <thead>
            <tr>
              <th>work</th>
              <th>first</th>
              <th class="num"></th>
              <th>second</th>
              <th class="num"></th>
              <th class="num">apart</th>
              <th class="num">agreed</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="p in view.pairs" :key="p.work">
              <td>{{ p.work }}</td>
              <td>{{ p.first }}</td>
              <td class="num">{{ formatPoints(p.firstTotal) }}</td>
              <td>{{ p.second }}</td>
              <td class="num">{{ formatPoints(p.secondTotal) }}</td>
              <td class="num">{{ formatPoints(Math.abs(p.secondTotal - p.firstTotal)) }}</td>
              <td class="num">{{ p.agreed === null ? '–' : formatPoints(p.agreed) }}</td>
            </tr>
          </tbody>
        </PlainTable>
      </template>
      <p v-else class="soft">Where two mark each work, how far they agree stands here.</p>
      <PlainTable v-if="view.markers.length > 0" class="narrow">
        <caption class="label">
          Each marker’s marks in the order they were finished, in parts; a steady change may come from the works, or from tired eyes
        </caption>
        <thead>
          <tr>
            <th>marker</th>
            <th class="num">marks</th>
            <th class="num">mean</th>
            <th>from first to last</th>
            <th class="num">change</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in view.markers" :key="m.name">
            <td>{{ m.name }}</td>
            <td class="num">{{ m.marks }}</td>
            <td class="num">{{ m.meanPercent === null ? '–' : `${one(m.meanPercent)} %` }}</td>
            <td>
              <span v-if="m.parts.length === 0" class="soft">from ten marks on</span>
              <span v-else class="parts"
                ><span v-for="(p, n) in m.parts" :key="n" :title="`${countOf(p.number, 'mark')}, ${when(p.from)} to ${when(p.to)}`"
                  ><svg width="34" height="18" aria-hidden="true">
                    <rect
                      x="2"
                      width="28"
                      :y="18 - bar(p.meanPercent) * 0.12"
                      :height="bar(p.meanPercent) * 0.12"
                      fill="var(--leaf)"
                    /></svg
                  >{{ one(p.meanPercent) }}</span
                ></span
              >
            </td>
            <td class="num">{{ m.changePercent === null ? '' : `${m.changePercent > 0 ? '+' : ''}${one(m.changePercent)}` }}</td>
          </tr>
        </tbody>
      </PlainTable>
    </template>
  </section>
</template>

<style scoped>
.narrow {
  width: fit-content;
  margin-top: 8px;
}
caption {
  text-align: left;
}
.parts {
  display: inline-flex;
  gap: 14px;
}
</style>
