<script setup lang="ts">
import type { StudentStory } from '@rosemary/api';
import { activityOf, countOf, dayAndTime, minutesInWords, percentWords, sharePercent, doingsOfBits } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import ChartFrame from '../parts/charts/ChartFrame.vue';
import OverTime from '../parts/charts/OverTime.vue';
import ItemGlyph from '../parts/ItemGlyph.vue';
import PlainTable from '../parts/PlainTable.vue';
import { useCourse } from '../stores/courseStore.ts';
import DayStrip from './DayStrip.vue';
import NoteForm from './NoteForm.vue';
import { noteWords } from './noteWords.ts';
import { termDays } from './termDays.ts';
import WriteForm from './WriteForm.vue';

/** The whole story of one student in one course, for staff or for the student. */
const props = defineProps<{ story: StudentStory; courseId: string }>();
const emit = defineEmits<{ changed: [] }>();
const course = useCourse();
const told = ref('');
const toldDay = ref('');
const opened = ref<'write' | 'note' | null>(null);
const when = (at: string | null): string => (at === null ? '·' : dayAndTime(Date.parse(at), course.zone, course.now));
const classWords = (c: StudentStory['works'][number]['class']): string =>
  c === null
    ? ''
    : `; the class: median ${percentWords(c[1])}, middle half ${percentWords(c[0]).replace(' %', '')} to ${percentWords(c[2])}`;
const points = computed(() =>
  props.story.works.flatMap((w) =>
    w.share === null
      ? []
      : [
          {
            id: w.columnId,
            title: w.title,
            share: w.share,
            class: w.class,
            words: `${w.title}: ${percentWords(w.share)}${classWords(w.class)}`,
          },
        ],
  ),
);
const hasClass = computed(() => props.story.works.some((w) => w.class !== null));
const sentence = computed(() => {
  const { soFar, floor, reach } = props.story;
  if (soFar === null) return 'No total so far.';
  const range = floor === null || reach === null ? '' : `, at least ${floor} % and at most ${reach} % at the end`;
  const held = points.value.flatMap((p) => (p.class === null ? [] : [p.share - p.class[1]]));
  const over = held.filter((d) => d > 0).length;
  const against = held.length === 0 ? '' : ` Over the median of the class in ${over} of ${held.length}.`;
  return `${soFar} % so far${range}.${against}`;
});
const lines = computed(() => [
  ['Work', 'Due', 'Handed in', 'Result', 'Share (%)', ...(hasClass.value ? ['Median of the class (%)'] : []), 'Feedback'],
  ...props.story.works.map((w) => [
    w.title,
    w.dueAt === null ? null : when(w.dueAt),
    w.handedInAt === null ? null : when(w.handedInAt),
    w.text,
    w.share === null ? null : sharePercent(w.share),
    ...(hasClass.value ? [w.class === null ? null : sharePercent(w.class[1])] : []),
    w.feedback,
  ]),
]);
const term = computed(() => termDays(props.story, course.now, course.zone));
const sum = computed(() => activityOf(props.story.active));
const activeLines = computed(() => [
  ['Date', 'Minutes at most', 'Longest in one go', 'What'],
  ...props.story.active.map(([day, , minutes, longest, doings]) => [
    term.value.isoOf(day),
    minutes,
    longest,
    doingsOfBits(doings).join(', '),
  ]),
]);
const open = computed(() => (props.story.progress?.items ?? []).filter((i) => i.isOpen && !i.isDone));
function changed(): void {
  opened.value = null;
  emit('changed');
}
const print = (): void => {
  window.print();
};
</script>

<template>
  <div class="report story">
    <header class="sheet-head">
      <h1>{{ story.givenName }} {{ story.familyName }}</h1>
      <span class="soft">{{ [course.head?.title, story.section, story.staff?.userName].filter(Boolean).join(' · ') }}</span>
      <span class="acts no-print"
        ><template v-if="story.staff"
          ><ActButton look="act" :aria-expanded="opened === 'write'" @click="opened = opened === 'write' ? null : 'write'">Write</ActButton
          ><ActButton look="act" :aria-expanded="opened === 'note'" @click="opened = opened === 'note' ? null : 'note'"
            >Note</ActButton
          ></template
        ><ActButton look="act" @click="print">Print, or save as PDF</ActButton></span
      >
    </header>
    <WriteForm
      v-if="opened === 'write'"
      :course-id="courseId"
      :ids="[story.enrolmentId]"
      :names="[`${story.familyName}, ${story.givenName}`]"
      :rule="story.staff?.findings[0]?.rule ?? null"
      :given-name="story.givenName"
      @sent="changed"
      @close="opened = null"
    />
    <NoteForm
      v-else-if="opened === 'note'"
      :course-id="courseId"
      :enrolment-id="story.enrolmentId"
      :rules="story.staff?.findings.map((f) => f.rule) ?? []"
      @noted="changed"
      @close="opened = null"
    />
    <section v-if="story.staff && story.staff.findings.length > 0" aria-labelledby="story-found">
      <h2 id="story-found">Needs a word</h2>
      <ul class="remarks">
        <li v-for="f in story.staff.findings" :key="f.rule">{{ f.reason }}.</li>
      </ul>
    </section>
    <section aria-label="Results">
      <ChartFrame
        title="Results"
        :name="`Results of ${story.givenName} ${story.familyName}`"
        :sentence="sentence"
        :empty="points.length === 0 ? 'There is no result yet.' : ''"
        :lines="lines"
        :told="told"
        :hint="hasClass ? 'Rings are this student; the boxes are the middle half of the class, the line in each its median.' : ''"
      >
        <template #default="{ width }">
          <OverTime
            :points="points"
            :width="width"
            :label="`Results of ${story.givenName} ${story.familyName} in the order they were due. ${sentence}`"
            @told="told = $event"
          />
        </template>
        <template #after>
          <PlainTable
            ><thead>
              <tr>
                <th scope="col">work</th>
                <th scope="col">due</th>
                <th scope="col">handed in</th>
                <th scope="col">result</th>
                <th v-if="hasClass" scope="col" class="num">class median</th>
                <th scope="col">feedback</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="w in story.works" :key="w.columnId">
                <td><ItemGlyph v-if="w.kind" :kind="w.kind" /> {{ w.title }}</td>
                <td class="soft">{{ when(w.dueAt) }}</td>
                <td class="soft">{{ when(w.handedInAt) }}</td>
                <td>
                  <router-link
                    v-if="story.staff && w.share !== null"
                    :to="{ name: 'gradebook', params: { courseId }, query: { student: story.enrolmentId, column: w.columnId } }"
                    >{{ w.text }}</router-link><router-link v-else-if="w.share !== null" :to="{ name: 'grades', params: { courseId } }">{{
                    w.text
                  }}</router-link
                  ><span v-else :class="w.state === 'missing' ? 'clay' : 'soft'">{{ w.text }}</span>
                </td>
                <td v-if="hasClass" class="num soft">{{ w.class === null ? '·' : percentWords(w.class[1]) }}</td>
                <td class="feedback">{{ w.feedback }}</td>
              </tr>
            </tbody></PlainTable
          >
        </template>
      </ChartFrame>
    </section>
    <section v-if="story.progress" aria-labelledby="story-far">
      <h2 id="story-far">How far</h2>
      <p>{{ story.progress.share }}.</p>
      <p v-if="open.length > 0" class="soft">Still to do: {{ open.map((i) => i.title).join('; ') }}.</p>
    </section>
    <section aria-label="Rhythm">
      <ChartFrame
        title="Rhythm"
        :name="`Rhythm of ${story.givenName} ${story.familyName}`"
        :sentence="
          sum.days === 0
            ? ''
            : `At work on ${countOf(sum.days, 'day')}, at most ${minutesInWords(sum.minutes)} in all and ${minutesInWords(sum.longest)} in one go; ${sum.doings.join(', ')}.`
        "
        :empty="sum.days === 0 ? 'Nothing has been recorded yet.' : ''"
        :lines="activeLines"
        :told="toldDay"
        hint="The darker a day, the longer. Only what happened here is recorded; times are the longest that it can have been."
      >
        <template #default="{ width }">
          <DayStrip :term="story" :active="story.active" :width="width" label="Days at work" @told="toldDay = $event" />
        </template>
      </ChartFrame>
    </section>
    <section v-if="story.arrangements.length > 0 || story.messages.length > 0" aria-label="Arrangements and messages">
      <div class="half">
        <div v-if="story.arrangements.length > 0">
          <h2>Arrangements</h2>
          <ul class="remarks">
            <li v-for="a in story.arrangements" :key="a">{{ a }}</li>
          </ul>
        </div>
        <div v-if="story.messages.length > 0">
          <h2>{{ story.staff ? 'Your messages with this student' : 'Your messages' }}</h2>
          <ul class="remarks">
            <li v-for="m in story.messages" :key="m.id">
              <router-link :to="{ name: 'messages', params: { courseId }, query: { of: m.id } }">{{ m.title }}</router-link>
              <span class="soft"> {{ countOf(m.many, 'message') }}, the last {{ when(m.at) }}</span>
            </li>
          </ul>
        </div>
      </div>
    </section>
    <section v-if="story.staff" aria-labelledby="story-notes">
      <h2 id="story-notes">Notes of staff</h2>
      <p v-if="story.staff.notes.length === 0" class="soft">None yet. Students never see these.</p>
      <ul v-else class="remarks">
        <li v-for="n in story.staff.notes" :key="n.id">
          {{ noteWords(n, course.zone, true) }}
        </li>
      </ul>
    </section>
    <section v-if="story.staff && story.staff.courses.length > 0" aria-labelledby="story-courses">
      <h2 id="story-courses">In your other courses</h2>
      <ul class="remarks">
        <li v-for="c in story.staff.courses" :key="c.courseId">
          <router-link :to="{ name: 'student', params: { courseId: c.courseId, enrolmentId: c.enrolmentId } }">{{ c.title }}</router-link>
          <span class="soft"> {{ c.term }}, {{ c.soFar === null ? 'no total so far' : `${c.soFar} % so far` }}</span>
        </li>
      </ul>
    </section>
    <p class="foot">
      As of {{ dayAndTime(course.now, course.zone, course.now) }}.
      {{
        story.staff
          ? 'Results are finished marks, released or not. What is said of the class rests on five results at least.'
          : 'Results are what was released to you. What is said of the class rests on five results at least.'
      }}
    </p>
  </div>
</template>

<style src="./report.css"></style>
