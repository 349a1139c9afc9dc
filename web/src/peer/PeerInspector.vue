<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { PeerBoard, PeerWork, ReviewerWorking } from '@rosemary/api';
import { countOf, formatPoints } from '@rosemary/core';
import { computed, ref, shallowRef, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import FoldOut from '../parts/FoldOut.vue';
import PlainTable from '../parts/PlainTable.vue';
import WorkingLines from '../parts/WorkingLines.vue';
import { call } from '../platform/call.ts';
import DifferenceView from '../parts/DifferenceView.vue';
import AsidePart from './AsidePart.vue';
import AssessPart from './AssessPart.vue';
import type { ShownLine } from './boardLines.ts';
import ReviewShown from './ReviewShown.vue';
import ShowPart from './ShowPart.vue';

/** One student: what others saw in their work, what it comes to, and how their own reviewing comes out. */
const props = defineProps<{
  board: PeerBoard;
  shown: ShownLine;
  base: { readonly courseId: string; readonly itemId: string };
  canEdit: boolean;
}>();
const emit = defineEmits<{ changed: [board: PeerBoard]; reload: []; close: []; write: [] }>();
const work = shallowRef<PeerWork | null>(null);
const reviewer = shallowRef<ReviewerWorking | null>(null);
const fault = ref('');
const isAssessing = ref(false);
const line = computed(() => props.shown.line);
async function load(): Promise<void> {
  try {
    fault.value = '';
    const { workId, enrolmentId } = line.value;
    [work.value, reviewer.value] = await Promise.all([
      workId === null ? null : call(api.getPeerWork, { ...props.base, workId }),
      call(api.getReviewerWorking, { ...props.base, enrolmentId }),
    ]);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : 'It could not be read.';
  }
}
watch(() => props.board, load, { immediate: true });
const counted = computed(() => work.value?.reviews.filter((r) => r.role === 'peer' && Object.keys(r.points).length > 0) ?? []);
const signed = computed(() => work.value?.reviews.filter((r) => r.signs.length > 0 || r.reportedWhy !== '') ?? []);
const percent = (millionths: number): string =>
  `${millionths > 0 ? '+' : millionths < 0 ? '−' : ''}${(Math.abs(millionths) / 10_000).toFixed(1)} %`;
const traits = computed(() => {
  const l = line.value;
  if (l.bias === null || l.weight === null) return '';
  const within = l.biasWithin === null ? '' : ` (± ${(l.biasWithin / 10_000).toFixed(1)})`;
  return `${percent(l.bias)}${within} of full marks kinder or harder than the class; each of their reviews weighs ${(l.weight / 1000).toFixed(2)}.`;
});
function assessed(next: PeerWork): void {
  work.value = next;
  isAssessing.value = false;
  emit('reload');
}
function showed(next: PeerWork): void {
  work.value = next;
  emit('reload');
}
const paper = computed(() => urlOf(api.getReviewsPaper, { ...props.base, enrolmentId: line.value.enrolmentId }));
</script>

<template>
  <aside class="inspector peer" :aria-label="line.name">
    <p class="label">
      {{ board.item.isGroupWork && work ? `Work of ${work.authors.join(', ')}` : `Work of ${line.name}` }}
      <ActButton look="act" class="end" aria-label="Close" @click="emit('close')">×</ActButton>
    </p>
    <h2>
      {{
        line.work === null
          ? line.workId === null
            ? 'Nothing handed in'
            : 'No result yet'
          : `${formatPoints(line.work)} of ${formatPoints(board.workPossible)}`
      }}
    </h2>
    <p class="acts">
      <router-link
        v-if="work && board.item.reviewed === 'works'"
        class="act"
        :to="{ name: 'work', params: { courseId: base.courseId, itemId: base.itemId, enrolmentId: work.leadId } }"
        >Open the work</router-link
      ><ActButton v-if="line.personId" look="act" @click="emit('write')">Write to {{ line.name }}</ActButton>
      <a class="act" :href="paper" target="_blank" rel="noopener">As PDF</a>
    </p>
    <p v-if="fault" class="fault" role="alert">{{ fault }} <ActButton look="act" @click="load">Try again</ActButton></p>
    <p v-if="shown.work?.isOpenBecause" class="clay">{{ shown.work.isOpenBecause }}.</p>
    <template v-if="work">
      <PlainTable v-if="counted.length > 0" look="bare" class="criteria">
        <tbody>
          <tr v-for="c in work.criteria" :key="c.id">
            <th scope="row">{{ c.title }}</th>
            <td class="soft">
              <template v-for="(r, n) in counted" :key="r.id"
                >{{ n > 0 ? ' · ' : '' }}<s v-if="r.state === 'set aside'" class="clay">{{ formatPoints(r.points[c.id] ?? 0) }}</s
                ><template v-else>{{ formatPoints(r.points[c.id] ?? 0) }}</template></template
              >
            </td>
            <td class="num">{{ c.result === null ? '·' : formatPoints(c.result) }} / {{ formatPoints(c.most) }}</td>
          </tr>
        </tbody>
      </PlainTable>
      <WorkingLines v-if="work.working" :lines="[work.working]" />
      <section v-for="r in signed" :key="`sign ${r.id}`" class="part">
        <p class="label">{{ r.by }}</p>
        <p v-if="r.signs.length > 0">{{ r.signs.map((s) => s.text).join('; ') }}.</p>
        <p v-if="r.reportedWhy" class="clay">Reported by the author: {{ r.reportedWhy }}</p>
        <AsidePart v-if="canEdit" :review="r" :base="base" @changed="emit('changed', $event)" />
      </section>
      <section class="part">
        <p v-if="work.reviews.length === 0" class="soft">Nobody has this work to review yet.</p>
        <FoldOut v-for="r in work.reviews" :key="r.id">
          <template #summary
            ><span>{{ r.by }}</span> <span class="soft">{{ r.role === 'self' ? 'own work, ' : '' }}{{ r.state }}</span></template
          >
          <ReviewShown
            :review="r"
            :form="work.form"
            :by="countOf(r.wordCount, 'word')"
            :total="r.total"
            :answered="work.revised ? r.answered : null"
          />
          <p v-if="r.setAsideWhy" class="clay">Set aside: {{ r.setAsideWhy }} ({{ r.keepsCredit ? 'with credit' : 'without credit' }})</p>
          <p v-if="r.answer"><span class="label">The author answers:</span> {{ r.answer }}</p>
          <p v-if="r.isThanked" class="label">The author says thank you.</p>
          <AsidePart
            v-if="canEdit && r.signs.length === 0 && r.reportedWhy === '' && (r.state === 'given' || r.state === 'set aside')"
            :review="r"
            :base="base"
            @changed="emit('changed', $event)"
          />
        </FoldOut>
      </section>
      <section v-if="work.revised" class="part" aria-label="What was revised">
        <p class="label">Revised after the reviews</p>
        <DifferenceView :before="work.revised.before" :after="work.revised.after" :since="`attempt ${work.revised.number}`" />
      </section>
      <ShowPart
        v-if="canEdit && board.resultsOutAt"
        :key="`${work.id} ${work.showing?.version}`"
        :work="work"
        :base="base"
        @changed="showed"
      />
      <section v-if="canEdit && work.form.criteria.length > 0" class="part">
        <p class="soft">
          {{
            work.own?.handedInAt
              ? 'You assessed this work yourself.'
              : board.workFrom === 'teacher'
                ? 'The work is marked as any other.'
                : 'Your own assessment counts as it is set.'
          }}
          <ActButton look="act" @click="isAssessing = !isAssessing">{{
            isAssessing ? 'Close' : work.own ? 'Change your assessment' : 'Assess this work'
          }}</ActButton>
        </p>
        <AssessPart v-if="isAssessing" :work="work" :base="base" @saved="assessed" />
      </section>
    </template>
    <section v-if="reviewer && reviewer.reviews > 0" class="part">
      <p class="label">The reviewing of {{ line.name }}</p>
      <WorkingLines v-if="reviewer.working" :lines="[reviewer.working]" />
      <p v-else class="soft">{{ countOf(reviewer.reviews, 'review') }} to give; no result yet.</p>
      <p v-if="traits" class="label">{{ traits }}</p>
      <WorkingLines v-if="reviewer.traits.length > 0" class="label" :lines="reviewer.traits" />
    </section>
  </aside>
</template>
