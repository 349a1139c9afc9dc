<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { School } from '@rosemary/api';
import { writeDate, countOf } from '@rosemary/core';
import { onMounted, ref } from 'vue';
import DateField from '../parts/DateField.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import JobFailures from './JobFailures.vue';
import LedgerChecks from './LedgerChecks.vue';
import PeopleList from './PeopleList.vue';
import ActButton from '../parts/ActButton.vue';
import ActionMenu from '../parts/ActionMenu.vue';
import TickBox from '../parts/fields/TickBox.vue';
import LineField from '../parts/fields/LineField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import TextField from '../parts/fields/TextField.vue';
import ZoneChoice from '../parts/fields/ZoneChoice.vue';
import { DateTime } from 'luxon';

const school = ref<School | null>(null);
const fault = ref('');
const faults = ref<Record<string, string>>({});
const notices = useNotices();
const session = useSession();
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
const term = ref({
  title: '',
  startsOn: '',
  endsOn: '',
  meetingDays: [1, 2, 3, 4, 5],
  holidays: [] as { title: string; startsOn: string; endsOn: string }[],
});
const person = ref({ givenName: '', familyName: '', email: '', password: '' });
const course = ref({ code: '', run: '', title: '', termId: '', timeZone: zone, instructorId: '', sections: 'Section 1' });
onMounted(async () => {
  try {
    school.value = await call(api.getSchool, {});
    hosts.value = (await call(api.listEmbedHosts, {})).hosts.join('\n');
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const day = (iso: string): string => writeDate(Date.parse(iso), 'UTC', true);
const span = (s: { readonly startsOn: string; readonly endsOn: string }): string =>
  s.startsOn === s.endsOn ? day(s.startsOn) : `${day(s.startsOn)} to ${day(s.endsOn)}`;
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

type What = 'terms' | 'people' | 'courses';
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
/** The term that is being changed; null while one is being added. */
const changing = ref<{ id: string; version: number } | null>(null);
function clearTerm(): void {
  changing.value = null;
  term.value = { title: '', startsOn: '', endsOn: '', meetingDays: [1, 2, 3, 4, 5], holidays: [] };
}
function beginTerm(t: School['terms'][number]): void {
  changing.value = { id: t.id, version: t.version };
  term.value = {
    title: t.title,
    startsOn: t.startsOn,
    endsOn: t.endsOn,
    meetingDays: [...t.meetingDays],
    holidays: t.holidays.map((h) => ({ ...h })),
  };
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
async function addTerm(): Promise<void> {
  if (changing.value === null) {
    await add('terms', () => call(api.addTerm, {}, term.value), 'The term is added.', clearTerm);
    return;
  }
  faults.value = {};
  try {
    const { id, version } = changing.value;
    school.value = (await call(api.changeTerm, { termId: id }, { ...term.value, version })).school;
    notices.say(`The term “${term.value.title}” is changed, for every course in it.`);
    clearTerm();
  } catch (error) {
    const isConflict = error instanceof HttpProblem && error.code === 'conflict';
    if (isConflict) school.value = await call(api.getSchool, {});
    faults.value = {
      terms: isConflict
        ? 'Someone else changed this term meanwhile. Choose it again above.'
        : error instanceof HttpProblem
          ? error.message
          : 'Not saved.',
    };
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
      person.value = { givenName: '', familyName: '', email: '', password: '' };
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
function turnDay(day: number): void {
  const days = term.value.meetingDays;
  term.value.meetingDays = days.includes(day) ? days.filter((d) => d !== day) : [...days, day].sort();
}
/** A holiday that begins on another day is as long as it was. */
function begin(holiday: { startsOn: string; endsOn: string }, day: string): void {
  const [from, to, now] = [holiday.startsOn, holiday.endsOn, day].map((text) => DateTime.fromISO(text, { zone: 'utc' }));
  holiday.startsOn = day;
  if (!now?.isValid) return;
  const days = from?.isValid && to?.isValid ? Math.max(0, to.diff(from, 'days').days) : 0;
  holiday.endsOn = now.plus({ days }).toISODate();
}
</script>

<template>
  <div class="pad">
    <h1>{{ school?.title ?? 'School' }}</h1>
    <p v-if="fault" class="fault">{{ fault }}</p>
    <p v-if="school && school.courses.length === 0" class="soft">
      Three steps to the first course: a term, the people, the course with its instructor.
    </p>
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
        <h2>Terms</h2>
        <ul class="bare-list spaced-list">
          <li v-for="t in school.terms" :key="t.id">
            <b>{{ t.title }}</b> <ActButton look="act" :aria-label="`Change the term ${t.title}`" @click="beginTerm(t)">change</ActButton>
            <span class="soft"
              >{{ span(t) }}, {{ countOf(t.weeks, 'week')
              }}{{ t.holidays.length > 0 ? `; ${t.holidays.map((h) => `${h.title}, ${span(h)}`).join('; ')}` : '' }}</span
            >
          </li>
        </ul>
        <form @submit.prevent="addTerm">
          <h3>{{ changing ? 'Change a term' : 'Add a term' }}</h3>
          <label class="field"><span class="label">Title</span><LineField v-model="term.title" maxlength="80" required /></label>
          <div class="two-columns">
            <DateField
              :model-value="term.startsOn"
              label="First day"
              zone="UTC"
              is-day
              is-required
              @change="term.startsOn = $event ?? ''"
            />
            <DateField :model-value="term.endsOn" label="Last day" zone="UTC" is-day is-required @change="term.endsOn = $event ?? ''" />
          </div>
          <p class="label">Meeting days</p>
          <p class="days">
            <label v-for="(d, n) in DAYS" :key="d"
              ><TickBox :model-value="term.meetingDays.includes(n + 1)" @change="turnDay(n + 1)" /> {{ d }}</label
            >
          </p>
          <div v-for="(h, n) in term.holidays" :key="n" class="holiday">
            <label class="field"
              ><span class="label">Holiday</span><LineField v-model="h.title" aria-label="Name of the holiday" required
            /></label>
            <DateField :model-value="h.startsOn" label="From" zone="UTC" is-day is-required @change="begin(h, $event ?? '')" />
            <DateField :model-value="h.endsOn" label="To" zone="UTC" is-day is-required @change="h.endsOn = $event ?? ''" />
            <ActButton look="act" :aria-label="`Without the holiday ${h.title}`" @click="term.holidays.splice(n, 1)">Remove</ActButton>
          </div>
          <ActButton look="act" @click="term.holidays.push({ title: '', startsOn: term.startsOn, endsOn: term.startsOn })">
            Add holiday
          </ActButton>
          <p v-if="faults.terms" class="fault" role="alert">{{ faults.terms }}</p>
          <p>
            <ActButton type="submit" look="go">{{ changing ? 'Change the term' : 'Add the term' }}</ActButton>
            <ActButton v-if="changing" look="quiet" @click="clearTerm">Leave it</ActButton>
          </p>
        </form>
        <JobFailures />
        <LedgerChecks />
      </section>
      <section>
        <PeopleList :people="school.people" @changed="school = $event" />
        <form @submit.prevent="addPerson">
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
            <ActionMenu v-else words="more" :label="`What can be done with ${c.title}`" @choose="setCourse(c, true)">
              <option value="remove">Delete, with all in it</option>
            </ActionMenu>
          </li>
        </ul>
        <form @submit.prevent="addCourse">
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

<style scoped>
.columns {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 40px;
  padding-top: 14px;
}
li {
  padding: 6px 0;
  border-top: 1px solid var(--frost);
  overflow-wrap: anywhere;
}
form {
  padding-top: 18px;
}
h3 {
  margin-bottom: 8px;
  font-size: 15px;
}
.days {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  padding-bottom: 8px;
}
.holiday {
  display: grid;
  grid-template-columns: 1fr 1fr;
  align-items: end;
  gap: 8px;
  padding-bottom: 6px;
}
p {
  padding: 4px 0;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
