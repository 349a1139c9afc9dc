<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, onUpdated, ref, useId, watch } from 'vue';
import { useNotices } from '../../stores/noticeStore.ts';
import ActButton from '../ActButton.vue';
import ActionMenu from '../ActionMenu.vue';
import PlainTable from '../PlainTable.vue';
import { chartPng, chartSvg } from './saveChart.ts';
import { saveFile, saveTable } from './saveFile.ts';

/**
 * What every chart stands in: its title, the sentence that it says, the chart, a line that tells of the mark that is pointed at, and its table, which is
 * also what is downloaded. Without anything to draw there is the reason in place of it.
 */
type Cell = string | number | null;
const props = withDefaults(
  defineProps<{
    title: string;
    /** The name of what is downloaded. */
    name: string;
    sentence?: string;
    /** Why there is nothing to draw; empty where there is. */
    empty?: string;
    /** The first line are the heads. */
    lines: readonly (readonly Cell[])[];
    /** What the mark that is pointed at says. */
    told?: string;
    /** What is said where nothing is pointed at. */
    hint?: string;
  }>(),
  { sentence: '', empty: '', told: '', hint: '' },
);
const id = useId();
const notices = useNotices();
const place = ref<HTMLElement | null>(null);
const [LEAST_WIDTH, USUAL_WIDTH] = [320, 760];
const drawn = ref(USUAL_WIDTH);
let watcher: ResizeObserver | undefined;
// Its place comes and goes with what there is to draw.
watch(place, (now) => {
  watcher?.disconnect();
  if (now === null) return;
  watcher = new ResizeObserver(([entry]) => {
    drawn.value = Math.max(LEAST_WIDTH, Math.floor(entry?.contentRect.width ?? 0) || USUAL_WIDTH);
  });
  watcher.observe(now);
});
onBeforeUnmount(() => {
  watcher?.disconnect();
});
const showsTable = ref(false);
const hasChart = ref(false);
/** A list stands in the frame as a chart does, and has no picture. */
function lookForChart(): void {
  hasChart.value = (place.value?.querySelector(':scope > svg') ?? null) !== null;
}
onMounted(lookForChart);
onUpdated(lookForChart);
const WAYS = { csv: 'The table as CSV', xlsx: 'The table as XLSX', svg: 'The chart as SVG', png: 'The chart as PNG' } as const;
type Way = keyof typeof WAYS;
const ways = computed((): readonly Way[] => (props.empty === '' && hasChart.value ? ['csv', 'xlsx', 'svg', 'png'] : ['csv', 'xlsx']));
async function download(way: Way): Promise<void> {
  try {
    if (way === 'csv' || way === 'xlsx') {
      await saveTable({ title: props.name, lines: props.lines.map((line) => [...line]) }, way);
      return;
    }
    const chart = place.value?.querySelector<SVGSVGElement>(':scope > svg') ?? null;
    if (chart === null) return;
    const blob =
      way === 'png' ? await chartPng(chart, props.title) : new Blob([chartSvg(chart, props.title).text], { type: 'image/svg+xml' });
    saveFile(blob, `${props.name}.${way}`);
  } catch (error) {
    notices.sayFault(error);
  }
}
</script>

<template>
  <section class="chart-frame" :aria-labelledby="id">
    <header>
      <h3 :id="id">{{ title }}</h3>
      <span class="acts no-print"
        ><slot name="acts" /><ActButton look="act" :aria-expanded="showsTable" @click="showsTable = !showsTable">{{
          showsTable ? 'Hide the table' : 'Table'
        }}</ActButton
        ><ActionMenu words="Download" :label="`Download ${title}`" @choose="download($event as Way)"
          ><option v-for="way in ways" :key="way" :value="way">{{ WAYS[way] }}</option></ActionMenu
        ></span
      >
    </header>
    <p v-if="sentence" class="says">{{ sentence }}</p>
    <slot name="choices" />
    <p v-if="empty" class="soft">{{ empty }}</p>
    <template v-else
      ><div ref="place" class="drawn"><slot :width="drawn" /></div>
      <p class="told label" aria-live="polite">{{ told || hint }}</p></template
    >
    <div v-if="showsTable" class="table">
      <PlainTable
        ><thead>
          <tr>
            <th v-for="(head, n) in lines[0]" :key="n" scope="col">{{ head }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(line, r) in lines.slice(1)" :key="r">
            <td v-for="(cell, n) in line" :key="n">{{ cell ?? '·' }}</td>
          </tr>
        </tbody></PlainTable
      >
    </div>
    <slot name="after" />
  </section>
</template>

<style>
.chart-frame {
  min-width: 0;
}
.chart-frame > header {
  display: flex;
  align-items: baseline;
  gap: 18px;
}
.chart-frame > header > .acts {
  display: flex;
  gap: 18px;
  margin-left: auto;
}
.chart-frame > .says {
  max-width: 900px;
}
.chart-frame > .drawn {
  overflow-x: auto;
  margin-top: 8px;
}
.chart-frame > .told {
  min-height: 18px;
}
.chart-frame > .table {
  max-height: 420px;
  overflow: auto;
  margin: 8px 0;
}
.chart {
  display: block;
  font: 12px var(--sans);
  fill: var(--soft);
}
.chart :focus {
  outline: none;
}
.chart [data-mark]:focus-visible {
  outline: 2px solid var(--bloom);
  outline-offset: 2px;
}
.chart .grid {
  stroke: var(--frost);
}
.chart .line {
  stroke: var(--needle);
  fill: none;
}
.chart .box {
  stroke: var(--needle);
  fill: var(--leaf);
  fill-opacity: 0.25;
}
.chart .middle {
  stroke: var(--needle);
  stroke-width: 2.5;
}
.chart .dot {
  fill: var(--needle);
  fill-opacity: 0.65;
}
.chart .outside {
  stroke: var(--clay);
  stroke-width: 1.6;
  fill: var(--paper);
}
.chart .falls {
  stroke: var(--clay);
  stroke-dasharray: 5 3;
}
.chart .hit {
  fill: transparent;
}
.chart [data-mark][role='button'] {
  cursor: pointer;
}
.chart.box-plots .box.pointed,
.chart.box-plots .box.chosen {
  fill-opacity: 0.6;
}
.chart.slopes .line {
  stroke-opacity: 0.55;
}
.chart.slopes .pointed .line {
  stroke-opacity: 1;
  stroke-width: 2.5;
}
.chart.slopes .wide {
  stroke: transparent;
  stroke-width: 9;
  fill: none;
}
.chart.scatter .pointed {
  fill: var(--bloom);
  fill-opacity: 1;
}
.chart.heat .none {
  fill: var(--frost2);
}
.chart.heat .some {
  fill: var(--needle);
}
.chart.over-time .own {
  stroke: var(--clay);
  stroke-opacity: 0.6;
  fill: none;
}
@media print {
  .chart-frame {
    break-inside: avoid;
  }
  .chart-frame > .drawn {
    overflow: visible;
  }
  .chart-frame .told {
    display: none;
  }
  .chart {
    max-width: 100%;
    height: auto;
  }
  .chart-frame > .table {
    max-height: none;
    overflow: visible;
  }
}
</style>
