<script setup lang="ts">
import { useDraft } from '../platform/kept.ts';
import * as api from '@rosemary/api/endpoints';
import type { CourseStart } from '@rosemary/api';
import { formatPoints, minutesInWords, OUTLINES, starterOutline, writeDate, type OutlineKind, countOf } from '@rosemary/core';
import { IANAZone } from 'luxon';
import { computed, onMounted, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import ItemGlyph from '../parts/ItemGlyph.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import PickMark from '../parts/fields/PickMark.vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import TextField from '../parts/fields/TextField.vue';
import ZoneChoice from '../parts/fields/ZoneChoice.vue';

const router = useRouter();
const notices = useNotices();
const session = useSession();
const start = ref<CourseStart | null>(null);
const fault = ref('');
const faults = ref<Record<string, string>>({});
const isMaking = ref(false);
const empty = {
  title: '',
  code: '',
  run: '',
  termId: '',
  timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  sections: 'Section 1',
  outline: 'weeks' as OutlineKind,
  /** One of one's own courses to begin from; empty is none. */
  fromId: '',
};
/** What is typed is still there after a reload. */
const kept = useDraft<Partial<typeof empty>>(() => 'new course');
const form = ref({ ...empty, ...kept.find() });
watch(form, kept.keep, { deep: true });
onMounted(async () => {
  try {
    start.value = await call(api.getCourseStart, {});
    if (!start.value.terms.some((t) => t.id === form.value.termId)) form.value.termId = start.value.terms[0]?.id ?? '';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const term = computed(() => start.value?.terms.find((t) => t.id === form.value.termId) ?? null);
/** Half a name of a zone is none yet: the preview waits in UTC. */
const zone = computed(() => (IANAZone.isValidZone(form.value.timeZone) ? form.value.timeZone : 'UTC'));
const outline = computed(() => (term.value === null ? null : starterOutline(form.value.outline, term.value, zone.value)));
const items = computed(() => outline.value?.units.flatMap((u) => u.items) ?? []);
const own = computed(() => session.me?.courses.filter((c) => c.role === 'instructor') ?? []);
const isTaken = computed(() =>
  start.value?.taken.some(
    (t) => t.code.toLowerCase() === form.value.code.trim().toLowerCase() && t.run.toLowerCase() === form.value.run.trim().toLowerCase(),
  ),
);
const WORDS: { readonly [kind in OutlineKind]: readonly [string, string] } = {
  weeks: ['By weeks', 'a unit for each teaching week: something to read, an exercise, and two papers'],
  topics: ['By topics', 'six topics, each with an explanation, a worked example, an exercise and an assignment'],
  projects: ['By projects', 'three projects: brief, plan, draft, finished work, and looking back'],
  empty: ['Empty', 'nothing but two categories: everything is yours to add'],
};
const day = (iso: string): string => writeDate(Date.parse(iso), 'UTC', true);

async function make(): Promise<void> {
  faults.value = {};
  isMaking.value = true;
  const sections = form.value.sections
    .split('\n')
    .map((s) => s.trim())
    .filter(Boolean);
  try {
    const { fromId, ...course } = form.value;
    const { id } = await call(
      api.startCourse,
      {},
      {
        ...course,
        outline: fromId === '' ? course.outline : 'empty',
        code: form.value.code.trim(),
        run: form.value.run.trim(),
        sections,
      },
    );
    kept.forget();
    await session.load();
    notices.say(
      fromId === ''
        ? 'The course is made. Everything in it is a draft, and no student sees it until you open it.'
        : 'The course is made. Choose what comes over from the other one.',
    );
    await router.push(fromId === '' ? `/courses/${id}/plan` : { name: 'carry', params: { courseId: id }, query: { from: fromId } });
  } catch (error) {
    if (!(error instanceof HttpProblem)) throw error;
    const pointers = error.problem.pointers ?? [];
    faults.value =
      pointers.length === 0
        ? { whole: error.message }
        : Object.fromEntries(pointers.map((p) => [p.field.split('.')[0] ?? p.field, p.text]));
  } finally {
    isMaking.value = false;
  }
}
</script>

<template>
  <div class="pad">
    <h1>A new course</h1>
    <p v-if="fault" class="fault">{{ fault }}</p>
    <p v-if="start && start.terms.length === 0" class="soft">
      The school has no term yet. An administrator adds one, with its weeks, meeting days and holidays; then a course can be laid out in it.
    </p>
    <div v-if="!start && !fault"><div v-for="n in 6" :key="n" class="skeleton" style="height: 34px; margin-top: 14px" /></div>
    <div v-if="start && start.terms.length > 0" class="columns">
      <form @submit.prevent="make">
        <label class="field"
          ><span class="label">Title</span><LineField v-model="form.title" maxlength="160" required />
          <span v-if="faults.title" class="fault" role="alert">{{ faults.title }}</span></label
        >
        <div class="two-columns">
          <label class="field"
            ><span class="label">Code</span><LineField v-model="form.code" maxlength="20" required placeholder="HOR-110" />
            <span v-if="faults.code" class="fault" role="alert">{{ faults.code }}</span></label
          >
          <label class="field"
            ><span class="label">Run</span><LineField v-model="form.run" maxlength="20" required placeholder="autumn" />
            <span v-if="faults.run" class="fault" role="alert">{{ faults.run }}</span></label
          >
        </div>
        <p :class="isTaken ? 'fault' : 'label'">
          {{
            isTaken
              ? `${form.code} has a run ${form.run} already. Choose another run.`
              : 'Code and run name the course in lists and files of the school. They cannot be changed afterwards.'
          }}
        </p>
        <div class="two-columns">
          <label class="field"
            ><span class="label">Term</span
            ><ChoiceField v-model="form.termId">
              <option v-for="t in start.terms" :key="t.id" :value="t.id">{{ t.title }}, from {{ day(t.startsOn) }}</option>
            </ChoiceField>
            <span v-if="faults.termId" class="fault" role="alert">{{ faults.termId }}</span></label
          >
          <div>
            <ZoneChoice v-model="form.timeZone" label="Time zone" />
            <span v-if="faults.timeZone" class="fault" role="alert">{{ faults.timeZone }}</span>
          </div>
        </div>
        <label class="field"
          ><span class="label">Sections, one a line</span><TextField v-model="form.sections" rows="3" required />
          <span v-if="faults.sections" class="fault" role="alert">{{ faults.sections }}</span></label
        >
        <fieldset>
          <legend class="label">To begin with</legend>
          <label v-for="kind in [...OUTLINES].reverse()" :key="kind" class="kind"
            ><PickMark
              name="outline"
              :model-value="form.fromId === '' ? form.outline : null"
              :value="kind"
              @change="
                form.outline = kind;
                form.fromId = '';
              "
            />
            <span
              ><b>{{ WORDS[kind][0] }}</b> <span class="soft">{{ WORDS[kind][1] }}</span></span
            ></label
          >
          <label v-if="own.length > 0" class="kind"
            ><PickMark
              name="outline"
              :model-value="form.fromId === '' ? null : 'own'"
              value="own"
              @change="form.fromId = own[0]?.id ?? ''"
            />
            <span
              ><b>From one of my courses</b> <span class="soft">you choose what comes over, and see every date old and new first</span>
              <ChoiceField v-if="form.fromId !== ''" v-model="form.fromId" aria-label="The course to begin from">
                <option v-for="c in own" :key="c.id" :value="c.id">{{ c.title }}, {{ c.run }}</option>
              </ChoiceField></span
            ></label
          >
        </fieldset>
        <p v-if="faults.whole" class="fault" role="alert">{{ faults.whole }}</p>
        <p style="padding-top: 10px"><ActButton type="submit" look="go" :disabled="isMaking || isTaken">Make the course</ActButton></p>
      </form>
      <section class="preview" tabindex="0" aria-label="What it would hold">
        <p class="label">Not made yet</p>
        <h2>
          {{
            form.fromId !== ''
              ? 'What you choose of the other course'
              : outline?.units.length === 0
                ? 'An empty course'
                : `${countOf(outline?.units.length ?? 0, 'unit')}, ${countOf(items.length, 'item')}`
          }}
        </h2>
        <p v-if="form.fromId === ''" class="soft">
          {{ outline?.categories.map((c) => `${c.title} ${c.weightPercent} %`).join(' · ') }} · all drafts, to be renamed
        </p>
        <div v-for="unit in form.fromId === '' ? outline?.units : []" :key="unit.title" class="unit">
          <h3>{{ unit.title }}</h3>
          <ul>
            <li v-for="(item, n) in unit.items" :key="n">
              <span><ItemGlyph :kind="item.kind" /> {{ item.title }}</span>
              <span class="soft">{{ item.dueAt === null ? '' : writeDate(item.dueAt, zone) }}</span>
              <span class="soft num">{{ minutesInWords(item.estimatedMinutes) }}</span>
              <span class="soft num">{{ item.possible > 0 ? `${formatPoints(item.possible)} p` : '' }}</span>
            </li>
          </ul>
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 420px minmax(0, 1fr);
  gap: 48px;
  padding-top: 16px;
}
fieldset {
  border: 0;
  padding: 8px 0 0;
  margin: 0;
}
.kind {
  display: flex;
  gap: 8px;
  padding: 5px 0;
  align-items: baseline;
}
.kind .pick-mark {
  align-self: flex-start;
  margin-top: 2px;
}
.preview {
  border-left: 1px solid var(--frost);
  padding-left: 32px;
  max-height: calc(100vh - 160px);
  overflow: auto;
}
.unit {
  padding-top: 14px;
}
h3 {
  font-size: 15px;
}
ul {
  list-style: none;
  margin: 2px 0 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 170px 70px 60px;
  gap: 10px;
  padding: 4px 0;
  border-top: 1px solid var(--frost);
}
@media (max-width: 1024px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
