<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { BoardReview, PeerBoard } from '@rosemary/api';
import { countOf, plainLetters } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';
import PlainTable from '../parts/PlainTable.vue';
import { call } from '../platform/call.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** Who reviews whom, work by work, given and taken by hand: chosen from a list, or carried over by dragging. */
const props = defineProps<{ board: PeerBoard; base: { readonly courseId: string; readonly itemId: string } }>();
const emit = defineEmits<{ changed: [board: PeerBoard] }>();
const notices = useNotices();
const { isBusy, fault, run } = useBusy('Not done. Try again.');
const sought = ref('');
const openOnly = ref(false);
const names = computed(() => new Map(props.board.lines.map((l) => [l.enrolmentId, l.name])));
const nameOf = (id: string | null): string => names.value.get(id ?? '') ?? 'Somebody who left';
const loads = computed(() => {
  const many = new Map<string, number>();
  for (const r of props.board.reviews)
    if (r.role === 'peer' && r.reviewerId !== null) many.set(r.reviewerId, (many.get(r.reviewerId) ?? 0) + 1);
  return many;
});
const works = computed(() => {
  const folded = plainLetters(sought.value.trim());
  return props.board.works
    .map((work) => ({
      work,
      title: work.authors.map(nameOf).join(', '),
      reviews: props.board.reviews.filter((r) => r.workId === work.id && r.role === 'peer'),
    }))
    .filter(({ work, title, reviews }) => {
      if (openOnly.value && work.isOpenBecause === null) return false;
      return folded === '' || plainLetters([title, ...reviews.map((r) => nameOf(r.reviewerId))].join(' ')).includes(folded);
    });
});
/** Who may still be given a work: not its authors, nor who has it; those with the fewest first. */
const others = (one: (typeof works.value)[number]) =>
  props.board.lines
    .filter((l) => !one.work.authors.includes(l.enrolmentId) && !one.reviews.some((r) => r.reviewerId === l.enrolmentId))
    .map((l) => ({
      id: l.enrolmentId,
      words: `${l.name} (${loads.value.get(l.enrolmentId) ?? 0})`,
      many: loads.value.get(l.enrolmentId) ?? 0,
    }))
    .sort((a, b) => a.many - b.many);
async function give(workId: string, reviewerId: string): Promise<void> {
  const next = await run(() => call(api.pairPeers, props.base, { workId, reviewerId }));
  if (next !== null) emit('changed', next);
}
async function take(reviewId: string, workId: string, reviewerId: string | null): Promise<boolean> {
  const next = await run(() => call(api.unpairPeers, { ...props.base, reviewId }));
  if (next === null) return false;
  emit('changed', next);
  if (reviewerId !== null)
    notices.say(`${nameOf(reviewerId)} does not review it any more.`, async () => {
      emit('changed', await call(api.pairPeers, props.base, { workId, reviewerId }));
    });
  return true;
}
/** A reviewer who is dragged from one work to another leaves the first. */
const dragged = ref<{ readonly id: string; readonly workId: string; readonly reviewerId: string } | null>(null);
function drag(event: DragEvent, { id, workId, reviewerId }: BoardReview): void {
  if (reviewerId === null) return;
  // Some browsers begin no drag that carries nothing.
  event.dataTransfer?.setData('text/plain', nameOf(reviewerId));
  dragged.value = { id, workId, reviewerId };
}
async function drop(workId: string): Promise<void> {
  const what = dragged.value;
  dragged.value = null;
  if (what === null || what.workId === workId) return;
  const given = await run(() => call(api.pairPeers, props.base, { workId, reviewerId: what.reviewerId }));
  if (given === null) return;
  emit('changed', given);
  await take(what.id, what.workId, null);
}
</script>

<template>
  <section class="peer-pairs" aria-label="Who reviews whom">
    <p class="line">
      <LineField v-model="sought" class="sought" placeholder="Find a name" aria-label="Find a name" />
      <ActButton look="act" :aria-pressed="openOnly" @click="openOnly = !openOnly">{{
        openOnly ? 'All works' : 'Only works with too few'
      }}</ActButton>
      <span class="label">Numbers behind a name are the reviews that somebody has. A reviewer can be dragged to another work.</span>
    </p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-if="works.length === 0" class="soft">{{ board.works.length === 0 ? 'Nothing is handed in yet.' : 'No work is found by this.' }}</p>
    <PlainTable v-else>
      <thead>
        <tr>
          <th scope="col">Work of</th>
          <th scope="col">reviewed by</th>
          <th scope="col">give it to</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in works" :key="one.work.id" @dragover.prevent @drop.prevent="drop(one.work.id)">
          <th scope="row">
            {{ one.title }}<span v-if="one.work.isOpenBecause" class="clay label why">{{ one.work.isOpenBecause }}</span>
          </th>
          <td>
            <span
              v-for="r in one.reviews"
              :key="r.id"
              class="reviewer"
              :draggable="r.state === 'to give' && r.reviewerId !== null"
              @dragstart="drag($event, r)"
              >{{ nameOf(r.reviewerId) }}
              <ActButton
                v-if="r.state === 'to give' || r.state === 'begun' || r.state === 'missing'"
                look="act"
                :disabled="isBusy"
                :aria-label="`${nameOf(r.reviewerId)} does not review the work of ${one.title}`"
                @click="take(r.id, r.workId, r.reviewerId)"
                >×</ActButton
              ><span v-else class="label">{{ r.state }}</span></span
            >
            <span v-if="one.reviews.length === 0" class="soft">nobody yet</span>
          </td>
          <td>
            <ChoiceField
              :model-value="''"
              :aria-label="`Give the work of ${one.title} to`"
              :disabled="isBusy"
              @change="$event === '' ? undefined : give(one.work.id, $event)"
            >
              <option value="">
                {{ one.reviews.length < one.work.wanted ? `${countOf(one.work.wanted - one.reviews.length, 'place')} open` : 'one more…' }}
              </option>
              <option v-for="o in others(one)" :key="o.id" :value="o.id">{{ o.words }}</option>
            </ChoiceField>
          </td>
        </tr>
      </tbody>
    </PlainTable>
  </section>
</template>
