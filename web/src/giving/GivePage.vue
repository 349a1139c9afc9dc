<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { GivePlace, PlanItem } from '@rosemary/api';
import { countOf, formatPoints } from '@rosemary/core';
import { computed, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import ItemGlyph from '../parts/ItemGlyph.vue';
import PickGrid from '../parts/PickGrid.vue';
import { call, takeBack } from '../platform/call.ts';
import { useDraft } from '../platform/kept.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import WishCell from './WishCell.vue';
import WishPanel, { type ChosenPlace } from './WishPanel.vue';
import { type ClassLine, classesOf, faultOf, keyOf, toCell, usualWish, type Wish, type Wishes } from './wishes.ts';

/** Items down, classes across: when and how each class is given each item, all of it done in one act. */
const route = useRoute();
const router = useRouter();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const base = computed(() => ({ courseId: courseId.value }));
const itemIds = computed(() => (typeof route.query.items === 'string' && route.query.items !== '' ? route.query.items.split(',') : []));
const items = ref<readonly PlanItem[]>([]);
const places = ref<readonly GivePlace[] | null>(null);
const draft = useDraft<Wishes>(() => `give ${courseId.value} ${itemIds.value.join(',')}`);
const wishes = ref<Wishes>(draft.find() ?? {});
watch(wishes, (now) => {
  if (Object.keys(now).length === 0) draft.forget();
  else draft.keep(now);
});
const chosen = ref<ReadonlySet<string>>(new Set());
const loading = useBusy('The classes could not be read. Reload the page.');
const giving = useBusy('Nothing was given. Try again.');
onMounted(() =>
  loading.run(async () => {
    if (itemIds.value.length === 0) return;
    const plan = await call(api.getPlan, base.value);
    const known = new Map(plan.units.flatMap((u) => u.items).map((i) => [i.id, i]));
    items.value = itemIds.value.flatMap((id) => known.get(id) ?? []);
    if (items.value.length === 0) return;
    places.value = await call(api.listGivePlaces, base.value, { itemIds: items.value.map((i) => i.id) });
  }),
);
const classes = computed(() => classesOf(places.value ?? []));
const rows = computed(() => items.value.map((item) => ({ id: item.id, name: item.title })));
const itemOf = (id: string): PlanItem | undefined => items.value.find((i) => i.id === id);
const classOf = (id: string): ClassLine | undefined => classes.value.find((c) => c.id === id);
/** Every place of the grid, with what is wished there. */
const all = computed((): readonly (ChosenPlace & { key: string })[] =>
  items.value.flatMap((item) =>
    classes.value.map((to) => {
      const key = keyOf(item.id, to.id);
      return { key, item, to, wish: wishes.value[key] ?? null };
    }),
  ),
);
const picked = computed(() => all.value.filter((p) => chosen.value.has(p.key)));
const given = computed(() => all.value.flatMap((p) => (p.wish === null ? [] : [{ ...p, wish: p.wish }])));
const faults = computed(() =>
  given.value.flatMap((p) => {
    const fault = faultOf(p.wish, course.now);
    return fault === '' ? [] : [`“${p.item.title}” for ${p.to.name} ${fault}.`];
  }),
);
function setAll(next: (place: ChosenPlace) => Wish | null): void {
  const changed = Object.fromEntries(picked.value.map((p) => [p.key, next(p)]));
  wishes.value = Object.fromEntries(
    Object.entries({ ...wishes.value, ...changed }).filter((entry): entry is [string, Wish] => entry[1] !== null),
  );
}
const setHow = (how: Wish['how'] | 'not'): void => {
  setAll((p) => (how === 'not' ? null : { ...(p.wish ?? usualWish(p.to.place, p.item.id)), how }));
};
const set = (change: (place: ChosenPlace) => Partial<Wish>): void => {
  setAll((p) => (p.wish === null ? null : { ...p.wish, ...change(p) }));
};
const summary = computed(() => {
  const open = given.value.filter((p) => p.wish.how !== 'draft');
  const many = new Set(given.value.map((p) => p.to.id)).size;
  return [
    countOf(many, 'class', 'classes'),
    open.length === 0 ? 'all as drafts' : `${countOf(open.length, 'copy opens', 'copies open')}`,
    open.some((p) => p.wish.tells) ? 'students are told' : '',
  ]
    .filter(Boolean)
    .join(' · ');
});
const give = (): Promise<unknown> =>
  giving.run(async () => {
    const cells = given.value.map((p) => toCell(p.item.id, p.to, p.wish));
    const done = await call(api.giveItems, base.value, { cells }, 'Give to classes');
    if (done === null) return;
    const { id, made, notYet } = done;
    draft.forget();
    wishes.value = {};
    const count = made.reduce((sum, m) => sum + m.itemIds.length, 0);
    await router.push({ name: 'given', params: { courseId: courseId.value }, query: { of: id } });
    const words = [`${countOf(count, 'copy is', 'copies are')} given: ${made.map((m) => m.name).join('; ')}.`, ...notYet].join(' ');
    const at = { courseId: courseId.value, givingId: id };
    notices.say(words, async () => {
      await takeBack(api.giveItems, at, { isTakenBack: true });
      await router.push({ name: 'plan', params: { courseId: courseId.value } });
    });
  });
</script>

<template>
  <div class="pad">
    <p class="label"><router-link :to="{ name: 'plan', params: { courseId } }">Plan</router-link></p>
    <h2>Give to classes</h2>
    <p v-if="loading.fault.value" class="fault" role="alert">{{ loading.fault.value }}</p>
    <p v-else-if="loading.isBusy.value" class="skeleton" style="height: 180px" />
    <p v-else-if="items.length === 0" class="soft">Nothing is chosen. Choose items in the Plan, and then “Give to classes” beside them.</p>
    <p v-else-if="classes.length === 0" class="soft">
      You teach no other course, and this one has no sections. Sections are added in Settings.
    </p>
    <template v-else>
      <p class="soft">
        Each class gets a copy of its own, with its own dates. Dates are those of the same teaching week until you change them.
      </p>
      <div class="sides">
        <div>
          <div class="scroll">
            <PickGrid v-model="chosen" :rows="rows" :columns="classes" label="Items and classes">
              <template #column="{ column }">
                <span class="class"
                  ><span class="soft">{{ classOf(column.id)?.place.course }}</span
                  ><b>{{ classOf(column.id)?.section || 'the whole course' }}</b></span
                >
              </template>
              <template #row="{ row }">
                <ItemGlyph v-if="itemOf(row.id)" :kind="itemOf(row.id)!.kind" /> {{ row.name }}
                <span v-if="(itemOf(row.id)?.possible ?? 0) > 0" class="soft points"
                  >{{ formatPoints(itemOf(row.id)!.possible) }} points</span
                >
              </template>
              <template #cell="{ row, column }">
                <WishCell :wish="wishes[keyOf(row.id, column.id)]" :zone="classOf(column.id)?.place.zone ?? 'UTC'" :now="course.now" />
              </template>
            </PickGrid>
          </div>
          <p v-for="text in faults" :key="text" class="fault" role="alert">{{ text }}</p>
          <p v-if="giving.fault.value" class="fault" role="alert">{{ giving.fault.value }}</p>
          <p class="act-bar">
            <ActButton look="go" :disabled="given.length === 0 || faults.length > 0 || giving.isBusy.value" @click="give">{{
              given.length === 0 ? 'Give' : `Give ${countOf(given.length, 'copy', 'copies')}`
            }}</ActButton>
            <span class="soft" role="status">{{
              given.length === 0 ? 'Choose in the grid which class is given what; nothing is made yet.' : summary
            }}</span>
          </p>
        </div>
        <WishPanel :places="picked" :now="course.now" @how="setHow" @set="set" />
      </div>
    </template>
  </div>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  gap: 24px;
  align-items: start;
}
.scroll {
  overflow-x: auto;
}
.class,
.points {
  display: grid;
}
</style>
