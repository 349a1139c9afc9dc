<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { Box, Work } from '@rosemary/api';
import { dayAndTime, numberInWords, countOf } from '@rosemary/core';
import { computed, defineAsyncComponent, nextTick, onMounted, ref, watch } from 'vue';
import { onBeforeRouteLeave, useRoute, useRouter } from 'vue-router';
import DocumentView from '../parts/DocumentView.vue';
import KeysHelp from '../parts/KeysHelp.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useEvents, useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import LinkWork from './LinkWork.vue';
import type StripOfMarks from './MarkStrip.vue';
import { nameOf, useStack, WAITING } from './useStack.ts';
import { useNotes } from './useNotes.ts';
import { selectByKeys } from './selectByKeys.ts';
import ActButton from '../parts/ActButton.vue';
import FoldOut from '../parts/FoldOut.vue';
import { usePageTitle } from '../platform/usePageTitle.ts';

/** The text is read at once; what notes are written into comes with the schema of texts, which is large. */
const takesNotes = ref(false);
const AnnotatedText = defineAsyncComponent(async () => {
  const module = await import('./AnnotatedText.vue');
  takesNotes.value = true;
  return module;
});
const ChoiceField = defineAsyncComponent(() => import('../parts/fields/ChoiceField.vue'));
const MarginNotes = defineAsyncComponent(() => import('./MarginNotes.vue'));
const MarkStrip = defineAsyncComponent(() => import('./MarkStrip.vue'));
const StackList = defineAsyncComponent(() => import('./StackList.vue'));
const DifferenceView = defineAsyncComponent(() => import('../parts/DifferenceView.vue'));
const FileWork = defineAsyncComponent(() => import('../parts/FileWork.vue'));
const MatchPanel = defineAsyncComponent(() => import('./MatchPanel.vue'));
const PairMarks = defineAsyncComponent(() => import('./PairMarks.vue'));
const ReleaseDialog = defineAsyncComponent(() => import('./ReleaseDialog.vue'));
const WorkTools = defineAsyncComponent(() => import('./WorkTools.vue'));
const PdfWork = defineAsyncComponent(() => import('../parts/media/PdfWork.vue'));
const route = useRoute();
const router = useRouter();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const itemId = computed(() => String(route.params.itemId));
const enrolmentId = computed(() =>
  typeof route.params.enrolmentId === 'string' && route.params.enrolmentId !== '' ? route.params.enrolmentId : null,
);
const s = useStack(courseId, itemId);
const { stack, shown, work, fault } = s;
usePageTitle(() => stack.value?.item.title);
const attemptAt = ref(0);
const tops = ref<Record<string, number>>({});
const pdfTops = ref<Record<string, Record<string, number>>>({});
const paper = ref<HTMLElement | null>(null);
const strip = ref<InstanceType<typeof StripOfMarks> | null>(null);
const base = computed(() => ({ courseId: courseId.value, itemId: itemId.value }));
const canRelease = computed(() => course.head?.role === 'instructor');

async function open(id: string | null): Promise<void> {
  await flush();
  await router.replace({ params: { ...route.params, enrolmentId: id ?? '' } });
}
onMounted(async () => {
  void course.load(courseId.value);
  await s.load();
  if (enrolmentId.value === null) {
    const first = shown.value.find((e) => WAITING.has(e.state)) ?? shown.value[0];
    if (first) await open(first.enrolmentId);
  } else {
    await s.open(enrolmentId.value);
    own.restore();
  }
});
/** Another marker at the same work is told at once; the list follows every change. */
const changedBy = ref('');
const turn = ref(0);
useFresh(courseId, ['marks', 'work', 'grades', 'people'], () => (fault.value === null ? s.refresh() : tryAgain()));
useEvents(courseId, (event) => {
  if (event.topic === 'marks' && event.itemId === itemId.value && event.enrolmentId === enrolmentId.value) changedBy.value = event.by;
});
async function showTheirs(): Promise<void> {
  changedBy.value = '';
  if (enrolmentId.value === null) return;
  await strip.value?.flush();
  // What is typed here and not saved stands against theirs in the strip, with both versions: it is not swept away.
  if (strip.value?.isUnsaved() === true) return;
  await s.open(enrolmentId.value, true);
  turn.value += 1;
}
watch(enrolmentId, async (id) => {
  changedBy.value = '';
  attemptAt.value = 0;
  showsChanges.value = false;
  own.clear();
  opened.value = null;
  tops.value = {};
  pdfTops.value = {};
  if (id !== null) await s.open(id);
  own.restore();
  await nextTick();
  isStepping = false;
  if (typedAhead.length > 0) await replay();
});

const attempt = computed(() => work.value?.attempts[attemptAt.value] ?? null);
/** The attempt before the one that is looked at, to hold it against. */
const earlier = computed(() => work.value?.attempts[attemptAt.value + 1] ?? null);
const showsChanges = ref(false);
const own = useNotes(
  work,
  () => ({ ...base.value, enrolmentId: enrolmentId.value ?? '' }),
  () => (attempt.value === null ? null : { id: attempt.value.id, fileIds: attempt.value.files.map((f) => f.id) }),
);
/** What is typed anywhere on this work is kept before it is left. */
async function flush(): Promise<void> {
  await own.save();
  await strip.value?.flush();
}
onBeforeRouteLeave(flush);
const { chosen, place, writing, notes } = own;
const readMatches = async () => (await call(api.getMatches, { ...base.value, enrolmentId: enrolmentId.value ?? '' })).report;
/** What stands over the work: where its words stand elsewhere, or the list of its notes. */
const opened = ref<'matches' | 'notes' | null>(null);
const textNotes = computed(() => notes.value.filter((n) => n.fileId === null));
const notesOf = computed(() => new Map((attempt.value?.files ?? []).map((f) => [f.id, notes.value.filter((n) => n.fileId === f.id)])));
const pdfs = computed(() => attempt.value?.files.filter((f) => f.mediaType === 'application/pdf') ?? []);
const others = computed(() => attempt.value?.files.filter((f) => f.mediaType !== 'application/pdf') ?? []);
const about = computed(() => {
  const e = work.value?.entry;
  if (!e) return '';
  const at = attempt.value;
  return [
    e.section,
    e.group !== '' && e.members.length > 0 ? e.members.join(', ') : null,
    at ? (at.handedInAt === '' ? 'handed in' : `handed in ${dayAndTime(Date.parse(at.handedInAt), course.zone, course.now)}`) : e.state,
    at?.by ? `by ${at.by}` : null,
    at?.lateText ?? null,
    at && at.wordCount > 0 ? countOf(numberInWords(at.wordCount), 'word') : null,
    work.value!.attempts.length > 1 ? null : at ? 'first attempt' : null,
    e.state === 'revision asked' && work.value!.revision
      ? `revision asked, until ${dayAndTime(Date.parse(work.value!.revision.dueAt), course.zone, course.now)}`
      : null,
  ]
    .filter(Boolean)
    .join(' · ');
});

/** Notes stand level with their words; where two would overlap the lower one gives way. */
const levels = computed(() => ({ ...tops.value, ...(Object.assign({}, ...Object.values(pdfTops.value)) as Record<string, number>) }));
function placedPdf(fileId: string, at: Record<string, number>): void {
  const holder = document.getElementById(`pdf-${fileId}`);
  const offset = (holder?.getBoundingClientRect().top ?? 0) + 28 - (paper.value?.getBoundingClientRect().top ?? 0);
  pdfTops.value = { ...pdfTops.value, [fileId]: Object.fromEntries(Object.entries(at).map(([id, top]) => [id, top + offset])) };
}
function placedText(at: Record<string, number>): void {
  const offset = (document.getElementById('work-text')?.getBoundingClientRect().top ?? 0) - (paper.value?.getBoundingClientRect().top ?? 0);
  tops.value = Object.fromEntries(Object.entries(at).map(([id, top]) => [id, top + offset]));
}
/** Words of a PDF wait for a key; an area drawn on it is written about at once. */
function selectPdf(fileId: string, at: { page: number; boxes: Box[]; quote: string } | null): void {
  if (at === null) place.value = null;
  else if (at.quote === '') own.startAt({ fileId, anchor: { kind: 'pdf', page: at.page, boxes: at.boxes }, quote: '' });
  else place.value = { fileId, anchor: { kind: 'pdf', page: at.page, boxes: at.boxes }, quote: at.quote };
}
/** A note is written level with its words, or with the area it is on. */
const draftTop = computed(() => {
  const what = writing.value;
  if (what !== null && what.anchor.kind !== 'text' && what.quote === '') {
    const page = what.anchor.kind === 'pdf' ? `[data-page="${what.anchor.page}"]` : '.frame';
    const holder = document.querySelector(`#pdf-${what.fileId} ${page}`)?.getBoundingClientRect();
    if (holder) return holder.top + (what.anchor.boxes[0]?.y ?? 0) * holder.height - (paper.value?.getBoundingClientRect().top ?? 0);
  }
  const range = document.getSelection()?.rangeCount ? document.getSelection()?.getRangeAt(0).getBoundingClientRect() : null;
  return writing.value && range ? range.top - (paper.value?.getBoundingClientRect().top ?? 0) : 0;
});

async function step(by: 1 | -1): Promise<void> {
  const at = shown.value.findIndex((e) => e.enrolmentId === enrolmentId.value);
  const next = shown.value[at + by];
  if (next) {
    isStepping = true;
    await open(next.enrolmentId);
  } else notices.say(by === 1 ? 'That was the last of this list.' : 'This is the first of this list.');
}
async function changed(next: Work): Promise<void> {
  s.accept(next);
  await s.refresh();
}
async function finished(next: Work): Promise<void> {
  const who = next.entry.isVeiled ? 'Its student' : (next.group?.title ?? next.entry.givenName);
  const words = next.mark.state === 'released' ? `Finished: ${who} sees the mark now.` : 'Finished.';
  notices.say(words, async () => {
    try {
      await changed(await call(api.undoFinish, { ...base.value, enrolmentId: next.entry.enrolmentId }, { version: next.mark.version }));
      await open(next.entry.enrolmentId);
    } catch (error) {
      notices.sayFault(error);
    }
  });
  await changed(next);
}
async function release(ids: readonly string[] | null, withhold = false): Promise<void> {
  await flush();
  try {
    const { many } = await call(withhold ? api.withholdMarks : api.releaseMarks, base.value, { enrolmentIds: ids });
    notices.say(
      withhold
        ? 'Taken back: the student no longer sees this mark.'
        : many === 1
          ? 'One mark is released: its student sees it now.'
          : `${many} marks are released: their students see them now.`,
      withhold || ids === null ? null : () => release(ids, true),
    );
    await s.refresh();
    // Released, a work is known by its student's name from then on.
    const here = enrolmentId.value;
    if (here === null) return;
    if (stack.value?.entries.some((e) => e.enrolmentId === here) === true) await s.open(here, true);
    else {
      s.sort();
      await open(shown.value.find((e) => e.state === 'waits')?.enrolmentId ?? shown.value[0]?.enrolmentId ?? null);
    }
  } catch (error) {
    notices.sayFault(error);
  }
}
/** Those who are shown, to be chosen from once more before anything is sent. */
async function writeTo(): Promise<void> {
  await flush();
  const state = { to: shown.value.map((e) => e.personId), about: stack.value?.item.title ?? '' };
  await router.push({ name: 'messages', params: { courseId: courseId.value }, state });
}
const confirmsAll = ref(false);

/** Keys pressed while the next work is on its way are kept for it, so that quick hands lose none. */
const typedAhead: string[] = [];
let isStepping = false;
async function replay(): Promise<void> {
  const digits = /^\d+/.exec(typedAhead.map((key) => (key.length === 1 ? key : ' ')).join(''))?.[0] ?? '';
  if (digits !== '' && strip.value?.takesScore() === true) {
    typedAhead.splice(0, digits.length);
    await strip.value.typeScore(digits);
    if (typedAhead[0] === 'Enter') {
      typedAhead.shift();
      await strip.value.finishAndNext();
    }
    return;
  }
  for (const key of typedAhead.splice(0)) document.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
}
function onKey(event: KeyboardEvent): void {
  const target = event.target as HTMLElement;
  const isInField =
    (target.isContentEditable && !target.closest('.paper-work')) || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName);
  if (!isInField && selectByKeys(event, document.querySelector<HTMLElement>('#work-text'))) {
    event.preventDefault();
    return;
  }
  if (isInField || event.ctrlKey || event.metaKey || event.altKey) return;
  const isComing = work.value !== null && strip.value === null;
  if (isComing || strip.value?.isFinishing() === true || isStepping) {
    // A key that is held down is not so many presses.
    const isKept = event.key.length === 1 || ['Enter', 'Tab', 'ArrowRight', 'ArrowLeft'].includes(event.key);
    if (isKept && !event.repeat) typedAhead.push(event.key);
    event.preventDefault();
    return;
  }
  if (event.key === 'ArrowRight') void step(1);
  else if (event.key === 'ArrowLeft') void step(-1);
  else if (event.key.toLowerCase() === 'n') own.start();
  else if (event.key.toLowerCase() === 'r') own.start('remark');
  else if (event.key.toLowerCase() === 'c') own.start('correction');
  else if (event.key.toLowerCase() === 'f') strip.value?.openFeedback();
  else if (event.key.toLowerCase() === 'u') strip.value?.unlock();
  else if (/^\d$/.test(event.key) && strip.value?.takesScore() === true) void strip.value.typeScore(event.key);
  else if (/^[1-9]$/.test(event.key)) strip.value?.choose(Number(event.key));
  else if (
    event.key === 'Tab' &&
    strip.value?.hasRubric() &&
    (target === document.body || target.closest('.strip, .paper-work, .stack') !== null)
  )
    strip.value.nextCriterion(event.shiftKey ? -1 : 1);
  else if (event.key === 'Enter' && target === document.body) void strip.value?.finishAndNext();
  else return;
  event.preventDefault();
}
// What was pressed before the strip was there is kept for it too.
watch(strip, (now) => {
  if (now !== null && typedAhead.length > 0 && !isStepping) void replay();
});
useEventListener(document, 'keydown', onKey);
const KEYS = [
  ['1 … 9', 'choose a level of the criterion; without a rubric, type the score'],
  ['Tab', 'the next criterion; Shift Tab the one before'],
  ['Shift → ← ↓ ↑', 'select words of the work; with Alt, move on without selecting'],
  ['N', 'a note on the selected words'],
  ['R', 'a stock remark on the selected words'],
  ['C', 'other words for the selected ones'],
  ['F', 'overall feedback'],
  ['U', 'unlock a mark that is released'],
  ['Enter', 'finish and go to the next'],
  ['→ ←', 'next and previous work'],
] as const;
watch(attemptAt, () =>
  nextTick(() => {
    tops.value = {};
  }),
);
const problemText = computed(() =>
  fault.value === null ? '' : fault.value instanceof HttpProblem ? fault.value.message : 'The server did not answer.',
);
/** What could not be read is read again, by hand or once something is heard of the server. */
async function tryAgain(): Promise<void> {
  if (fault.value === null) return;
  await s.load();
  if (enrolmentId.value !== null) await s.open(enrolmentId.value, true);
  else {
    const first = shown.value.find((e) => WAITING.has(e.state)) ?? shown.value[0];
    if (first) await open(first.enrolmentId);
  }
}
</script>

<template>
  <div class="marking">
    <div class="hd">
      <h1>{{ work ? nameOf(work.entry) : ' ' }}</h1>
      <span class="soft">{{ about }}</span>
      <label v-if="work && work.attempts.length > 1" class="soft"
        >attempt
        <ChoiceField v-model.number="attemptAt" style="width: auto">
          <option v-for="(a, n) in work.attempts" :key="a.id" :value="n">{{ a.number }}{{ n === 0 ? ', the latest' : '' }}</option>
        </ChoiceField></label
      >
      <ActButton
        v-if="attempt?.document && earlier?.document"
        look="act"
        :aria-pressed="showsChanges"
        @click="showsChanges = !showsChanges"
      >
        {{ showsChanges ? 'as it was handed in' : `changes since attempt ${earlier.number}` }}
      </ActButton>
      <span class="end"
        ><WorkTools
          v-if="work"
          :key="work.entry.enrolmentId"
          :work="work"
          :base="{ ...base, enrolmentId: work.entry.enrolmentId }"
          @changed="changed"
          @words="work = { ...work!, words: $event }"
        />
        <ActButton
          v-if="notes.length > 0"
          look="act"
          :aria-pressed="opened === 'notes'"
          @click="opened = opened === 'notes' ? null : 'notes'"
        >
          {{ notes.length === 1 ? '1 note' : `${notes.length} notes` }}
        </ActButton>
        <ActButton
          v-if="work && work.entry.matchPercent !== null"
          look="act"
          :aria-pressed="opened === 'matches'"
          @click="opened = opened === 'matches' ? null : 'matches'"
        >
          {{ work.entry.matchPercent }} % elsewhere
        </ActButton>
        <a
          v-if="work && attempt"
          :href="urlOf(api.getWorkOnPaper, { ...base, enrolmentId: work.entry.enrolmentId })"
          target="_blank"
          rel="noopener"
          >paper</a
        >
        <KeysHelp :keys="KEYS" /> <router-link :to="{ name: 'stack', params: { courseId, itemId } }">the whole stack</router-link>
        <router-link v-if="work && !work.entry.isVeiled" :to="`/courses/${courseId}/progress?person=${work.entry.enrolmentId}`"
          >this student</router-link
        ></span
      >
    </div>
    <p v-if="changedBy" class="theirs" role="status">
      {{ changedBy }} has just changed the mark or notes of this work. <ActButton look="act" @click="showTheirs">Show it</ActButton>
      <ActButton look="act" @click="changedBy = ''">Not now</ActButton>
    </p>
    <div class="desk">
      <StackList
        :stack="stack"
        :shown="shown"
        :current="enrolmentId"
        :order="s.order.value"
        :filter="s.filter.value"
        :can-release="canRelease"
        @open="open"
        @order="s.order.value = $event"
        @filter="s.filter.value = $event"
        @release-all="confirmsAll = true"
        @write-to="writeTo"
      />
      <div class="bed">
        <div ref="paper" class="paper-row">
          <div class="paper-work">
            <div v-if="opened === 'matches' && work" class="sheet-paper over">
              <MatchPanel :key="work.entry.enrolmentId" :read="readMatches" />
            </div>
            <ol v-else-if="opened === 'notes'" class="sheet-paper over all-notes" aria-label="All notes">
              <li v-for="n in notes" :key="n.id">
                <ActButton look="act" @click="chosen = n.id">{{ n.quote === '' ? 'an area' : `“${n.quote.slice(0, 60)}”` }}</ActButton>
                {{ n.body }}
                <span class="label">{{ n.author }}</span>
              </li>
            </ol>
            <p v-if="problemText" class="fault sheet-paper" role="alert">
              {{ problemText }} <ActButton look="act" @click="tryAgain">Try again</ActButton>
            </p>
            <p v-else-if="stack && stack.entries.length === 0" class="sheet-paper soft">
              Nobody is to hand this in yet. Works stand here as soon as the course has students whom it is for.
            </p>
            <div v-else-if="!work" class="sheet-paper">
              <div class="skeleton" style="height: 24px; width: 50%" />
              <div v-for="n in 8" :key="n" class="skeleton" style="height: 16px; margin-top: 12px" />
            </div>
            <template v-else-if="!attempt && work.draft">
              <p class="sheet-paper small draft" role="status">
                <b>A draft, not handed in.</b> {{ work.entry.givenName }} may still change it{{
                  work.draft.savedAt ? `; it was saved ${dayAndTime(Date.parse(work.draft.savedAt), course.zone, course.now)}` : ''
                }}.
              </p>
              <div v-if="work.draft.document" class="sheet-paper"><DocumentView :document="work.draft.document" /></div>
              <p v-if="work.draft.link" class="sheet-paper small">
                <a :href="work.draft.link" target="_blank" rel="noreferrer noopener">{{ work.draft.link }}</a>
              </p>
              <div v-for="f in work.draft.files" :key="f.id" class="sheet-paper"><FileWork :file="f" /></div>
            </template>
            <div v-else-if="!attempt" class="sheet-paper soft">
              <p>
                {{ work.entry.givenName }} has handed in nothing{{
                  work.dates.due.at ? `; it was due ${dayAndTime(Date.parse(work.dates.due.at), course.zone, course.now)}` : ''
                }}.
              </p>
              <FoldOut v-if="work.instructions">
                <template #summary>The task</template>
                <DocumentView :document="work.instructions" />
              </FoldOut>
            </div>
            <template v-else>
              <LinkWork v-if="attempt.link" :attempt="attempt" />
              <p v-if="attempt.note" class="sheet-paper small"><span class="label">Note to the marker</span> {{ attempt.note }}</p>
              <div v-if="showsChanges && earlier" class="sheet-paper">
                <DifferenceView :before="earlier.document" :after="attempt.document" :since="`attempt ${earlier.number}`" />
              </div>
              <div v-else-if="attempt.document" id="work-text" class="sheet-paper">
                <DocumentView v-if="!takesNotes" :document="attempt.document" />
                <AnnotatedText
                  :key="attempt.id"
                  :document="attempt.document"
                  :notes="textNotes"
                  :chosen="chosen"
                  @choose="chosen = $event"
                  @placed="placedText"
                  @select="
                    place =
                      $event === null
                        ? null
                        : { fileId: null, anchor: { kind: 'text', from: $event.from, to: $event.to }, quote: $event.quote }
                  "
                />
              </div>
              <div v-for="f in pdfs" :id="`pdf-${f.id}`" :key="f.id" class="pdf-holder">
                <p class="label name">{{ f.name }}</p>
                <PdfWork
                  :url="f.url"
                  :notes="notesOf.get(f.id) ?? []"
                  :chosen="chosen"
                  can-note
                  @choose="chosen = $event"
                  @placed="placedPdf(f.id, $event)"
                  @select="selectPdf(f.id, $event)"
                />
              </div>
              <div v-for="f in others" :id="`pdf-${f.id}`" :key="f.id" class="sheet-paper">
                <FileWork
                  :file="f"
                  :notes="notesOf.get(f.id) ?? []"
                  :chosen="chosen"
                  can-note
                  @choose="chosen = $event"
                  @placed="placedPdf(f.id, $event)"
                  @select="own.startAt({ fileId: f.id, anchor: { kind: 'picture', boxes: [$event] }, quote: '' })"
                />
              </div>
              <p class="label hash" :title="attempt.contentHash">content hash {{ attempt.contentHash.slice(0, 16) }}…</p>
            </template>
          </div>
          <MarginNotes
            :notes="notes"
            :levels="levels"
            :chosen="chosen"
            :writing="writing"
            :draft-top="draftTop"
            :has-place="place !== null"
            :criterion="strip?.criterion() ?? ''"
            :criteria="work?.rubric?.criteria.map((c) => c.title) ?? []"
            @choose="chosen = $event"
            :draft="own.draft.value"
            @type="own.type"
            @save="own.save"
            @leave="own.leave"
            @edit="own.edit"
            @remove="own.remove"
            @start="own.start()"
          />
        </div>
      </div>
    </div>
    <PairMarks v-if="work" :part="work.part" :rubric="work.rubric" @take="strip?.take($event)" />
    <MarkStrip
      v-if="work"
      ref="strip"
      :key="`${work.entry.enrolmentId} ${turn}`"
      :work="work"
      :base="{ ...base, enrolmentId: work.entry.enrolmentId }"
      :can-release="canRelease"
      @finished="finished"
      @saved="s.setMark"
      @next="step(1)"
      @release="release([work.entry.enrolmentId])"
      @withhold="release([work.entry.enrolmentId], true)"
    />
    <ReleaseDialog
      v-if="confirmsAll"
      :base="base"
      :waits="stack?.waits ?? 0"
      @close="confirmsAll = false"
      @release="
        confirmsAll = false;
        release(null);
      "
    />
  </div>
</template>

<style scoped>
.theirs {
  padding: 6px 20px;
  border-bottom: 1px solid var(--frost);
  background: var(--bloom-wash);
}
.marking {
  height: calc(100vh - 48px);
  display: flex;
  flex-direction: column;
}
.hd {
  position: relative;
  display: flex;
  gap: 18px;
  align-items: baseline;
  background: var(--paper);
  padding: 9px 20px;
  border-bottom: 1px solid var(--frost);
}
.hd h1 {
  font-size: 19px;
  line-height: 24px;
}
.end {
  margin-left: auto;
  display: flex;
  gap: 18px;
  white-space: nowrap;
}
.desk {
  flex: 1;
  display: flex;
  min-height: 0;
}
.bed {
  flex: 1;
  overflow: auto;
  background: var(--bed);
}
.paper-row {
  display: flex;
  padding: 16px 0 40px 22px;
  gap: 16px;
  position: relative;
  min-height: 100%;
  box-sizing: border-box;
}
.paper-work {
  width: 620px;
  flex: none;
}
.small {
  padding: 8px 46px;
}
.over {
  padding: 16px 24px;
  border-color: var(--bloom);
}
.all-notes {
  list-style-position: inside;
}
.all-notes li {
  padding: 3px 0;
}
.hash {
  text-align: right;
}
.name {
  margin: 0;
  position: relative;
  top: 24px;
  display: inline-block;
}
@media (max-width: 1180px) {
  .paper-work {
    width: 520px;
  }
}
</style>
