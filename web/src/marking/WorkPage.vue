<script setup lang="ts">
import type { NoteView, StackEntry, Work } from '@rosemary/api';
import { dayAndTime, formatPoints } from '@rosemary/core';
import { computed, defineAsyncComponent, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import DocumentView from '../parts/DocumentView.vue';
import DifferenceView from '../parts/DifferenceView.vue';
import FileWork from '../parts/FileWork.vue';
import KeysHelp from '../parts/KeysHelp.vue';
import { HttpProblem, send } from '../platform/http.ts';
import { useEvents, useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../shell/courseStore.ts';
import { useNotices } from '../shell/noticeStore.ts';
import AnnotatedText from './AnnotatedText.vue';
import MarginNotes from './MarginNotes.vue';
import MarkStrip from './MarkStrip.vue';
import StackList from './StackList.vue';
import WorkTools from './WorkTools.vue';
import { useStack } from './useStack.ts';

const PdfWork = defineAsyncComponent(() => import('../parts/PdfWork.vue'));
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
const attemptAt = ref(0);
const chosen = ref<string | null>(null);
const place = ref<{ fileId: string | null; anchor: NoteView['anchor']; quote: string } | null>(null);
const writing = ref<{ fileId: string | null; anchor: NoteView['anchor']; quote: string } | null>(null);
const tops = ref<Record<string, number>>({});
const pdfTops = ref<Record<string, Record<string, number>>>({});
const paper = ref<HTMLElement | null>(null);
const strip = ref<InstanceType<typeof MarkStrip> | null>(null);
const base = computed(() => `/courses/${courseId.value}/marking/${itemId.value}`);
const canRelease = computed(() => course.head?.role === 'instructor');

async function open(id: string | null): Promise<void> {
  await strip.value?.flush();
  await router.replace({ params: { ...route.params, enrolmentId: id ?? '' } });
}
onMounted(async () => {
  void course.load(courseId.value);
  await s.load();
  if (enrolmentId.value === null) {
    const first = shown.value.find((e) => e.state === 'waits' || e.state === 'draft') ?? shown.value[0];
    if (first) await open(first.enrolmentId);
  } else await s.open(enrolmentId.value);
});
/** Another marker at the same work is told at once; the list follows every change. */
const changedBy = ref('');
const turn = ref(0);
useFresh(courseId, ['marks', 'work', 'grades', 'people'], () => s.refresh());
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
  chosen.value = null;
  place.value = null;
  writing.value = null;
  tops.value = {};
  pdfTops.value = {};
  if (id !== null) await s.open(id);
});

const attempt = computed(() => work.value?.attempts[attemptAt.value] ?? null);
/** The attempt before the one that is looked at, to hold it against. */
const earlier = computed(() => work.value?.attempts[attemptAt.value + 1] ?? null);
const showsChanges = ref(false);
const notes = computed(() =>
  (work.value?.notes ?? []).filter((n) => n.attemptId === attempt.value?.id).map((n, i) => ({ ...n, number: i + 1 })),
);
const textNotes = computed(() => notes.value.filter((n) => n.fileId === null));
const notesOf = computed(() => new Map(pdfs.value.map((f) => [f.id, notes.value.filter((n) => n.fileId === f.id)])));
const pdfs = computed(() => attempt.value?.files.filter((f) => f.mediaType === 'application/pdf') ?? []);
const others = computed(() => attempt.value?.files.filter((f) => f.mediaType !== 'application/pdf') ?? []);
const about = computed(() => {
  const e = work.value?.entry;
  if (!e) return '';
  const at = attempt.value;
  return [
    e.section,
    at ? `handed in ${dayAndTime(Date.parse(at.handedInAt), course.zone, course.now)}` : e.state,
    at?.lateText ?? null,
    at && at.wordCount > 0 ? `${at.wordCount.toLocaleString('en-GB')} words` : null,
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
const draftTop = computed(() => {
  const range = document.getSelection()?.rangeCount ? document.getSelection()?.getRangeAt(0).getBoundingClientRect() : null;
  return writing.value && range ? range.top - (paper.value?.getBoundingClientRect().top ?? 0) : 0;
});

const picksRemark = ref(false);
function startNote(withRemark = false): void {
  picksRemark.value = withRemark;
  if (place.value) writing.value = place.value;
  else notices.say(`Select the words the note is about, then press ${withRemark ? 'R' : 'N'}.`);
}
async function changeNotes(change: () => Promise<NoteView[]>): Promise<boolean> {
  try {
    const next = await change();
    if (work.value) work.value = { ...work.value, notes: next };
    return true;
  } catch (error) {
    notices.sayFault(error);
    return false;
  }
}
async function addNote(body: string, remarkId: string | null): Promise<void> {
  const what = writing.value;
  if (what === null || attempt.value === null) return;
  const id = crypto.randomUUID();
  const isKept = await changeNotes(() =>
    send<NoteView[]>('POST', `${base.value}/${enrolmentId.value}/notes`, { id, attemptId: attempt.value!.id, ...what, body, remarkId }),
  );
  if (isKept) {
    writing.value = null;
    place.value = null;
    chosen.value = id;
    document.getSelection()?.removeAllRanges();
  }
}
const editNote = (note: NoteView, body: string): Promise<boolean> =>
  changeNotes(() => send<NoteView[]>('PATCH', `${base.value}/${enrolmentId.value}/notes/${note.id}`, { body, version: note.version }));
async function removeNote(note: NoteView): Promise<void> {
  const url = `${base.value}/${enrolmentId.value}/notes/${note.id}`;
  if (await changeNotes(() => send<NoteView[]>('DELETE', url)))
    notices.say('The note is deleted.', async () => {
      await changeNotes(() => send<NoteView[]>('POST', `${url}/restore`));
    });
}

async function step(by: 1 | -1): Promise<void> {
  const at = shown.value.findIndex((e) => e.enrolmentId === enrolmentId.value);
  const next = shown.value[at + by];
  if (next) await open(next.enrolmentId);
  else notices.say(by === 1 ? 'That was the last of this list.' : 'This is the first of this list.');
}
async function finished(next: Work): Promise<void> {
  s.accept(next);
  await s.refresh();
}
async function release(ids: readonly string[] | null, withhold = false): Promise<void> {
  await strip.value?.flush();
  try {
    const { many } = await send<{ many: number }>('POST', `${base.value}/${withhold ? 'withhold' : 'release'}`, { enrolmentIds: ids });
    notices.say(
      withhold
        ? 'Taken back: the student no longer sees this mark.'
        : many === 1
          ? 'One mark is released: its student sees it now.'
          : `${many} marks are released: their students see them now.`,
      withhold || ids === null ? null : () => release(ids, true),
    );
    await Promise.all([s.refresh(), enrolmentId.value === null ? Promise.resolve() : s.open(enrolmentId.value, true)]);
  } catch (error) {
    notices.sayFault(error);
  }
}
/** Those who are shown, to be chosen from once more before anything is sent. */
async function writeTo(): Promise<void> {
  await strip.value?.flush();
  const state = { to: shown.value.map((e) => e.personId), about: stack.value?.item.title ?? '' };
  await router.push({ name: 'messages', params: { courseId: courseId.value }, state });
}
const confirmsAll = ref(false);

function onKey(event: KeyboardEvent): void {
  const target = event.target as HTMLElement;
  if (
    (target.isContentEditable && !target.closest('.paper-work')) ||
    ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) ||
    event.ctrlKey ||
    event.metaKey ||
    event.altKey
  )
    return;
  if (event.key === 'ArrowRight') void step(1);
  else if (event.key === 'ArrowLeft') void step(-1);
  else if (event.key.toLowerCase() === 'n') startNote();
  else if (event.key.toLowerCase() === 'r') startNote(true);
  else if (event.key.toLowerCase() === 'f') strip.value?.openFeedback();
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
onMounted(() => {
  document.addEventListener('keydown', onKey);
});
onBeforeUnmount(() => {
  document.removeEventListener('keydown', onKey);
});
const KEYS = [
  ['1 … 9', 'choose a level of the criterion'],
  ['Tab', 'the next criterion; Shift Tab the one before'],
  ['N', 'a note on the selected words'],
  ['R', 'a stock remark on the selected words'],
  ['F', 'overall feedback'],
  ['Enter', 'finish and go to the next'],
  ['→ ←', 'next and previous work'],
] as const;
const titleOf = (e: StackEntry): string => `${e.givenName} ${e.familyName}`;
watch(attemptAt, () =>
  nextTick(() => {
    tops.value = {};
  }),
);
const problemText = computed(() => (fault.value instanceof HttpProblem ? fault.value.message : ''));
</script>

<template>
  <div class="marking">
    <div class="hd">
      <h1>{{ work ? titleOf(work.entry) : ' ' }}</h1>
      <span class="soft">{{ about }}</span>
      <label v-if="work && work.attempts.length > 1" class="soft"
        >attempt
        <select v-model.number="attemptAt" class="line-input" style="width: auto">
          <option v-for="(a, n) in work.attempts" :key="a.id" :value="n">{{ a.number }}{{ n === 0 ? ', the latest' : '' }}</option>
        </select></label
      >
      <button v-if="attempt?.document && earlier?.document" class="act" :aria-pressed="showsChanges" @click="showsChanges = !showsChanges">
        {{ showsChanges ? 'as it was handed in' : `changes since attempt ${earlier.number}` }}
      </button>
      <span class="end"
        ><WorkTools
          v-if="work"
          :key="work.entry.enrolmentId"
          :work="work"
          :base="`${base}/${work.entry.enrolmentId}`"
          @changed="finished"
          @words="work = { ...work!, words: $event }"
        />
        <KeysHelp :keys="KEYS" /> <router-link :to="`/courses/${courseId}/marking`">all assignments</router-link>
        <router-link v-if="work" :to="`/courses/${courseId}/progress?person=${work.entry.enrolmentId}`">this student</router-link></span
      >
    </div>
    <p v-if="changedBy" class="theirs" role="status">
      {{ changedBy }} has just changed the mark or notes of this work. <button class="act" @click="showTheirs">Show it</button>
      <button class="act" @click="changedBy = ''">Not now</button>
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
            <p v-if="problemText" class="fault sheet-paper">{{ problemText }}</p>
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
              <details v-if="work.instructions">
                <summary>The task</summary>
                <DocumentView :document="work.instructions" />
              </details>
            </div>
            <template v-else>
              <p v-if="attempt.link" class="sheet-paper small">
                <span class="label">Handed in as a link</span>
                <a :href="attempt.link" target="_blank" rel="noreferrer noopener">{{ attempt.link }}</a>
                <span class="label">what stands there may change; no copy of it is kept</span>
              </p>
              <p v-if="attempt.note" class="sheet-paper small"><span class="label">Note to the marker</span> {{ attempt.note }}</p>
              <div v-if="showsChanges && earlier" class="sheet-paper">
                <DifferenceView :before="earlier.document" :after="attempt.document" :earlier="earlier.number" />
              </div>
              <div v-else-if="attempt.document" id="work-text" class="sheet-paper">
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
                  @choose="chosen = $event"
                  @placed="placedPdf(f.id, $event)"
                  @select="
                    place =
                      $event === null
                        ? null
                        : { fileId: f.id, anchor: { kind: 'pdf', page: $event.page, boxes: $event.boxes }, quote: $event.quote }
                  "
                />
              </div>
              <div v-for="f in others" :key="f.id" class="sheet-paper">
                <FileWork :file="f" />
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
            :picks-remark="picksRemark"
            :criterion="strip?.criterion() ?? ''"
            :criteria="work?.rubric?.criteria.map((c) => c.title) ?? []"
            @choose="chosen = $event"
            @add="addNote"
            @leave="writing = null"
            @edit="editNote"
            @remove="removeNote"
            @start="startNote()"
          />
        </div>
      </div>
    </div>
    <MarkStrip
      v-if="work"
      ref="strip"
      :key="`${work.entry.enrolmentId} ${turn}`"
      :work="work"
      :base="`${base}/${work.entry.enrolmentId}`"
      :can-release="canRelease"
      @finished="finished"
      @saved="s.setMark"
      @next="step(1)"
      @release="release([work.entry.enrolmentId])"
      @withhold="release([work.entry.enrolmentId], true)"
    />
    <v-dialog v-model="confirmsAll"
      ><div class="sheet pad">
        <h2>Release {{ stack?.releasable }} finished marks</h2>
        <p>
          Their students see score, rubric, notes and feedback at once.
          {{ stack && stack.waits > 0 ? `${stack.waits} works still wait and are not touched.` : '' }}
        </p>
        <p class="soft">A released mark can be taken back, one by one.</p>
        <p style="padding-top: 14px">
          <button
            class="go"
            @click="
              confirmsAll = false;
              release(null);
            "
          >
            Release {{ stack?.releasable }} marks
          </button>
          <button class="quiet" @click="confirmsAll = false">Leave it</button>
          <span v-if="stack" class="soft">of {{ formatPoints(stack.item.possible) }} points</span>
        </p>
      </div></v-dialog
    >
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
.sheet-paper {
  background: var(--paper);
  border: 1px solid var(--frost);
  padding: 34px 46px;
  margin-bottom: 14px;
}
.small {
  padding: 8px 46px;
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
  .sheet-paper {
    padding: 24px 30px;
  }
}
</style>
