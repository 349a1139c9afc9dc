<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { BoardLine, PeerBoard } from '@rosemary/api';
import { countOf, dayAndTime, formatPoints } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import ActionMenu from '../parts/ActionMenu.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useEvents } from '../platform/useEvents.ts';
import { usePageTitle } from '../platform/usePageTitle.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import BoardTable from './BoardTable.vue';
import ClosingPart from './ClosingPart.vue';
import { boardLines, type ShownLine, WANTED, type Wanted } from './boardLines.ts';
import PairsPart from './PairsPart.vue';
import FollowUpsPart from '../followUp/FollowUpsPart.vue';
import DatesLine from '../parts/charts/DatesLine.vue';
import WorkingLines from '../parts/WorkingLines.vue';
import PeerInspector from './PeerInspector.vue';

/** Everything of a peer review on one board: who handed in, gave, got; what they saw; what is worth a look. */
const route = useRoute();
const router = useRouter();
const course = useCourse();
const notices = useNotices();
const base = computed(() => ({ courseId: String(route.params.courseId), itemId: String(route.params.itemId) }));
const board = shallowRef<PeerBoard | null>(null);
const fault = ref('');
const { isBusy, fault: actFault, run } = useBusy('Not done. Try again.');
const wanted = ref<Wanted>('all');
usePageTitle(() => board.value?.item.title);
async function load(): Promise<void> {
  try {
    board.value = await call(api.getPeerBoard, base.value);
    fault.value = '';
  } catch (error) {
    fault.value =
      error instanceof HttpProblem && error.code === 'not-found'
        ? 'This assignment is not reviewed by students.'
        : error instanceof Error
          ? error.message
          : '';
  }
}
onMounted(load);
useEvents(
  computed(() => base.value.courseId),
  (event) => {
    if (event.itemId === base.value.itemId || event.topic === 'plan') void load();
  },
);
const isTeaching = computed(() => course.head?.role === 'instructor' && course.head.isArchived !== true);
const lines = computed((): readonly ShownLine[] => (board.value === null ? [] : boardLines(board.value)));
const inSection = computed(() => lines.value.filter(({ line }) => course.sectionId === null || line.sectionId === course.sectionId));
const shown = computed(() => inSection.value.filter(WANTED[wanted.value].test));
const chosenId = computed({
  get: () => (typeof route.query.student === 'string' ? route.query.student : null),
  set: (id) => {
    void router.replace({ query: id === null ? {} : { student: id } });
  },
});
const chosen = computed(() => lines.value.find(({ line }) => line.enrolmentId === chosenId.value) ?? null);
const isByHand = ref(false);
const isAgreementOpen = ref(false);
const sums = computed(() => {
  const b = board.value;
  if (b === null) return null;
  const peers = b.reviews.filter((r) => r.role === 'peer');
  return {
    works: inSection.value.filter(({ line }) => line.workId !== null).length,
    given: peers.filter((r) => r.state === 'given' || r.state === 'set aside').length,
    owed: peers.length,
    none: inSection.value.filter(WANTED.none.test).length,
    far: inSection.value.filter(WANTED.far.test).length,
    few: b.works.filter((w) => w.isOpenBecause !== null).length,
  };
});
const two = (value: number): string => value.toFixed(2).replace('-', '−');
const agreement = computed(() => {
  const a = board.value?.agreement;
  if (a === undefined || a.kappa === null) return '';
  const icc =
    a.icc === null
      ? ''
      : `; ICC(1,1) ${two(a.icc.value)}, 95 % between ${two(a.icc.low)} and ${two(a.icc.high)}, over ${countOf(a.works, 'work')}`;
  return `weighted kappa over ${countOf(a.pairs, 'pair')} of reviews${icc}`;
});
const act = async (work: () => Promise<PeerBoard | null>): Promise<PeerBoard | null> => {
  const next = await run(work);
  if (next !== null) board.value = next;
  return next;
};
async function draw(body: { asksForMore: boolean; dropsPast: boolean }): Promise<void> {
  const before = new Set(board.value?.reviews.map((r) => r.id));
  const next = await act(() => call(api.drawPeers, base.value, body));
  if (next === null) return;
  const made = next.reviews.filter((r) => !before.has(r.id)).length;
  const { lastDrawId } = next;
  const left = next.works.filter((w) => w.isOpenBecause !== null).length;
  const words = `${countOf(made, 'review')} given out${left > 0 ? `; ${countOf(left, 'work has', 'works have')} too few` : ''}.`;
  if (made === 0 || lastDrawId === null)
    notices.say(`Nothing was left to give out${left > 0 ? `; ${countOf(left, 'work has', 'works have')} too few` : ''}.`);
  else
    notices.say(words, async () => {
      board.value = await call(api.undoPeerDraw, { ...base.value, drawId: lastDrawId });
    });
}
async function giveResults(): Promise<void> {
  const next = await act(() => call(api.givePeerResults, base.value, undefined, 'Results of the reviews'));
  if (next !== null) notices.say('The results are with the students.');
}
/** Who is shown now, or one of them, is written to; nothing is sent before it is written. */
const writeTo = (people: readonly BoardLine[]): Promise<unknown> =>
  router.push({
    name: 'messages',
    params: { courseId: base.value.courseId },
    state: { to: people.flatMap((line) => line.personId ?? []), about: board.value?.item.title ?? '' },
  });
const canWrite = computed(() => shown.value.some(({ line }) => line.personId !== null));
const when = (at: string | null): string => (at === null ? '' : dayAndTime(Date.parse(at), course.zone, course.now));
const download = (format: string): void => {
  window.location.assign(`${urlOf(api.getReviewsTable, base.value)}?format=${format}`);
};
const step = (by: number): void => {
  const at = shown.value.findIndex(({ line }) => line.enrolmentId === chosenId.value);
  const next: BoardLine | undefined = shown.value[at === -1 ? 0 : at + by]?.line;
  if (next !== undefined) chosenId.value = next.enrolmentId;
};
</script>

<template>
  <div class="peer-board">
    <div class="sheet">
      <p v-if="fault" class="fault" role="alert">
        {{ fault }} <ActButton look="act" @click="load">Try again</ActButton>
        <router-link class="act" :to="{ name: 'peer-setting', params: base }">How it is set</router-link>
      </p>
      <div v-else-if="!board"><div v-for="n in 12" :key="n" class="skeleton" style="height: 18px; margin-top: 10px" /></div>
      <template v-else>
        <header class="title-line">
          <h1>{{ board.item.title }}</h1>
          <span class="soft">{{ board.words }}</span>
          <router-link class="act end" :to="{ name: 'peer-setting', params: base }">How it is set</router-link>
        </header>
        <DatesLine :dates="board.dates" :zone="course.zone" :now="course.now" />
        <ul v-if="board.faults.length > 0" class="faults">
          <li v-for="f in board.faults" :key="f.text" :class="f.weight === 'mend' ? 'clay' : 'soft'">{{ f.text }}</li>
        </ul>
        <p v-if="sums" class="sums">
          <span
            ><b>{{ sums.works }}</b> of {{ countOf(inSection.length, 'work') }} in</span
          >
          <span
            ><b>{{ sums.given }}</b> of {{ countOf(sums.owed, 'review') }} given</span
          >
          <ActButton v-if="sums.none > 0" look="act" class="clay" @click="wanted = 'none'"
            ><b>{{ sums.none }}</b> {{ sums.none === 1 ? 'person has' : 'people have' }} given none</ActButton
          >
          <ActButton v-if="sums.far > 0" look="act" class="clay" @click="wanted = 'far'"
            ><b>{{ sums.far }}</b> {{ sums.far === 1 ? 'work has' : 'works have' }} a review far from the rest</ActButton
          >
          <span v-if="board.agreement.kappa !== null" class="soft"
            ><ActButton look="act" class="soft" :aria-expanded="isAgreementOpen" @click="isAgreementOpen = !isAgreementOpen"
              >agreement of the class {{ two(board.agreement.kappa) }}</ActButton
            >
            <span class="label">{{ agreement }}</span></span
          >
        </p>
        <WorkingLines
          v-if="isAgreementOpen"
          class="agreement"
          aria-label="How the agreement comes out"
          is-open
          :lines="board.agreement.working"
        />
        <p class="acts">
          <ChoiceField v-model="wanted" aria-label="Show" is-word>
            <option v-for="(w, key) in WANTED" :key="key" :value="key">{{ w.words }}</option>
          </ChoiceField>
          <template v-if="isTeaching">
            <ActButton
              v-if="board.drawnAt === null || (sums?.few ?? 0) > 0"
              look="act"
              :disabled="isBusy"
              @click="draw({ asksForMore: false, dropsPast: false })"
              >{{ board.drawnAt === null ? 'Give the works out now' : 'Give out what is left' }}</ActButton
            >
            <ActButton
              v-if="sums && sums.few > 0 && board.drawnAt !== null"
              look="act"
              :disabled="isBusy"
              @click="draw({ asksForMore: true, dropsPast: true })"
              >Ask others to fill the gaps</ActButton
            >
            <ActButton look="act" :aria-pressed="isByHand" @click="isByHand = !isByHand">{{
              isByHand ? 'Back to the board' : 'By hand'
            }}</ActButton>
            <ActButton
              v-if="board.drawnAt !== null && (board.resultsOutAt === null || board.outdated > 0)"
              look="act"
              :disabled="isBusy"
              @click="giveResults"
              >{{
                board.resultsOutAt === null ? 'Give the results now' : `Bring ${countOf(board.outdated, 'result')} up to date`
              }}</ActButton
            >
          </template>
          <ActButton v-if="wanted !== 'all' && canWrite" look="act" @click="writeTo(shown.map((one) => one.line))"
            >Write to {{ shown.length === 1 ? 'this student' : `these ${shown.length}` }}</ActButton
          >
          <span v-if="board.resultsOutAt" class="soft">Results are out since {{ when(board.resultsOutAt) }}.</span>
          <ActionMenu class="end" words="Download" label="Download the reviews" @choose="download"
            ><option value="csv">The reviews with their words as CSV</option>
            <option value="xlsx">The reviews with their words as XLSX</option></ActionMenu
          >
        </p>
        <p v-if="actFault" class="fault" role="alert">{{ actFault }}</p>
        <ClosingPart :closing="board.closing" :base="base" :is-out="board.resultsOutAt !== null" :can-edit="isTeaching" />
        <PairsPart v-if="isByHand" :board="board" :base="base" @changed="board = $event" />
        <template v-else>
          <p v-if="shown.length === 0" class="soft">
            {{ lines.length === 0 ? 'No student has this assignment yet.' : 'Nobody here. Show all to see everybody.' }}
          </p>
          <BoardTable v-else :board="board" :lines="shown" :chosen="chosenId" @choose="chosenId = $event" @step="step" />
          <FollowUpsPart :base="base" :can-edit="isTeaching" />
        </template>
      </template>
    </div>
    <PeerInspector
      v-if="board && chosen"
      :key="chosen.line.enrolmentId"
      :board="board"
      :shown="chosen"
      :base="base"
      :can-edit="isTeaching"
      @changed="board = $event"
      @reload="load"
      @close="chosenId = null"
      @write="writeTo([chosen.line])"
    />
    <aside v-else-if="board" class="inspector">
      <p class="soft">Choose a student to see what others saw in their work.</p>
      <p v-if="board.formMost > 0" class="label">
        The form gives {{ formatPoints(board.formMost) }} points at the most; they are taken to the
        {{ formatPoints(board.workPossible) }} of the work.
      </p>
    </aside>
  </div>
</template>

<style src="./peer.css"></style>
