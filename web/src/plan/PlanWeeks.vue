<script setup lang="ts">
import type { PlanItem, PlanUnit } from '@rosemary/api';
import { dayAndTime, weekNumber, type TermWeek } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import ItemGlyph from '../parts/ItemGlyph.vue';
import PlainTable from '../parts/PlainTable.vue';
import ActButton from '../parts/ActButton.vue';
import DragList from '../parts/DragList.vue';

/** Units down, weeks across: an item dragged to another week keeps its weekday and time. */
const props = defineProps<{
  units: readonly PlanUnit[];
  weeks: readonly TermWeek[];
  zone: string;
  now: number;
  chosenId: string | null;
  canEdit: boolean;
}>();
const emit = defineEmits<{ choose: [id: string]; shift: [item: PlanItem, weeks: number] }>();
const first = computed(() => ({ startsOn: props.weeks[0]?.startsOn ?? '' }));
const weekOf = (item: PlanItem): number | null =>
  item.dueAt === null ? null : weekNumber(first.value, Date.parse(item.dueAt), props.zone);
/** Items by unit and week; week 0 holds what has no date or lies outside the term. */
const cells = computed(() =>
  props.units.map((unit) => {
    const byWeek = new Map<number, PlanItem[]>();
    for (const item of unit.items) {
      const week = weekOf(item);
      const at = week === null || week < 1 || week > props.weeks.length ? 0 : week;
      byWeek.set(at, [...(byWeek.get(at) ?? []), item]);
    }
    return { unit, byWeek };
  }),
);
const turn = ref(0);
const scroller = ref<HTMLElement | null>(null);
/** Begins with the present week in the middle, as far as there is room. */
onMounted(() => {
  const column = scroller.value?.querySelector<HTMLElement>('thead .now');
  if (scroller.value && column) scroller.value.scrollLeft = column.offsetLeft - scroller.value.clientWidth / 2;
});
const today = computed(() => weekNumber(first.value, props.now, props.zone));
const title = (item: PlanItem): string =>
  item.dueAt === null ? `${item.title}, no date` : `${item.title}, due ${dayAndTime(Date.parse(item.dueAt), props.zone, props.now)}`;

function onEnd(event: { item: HTMLElement; to: HTMLElement; from: HTMLElement }): void {
  const item = props.units.flatMap((u) => u.items).find((i) => i.id === event.item.dataset.id);
  const [from, to] = [Number(event.from.dataset.week), Number(event.to.dataset.week)];
  // Drawn from the Plan again: where it lands is decided by its date, not by the hand, and a change that is left goes back.
  turn.value += 1;
  if (item && to > 0 && from > 0 && to !== from) emit('shift', item, to - from);
}
function onKey(event: KeyboardEvent, item: PlanItem): void {
  const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
  if (by === 0 || !event.altKey || !props.canEdit || item.dueAt === null) return;
  event.preventDefault();
  emit('shift', item, by);
}
</script>

<template>
  <div ref="scroller" class="weeks" tabindex="0" role="region" aria-label="The Plan by weeks">
    <PlainTable look="bare">
      <thead>
        <tr>
          <th class="unit" scope="col"><span class="hidden">Unit</span></th>
          <th scope="col" class="none">no date</th>
          <th v-for="w in weeks" :key="w.number" scope="col" :class="{ now: w.number === today, free: !w.isTeaching }">
            {{ w.number }}<span v-if="!w.isTeaching" class="holiday"> {{ w.holiday ?? 'free' }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ unit, byWeek } in cells" :key="unit.id">
          <th class="unit serif" scope="row">{{ unit.title }}</th>
          <td
            v-for="week in [0, ...weeks.map((w) => w.number)]"
            :key="week"
            :class="{ now: week === today, free: week > 0 && !weeks[week - 1]!.isTeaching }"
          >
            <DragList
              :key="`${turn} ${unit.id} ${week} ${(byWeek.get(week) ?? []).map((i) => i.id).join()}`"
              :model-value="(byWeek.get(week) ?? []) as PlanItem[]"
              :group="{ name: unit.id, put: week > 0 }"
              :is-fixed="!canEdit || week === 0"
              is-followed
              class="cell"
              :data-week="week"
              @end="onEnd"
            >
              <ActButton
                v-for="item in byWeek.get(week) ?? []"
                :key="item.id"
                :data-id="item.id"
                :class="['chip', { on: item.id === chosenId, draft: item.isDraft }]"
                :title="title(item)"
                :aria-label="title(item)"
                @click="emit('choose', item.id)"
                @keydown="onKey($event, item)"
              >
                <ItemGlyph :kind="item.kind" /> {{ item.title }}
              </ActButton>
            </DragList>
          </td>
        </tr>
      </tbody>
    </PlainTable>
  </div>
</template>

<style scoped>
.weeks {
  overflow: auto;
  /* What is brought into view must not lie under the column of units. */
  scroll-padding-left: 140px;
  margin-top: 14px;
}
th {
  font-weight: 400;
  text-align: left;
  color: var(--soft);
  padding: 4px 6px;
  white-space: nowrap;
}
th.unit {
  position: sticky;
  left: 0;
  background: var(--mist);
  z-index: 2;
  width: 130px;
  min-width: 130px;
  white-space: normal;
  vertical-align: top;
  color: var(--ink);
  border-right: 1px solid var(--frost);
}
thead th.now {
  color: var(--clay);
  font-weight: 600;
}
td {
  vertical-align: top;
  border-top: 1px solid var(--frost);
  border-right: 1px solid var(--frost2);
  padding: 2px;
  min-width: 92px;
}
.free {
  background: var(--frost2);
}
.holiday {
  font-style: italic;
}
.cell {
  min-height: 34px;
}
.chip {
  display: block;
  width: 100%;
  text-align: left;
  border: 0;
  background: none;
  color: var(--ink);
  font: inherit;
  font-size: 12.5px;
  line-height: 16px;
  padding: 4px;
  min-height: 24px;
  border-radius: 4px;
  cursor: pointer;
  overflow-wrap: anywhere;
}
.chip:hover {
  background: var(--frost2);
}
.chip.on {
  background: var(--bloom-wash);
}
.chip.draft {
  color: var(--soft);
}
</style>
