<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ProgressReport, WordFinding, Words } from '@rosemary/api';
import { countOf, kindOfRule, WORD_RULE_NAMES, type WordRule } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import TableDownload from '../parts/charts/TableDownload.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import NoteForm from './NoteForm.vue';
import { noteWords } from './noteWords.ts';
import { type Looked, nameOf } from './useReport.ts';
import WordRules from './WordRules.vue';
import WriteForm from './WriteForm.vue';

/** Who needs a word, the most urgent first, each with the reason; who is written to, what was done, who is set aside. */
const props = defineProps<{ report: ProgressReport; looked: Looked; courseId: string }>();
const course = useCourse();
const notices = useNotices();
const route = useRoute();
const words = shallowRef<Words | null>(null);
const fault = ref('');
const rule = ref<WordRule | null>(WORD_RULE_NAMES.find((name) => name === route.query.rule) ?? null);
const setsRules = ref(false);
const showsAside = ref(false);
const most = ref(12);
/** Whom a form is open for: one student, or all of a rule. */
const opened = ref<{
  readonly what: 'write' | 'note';
  readonly ids: readonly string[];
  readonly rule: WordRule;
  readonly at: string;
} | null>(null);
onMounted(async () => {
  try {
    words.value = await call(api.getWords, { courseId: props.courseId });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const people = computed(
  () =>
    new Map(
      props.looked.people.flatMap((place) =>
        props.report.people[place] ? [[props.report.people[place].enrolmentId, props.report.people[place]] as const] : [],
      ),
    ),
);
const own = computed(() => (words.value?.findings ?? []).filter((f) => people.value.has(f.enrolmentId)));
const standing = computed(() => own.value.filter((f) => f.asideUntil === null));
const aside = computed(() => own.value.filter((f) => f.asideUntil !== null));
const counts = computed(() =>
  WORD_RULE_NAMES.map((name) => ({ name, many: standing.value.filter((f) => f.rule === name).length })).filter((c) => c.many > 0),
);
interface Person {
  readonly id: string;
  readonly name: string;
  readonly found: readonly WordFinding[];
}
function byPerson(list: readonly WordFinding[]): Person[] {
  const of = new Map<string, WordFinding[]>();
  for (const f of list) of.set(f.enrolmentId, [...(of.get(f.enrolmentId) ?? []), f]);
  return [...of].map(([id, found]) => {
    const person = people.value.get(id);
    return { id, found, name: person === undefined ? '' : nameOf(person, true) };
  });
}
const listed = computed(() => byPerson(standing.value.filter((f) => rule.value === null || f.rule === rule.value)));
const idsOf = (name: WordRule): string[] => standing.value.filter((f) => f.rule === name).map((f) => f.enrolmentId);
const sentence = computed(() => {
  const many = byPerson(standing.value).length;
  if (many === 0) return 'Nobody, by the rules that are on.';
  return `${countOf(many, 'student')} of ${people.value.size}: ${counts.value.map((c) => `${kindOfRule(c.name).title.toLowerCase()} ${c.many}`).join(', ')}.`;
});
const done = (f: WordFinding): string => (f.note === null ? '' : noteWords(f.note, course.zone, false));
function open(what: 'write' | 'note', ids: readonly string[], name: WordRule, at: string): void {
  opened.value = opened.value?.what === what && opened.value.at === at ? null : { what, ids, rule: name, at };
}
const given = computed(() => {
  const ids = opened.value?.ids ?? [];
  return ids.length === 1 ? (people.value.get(ids[0] ?? '')?.givenName ?? null) : null;
});
const names = computed(() =>
  (opened.value?.ids ?? []).flatMap((id) => (people.value.has(id) ? [nameOf(people.value.get(id)!, true)] : [])),
);
function sent(next: Words): void {
  const many = opened.value?.ids.length ?? 0;
  words.value = next;
  opened.value = null;
  notices.say(many === 1 ? 'The message is sent, and noted here.' : `${many} messages are sent, each alone, and noted here.`);
}
function noted(next: Words, ids: readonly string[]): void {
  words.value = next;
  opened.value = null;
  notices.say('Noted, for staff only.', async () => {
    words.value = await call(api.removeWordNotes, { courseId: props.courseId }, { noteIds: [...ids] });
  });
}
async function back(f: WordFinding): Promise<void> {
  if (f.note === null) return;
  try {
    words.value = await call(api.removeWordNotes, { courseId: props.courseId }, { noteIds: [f.note.id] });
  } catch (error) {
    notices.sayFault(error);
  }
}
const lines = computed(() => [
  ['Student', 'Rule', 'Reason', 'Done'],
  ...listed.value.flatMap((p) => p.found.map((f) => [p.name, kindOfRule(f.rule).title, f.reason, done(f)])),
]);
</script>

<template>
  <section aria-labelledby="words">
    <header class="sheet-head">
      <h2 id="words">Who needs a word</h2>
      <span class="acts no-print"
        ><ActButton v-if="words" look="act" :aria-expanded="setsRules" @click="setsRules = !setsRules">{{
          setsRules ? 'Close the rules' : 'Rules'
        }}</ActButton
        ><TableDownload title="Who needs a word" :lines="lines"
      /></span>
    </header>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div v-else-if="!words" class="skeleton" style="height: 90px" />
    <template v-else>
      <p class="says">{{ sentence }}</p>
      <WordRules
        v-if="setsRules"
        :rules="words.rules"
        :course-id="courseId"
        :can-edit="course.head?.role === 'instructor'"
        @saved="words = $event"
      />
      <div v-if="counts.length > 0" class="choices no-print" role="group" aria-label="Rules that found somebody">
        <ActButton :class="['chip', { on: rule === null }]" :aria-pressed="rule === null" @click="rule = null">All</ActButton>
        <ActButton
          v-for="c in counts"
          :key="c.name"
          :class="['chip', { on: rule === c.name }]"
          :aria-pressed="rule === c.name"
          @click="rule = rule === c.name ? null : c.name"
          >{{ kindOfRule(c.name).title }} {{ c.many }}</ActButton
        >
        <ActButton v-if="rule && idsOf(rule).length > 1" look="act" @click="open('write', idsOf(rule), rule, 'all')"
          >Write to all {{ idsOf(rule).length }}</ActButton
        >
      </div>
      <WriteForm
        v-if="opened?.what === 'write' && opened.at === 'all'"
        :course-id="courseId"
        :ids="opened.ids"
        :names="names"
        :rule="opened.rule"
        :given-name="given"
        @sent="sent"
        @close="opened = null"
      />
      <ul class="bare-list spaced-list words-list">
        <li v-for="p in listed.slice(0, most)" :key="p.id">
          <router-link :to="{ name: 'student', params: { courseId, enrolmentId: p.id } }" class="ink">{{ p.name }}</router-link>
          <span
            ><span v-for="f in p.found" :key="f.rule" class="reason"
              >{{ f.reason }}<span v-if="f.note" class="label"> {{ done(f) }}</span></span
            ></span
          >
          <span class="acts no-print">
            <ActButton look="act" :aria-label="`Write to ${p.name}`" @click="open('write', [p.id], p.found[0]!.rule, p.id)"
              >Write</ActButton
            >
            <ActButton look="act" :aria-label="`Note what was done for ${p.name}`" @click="open('note', [p.id], p.found[0]!.rule, p.id)"
              >Note</ActButton
            ></span
          >
          <div v-if="opened?.at === p.id" class="form-of-one">
            <WriteForm
              v-if="opened.what === 'write'"
              :course-id="courseId"
              :ids="opened.ids"
              :names="names"
              :rule="opened.rule"
              :given-name="given"
              @sent="sent"
              @close="opened = null"
            />
            <NoteForm
              v-else
              :course-id="courseId"
              :enrolment-id="p.id"
              :rules="p.found.map((f) => f.rule)"
              @noted="noted"
              @close="opened = null"
            />
          </div>
        </li>
      </ul>
      <p v-if="listed.length > most" class="no-print">
        {{ most }} of {{ listed.length }} are shown. <ActButton look="act" @click="most = listed.length">Show all</ActButton>
      </p>
      <p v-if="aside.length > 0" class="no-print">
        <ActButton look="act" :aria-expanded="showsAside" @click="showsAside = !showsAside">{{ aside.length }} set aside</ActButton>
      </p>
      <ul v-if="showsAside" class="remarks">
        <li v-for="f in aside" :key="`${f.enrolmentId} ${f.rule}`">
          {{ people.get(f.enrolmentId) ? nameOf(people.get(f.enrolmentId)!, true) : '' }}: {{ f.reason }}.
          <span class="label">{{ done(f) }}</span> <ActButton look="act" @click="back(f)">Bring back</ActButton>
        </li>
      </ul>
    </template>
  </section>
</template>
