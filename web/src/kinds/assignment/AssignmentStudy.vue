<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { Receipt } from '@rosemary/api';
import { formatPoints } from '@rosemary/core';
import { computed, ref } from 'vue';
import MatchPanel from '../../marking/MatchPanel.vue';
import DocumentView from '../../parts/DocumentView.vue';
import WordsPanel from '../../parts/WordsPanel.vue';
import { call } from '../../platform/call.ts';
import { useCourse } from '../../stores/courseStore.ts';
import { useNotices } from '../../stores/noticeStore.ts';
import type { StudyEmits, StudyProps } from '../shownKind.ts';
import StudyPaper from '../StudyPaper.vue';
import AnswerForm from './AnswerForm.vue';
import OwnGroupView from './OwnGroupView.vue';
import ReceiptView from './ReceiptView.vue';
import RevisionAsked from './RevisionAsked.vue';
import PlainTable from '../../parts/PlainTable.vue';
import ActButton from '../../parts/ActButton.vue';
import FoldOut from '../../parts/FoldOut.vue';

/** An assignment as its student has it: what is asked, what was handed in, what is to be handed in, what is said about it. */
const props = defineProps<StudyProps>();
const emit = defineEmits<StudyEmits>();
const course = useCourse();
const notices = useNotices();
const receipt = ref<Receipt | null>(null);
const again = ref(false);
const readMatches = async () => (await call(api.getOwnMatches, props.base)).report;
const COUNTS = { latest: 'the latest counts', best: 'the best counts', first: 'the first counts', mean: 'the mean of all counts' } as const;
const takesWork = computed(() => {
  const a = props.item.assignment;
  return a ? a.acceptsText || a.acceptsFiles || a.acceptsLink || a.acceptsRecording : false;
});
const isNewWords = computed(() => props.item.words.some((w) => w.isNew));
const latest = computed(() => props.item.attempts[0] ?? null);
/** Takes back what was handed in; handing it in again is the way back. */
async function withdraw(): Promise<void> {
  try {
    await call(api.takeBackHandIn, props.base);
    receipt.value = null;
    again.value = false;
    notices.say('It is taken back, and is a draft again. Hand it in before it is due.');
    emit('changed');
  } catch (error) {
    notices.sayFault(error);
  }
}
function handedIn(next: Receipt): void {
  receipt.value = next;
  again.value = false;
  emit('changed');
}
</script>

<template>
  <StudyPaper v-if="item.assignment">
    <DocumentView :document="item.assignment.instructions" />
    <p v-if="item.assignment.onPaper" class="soft">It is handed in on paper, to your instructor.</p>
    <PlainTable v-if="item.rubric && item.rubric.criteria.length > 0 && !item.returned" class="rubric">
      <caption class="label">
        How it is judged
      </caption>
      <tbody>
        <tr v-for="c in item.rubric.criteria" :key="c.id">
          <td>
            <b>{{ c.title }}</b>
          </td>
          <td v-if="c.form === 'comment'" class="soft">in words</td>
          <td v-for="l in c.levels" :key="l.id">
            <b>{{ c.form === 'range' ? `${formatPoints(l.least ?? 0)}–` : '' }}{{ formatPoints(l.points) }}</b
            ><span v-if="c.form === 'count'" class="soft"> {{ l.upTo === null ? 'with more errors' : `up to ${l.upTo} errors` }}</span
            ><br /><span class="soft">{{ l.descriptor }}</span>
          </td>
        </tr>
      </tbody>
    </PlainTable>
  </StudyPaper>
  <OwnGroupView
    v-if="item.group && item.visibility !== 'announced'"
    :group="item.group"
    :course-id="base.courseId"
    :is-looking="isLooking"
    @changed="emit('changed')"
  />
  <RevisionAsked
    v-if="item.revision && !item.revision.isAnswered"
    :revision="item.revision"
    :attempt="latest"
    :base="base"
    :is-looking="isLooking"
    @changed="emit('changed')"
  />
  <slot name="returned" />
  <ReceiptView v-if="receipt ?? latest" :receipt="receipt ?? latest!" :zone="course.zone" :now="course.now" :is-new="receipt !== null" />
  <p v-if="latest?.by" class="label">Handed in for your group by {{ latest.by }}.</p>
  <p v-if="latest" class="own-acts">
    <a :href="urlOf(api.getOwnWorkOnPaper, base)" target="_blank" rel="noopener"
      >{{ item.returned ? 'Your marked work' : 'Your work' }} as a PDF</a
    >
    <ActButton v-if="item.canWithdraw && !isLooking" look="act" @click="withdraw">take it back</ActButton>
  </p>
  <FoldOut v-if="item.showsMatches" class="talk">
    <template #summary><span class="serif">Where your words stand elsewhere</span></template>
    <MatchPanel :read="readMatches" />
  </FoldOut>
  <template v-if="item.assignment && takesWork && item.visibility !== 'announced'">
    <AnswerForm
      v-if="item.canHandIn && (latest === null || again || (item.revision !== null && !item.revision.isAnswered))"
      :base="base"
      :item="item"
      :is-looking="isLooking"
      @handed-in="handedIn"
      @reload="emit('changed')"
    />
    <p v-else-if="item.canHandIn" style="margin-top: 16px">
      <ActButton look="quiet" :disabled="isLooking" @click="again = true">Hand in again; {{ COUNTS[item.assignment.counted] }}</ActButton>
    </p>
    <p v-else-if="item.whyNot" class="soft" style="margin-top: 16px">{{ item.whyNot }}</p>
  </template>
  <slot name="reviews" />
  <FoldOut v-if="item.assignment && item.visibility !== 'announced'" class="talk" :open="item.words.length > 0">
    <template #summary>
      <span class="serif">Conversation</span> <span class="soft">with whoever marks your work{{ isNewWords ? ', new' : '' }}</span>
    </template>
    <WordsPanel
      :words="item.words"
      :say="(word) => call(api.sayToMarker, base, word)"
      :read="() => call(api.readMarkersWords, base)"
      :kept-as="base.itemId"
      :is-fixed="isLooking"
      hint="Ask about the task or your work. Your instructor reads it with your work, also while it is a draft."
      @said="emit('changed')"
    />
  </FoldOut>
  <StudyPaper v-if="latest && latest.document && !item.returned && !(item.revision && !item.revision.isAnswered)">
    <p class="label">What you handed in</p>
    <DocumentView :document="latest.document" />
  </StudyPaper>
</template>

<style scoped>
.own-acts {
  display: flex;
  gap: 20px;
  align-items: baseline;
}
.talk {
  margin-top: 18px;
  border-top: 1px solid var(--frost);
  padding-top: 10px;
}
.talk :deep(summary) {
  margin-bottom: 6px;
}
.rubric {
  font-size: 13px;
  line-height: 17px;
}
.rubric caption {
  text-align: left;
}
@media (max-width: 600px) {
  .rubric tr {
    display: block;
  }
  .rubric td {
    display: inline-block;
    width: 45%;
    vertical-align: top;
    border: 0;
  }
  .rubric td:first-child {
    width: 100%;
    border-top: 1px solid var(--frost);
  }
}
</style>
