<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { DiscussionView, Receipt, StudentItem } from '@rosemary/api';
import { dayAndTime, formatPoints, pointsInWords, minutesInWords, plainText } from '@rosemary/core';
import { computed, defineAsyncComponent, onBeforeUnmount, onMounted, ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import FileInPlace from '../parts/blocks/FileInPlace.vue';
import DocumentView from '../parts/DocumentView.vue';
import ItemGlyph from '../parts/ItemGlyph.vue';
import { call } from '../platform/call.ts';
import { useEvents } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import QuizStart from '../quiz/QuizStart.vue';
import AnswerForm from './AnswerForm.vue';
import ReceiptView from './ReceiptView.vue';
import ReturnedView from './ReturnedView.vue';
import RevisionAsked from './RevisionAsked.vue';
import WordsPanel from '../parts/WordsPanel.vue';
import MatchPanel from '../marking/MatchPanel.vue';
import OwnGroupView from './OwnGroupView.vue';

const DiscussionBody = defineAsyncComponent(() => import('../talk/DiscussionBody.vue'));
const talk = shallowRef<DiscussionView | null>(null);
const route = useRoute();
const course = useCourse();
const session = useSession();
const notices = useNotices();
const item = ref<StudentItem | null>(null);
const fault = ref('');
const receipt = ref<Receipt | null>(null);
const again = ref(false);
const readMatches = async () => (await call(api.getOwnMatches, base.value)).report;
const base = computed(() => ({ courseId: String(route.params.courseId), itemId: String(route.params.itemId) }));
const isLooking = computed(() => session.seeAs !== null);
const openedAt = Date.now();
async function load(): Promise<void> {
  try {
    item.value = await call(api.getOwnItem, base.value);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
async function countVisit(seconds: number): Promise<void> {
  if (!isLooking.value && item.value !== null && item.value.visibility !== 'announced')
    await call(api.noteVisit, base.value, { seconds }).catch(() => undefined);
}
useEvents(
  computed(() => String(route.params.courseId)),
  (event) => {
    if (event.topic === 'returned' && event.itemId === route.params.itemId) void load();
  },
);
onMounted(async () => {
  await load();
  await countVisit(0);
});
onBeforeUnmount(() => {
  const seconds = Math.min(3600, Math.round((Date.now() - openedAt) / 1000));
  if (seconds >= 10) void countVisit(seconds);
});
async function setTick(isTicked: boolean): Promise<void> {
  try {
    await call(api.tickItem, base.value, { isTicked });
    await load();
  } catch (error) {
    notices.sayFault(error);
  }
}
const when = (at: string | null): string => (at === null ? '' : dayAndTime(Date.parse(at), course.zone, course.now));
const facts = computed(() => {
  const i = item.value;
  if (i === null) return '';
  const due =
    i.dates.due.at === null
      ? null
      : `due ${when(i.dates.due.at)}${i.dates.due.reason === 'as for everyone' ? '' : `, ${i.dates.due.reason}`}`;
  return [
    due,
    i.dates.closes.at !== null && i.kind === 'assignment' ? `closes ${when(i.dates.closes.at)}` : null,
    minutesInWords(i.estimatedMinutes),
    i.possible > 0 ? pointsInWords(i.possible) : null,
    i.assignment ? JUDGED_WORDS[i.assignment.judged] : null,
    i.category,
  ]
    .filter(Boolean)
    .join(' · ');
});
const COUNTS = { latest: 'the latest counts', best: 'the best counts', first: 'the first counts', mean: 'the mean of all counts' } as const;
const takesWork = computed(() => {
  const a = item.value?.assignment;
  return a ? a.acceptsText || a.acceptsFiles || a.acceptsLink || a.acceptsRecording : false;
});
const JUDGED_WORDS = { points: '', done: 'judged done or not', words: 'judged in words', none: 'not judged' } as const;
const isNewWords = computed(() => item.value?.words.some((w) => w.isNew) === true);
const latest = computed(() => item.value?.attempts[0] ?? null);
/** Takes back what was handed in; handing it in again is the way back. */
async function withdraw(): Promise<void> {
  try {
    await call(api.takeBackHandIn, base.value);
    receipt.value = null;
    again.value = false;
    notices.say('It is taken back, and is a draft again. Hand it in before it is due.');
    await load();
  } catch (error) {
    notices.sayFault(error);
  }
}
async function handedIn(next: Receipt): Promise<void> {
  receipt.value = next;
  again.value = false;
  await load();
}
</script>

<template>
  <div class="pad column">
    <div v-if="fault">
      <h1>This cannot be opened</h1>
      <p class="soft">{{ fault }}</p>
    </div>
    <template v-if="!item && !fault"
      ><div class="skeleton" style="height: 30px; width: 60%" />
      <div v-for="n in 5" :key="n" class="skeleton" style="height: 16px; margin-top: 12px"
    /></template>
    <template v-if="item">
      <p class="label"><ItemGlyph :kind="item.kind" /> {{ facts }}<span v-if="item.isDone"> · done</span></p>
      <h1>{{ item.title }}</h1>
      <p v-if="item.visibility === 'announced'" class="soft">Not open yet: it {{ item.waitsFor }}.</p>
      <p v-else class="done">
        <label v-if="item.doneRule === 'ticked'"
          ><input
            type="checkbox"
            :checked="item.isDone"
            :disabled="isLooking"
            @change="setTick(($event.target as HTMLInputElement).checked)"
          />
          I have done this</label
        ><span v-else class="label">{{ item.doneWhen }}</span>
      </p>
      <article v-if="item.page" class="paper"><DocumentView :document="item.page" /></article>
      <template v-if="item.kind === 'discussion' && item.visibility !== 'announced'">
        <article v-if="talk && plainText(talk.document) !== ''" class="paper"><DocumentView :document="talk.document" /></article>
        <DiscussionBody :course-id="String(route.params.courseId)" :item-id="item.id" style="margin-top: 14px" @shown="talk = $event" />
      </template>
      <article v-if="item.link" class="paper">
        <p v-if="item.link.note">{{ item.link.note }}</p>
        <a v-if="item.link.address" :href="item.link.address" target="_blank" rel="noreferrer noopener">{{ item.link.address }}</a>
        <p v-else class="soft">Its address is not set yet. Ask your instructor.</p>
      </article>
      <article v-if="item.file" class="paper">
        <p v-if="item.file.note">{{ item.file.note }}</p>
        <FileInPlace
          v-if="item.file.file"
          :file="{ fileId: item.file.file.id, src: item.file.file.url, name: item.file.file.name, mediaType: item.file.file.mediaType }"
          is-open-at-first
        />
        <p v-else class="soft">There is no file here yet. Ask your instructor.</p>
      </article>
      <article v-if="item.assignment" class="paper">
        <DocumentView :document="item.assignment.instructions" />
        <p v-if="item.assignment.onPaper" class="soft">It is handed in on paper, to your instructor.</p>
        <table v-if="item.rubric && item.rubric.criteria.length > 0 && !item.returned" class="plain rubric">
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
        </table>
      </article>
      <QuizStart v-if="item.quiz" :quiz="item.quiz" :is-looking="isLooking" />
      <OwnGroupView
        v-if="item.group && item.visibility !== 'announced'"
        :group="item.group"
        :course-id="String(route.params.courseId)"
        :is-looking="isLooking"
        @changed="load"
      />
      <RevisionAsked
        v-if="item.revision && !item.revision.isAnswered"
        :revision="item.revision"
        :attempt="latest"
        :base="base"
        :is-looking="isLooking"
        @changed="load"
      />
      <ReturnedView v-if="item.returned" :item="item" :is-brief="item.revision !== null && !item.revision.isAnswered" />
      <ReceiptView
        v-if="receipt ?? latest"
        :receipt="receipt ?? latest!"
        :zone="course.zone"
        :now="course.now"
        :is-new="receipt !== null"
      />
      <p v-if="latest?.by" class="label">Handed in for your group by {{ latest.by }}.</p>
      <p v-if="latest" class="own-acts">
        <a :href="urlOf(api.getOwnWorkOnPaper, base)" target="_blank" rel="noopener"
          >{{ item.returned ? 'Your marked work' : 'Your work' }} as a PDF</a
        >
        <button v-if="item.canWithdraw && !isLooking" class="act" @click="withdraw">take it back</button>
      </p>
      <details v-if="item.showsMatches" class="talk">
        <summary><span class="serif">Where your words stand elsewhere</span></summary>
        <MatchPanel :read="readMatches" />
      </details>
      <template v-if="item.assignment && takesWork && item.visibility !== 'announced'">
        <AnswerForm
          v-if="item.canHandIn && (latest === null || again || (item.revision !== null && !item.revision.isAnswered))"
          :base="base"
          :item="item"
          :is-looking="isLooking"
          @handed-in="handedIn"
          @reload="load"
        />
        <p v-else-if="item.canHandIn" style="margin-top: 16px">
          <button class="quiet" :disabled="isLooking" @click="again = true">Hand in again; {{ COUNTS[item.assignment.counted] }}</button>
        </p>
        <p v-else-if="item.whyNot" class="soft" style="margin-top: 16px">{{ item.whyNot }}</p>
      </template>
      <details v-if="item.assignment && item.visibility !== 'announced'" class="talk" :open="item.words.length > 0">
        <summary>
          <span class="serif">Conversation</span> <span class="soft">with whoever marks your work{{ isNewWords ? ', new' : '' }}</span>
        </summary>
        <WordsPanel
          :words="item.words"
          :say="(word) => call(api.sayToMarker, base, word)"
          :read="() => call(api.readMarkersWords, base)"
          :kept-as="base.itemId"
          :is-fixed="isLooking"
          hint="Ask about the task or your work. Your instructor reads it with your work, also while it is a draft."
          @said="item = { ...item!, words: $event }"
        />
      </details>
      <article v-if="latest && latest.document && !item.returned && !(item.revision && !item.revision.isAnswered)" class="paper">
        <p class="label">What you handed in</p>
        <DocumentView :document="latest.document" />
      </article>
    </template>
  </div>
</template>

<style scoped>
.column {
  max-width: 760px;
  width: 100%;
  margin: 0 auto;
  box-sizing: border-box;
}
.paper {
  background: var(--paper);
  border: 1px solid var(--frost);
  padding: 24px 34px;
  margin-top: 14px;
}
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
.talk summary {
  cursor: pointer;
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
  .paper {
    padding: 16px;
    margin-left: -16px;
    margin-right: -16px;
    border-left: 0;
    border-right: 0;
  }
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
