<script setup lang="ts">
import { useChosen } from '../platform/kept.ts';
import type { PlanItem, PlanUnit } from '@rosemary/api';
import { countOf, dayAndTime, formatPoints, minutesInWords, startDayInWords, weekNumber, type ItemKind } from '@rosemary/core';
import { computed, defineAsyncComponent, nextTick, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import ItemGlyph from '../parts/ItemGlyph.vue';
import KeysHelp from '../parts/KeysHelp.vue';
import LeafState from '../parts/LeafState.vue';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { askedByUnits, isUnitOff } from './amounts.ts';
import { useChoice } from './useChoice.ts';
import { usePlan } from './usePlan.ts';
import ActButton from '../parts/ActButton.vue';
import TickBox from '../parts/fields/TickBox.vue';
import DragList from '../parts/DragList.vue';

const FirstSteps = defineAsyncComponent(() => import('../begin/FirstSteps.vue'));
// Written in once somebody asks for it.
const AddLine = defineAsyncComponent(() => import('./AddLine.vue'));
const LineField = defineAsyncComponent(() => import('../parts/fields/LineField.vue'));
const PlanWeeks = defineAsyncComponent(() => import('./PlanWeeks.vue'));
// Beside the Plan, once something in it is chosen.
const ChoiceInspector = defineAsyncComponent(() => import('./ChoiceInspector.vue'));
const ItemInspector = defineAsyncComponent(() => import('./ItemInspector.vue'));
const UnitInspector = defineAsyncComponent(() => import('./UnitInspector.vue'));

const route = useRoute();
const router = useRouter();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const p = usePlan(courseId);
const { units, plan, fault } = p;
const chosenId = ref<string | null>(null);
const renaming = ref<string | null>(null);
const newTitle = ref('');
const adding = ref<{ unitId: string; position: number; kind: ItemKind } | null>(null);
const addingUnit = ref(false);
/** The unit whose dates are being looked at. */
const unitId = ref<string | null>(null);
const shownUnit = computed(() => units.value.find((u) => u.id === unitId.value) ?? null);
watch(chosenId, (id) => {
  if (id !== null) unitId.value = null;
});
function showUnit(id: string): void {
  choice.clear();
  chosenId.value = null;
  unitId.value = id;
}
const canEdit = computed(() => course.head?.role === 'instructor');
/** The order before a line was taken up; null while none is held. */
let before: ReturnType<typeof p.orderOf> | null = null;

useFresh(courseId, ['plan'], async () => {
  // Not under a hand that holds a line; its own write brings the Plan afresh.
  if (before !== null) return;
  await Promise.all([p.load(), course.load(courseId.value)]);
});
onMounted(async () => {
  await p.load();
  chosenId.value = typeof route.query.item === 'string' ? route.query.item : null;
});
watch(
  () => route.query.item,
  (id) => {
    if (typeof id === 'string') chosenId.value = id;
  },
);
const allItems = computed(() => units.value.flatMap((u) => u.items));
const choice = useChoice(allItems);
const many = choice.chosen;
const arrangement = useChosen<'outline' | 'weeks'>(() => 'plan', 'outline');
function onRowClick(event: MouseEvent, item: PlanItem): void {
  if (canEdit.value && (event.ctrlKey || event.metaKey)) choice.toggle(item.id);
  else if (canEdit.value && event.shiftKey) choice.reach(item.id);
  else {
    choice.clear();
    choice.touch(item.id);
    chosenId.value = item.id;
  }
}
/** To another week at the same weekday and time, with its other dates. */
async function shiftWeeks(item: PlanItem, weeks: number): Promise<void> {
  // With the arithmetic of dates, which is not needed before something is moved.
  const { moveDates } = await import('./moveDates.ts');
  const fields = moveDates(item, weeks * 7, course.zone);
  void p.changeMany(
    new Map([[item.id, fields]]),
    `“${item.title}” is due ${dayAndTime(Date.parse(fields.dueAt ?? ''), course.zone, course.now)}.`,
  );
}
async function duplicate(): Promise<void> {
  const made = await p.duplicateMany(many.value.map((i) => i.id));
  choice.clear();
  if (made[0] !== undefined) chosenId.value = made[0];
}
const chosen = computed(() => units.value.flatMap((u) => u.items).find((i) => i.id === chosenId.value) ?? null);

const termOf = computed(() => ({ startsOn: course.head?.line.weeks[0]?.startsOn ?? '2026-01-05' }));
/** In a course counted from each student’s start a date is a day of theirs, not of the calendar. */
const isSelfPaced = computed(() => course.head?.isSelfPaced === true);
const day = (at: string): string =>
  isSelfPaced.value
    ? startDayInWords(plan.value?.term.startsOn ?? '', Date.parse(at), course.zone)
    : dayAndTime(Date.parse(at), course.zone, course.now);
/** The date in force for the section chosen at the head of the course. */
function dueOf(item: PlanItem): string | null {
  return item.variants.find((v) => v.sectionId !== null && v.sectionId === course.sectionId)?.dueAt ?? item.dueAt;
}
function dateText(item: PlanItem): string {
  const due = dueOf(item);
  if (due !== null) return day(due);
  return item.opensAt !== null && (isSelfPaced.value || Date.parse(item.opensAt) > course.now) ? `from ${day(item.opensAt)}` : '—';
}
function isInWeeks(item: PlanItem): boolean {
  const due = dueOf(item) ?? item.opensAt;
  if (course.weeks === null) return true;
  const week = due === null ? 0 : weekNumber(termOf.value, Date.parse(due), course.zone);
  return week >= course.weeks[0] && week <= course.weeks[1];
}
const howMany = computed(() => {
  const items = units.value.reduce((n, u) => n + u.items.length, 0);
  return `${countOf(units.value.length, 'unit')}, ${countOf(items, 'item')} · ${askedByUnits(units.value)}`;
});
/** What is said of the whole unit, in a few words. */
function unitSays(unit: PlanUnit): string {
  if (unit.isStaffOnly) return 'staff only';
  return [
    isUnitOff(unit) ? 'off' : null,
    unit.audience.length > 0 ? `for ${unit.audience.map((a) => a.name).join(', ')}` : null,
    unit.opensAt !== null && Date.parse(unit.opensAt) > course.now ? `opens ${day(unit.opensAt)}` : null,
    unit.closesAt === null ? null : `${Date.parse(unit.closesAt) > course.now ? 'closes' : 'closed'} ${day(unit.closesAt)}`,
  ]
    .filter(Boolean)
    .join(', ');
}
/** Everything in a unit off, or on again as it was; what is so already stays. */
function switchUnit(unit: PlanUnit, isOff: boolean): void {
  const items = unit.items.filter((item) => item.isOff !== isOff);
  const words = isOff ? 'is switched off. Students see nothing of it, and it counts nowhere.' : 'is on again as before.';
  void p.changeMany(new Map(items.map((item) => [item.id, { isOff }])), `“${unit.title}” ${words}`);
}
function sumText(unit: PlanUnit): string {
  const weeks = unit.items.flatMap((i) => (dueOf(i) === null ? [] : [weekNumber(termOf.value, Date.parse(dueOf(i) ?? ''), course.zone)]));
  const span =
    weeks.length === 0
      ? []
      : [Math.min(...weeks) === Math.max(...weeks) ? `week ${Math.min(...weeks)}` : `weeks ${Math.min(...weeks)}–${Math.max(...weeks)}`];
  return [...span, askedByUnits([unit])].join(' · ');
}

/** What is said of an item beside its title, where it is not for everyone and at once. */
function rowSays(item: PlanItem): string {
  return [
    item.isOff ? 'off' : null,
    item.hasChanges ? 'changes not published' : null,
    item.isStaffOnly ? 'staff only' : null,
    item.audience.length === 0 || item.isStaffOnly ? null : `for ${item.audience.map((a) => a.name).join(', ')}`,
    item.opening.rules.length === 0 ? null : 'has a rule',
    item.handOpenings.length === 0 ? null : 'opened by hand',
  ]
    .filter(Boolean)
    .join(' · ');
}

function startRename(id: string, title: string): void {
  if (!canEdit.value) return;
  newTitle.value = title;
  renaming.value = id;
}
async function endRename(what: PlanItem | PlanUnit, title: string, isUnit: boolean): Promise<void> {
  if (renaming.value !== what.id) return;
  renaming.value = null;
  if (title.trim() === '' || title.trim() === what.title) return;
  if (isUnit) {
    await p.renameUnit(what as PlanUnit, title.trim());
    return;
  }
  try {
    await p.changeItem(what as PlanItem, { title: title.trim() });
  } catch (error) {
    notices.sayFault(error);
  }
}
function startAdd(unitId: string, position: number): void {
  adding.value = { unitId, position, kind: 'page' };
}
async function endAdd(title: string): Promise<void> {
  const what = adding.value;
  if (what === null) return;
  adding.value = null;
  if (title.trim() === '') return;
  const id = await p.addItem(what.unitId, what.kind, title.trim(), what.position);
  if (id !== null) chosenId.value = id;
}
/** Enter ends it, and so does leaving the field; whichever comes first counts. */
async function endAddUnit(title: string): Promise<void> {
  if (!addingUnit.value) return;
  addingUnit.value = false;
  if (title.trim() !== '') await p.addUnit(title.trim());
}
function focusRow(id: string): void {
  void nextTick(() => document.getElementById(`row-${id}`)?.focus());
}
function onRowKey(event: KeyboardEvent, item: PlanItem): void {
  const all = units.value.flatMap((u) => u.items);
  const at = all.findIndex((i) => i.id === item.id);
  if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
    if (canEdit.value) {
      p.moveItem(item.id, event.key === 'ArrowUp' ? -1 : 1);
      focusRow(item.id);
    }
  } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    const next = all[at + (event.key === 'ArrowDown' ? 1 : -1)];
    if (next) {
      chosenId.value = next.id;
      focusRow(next.id);
    }
  } else if (event.key === 'F2') startRename(item.id, item.title);
  else if (event.key === 'Enter') void router.push({ name: 'item', params: { courseId: courseId.value, itemId: item.id } });
  else if (event.key === 'Delete' && canEdit.value)
    void (many.value.length > 0 ? p.removeMany(many.value.map((i) => i.id)) : p.remove('item', item.id, item.title));
  else if (event.key === 'x' && canEdit.value && !event.ctrlKey && !event.metaKey) choice.toggle(item.id);
  else if (event.key.toLowerCase() === 'a' && (event.ctrlKey || event.metaKey) && canEdit.value) choice.all();
  else if (event.key === 'Escape' && many.value.length > 0) choice.clear();
  else return;
  event.preventDefault();
}
function onUnitKey(event: KeyboardEvent, unit: PlanUnit): void {
  if (!event.altKey || !(event.key === 'ArrowUp' || event.key === 'ArrowDown') || !canEdit.value) return;
  event.preventDefault();
  p.moveUnit(unit.id, event.key === 'ArrowUp' ? -1 : 1);
}
const onDragStart = (): void => {
  before = p.orderOf(units.value);
};
const onDragEnd = (event: { item: HTMLElement }): void => {
  const title = event.item.querySelector('.title')?.textContent.trim() ?? '';
  if (before !== null && JSON.stringify(before) !== JSON.stringify(p.orderOf(units.value))) void p.saveOrder(before, `“${title}” moved.`);
  before = null;
};
const KEYS = [
  ['↑ ↓', 'from line to line'],
  ['Alt ↑ ↓', 'move the line or the unit'],
  ['F2', 'rename'],
  ['Enter', 'open'],
  ['X', 'choose one more; Ctrl click and Shift click do it too, Ctrl A all of them'],
  ['Delete', 'delete, with undo'],
] as const;
const value = (event: Event): string => (event.target as HTMLInputElement).value;
</script>

<template>
  <FirstSteps v-if="canEdit" :course-id="courseId" :stamp="units" @added="p.load()" />
  <div class="two" style="flex: 1">
    <section class="plan" aria-label="Plan">
      <div class="top">
        <span class="arrangement" role="group" aria-label="Arrangement">
          <ActButton
            :class="['act', { on: arrangement === 'outline' }]"
            :aria-pressed="arrangement === 'outline'"
            @click="arrangement = 'outline'"
          >
            Outline
          </ActButton>
          <ActButton
            :class="['act', { on: arrangement === 'weeks' }]"
            :aria-pressed="arrangement === 'weeks'"
            @click="arrangement = 'weeks'"
          >
            Weeks
          </ActButton>
        </span>
        <span class="soft">{{ plan ? howMany : '' }}</span><span v-if="course.weeks" class="soft"
          >week {{ course.weeks[0] === course.weeks[1] ? course.weeks[0] : `${course.weeks[0]} to ${course.weeks[1]}` }} only ·
          <ActButton look="act" @click="course.weeks = null">all weeks</ActButton></span
        ><router-link v-if="canEdit && plan" :to="{ name: 'check', params: { courseId } }" style="margin-left: auto"
          >Check before opening</router-link
        ><router-link v-if="canEdit && plan" :to="{ name: 'carry', params: { courseId } }">Copy from another course</router-link
        ><router-link v-if="canEdit && plan" :to="{ name: 'dates', params: { courseId } }">Dates</router-link
        ><router-link v-if="canEdit && plan" :to="{ name: 'given', params: { courseId } }">Given to classes</router-link
        ><router-link :to="{ name: 'time', params: { courseId } }">Time</router-link
        ><router-link :to="{ name: 'objectives', params: { courseId } }">Objectives</router-link
        ><router-link :to="{ name: 'programme', params: { courseId } }">Programme</router-link><KeysHelp :keys="KEYS" />
      </div>
      <p v-if="fault" class="fault">{{ fault }}</p>
      <template v-if="!plan && !fault"><div v-for="n in 10" :key="n" class="skeleton" style="height: 22px; margin: 9px 0" /></template>
      <p v-if="plan && units.length === 0" class="soft empty">
        Units and their items will stand here, set like a programme. Begin with the first unit.
      </p>
      <PlanWeeks
        v-if="plan && arrangement === 'weeks'"
        :units="units"
        :weeks="course.head?.line.weeks ?? []"
        :zone="course.zone"
        :now="course.now"
        :chosen-id="chosenId"
        :can-edit="canEdit"
        @choose="
          choice.clear();
          chosenId = $event;
        "
        @shift="shiftWeeks"
      />
      <div v-for="(unit, n) in arrangement === 'outline' ? units : []" :key="unit.id" class="unit">
        <div class="unit-head">
          <span class="number">{{ unit.isStanding ? '' : n + (units[0]?.isStanding ? 0 : 1) }}</span>
          <LineField
            v-if="renaming === unit.id"
            takes-focus="all"
            class="serif"
            v-model="newTitle"
            maxlength="160"
            aria-label="Title of the unit"
            @blur="endRename(unit, newTitle, true)"
            @keydown.enter="endRename(unit, newTitle, true)"
            @keydown.esc="renaming = null"
          />
          <h2 v-else>
            <ActButton
              class="plain-title"
              :disabled="!canEdit"
              title="Rename; Alt and arrows move it"
              @click="startRename(unit.id, unit.title)"
              @keydown="onUnitKey($event, unit)"
            >
              {{ unit.title }}
            </ActButton>
          </h2>
          <ActButton
            :class="['act', 'quiet-delete', { always: unitSays(unit) !== '' || unitId === unit.id }]"
            :aria-label="`Dates and audience of the unit ${unit.title}`"
            @click="showUnit(unit.id)"
          >
            {{ unitSays(unit) || 'dates' }}
          </ActButton>
          <ActButton
            v-if="canEdit"
            look="act"
            class="quiet-delete"
            :aria-label="`Delete the unit ${unit.title}`"
            @click="p.remove('unit', unit.id, unit.title)"
          >
            delete
          </ActButton>
          <span class="soft sum at-end">{{ unit.isStanding ? 'outside the units; the first page opens the course' : sumText(unit) }}</span>
        </div>
        <DragList
          v-model="unit.items as PlanItem[]"
          group="items"
          handle=".grip"
          :is-fixed="!canEdit || course.weeks !== null"
          is-followed
          class="items"
          @start="onDragStart"
          @end="onDragEnd"
        >
          <div v-for="(item, place) in unit.items" v-show="isInWeeks(item)" :key="item.id" class="slot">
            <div
              :id="`row-${item.id}`"
              :class="['row', { on: choice.ids.value.size === 0 ? item.id === chosenId : choice.ids.value.has(item.id) }]"
              role="group"
              tabindex="0"
              :aria-label="item.title"
              :aria-current="item.id === chosenId ? 'true' : undefined"
              @click="onRowClick($event, item)"
              @dblclick="startRename(item.id, item.title)"
              @keydown.self="onRowKey($event, item)"
            >
              <span class="grip" aria-hidden="true">⠿</span
              ><span :class="['pick', { always: choice.ids.value.size > 0 }]"
                ><TickBox
                  v-if="canEdit"
                  :model-value="choice.ids.value.has(item.id)"
                  :aria-label="`Choose ${item.title}`"
                  tabindex="-1"
                  @click.stop="($event as MouseEvent).shiftKey ? choice.reach(item.id) : choice.toggle(item.id)" /></span
              ><ItemGlyph :kind="item.kind" />
              <LineField
                v-if="renaming === item.id"
                takes-focus="all"
                v-model="newTitle"
                maxlength="160"
                aria-label="Title"
                @click.stop
                @blur="endRename(item, newTitle, false)"
                @keydown.enter.stop="endRename(item, newTitle, false)"
                @keydown.esc.stop="renaming = null"
              />
              <span v-else class="title-cell"
                ><router-link
                  :class="['title', { struck: item.isOff }]"
                  :to="{ name: 'item', params: { courseId, itemId: item.id } }"
                  tabindex="-1"
                  @click.stop
                  >{{ item.title }}</router-link
                ><span v-if="rowSays(item)" class="label says">{{ rowSays(item) }}</span></span
              >
              <span class="date" :class="{ clay: item.warnings.length > 0 }" :title="item.warnings.join(' ')"
                >{{ dateText(item) }}<span v-if="item.warnings.length > 0"> !</span></span
              ><span class="min">{{ item.estimatedMinutes === 0 ? '' : minutesInWords(item.estimatedMinutes) }}</span
              ><span class="pts">{{ item.possible > 0 ? `${formatPoints(item.possible)} p` : '' }}</span
              ><LeafState :state="item.state" />
            </div>
            <ActButton v-if="canEdit" class="between" :aria-label="`Add after ${item.title}`" @click="startAdd(unit.id, place + 1)"
              >+</ActButton
            >
            <AddLine
              v-if="adding && adding.unitId === unit.id && adding.position === place + 1"
              v-model:kind="adding.kind"
              @add="endAdd"
              @leave="adding = null"
            />
          </div>
        </DragList>
        <AddLine
          v-if="adding && adding.unitId === unit.id && adding.position === 0 && unit.items.length === 0"
          v-model:kind="adding.kind"
          @add="endAdd"
          @leave="adding = null"
        />
        <ActButton v-if="canEdit" look="act" class="add" @click="startAdd(unit.id, unit.items.length)">Add item</ActButton>
      </div>
      <div v-if="plan && canEdit" style="padding-top: 22px">
        <LineField
          v-if="addingUnit"
          class="serif"
          style="font-size: 17px"
          maxlength="160"
          placeholder="Title of the unit, then Enter"
          aria-label="Title of the new unit"
          takes-focus
          @keydown.enter="endAddUnit(value($event))"
          @keydown.esc="addingUnit = false"
          @blur="endAddUnit(value($event))"
        /><template v-else
          ><ActButton look="act" @click="addingUnit = true">Add unit</ActButton
          ><ActButton v-if="!units[0]?.isStanding" look="act" style="margin-left: 20px" @click="p.addUnit('Standing pages', true)">
            Add standing pages
          </ActButton></template
        >
      </div>
    </section>
    <ChoiceInspector
      v-if="plan && many.length > 0"
      :items="many"
      :of="allItems.length"
      :plan="plan"
      :zone="course.zone"
      :now="course.now"
      @change="p.changeMany"
      @move="
        p.moveMany(
          many.map((i) => i.id),
          $event,
        )
      "
      @duplicate="duplicate"
      @remove="p.removeMany(many.map((i) => i.id))"
      @clear="choice.clear"
    />
    <ItemInspector
      v-else-if="chosen"
      :key="chosen.id"
      :item="chosen"
      :categories="plan?.categories ?? []"
      :can-edit="canEdit"
      :arrangements="plan?.arrangements ?? 0"
      :others="allItems"
      :change="(change) => p.changeItem(chosen!, change)"
      @close="chosenId = null"
      @remove="p.remove('item', chosen.id, chosen.title)"
      @saved="p.keep($event)"
    />
    <UnitInspector
      v-else-if="shownUnit"
      :key="shownUnit.id"
      :unit="shownUnit"
      :can-edit="canEdit"
      :change="(change) => p.changeUnit(shownUnit!, change)"
      @switch="switchUnit(shownUnit, $event)"
      @close="unitId = null"
    />
  </div>
</template>

<style scoped>
.plan {
  flex: 1;
  padding: 14px 26px 40px;
  min-width: 0;
}
.top {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  align-items: baseline;
}
/* Two rows of them at a narrow window are still far enough apart for a finger. */
.top :is(a, .act) {
  display: inline-block;
  line-height: 24px;
}
.unit {
  padding-top: 18px;
}
.unit-head {
  display: flex;
  align-items: baseline;
  gap: 10px;
  border-bottom: 1px solid var(--frost);
  padding-bottom: 4px;
}
.number {
  font: 13px var(--serif);
  color: var(--soft);
  width: 10px;
}
h2 {
  font-size: 19px;
  line-height: 28px;
}
.plain-title {
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  color: inherit;
  text-align: left;
  cursor: text;
}
.plain-title:disabled {
  cursor: default;
}
.quiet-delete {
  font-size: 13px;
  color: var(--soft);
}
.unit-head:hover .quiet-delete,
.quiet-delete:focus,
.quiet-delete.always {
  opacity: 1;
}
.items {
  min-height: 8px;
}
.slot {
  position: relative;
}
.row {
  display: grid;
  grid-template-columns: 18px 16px 18px minmax(0, 1fr) 150px 76px 64px 20px;
  gap: 8px;
  align-items: center;
  min-height: 31px;
  box-sizing: border-box;
  padding: 2px 10px 2px 0;
  margin: 0 -10px;
  border-bottom: 1px solid var(--frost2);
  cursor: default;
}
.row.on {
  background: var(--bloom-wash);
}
.row:hover .grip,
.row:focus .grip,
.row:hover .pick,
.row:focus .pick,
.pick:focus-within,
.pick.always {
  opacity: 1;
}
.pick {
  opacity: 0;
  line-height: 0;
}
.arrangement {
  display: flex;
  gap: 14px;
}
.arrangement .on {
  color: var(--ink);
  font-weight: 600;
}
.grip {
  opacity: 0;
  color: var(--soft);
  cursor: grab;
  text-align: center;
  padding-left: 6px;
}
.title-cell {
  display: flex;
  gap: 10px;
  align-items: baseline;
  min-width: 0;
}
.says {
  white-space: nowrap;
}
.title {
  color: var(--ink);
  justify-self: start;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.date {
  color: var(--soft);
  white-space: nowrap;
}
:is(.min, .pts) {
  color: var(--soft);
  white-space: nowrap;
  text-align: right;
}
.date.clay {
  color: var(--clay);
}
.between {
  position: absolute;
  left: 14px;
  bottom: -12px;
  z-index: 1;
  width: 24px;
  height: 24px;
  line-height: 20px;
  border: 0;
  background: var(--mist);
  color: var(--bloom);
  border-radius: 12px;
  opacity: 0;
  cursor: pointer;
  padding: 0;
}
.slot:hover .between,
.between:focus {
  opacity: 1;
}
/* Clear of the + between two lines, which reaches below the last of them. */
.add {
  margin-top: 13px;
  padding: 2px 60px 2px 0;
  min-height: 26px;
  font-size: 13.5px;
}
.empty {
  padding: 20px 0 0;
}
@media (max-width: 1100px) {
  .row {
    grid-template-columns: 18px 16px 18px minmax(0, 1fr) 140px 60px 20px;
  }
  .pts {
    display: none;
  }
}
</style>
