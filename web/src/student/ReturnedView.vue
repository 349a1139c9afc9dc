<script setup lang="ts">
import type { StudentItem } from '@rosemary/api';
import { criterionPoints, formatPoints, levelOfCount, type RubricCriterion, type RubricLevel, numberNotes } from '@rosemary/core';
import { computed, defineAsyncComponent, nextTick, ref } from 'vue';
import AnnotatedText from '../marking/AnnotatedText.vue';
import DocumentView from '../parts/DocumentView.vue';
import FileWork from '../parts/FileWork.vue';
import WorkingLines from '../parts/WorkingLines.vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';

const PdfWork = defineAsyncComponent(() => import('../parts/media/PdfWork.vue'));
/** While a revision is asked for the work itself stands with that, and is not shown twice. */
const props = defineProps<{ item: StudentItem; isBrief?: boolean }>();
const returned = computed(() => props.item.returned!);
const attempt = computed(() => props.item.attempts[0] ?? null);
const showsWorking = ref(false);
const notes = computed(() =>
  numberNotes(
    returned.value.notes.filter((n) => n.attemptId === attempt.value?.id),
    attempt.value?.files.map((f) => f.id) ?? [],
  ),
);
const textNotes = computed(() => notes.value.filter((n) => n.fileId === null));
const notesOf = computed(() => new Map((attempt.value?.files ?? []).map((f) => [f.id, notes.value.filter((n) => n.fileId === f.id)])));
const others = computed(() => attempt.value?.files.filter((f) => f.mediaType !== 'application/pdf') ?? []);
/** The level each criterion reached; of a count by how many errors there were. */
function levelOf(c: RubricCriterion): RubricLevel | null {
  const given = returned.value.given[c.id];
  if (c.form === 'count') return given === undefined ? null : levelOfCount(c.levels, given);
  return c.levels.find((l) => l.id === returned.value.choices[c.id]) ?? null;
}
const isJudged = computed(() =>
  [returned.value.choices, returned.value.given, returned.value.comments].some((part) => Object.keys(part).length > 0),
);
const judged = computed(() => props.item.assignment?.judged ?? 'points');
const isDone = computed(() => returned.value.scoreText !== null && returned.value.scoreText !== '0');
const pdfs = computed(() => attempt.value?.files.filter((f) => f.mediaType === 'application/pdf') ?? []);
const chosen = ref<string | null>(null);
/** The note that is told beside the words that were touched. */
const toldId = ref<string | null>(null);
const told = computed(() => notes.value.find((n) => n.id === toldId.value) ?? null);
function tell(id: string): void {
  chosen.value = id;
  toldId.value = id;
}
/** From the list of notes to the words that one is about. */
function show(id: string): void {
  chosen.value = id;
  toldId.value = null;
  void nextTick(() => {
    document.querySelector('.note-on, .marked.on, .area.on')?.scrollIntoView({ block: 'center' });
  });
}
</script>

<template>
  <section class="returned" aria-label="Returned">
    <div class="head">
      <h2>Returned</h2>
      <ActButton v-if="judged === 'done' && returned.scoreText" look="act" class="score serif" @click="showsWorking = !showsWorking">
        {{ isDone ? 'Done' : 'Not done yet' }} <span class="of">working</span>
      </ActButton>
      <span v-else-if="judged === 'words'" class="soft">judged in words</span>
      <ActButton v-else-if="returned.scoreText" look="act" class="score serif" @click="showsWorking = !showsWorking">
        <template v-if="returned.reads">{{ returned.reads }} <span class="of">working</span></template
        ><template v-else
          >{{ returned.scoreText }} <span class="of">of {{ formatPoints(returned.possible) }} · working</span></template
        ></ActButton
      ><span v-else class="soft">{{ returned.state }}</span>
    </div>
    <WorkingLines v-if="showsWorking && returned.working" :lines="[returned.working, ...returned.working.lines]" />
    <p v-if="returned.adjustment && returned.adjustment.points !== 0" class="soft">
      {{ returned.adjustment.points > 0 ? 'More' : 'Less' }} than your group by {{ formatPoints(Math.abs(returned.adjustment.points)) }}:
      {{ returned.adjustment.reason }}.
    </p>
    <p v-if="returned.statistics" class="soft">
      The class: {{ returned.statistics.number }} results, mean {{ returned.statistics.mean }}, median {{ returned.statistics.median }},
      spread {{ returned.statistics.spread }}.
    </p>
    <DocumentView v-if="returned.feedback" :document="returned.feedback" class="feedback" />
    <ul v-if="returned.feedbackFiles.length > 0" class="with-it">
      <li v-for="f in returned.feedbackFiles" :key="f.id">
        <audio v-if="f.mediaType.startsWith('audio/')" controls preload="none" :src="f.url" :aria-label="f.name" />
        <a :href="`${f.url}?download=1`" :download="f.name">{{ f.name }}</a>
      </li>
    </ul>
    <PlainTable v-if="item.rubric && isJudged" class="rubric">
      <tbody>
        <tr v-for="c in item.rubric.criteria" :key="c.id">
          <td>
            <b>{{ c.title }}</b>
          </td>
          <td v-for="l in c.levels" :key="l.id" :class="{ got: levelOf(c)?.id === l.id }">
            <b
              >{{ levelOf(c)?.id === l.id ? formatPoints(criterionPoints(c, returned) ?? l.points) : formatPoints(l.points)
              }}<span v-if="levelOf(c)?.id === l.id"> ✓</span></b
            ><span v-if="c.form === 'count' && levelOf(c)?.id === l.id" class="soft"> {{ returned.given[c.id] }} errors</span><br /><span
              class="soft"
              >{{ l.descriptor }}</span
            >
          </td>
          <td v-if="returned.comments[c.id]" class="said">{{ returned.comments[c.id] }}</td>
        </tr>
      </tbody>
    </PlainTable>
    <template v-if="!isBrief">
      <div v-if="attempt?.document" class="paper sheet-paper">
        <AnnotatedText :key="attempt.id" :document="attempt.document" :notes="textNotes" :chosen="chosen" @choose="tell" />
      </div>
      <FileWork
        v-for="f in others"
        :key="f.id"
        :file="f"
        :notes="notesOf.get(f.id) ?? []"
        :chosen="chosen"
        class="paper sheet-paper"
        @choose="tell"
      />
      <PdfWork v-for="f in pdfs" :key="f.id" :url="f.url" :notes="notesOf.get(f.id) ?? []" :chosen="chosen" @choose="tell" />
      <ol v-if="notes.length > 0" class="notes">
        <li v-for="n in notes" :key="n.id" :class="{ on: chosen === n.id }">
          <ActButton look="act" @click="show(n.id)">
            {{ n.quote === '' ? 'an area' : `“${n.quote.slice(0, 60)}${n.quote.length > 60 ? '…' : ''}”` }}</ActButton><br /><i
            v-if="n.replacement !== null"
            >{{ n.replacement === '' ? 'Strike this. ' : `Rather “${n.replacement}”. ` }}</i
          >{{ n.body }}
          <span class="label">{{ n.author }}</span>
        </li>
      </ol>
      <aside v-if="told" class="told" role="status" aria-label="Note">
        <p>
          <b>{{ told.number }}</b>
          <i v-if="told.replacement !== null">{{ told.replacement === '' ? 'Strike this. ' : `Rather “${told.replacement}”. ` }}</i>{{
            told.body
          }}
          <span class="label">{{ told.author }}</span>
        </p>
        <ActButton look="act" @click="toldId = null">close</ActButton>
      </aside>
    </template>
  </section>
</template>

<style scoped>
.returned {
  margin-top: 20px;
  border-top: 2px solid var(--needle);
  padding-top: 12px;
}
.head {
  display: flex;
  align-items: baseline;
  gap: 16px;
}
.score {
  font-size: 24px;
  line-height: 30px;
  color: var(--ink);
  margin-left: auto;
}
.of {
  font: 14px var(--sans);
  color: var(--bloom);
}
.feedback {
  margin: 10px 0;
}
.with-it {
  list-style: none;
  padding: 0;
}
.with-it li {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
}
.said {
  font-style: italic;
}
.rubric {
  font-size: 13px;
  line-height: 17px;
  margin-top: 8px;
}
.got {
  background: var(--bloom-wash);
}
.notes {
  padding-left: 22px;
}
.notes li {
  padding: 5px 0;
}
/* Where the eye is, however far below the list of all notes stands. */
.told {
  position: sticky;
  bottom: 0;
  z-index: 4;
  display: flex;
  gap: 14px;
  justify-content: space-between;
  max-height: 40vh;
  overflow: auto;
  padding: 10px 16px;
  border-top: 2px solid var(--bloom);
  background: var(--paper);
}
.notes .on {
  background: var(--bloom-wash);
}
@media (max-width: 600px) {
  .paper {
    padding: 16px;
    margin-left: -16px;
    margin-right: -16px;
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
