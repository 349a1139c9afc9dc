<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { CopyPlace, CopyWish, PlanItem } from '@rosemary/api';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import DateField from '../parts/DateField.vue';
import { call } from '../platform/call.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useNotices } from '../stores/noticeStore.ts';
import TickBox from '../parts/fields/TickBox.vue';
import ActButton from '../parts/ActButton.vue';

/** Copies of items for several courses and sections at once, each with its own due dates, seen before anything is made. */
const props = defineProps<{ items: readonly Pick<PlanItem, 'id' | 'title'>[]; now: number; reload: () => Promise<unknown> }>();
const emit = defineEmits<{ leave: [] }>();
const route = useRoute();
const notices = useNotices();
const base = computed(() => ({ courseId: String(route.params.courseId) }));
const places = ref<readonly CopyPlace[] | null>(null);
interface Target {
  readonly place: CopyPlace;
  readonly sectionId: string | null;
  readonly name: string;
  readonly dues: Record<string, string | null>;
}
const chosen = ref<Readonly<Record<string, Target>>>({});
const { isBusy, fault, run } = useBusy('Nothing was copied. Try again.');
onMounted(() =>
  run(async () => {
    places.value = await call(api.listCopyPlaces, base.value, { itemIds: props.items.map((i) => i.id) });
  }),
);
const keyOf = (place: CopyPlace, sectionId: string | null): string => `${place.courseId} ${sectionId ?? ''}`;
/** A copy in its own course is for a section: for all of them the item itself is there. */
const lines = (place: CopyPlace) => [
  ...(place.isHere ? [] : [{ sectionId: null, name: 'the whole course' }]),
  ...(place.sections.length > 1 || place.isHere ? place.sections.map((s) => ({ sectionId: s.id, name: `the section ${s.title}` })) : []),
];
function toggle(place: CopyPlace, sectionId: string | null, name: string): void {
  const key = keyOf(place, sectionId);
  const { [key]: known, ...rest } = chosen.value;
  const dues = Object.fromEntries(place.dues.map((d) => [d.itemId, d.dueAt]));
  chosen.value = known === undefined ? { ...rest, [key]: { place, sectionId, name, dues } } : rest;
}
function setDue(key: string, itemId: string, dueAt: string | null): void {
  const target = chosen.value[key];
  if (target !== undefined) chosen.value = { ...chosen.value, [key]: { ...target, dues: { ...target.dues, [itemId]: dueAt } } };
}
const titleOf = (itemId: string): string => props.items.find((i) => i.id === itemId)?.title ?? '';
const many = computed(() => Object.keys(chosen.value).length * props.items.length);
const make = (): Promise<unknown> =>
  run(async () => {
    const wish: CopyWish = {
      itemIds: props.items.map((i) => i.id),
      targets: Object.values(chosen.value).map((t) => ({
        courseId: t.place.courseId,
        sectionId: t.sectionId,
        dues: Object.entries(t.dues).map(([itemId, dueAt]) => ({ itemId, dueAt })),
      })),
    };
    const { made } = await call(api.copyItems, base.value, wish);
    const count = made.reduce((sum, m) => sum + m.itemIds.length, 0);
    const names = made.map((m) => `${m.course}${m.section === '' ? '' : `, ${m.section}`}`).join('; ');
    notices.say(`${count === 1 ? 'One copy is' : `${count} copies are`} made, as drafts: ${names}.`, async () => {
      for (const m of made) await call(api.removeItems, { courseId: m.courseId }, { itemIds: m.itemIds }, 'Without the copies');
      // By then this field is closed, and nobody would hear what it says.
      await props.reload();
    });
    await props.reload();
    emit('leave');
  });
</script>

<template>
  <div class="copies" role="group" aria-label="Copy to courses and sections">
    <h4>Copy to courses and sections</h4>
    <p class="label">Dates are those of the same teaching week; change any before it is made. Copies arrive as drafts.</p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div v-if="!places && !fault"><div v-for="n in 3" :key="n" class="skeleton" style="height: 22px; margin-top: 8px" /></div>
    <div v-for="p in places ?? []" :key="p.courseId" class="place">
      <b>{{ p.course }}</b> <span v-if="p.isHere" class="label">this course</span>
      <div v-for="line in lines(p)" :key="line.name">
        <label
          ><TickBox :model-value="keyOf(p, line.sectionId) in chosen" @change="toggle(p, line.sectionId, line.name)" />
          {{ line.name }}</label
        >
        <div v-if="keyOf(p, line.sectionId) in chosen" class="dues">
          <template v-for="d in p.dues" :key="d.itemId">
            <DateField
              :model-value="chosen[keyOf(p, line.sectionId)]!.dues[d.itemId] ?? null"
              :label="items.length === 1 ? `Due, ${p.zone}` : `${titleOf(d.itemId)}, due`"
              :zone="p.zone"
              :now="now"
              :hint="d.note || null"
              @change="setDue(keyOf(p, line.sectionId), d.itemId, $event)"
            />
          </template>
        </div>
      </div>
    </div>
    <p class="foot">
      <ActButton look="go" :disabled="isBusy || many === 0" @click="make">
        Make {{ many === 0 ? 'copies' : many === 1 ? 'one copy' : `${many} copies` }}
      </ActButton>
      <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
    </p>
  </div>
</template>

<style scoped>
h4 {
  margin: 10px 0 2px;
}
.place {
  padding: 8px 0;
  border-top: 1px solid var(--frost);
}
.dues {
  padding: 2px 0 4px 22px;
}
.foot {
  display: flex;
  gap: 10px;
  margin-top: 8px;
}
</style>
