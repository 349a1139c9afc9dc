<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { NewShares, SharesView, Stack, StackEntry } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { useVirtualizer } from '@tanstack/vue-virtual';
import { computed, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../platform/call.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import ReleaseDialog from './ReleaseDialog.vue';
import { orderedBy, STACK_COLUMNS } from './stackColumns.ts';
import { FILTERS, isMeant, isOf, markers, nameOf } from './useStack.ts';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import TickBox from '../parts/fields/TickBox.vue';
import LineField from '../parts/fields/LineField.vue';
import ActionMenu from '../parts/ActionMenu.vue';

/** Every work of the item with all that is known of it: ordered by any column, narrowed, chosen, and dealt with together. */
const props = defineProps<{
  base: { readonly courseId: string; readonly itemId: string };
  courseId: string;
  itemId: string;
  stack: Stack;
  canRelease: boolean;
}>();
const emit = defineEmits<{ done: [] }>();
const router = useRouter();
const course = useCourse();
const notices = useNotices();
const session = useSession();
const me = computed(() => session.myName);
const order = ref<{ key: string; isFalling: boolean }>({ key: 'student', isFalling: false });
const filter = ref('');
const chosen = ref<ReadonlySet<string>>(new Set());
const shares = ref<SharesView | null>(null);
const confirms = ref(false);
const { isBusy, fault, run } = useBusy('Not done. Try again.');
onMounted(async () => {
  if (props.canRelease) shares.value = await call(api.getShares, props.base).catch(() => null);
});
const here = computed(() => props.stack.entries.filter((e) => course.sectionId === null || e.sectionId === course.sectionId || e.isVeiled));
const shown = computed(() => {
  const column = STACK_COLUMNS.find((c) => c.key === order.value.key) ?? STACK_COLUMNS[0]!;
  return orderedBy(
    here.value.filter((e) => isMeant(e, filter.value, me.value)),
    column,
    order.value.isFalling,
  );
});
const words = computed(() =>
  FILTERS.map((word) => ({ word, many: here.value.filter((e) => isOf(e, word, me.value)).length })).filter((f) => f.many > 0),
);
/** Columns that say nothing of any work are left away. */
const columns = computed(() =>
  STACK_COLUMNS.filter((c) => ['student', 'state', 'score'].includes(c.key) || here.value.some((e) => c.by(e) !== null && c.by(e) !== '')),
);
function sortBy(key: string): void {
  order.value = { key, isFalling: order.value.key === key && !order.value.isFalling };
}
const scroller = ref<HTMLElement | null>(null);
const lines = useVirtualizer(
  computed(() => ({ count: shown.value.length, getScrollElement: () => scroller.value, estimateSize: () => 30, overscan: 10 })),
);
const before = computed(() => lines.value.getVirtualItems()[0]?.start ?? 0);
const after = computed(() => lines.value.getTotalSize() - (lines.value.getVirtualItems().at(-1)?.end ?? 0));

const picked = computed(() => props.stack.entries.filter((e) => chosen.value.has(e.enrolmentId)));
const isAll = computed(() => shown.value.length > 0 && shown.value.every((e) => chosen.value.has(e.enrolmentId)));
const finished = computed(() => picked.value.filter((e) => e.state === 'finished'));
let last: string | null = null;
/** With Shift everything between this and the last one touched is chosen with it. */
function toggle(e: StackEntry, event: MouseEvent): void {
  const next = new Set(chosen.value);
  const isOn = !next.has(e.enrolmentId);
  const from = event.shiftKey && last !== null ? shown.value.findIndex((x) => x.enrolmentId === last) : -1;
  const to = shown.value.indexOf(e);
  const span = from < 0 ? [e] : shown.value.slice(Math.min(from, to), Math.max(from, to) + 1);
  for (const one of span) {
    if (isOn) next.add(one.enrolmentId);
    else next.delete(one.enrolmentId);
  }
  last = e.enrolmentId;
  chosen.value = next;
}
function toggleAll(): void {
  const next = new Set(chosen.value);
  for (const e of shown.value) {
    if (isAll.value) next.delete(e.enrolmentId);
    else next.add(e.enrolmentId);
  }
  chosen.value = next;
}
const writeTo = (): Promise<unknown> =>
  router.push({
    name: 'messages',
    params: { courseId: props.courseId },
    state: { to: picked.value.map((e) => e.personId), about: props.stack.item.title },
  });
const releaseChosen = (): Promise<unknown> =>
  run(async () => {
    const ids = finished.value.map((e) => e.enrolmentId);
    confirms.value = false;
    const { many } = await call(api.releaseMarks, props.base, { enrolmentIds: ids });
    notices.say(`${many === 1 ? 'One mark is' : `${many} marks are`} released.`, async () => {
      await call(api.withholdMarks, props.base, { enrolmentIds: ids });
      emit('done');
    });
    emit('done');
  });
async function putShares(body: NewShares): Promise<void> {
  shares.value = await call(api.saveShares, props.base, body);
  emit('done');
}
function giveTo(markerId: string): void {
  const marker = shares.value?.markers.find((m) => m.id === markerId);
  if (shares.value === null || marker === undefined) return;
  const was: NewShares = { shares: shares.value.works.map((w) => ({ workId: w.id, markerIds: [...w.markerIds] })) };
  const next: NewShares = {
    shares: was.shares.map((w) => (chosen.value.has(w.workId) ? { ...w, markerIds: [marker.id] } : w)),
  };
  const many = picked.value.length;
  void run(async () => {
    await putShares(next);
    notices.say(`${many === 1 ? 'One work is' : `${many} works are`} for ${marker.name} to mark.`, () => putShares(was));
  });
}
</script>

<template>
  <section class="whole" aria-label="Every work">
    <div class="tools">
      <LineField v-model="filter" placeholder="name, group, section, marker" aria-label="Narrow to a name, group, section or marker" />
      <ActButton
        v-for="f in words"
        :key="f.word"
        look="act"
        :aria-pressed="filter === f.word"
        :class="{ on: filter === f.word }"
        @click="filter = filter === f.word ? '' : f.word"
      >
        {{ f.word }} {{ f.many }}
      </ActButton>
    </div>
    <p class="tools chosen" role="status">
      <span class="soft"
        >{{ picked.length === 0 ? '' : `${picked.length} of ${stack.entries.length} chosen. `
        }}{{ shown.length < stack.entries.length ? `${shown.length} shown.` : '' }}</span
      >
      <template v-if="picked.length > 0">
        <ActButton v-if="picked.every((e) => !e.isVeiled)" look="act" @click="writeTo">write to them</ActButton>
        <ActButton v-if="canRelease && finished.length > 0" look="act" :disabled="isBusy" @click="confirms = true">
          release {{ finished.length === 1 ? 'one mark' : `${finished.length} marks` }}…
        </ActButton>
        <ActionMenu v-if="shares && stack.item.markers === 1" words="have them marked by" :disabled="isBusy" @choose="giveTo">
          <option v-for="m in shares.markers" :key="m.id" :value="m.id">{{ m.name }}</option>
        </ActionMenu>
        <ActButton look="act" @click="chosen = new Set()">choose none</ActButton>
      </template>
    </p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div ref="scroller" class="scroll" tabindex="0" role="region" aria-label="Every work">
      <PlainTable>
        <thead>
          <tr>
            <th class="tick">
              <TickBox :model-value="isAll" :aria-label="`Choose all ${shown.length} shown`" @click="toggleAll" />
            </th>
            <th
              v-for="c in columns"
              :key="c.key"
              :class="{ num: c.isNumber }"
              :aria-sort="order.key === c.key ? (order.isFalling ? 'descending' : 'ascending') : undefined"
            >
              <ActButton look="act" @click="sortBy(c.key)">
                {{ c.title }}<span v-if="order.key === c.key" aria-hidden="true">{{ order.isFalling ? ' ↓' : ' ↑' }}</span>
              </ActButton>
            </th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-if="before > 0" aria-hidden="true">
            <td :colspan="columns.length + 2" :style="{ height: `${before}px`, padding: 0 }" />
          </tr>
          <template v-for="line in lines.getVirtualItems()" :key="shown[line.index]?.enrolmentId ?? line.index">
            <tr v-for="e in shown.slice(line.index, line.index + 1)" :key="e.enrolmentId" :class="{ on: chosen.has(e.enrolmentId) }">
              <td class="tick">
                <TickBox :model-value="chosen.has(e.enrolmentId)" :aria-label="`Choose ${nameOf(e)}`" @click="toggle(e, $event)" />
              </td>
              <td v-for="c in columns" :key="c.key" :class="[c.key, { num: c.isNumber, soft: c.key !== 'student' && c.key !== 'score' }]">
                <template v-if="c.key === 'student'"
                  ><router-link :to="`/courses/${courseId}/marking/${itemId}/${e.enrolmentId}`">{{
                    e.isVeiled || e.group !== '' ? nameOf(e) : `${e.familyName}, ${e.givenName}`
                  }}</router-link
                  ><span v-if="e.members.length > 0" class="soft" :title="e.members.join(', ')"> {{ e.members.length }} students</span
                  ><b v-if="e.hasNewWords" class="clay" title="new words in its conversation"> ·</b></template
                >
                <template v-else-if="c.key === 'section'">{{ e.section }}</template>
                <template v-else-if="c.key === 'state'">{{ e.state }}</template>
                <template v-else-if="c.key === 'handed'">{{
                  e.handedInAt ? dayAndTime(Date.parse(e.handedInAt), course.zone, course.now) : ''
                }}</template>
                <template v-else-if="c.key === 'late'">{{ e.lateText ?? '' }}</template>
                <template v-else-if="c.key === 'title'"
                  ><span :title="e.title">{{ e.title }}</span
                  >{{ e.title && e.original ? ' · ' : ''
                  }}<a v-if="e.original" :href="`${e.original.url}?download=1`" :title="e.original.name">{{ e.original.name }}</a
                  ><span v-if="e.files > 1"> and {{ e.files - 1 }} more</span></template
                >
                <template v-else-if="c.key === 'marker'">{{ markers(e) }}</template>
                <template v-else-if="c.key === 'match'">{{ e.matchPercent === null ? '' : `${e.matchPercent} %` }}</template>
                <template v-else-if="c.key === 'score'"
                  ><span :class="{ unreleased: e.state === 'finished' }">{{ e.scoreText?.split(' ')[0] ?? '' }}</span></template
                >
                <template v-else>{{ c.by(e) ?? '' }}</template>
              </td>
              <td>
                <router-link v-if="!e.isVeiled" class="soft" :to="`/courses/${courseId}/progress?person=${e.enrolmentId}`"
                  >student’s page</router-link
                >
              </td>
            </tr>
          </template>
          <tr v-if="after > 0" aria-hidden="true">
            <td :colspan="columns.length + 2" :style="{ height: `${after}px`, padding: 0 }" />
          </tr>
        </tbody>
      </PlainTable>
      <p v-if="shown.length === 0" class="soft none">
        {{ stack.entries.length === 0 ? 'Works will stand here once the item is for somebody.' : 'No work is meant by this.' }}
        <ActButton v-if="filter" look="act" @click="filter = ''">show all</ActButton>
      </p>
    </div>
    <ReleaseDialog
      v-if="confirms"
      :base="base"
      :waits="0"
      :chosen="finished.map((e) => e.enrolmentId)"
      @close="confirms = false"
      @release="releaseChosen"
    />
  </section>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
}
.tools .line-field {
  width: 220px;
}
.tools .act {
  min-height: 24px;
}
.tools .on {
  font-weight: 600;
  text-decoration: underline;
}
.chosen {
  min-height: 30px;
  margin: 2px 0 0;
}
.tools .give {
  width: auto;
}
.scroll {
  max-height: 62vh;
  overflow: auto;
  border-top: 1px solid var(--frost);
  background: var(--paper);
}
.plain {
  white-space: nowrap;
}
thead th {
  position: sticky;
  top: 0;
  background: var(--paper);
  z-index: 1;
}
th .act {
  font: inherit;
  color: inherit;
  min-height: 24px;
}
tbody tr {
  height: 30px;
}
tbody td {
  padding-top: 3px;
  padding-bottom: 3px;
}
.tick {
  width: 26px;
}
td.title,
td.marker {
  max-width: 210px;
  overflow: hidden;
  text-overflow: ellipsis;
}
td.student {
  max-width: 240px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.none {
  padding: 12px;
}
</style>
