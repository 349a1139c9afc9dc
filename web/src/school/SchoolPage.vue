<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { School } from '@rosemary/api';
import { countOf } from '@rosemary/core';
import { nextTick, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import JobFailures from './JobFailures.vue';
import LedgerChecks from './LedgerChecks.vue';
import PeopleList from './PeopleList.vue';
import TermsPart from './TermsPart.vue';
import FirstSteps from '../begin/FirstSteps.vue';
import ActButton from '../parts/ActButton.vue';
import ActionMenu from '../parts/ActionMenu.vue';
import TickBox from '../parts/fields/TickBox.vue';
import LineField from '../parts/fields/LineField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import TextField from '../parts/fields/TextField.vue';
import ZoneChoice from '../parts/fields/ZoneChoice.vue';

const school = ref<School | null>(null);
const fault = ref('');
const faults = ref<Record<string, string>>({});
const notices = useNotices();
const session = useSession();
const router = useRouter();
const route = useRoute();
/** A first step leads to its form: the first field of it is the next to be written in. */
watch(
  () => [route.hash, school.value === null] as const,
  async ([hash, isWaiting]) => {
    if (hash === '' || isWaiting) return;
    await nextTick();
    const form = document.getElementById(hash.slice(1));
    form?.scrollIntoView({ block: 'center' });
    form?.querySelector<HTMLElement>('input, textarea')?.focus();
  },
  { immediate: true },
);
/** Where there is one term, or one person who teaches, nobody has to choose it. */
watch(school, (now) => {
  const [term] = now?.terms ?? [];
  if (course.value.termId === '') course.value.termId = term?.id ?? '';
  const teachers = now?.people.filter((one) => one.teaches && one.isActive) ?? [];
  if (course.value.instructorId === '' && teachers.length === 1) course.value.instructorId = teachers[0]?.id ?? '';
});
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
const EMPTY_PERSON = { givenName: '', familyName: '', email: '', password: '', teaches: false };
const person = ref({ ...EMPTY_PERSON });
const course = ref({ code: '', run: '', title: '', termId: '', timeZone: zone, instructorId: '', sections: 'Section 1' });
onMounted(async () => {
  try {
    school.value = await call(api.getSchool, {});
    hosts.value = (await call(api.listEmbedHosts, {})).hosts.join('\n');
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
/** A term or a person makes more possible elsewhere: whoever looks learns of it at once. */
async function take(next: School): Promise<void> {
  school.value = next;
  await session.load();
}
type What = 'people' | 'courses';
async function add(what: What, act: () => Promise<{ readonly school: School }>, words: string, clear: () => void): Promise<void> {
  faults.value = {};
  try {
    school.value = (await act()).school;
    clear();
    notices.say(words);
    await session.load();
  } catch (error) {
    faults.value = { [what]: error instanceof HttpProblem ? error.message : 'Not saved.' };
  }
}
type SchoolCourse = School['courses'][number];
const stateOf = (c: SchoolCourse): string =>
  c.removedAt !== null ? ', deleted' : c.isArchived ? ', archived' : c.isOpen ? '' : ', closed to students';
/** Deletes a course or puts it back; either is the other's undo. */
async function setCourse(c: SchoolCourse, isRemoved: boolean): Promise<void> {
  try {
    ({ school: school.value } = await call(isRemoved ? api.removeSchoolCourse : api.restoreSchoolCourse, { id: c.id }));
    notices.say(isRemoved ? `“${c.title}” is deleted: nobody reaches it.` : `“${c.title}” is back, closed to students.`, () =>
      setCourse(c, !isRemoved),
    );
  } catch (error) {
    notices.sayFault(error);
  }
}
/** Whoever is in the course opens it; everybody else looks into it for some hours, which its history tells. */
async function act(c: SchoolCourse, does: string): Promise<void> {
  if (does === 'remove') {
    await setCourse(c, true);
    return;
  }
  try {
    if (session.me?.courses.some((own) => own.id === c.id) !== true) await call(api.beginLook, { id: c.id });
    await router.push({ name: 'plan', params: { courseId: c.id } });
  } catch (error) {
    notices.sayFault(error);
  }
}
/** The sites whose pages teachers may show inside theirs, one a line. */
const hosts = ref('');
async function saveHosts(): Promise<void> {
  faults.value = {};
  try {
    const wanted = [
      ...new Set(
        hosts.value
          .split('\n')
          .map((h) => h.trim().toLowerCase())
          .filter(Boolean),
      ),
    ];
    hosts.value = (await call(api.changeEmbedHosts, {}, { hosts: wanted })).hosts.join('\n');
    notices.say('The list of sites is saved.');
  } catch (error) {
    faults.value = { hosts: error instanceof HttpProblem ? error.message : 'Not saved.' };
  }
}
const addPerson = (): Promise<void> =>
  add(
    'people',
    () => call(api.addPerson, {}, person.value),
    `${person.value.givenName} ${person.value.familyName} is added and signs in with that email and the password you set.`,
    () => {
      person.value = { ...EMPTY_PERSON };
    },
  );
const addCourse = (): Promise<void> =>
  add(
    'courses',
    () =>
      call(
        api.addCourse,
        {},
        {
          ...course.value,
          sections: course.value.sections
            .split('\n')
            .map((s) => s.trim())
            .filter(Boolean),
        },
      ),
    'The course is added. Its instructor finds it on the Desk and opens it when it is ready.',
    () => {
      course.value = { code: '', run: '', title: '', termId: '', timeZone: zone, instructorId: '', sections: 'Section 1' };
    },
  );
</script>

<template>
  <FirstSteps v-if="school" :course-id="null" :stamp="school" />
  <div class="pad">
    <h1>{{ school?.title ?? 'School' }}</h1>
    <p v-if="fault" class="fault">{{ fault }}</p>
    <p v-if="school">
      <router-link :to="{ name: 'school-lists' }">Import the school’s lists</router-link>
      <span class="soft">people, courses, enrolments, as CSV or OneRoster</span> ·
      <router-link :to="{ name: 'school-registrar' }">Final grades</router-link>
      <span class="soft">the registrar, his letters, who has handed over</span> ·
      <router-link :to="{ name: 'school-storage' }">Storage</router-link>
      <span class="soft">what files take, by course and person, and how much there may be</span> ·
      <router-link :to="{ name: 'school-progress' }">Progress</router-link>
      <span class="soft">types of task, for how long activity is kept</span>
    </p>
    <div v-if="school" class="columns">
      <section>
        <TermsPart :terms="school.terms" @changed="take" />
        <JobFailures />
        <LedgerChecks />
      </section>
      <section>
        <PeopleList :people="school.people" @changed="take" />
        <form id="add-people" @submit.prevent="addPerson">
          <h3>Add a person</h3>
          <div class="two-columns">
            <label class="field"
              ><span class="label">Given name</span><LineField v-model="person.givenName" maxlength="80" required /></label
            ><label class="field"
              ><span class="label">Family name</span><LineField v-model="person.familyName" maxlength="80" required
            /></label>
          </div>
          <label class="field"
            ><span class="label">Email</span><LineField v-model="person.email" type="email" maxlength="200" required /></label
          ><label class="field"
            ><span class="label">First password, at least 10 characters</span
            ><LineField v-model="person.password" minlength="10" maxlength="200" required autocomplete="off"
          /></label>
          <label><TickBox v-model="person.teaches" /> teaches, and may make courses</label>
          <p v-if="faults.people" class="fault" role="alert">{{ faults.people }}</p>
          <p><ActButton type="submit" look="go">Add the person</ActButton></p>
        </form>
      </section>
      <section>
        <h2>Courses</h2>
        <ul class="bare-list spaced-list">
          <li v-for="c in school.courses" :key="c.id">
            <b>{{ c.title }}</b>
            <span class="soft"
              >{{ c.code }} {{ c.run }}, {{ c.term }}, {{ c.staff }}, {{ countOf(c.students, 'student') }}{{ stateOf(c) }}</span
            >
            <ActButton v-if="c.removedAt" look="act" :aria-label="`Put back ${c.title}`" @click="setCourse(c, false)">Put back</ActButton>
            <ActionMenu v-else words="more" :label="`What can be done with ${c.title}`" @choose="act(c, $event)">
              <option value="look">Look into it</option>
              <option value="remove">Delete, with all in it</option>
            </ActionMenu>
          </li>
        </ul>
        <form id="add-course" @submit.prevent="addCourse">
          <h3>Add a course</h3>
          <label class="field"><span class="label">Title</span><LineField v-model="course.title" maxlength="160" required /></label>
          <div class="two-columns">
            <label class="field"
              ><span class="label">Code; fixed once used</span><LineField v-model="course.code" maxlength="20" required /></label
            ><label class="field"
              ><span class="label">Run; fixed once used</span><LineField v-model="course.run" maxlength="20" required
            /></label>
          </div>
          <div class="two-columns">
            <label class="field"
              ><span class="label">Term</span
              ><ChoiceField v-model="course.termId" required>
                <option v-for="t in school.terms" :key="t.id" :value="t.id">{{ t.title }}</option>
              </ChoiceField></label
            ><label class="field"
              ><span class="label">Instructor</span
              ><ChoiceField v-model="course.instructorId" required>
                <option v-for="p in school.people.filter((one) => one.isActive)" :key="p.id" :value="p.id">
                  {{ p.givenName }} {{ p.familyName }}
                </option>
              </ChoiceField></label
            >
          </div>
          <ZoneChoice v-model="course.timeZone" label="Time zone" /><label class="field"
            ><span class="label">Sections, one a line</span><TextField v-model="course.sections" rows="3" required />
          </label>
          <p v-if="faults.courses" class="fault" role="alert">{{ faults.courses }}</p>
          <p><ActButton type="submit" look="go">Add the course</ActButton></p>
        </form>
        <form @submit.prevent="saveHosts">
          <h3>Sites that pages may show</h3>
          <label class="field"
            ><span class="label">Host names, one a line, such as maps.example.org; a site takes those below it in</span
            ><TextField v-model="hosts" rows="3" placeholder="none yet" />
          </label>
          <p v-if="faults.hosts" class="fault" role="alert">{{ faults.hosts }}</p>
          <p><ActButton type="submit" look="go">Save the list</ActButton></p>
        </form>
      </section>
    </div>
  </div>
</template>

<style scoped src="./school.css"></style>
<style scoped>
.columns {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 40px;
  padding-top: 14px;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
