<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { FirstSteps } from '@rosemary/api';
import { countOf, type FirstStepName } from '@rosemary/core';
import { computed, onMounted, ref, watch } from 'vue';
import { useRouter, type RouteLocationRaw } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import { call } from '../platform/call.ts';
import { useChosen } from '../platform/kept.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';

/**
 * The first steps of a school or a course, in a strip that leads from each to the next and is gone once a student has read something.
 * What can be done in a line is done in it.
 */
const props = defineProps<{
  /** The course that is begun; null is the whole school. */
  courseId: string | null;
  /** Changes with what the page around it has added, so that the steps are read anew. */
  stamp?: unknown;
}>();
const emit = defineEmits<{ added: [] }>();
const router = useRouter();
const notices = useNotices();
const session = useSession();
const courses = useCourse();
const first = ref<FirstSteps | null>(null);
const isHidden = useChosen<boolean>(() => `first steps hidden ${props.courseId ?? 'school'}`, false);

async function load(): Promise<void> {
  try {
    first.value = await (props.courseId === null ? call(api.getSchoolSteps, {}) : call(api.getFirstSteps, { courseId: props.courseId }));
  } catch {
    // The page says what is wrong with the connection; the steps only lead through it.
    first.value = null;
  }
}
onMounted(load);
watch(() => [props.courseId, props.stamp], load);

const course = computed(() => first.value?.course ?? null);
const steps = computed(() => first.value?.steps ?? []);
const next = computed(() => steps.value.find((step) => !step.isDone)?.name ?? null);
const doneMany = computed(() => steps.value.filter((step) => step.isDone).length);
const WORDS: { readonly [name in FirstStepName]: string } = {
  term: 'A term',
  people: 'Someone who teaches',
  course: 'A course',
  students: 'Its students',
  page: 'A first unit and page',
  open: 'Open it',
  see: 'See it as a student',
};
/** What the next step is, in a sentence. */
const asked = computed<string>(() => {
  const title = course.value?.title ?? '';
  const drafts = course.value?.drafts ?? 0;
  switch (next.value) {
    case 'term':
      return 'Say when the term begins and ends, and which days are holidays. Every date of a course is counted by it.';
    case 'people':
      return 'Add whoever teaches; they can then make their own courses. Or import the people of the school from a list.';
    case 'course':
      return 'Add a course with its instructor and sections, or let whoever teaches make it on their Desk.';
    case 'students':
      return session.me?.person?.isAdministrator === true
        ? `Add the students of “${title}” on its roster, or import them from a list.`
        : `Add the students of “${title}” on its roster.`;
    case 'page':
      return `Name the first unit of “${title}” and the page that students read first.`;
    case 'open':
      return drafts > 0
        ? `“${title}” holds ${countOf(drafts, 'draft')}. Check it, then open the course and its drafts together.`
        : `Check “${title}”, then open it to its students.`;
    case 'see':
      return `Look at “${title}” through the eyes of a sample student, drafts left out.`;
    default:
      return '';
  }
});
/** Where a step is done; null where it is done here, or by somebody else. */
function placeOf(name: FirstStepName): RouteLocationRaw | null {
  const id = course.value?.id;
  if (name === 'term' || name === 'people' || name === 'course') return { name: 'school', hash: `#add-${name}` };
  if (id === undefined || course.value?.isOwn !== true) return null;
  if (name === 'students') return { name: 'roster', params: { courseId: id } };
  if (name === 'page') return { name: 'plan', params: { courseId: id } };
  return name === 'open' ? { name: 'check', params: { courseId: id } } : null;
}
const isOthers = computed(
  () => course.value !== null && !course.value.isOwn && ['students', 'page', 'open', 'see'].includes(next.value ?? ''),
);

const [unit, page] = [ref(''), ref('')];
const isMaking = ref(false);
async function makePage(): Promise<void> {
  const courseId = course.value?.id;
  if (courseId === undefined) return;
  isMaking.value = true;
  try {
    const { plan } = await call(api.addUnit, { courseId }, { title: unit.value.trim(), isStanding: false });
    const unitId = plan.units.at(-1)?.id ?? '';
    const made = await call(api.addItem, { courseId }, { unitId, kind: 'page', title: page.value.trim(), position: 0 });
    notices.say('The unit and its page are made. The page is a draft: write it, and open it when it is ready.');
    emit('added');
    await router.push({ name: 'item', params: { courseId, itemId: made.id } });
  } catch (error) {
    notices.sayFault(error);
  } finally {
    isMaking.value = false;
  }
}
async function see(): Promise<void> {
  const found = course.value;
  if (found === null || found.sampleId === null) return;
  await session.startSeeAs({ courseId: found.id, enrolmentId: found.sampleId, on: null });
  await courses.load(found.id);
  await router.push({ name: 'own-week', params: { courseId: found.id } });
}
</script>

<template>
  <section v-if="steps.length > 0 && !isHidden" class="first no-print" aria-label="First steps">
    <ol class="bare-list wrapping">
      <li v-for="(step, n) in steps" :key="step.name" :class="{ done: step.isDone, next: step.name === next }">
        <span v-if="step.isDone" class="number" role="img" aria-label="done">✓</span
        ><span v-else class="number" aria-hidden="true">{{ n + 1 }}</span>
        <router-link v-if="placeOf(step.name)" :to="placeOf(step.name)!" :aria-current="step.name === next ? 'step' : undefined">{{
          WORDS[step.name]
        }}</router-link>
        <span v-else :aria-current="step.name === next ? 'step' : undefined">{{ WORDS[step.name] }}</span>
      </li>
      <li class="at-end"><ActButton look="act" @click="isHidden = true">Hide these steps</ActButton></li>
    </ol>
    <div class="wrapping">
      <p>
        <span class="soft">{{ doneMany }} of {{ steps.length }} done.</span> {{ asked }}
        <span v-if="isOthers" class="soft">{{ course?.teachers }} can do this next.</span>
      </p>
      <template v-if="!isOthers">
        <form v-if="next === 'page'" class="make" @submit.prevent="makePage">
          <LineField v-model="unit" maxlength="160" required aria-label="Title of the first unit" placeholder="First unit" />
          <LineField v-model="page" maxlength="160" required aria-label="Title of the first page" placeholder="First page" />
          <ActButton type="submit" look="go" :disabled="isMaking">{{ isMaking ? 'Making…' : 'Make both' }}</ActButton>
        </form>
        <ActButton v-else-if="next === 'see' && course?.sampleId" look="go" @click="see">See it as a student</ActButton>
        <router-link v-else-if="next === 'open'" class="go-on" :to="placeOf('open')!">Check and open it →</router-link>
        <router-link v-else-if="next !== null && placeOf(next)" class="go-on" :to="placeOf(next)!">Go there →</router-link>
        <router-link
          v-if="next === 'people' || next === 'students'"
          v-show="session.me?.person?.isAdministrator"
          class="go-on"
          :to="{ name: 'school-lists' }"
          >Import a list →</router-link
        >
      </template>
    </div>
  </section>
</template>

<style scoped>
.first {
  padding: 10px 20px 12px;
  background: var(--paper);
  border-bottom: 1px solid var(--frost);
}
.number {
  margin-right: 8px;
  color: var(--soft);
}
.next {
  font-weight: 600;
}
.make {
  display: grid;
  grid-template-columns: minmax(140px, 200px) minmax(140px, 200px) auto;
  gap: 12px;
  align-items: end;
}
</style>
