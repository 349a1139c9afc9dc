<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type {
  CourseSettings,
  RosterMember,
  JoinedSection,
  ProgressShown,
  SectionMoved,
  SectionSetting,
  SettingsChange,
} from '@rosemary/api';
import { formatPoints, parsePoints, writeDate, savedWords } from '@rosemary/core';
import { computed, defineAsyncComponent, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import CourseLife from './CourseLife.vue';
import DateField from '../parts/DateField.vue';
import FilePick from '../parts/media/FilePick.vue';
import LineInput from '../parts/LineInput.vue';
import { call, takeBack } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import ActButton from '../parts/ActButton.vue';
import TickBox from '../parts/fields/TickBox.vue';
import TextField from '../parts/fields/TextField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';
import ActionMenu from '../parts/ActionMenu.vue';
import ZoneChoice from '../parts/fields/ZoneChoice.vue';
import { useFieldClash } from '../parts/useFieldClash.ts';

// Seldom needed, with what compares two texts.
const TwoVersions = defineAsyncComponent(() => import('../parts/TwoVersions.vue'));
const route = useRoute();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const base = computed(() => ({ courseId: courseId.value }));
const settings = ref<CourseSettings | null>(null);
const students = ref<readonly RosterMember[]>([]);
const fault = ref('');
const faults = ref<Record<string, string>>({});
const words = ref('');
const newTitle = ref<string | null>(null);
/** Students being chosen to part from a section. */
const parting = ref<{ section: SectionSetting; title: string; ids: string[] } | null>(null);
const canEdit = computed(() => course.head?.role === 'instructor');
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

onMounted(async () => {
  try {
    settings.value = await call(api.getSettings, base.value);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
async function readStudents(): Promise<void> {
  const roster = await call(api.getRoster, base.value);
  students.value = roster.members.filter((m) => m.role === 'student' && !m.isSample && m.withdrawnAt === null);
}
const say = (): void => {
  words.value = savedWords(new Date());
};
const { clash, lines, caught, takeTheirs, keepMine } = useFieldClash<CourseSettings, Omit<SettingsChange, 'version'>>((current) => {
  settings.value = current;
}, set);
async function set(change: Omit<SettingsChange, 'version'>): Promise<void> {
  faults.value = {};
  try {
    const version = settings.value?.version ?? 0;
    const next = await call(api.changeSettings, base.value, { ...change, version }, 'The settings of the course');
    if (next === null) return;
    settings.value = next;
    say();
    void course.load(courseId.value);
  } catch (error) {
    words.value = '';
    if (!(error instanceof HttpProblem)) throw error;
    if (caught(error, change)) return;
    const pointers = error.problem.pointers ?? [{ field: Object.keys(change)[0] ?? 'title', text: error.message }];
    faults.value = Object.fromEntries(pointers.map((p) => [p.field, p.text]));
  }
}
function setShare(field: 'reachedPercent' | 'meritPercent', typed: string): void {
  const parsed = parsePoints(typed);
  if (parsed.ok) void set({ [field]: parsed.value });
  else faults.value = { [field]: parsed.reason };
}
async function setSection(section: SectionSetting, change: { title?: string; meetingDays?: number[] | null }): Promise<void> {
  faults.value = {};
  try {
    settings.value = await call(api.changeSection, { ...base.value, sectionId: section.id }, change);
    say();
    void course.load(courseId.value);
  } catch (error) {
    faults.value = { [section.id]: error instanceof Error ? error.message : 'Not saved.' };
  }
}
function turnDay(section: SectionSetting, day: number): void {
  const days = section.meetingDays ?? settings.value?.term.meetingDays ?? [];
  void setSection(section, { meetingDays: days.includes(day) ? days.filter((d) => d !== day) : [...days, day].sort() });
}
/** Moves of students between sections may move grades: their ripple first, one Undo for all of it. */
async function move(act: () => Promise<SectionMoved | null>, done: string): Promise<boolean> {
  try {
    const answer = await act();
    if (answer === null) return false;
    settings.value = answer.settings;
    void course.load(courseId.value);
    notices.say(done, async () => {
      ({ settings: settings.value } = await takeBack(api.joinSection, base.value, { actId: answer.actId }));
      void course.load(courseId.value);
    });
    return true;
  } catch (error) {
    notices.sayFault(error);
    return false;
  }
}
async function join(section: SectionSetting, intoId: string): Promise<void> {
  const into = settings.value?.sections.find((s) => s.id === intoId);
  if (into === undefined) return;
  if (section.students === 0) {
    await take(section);
    return;
  }
  await move(
    () => call(api.joinSection, { ...base.value, sectionId: section.id }, { into: into.id }, `${section.title} merged with ${into.title}`),
    `${section.title} is merged with ${into.title}; everyone kept their work and dates.`,
  );
}
/** Parts a section that was joined to another, at any later time; who has changed section since stays there. */
async function partAgain(joined: JoinedSection): Promise<void> {
  try {
    const done = await call(api.partSections, base.value, { actId: joined.actId }, `${joined.title} parted from ${joined.into}`);
    if (done === null) return;
    settings.value = done.settings;
    void course.load(courseId.value);
    const back = `${done.back === 1 ? '1 student is' : `${done.back} students are`} in ${joined.title} again.`;
    const stayed =
      done.stayed === 1 ? '1 has changed section since and stays there.' : `${done.stayed} have changed section since and stay there.`;
    notices.say(done.stayed === 0 ? back : `${back} ${stayed}`);
  } catch (error) {
    notices.sayFault(error);
  }
}
async function take(section: SectionSetting): Promise<void> {
  try {
    settings.value = await call(api.removeSection, { ...base.value, sectionId: section.id });
    void course.load(courseId.value);
    notices.say(`The section ${section.title} is removed.`);
  } catch (error) {
    notices.sayFault(error);
  }
}
async function addSection(): Promise<void> {
  const title = (newTitle.value ?? '').trim();
  if (title === '') return;
  const body = { title, enrolmentIds: [] };
  if (await move(() => call(api.addSection, base.value, body, title), `The section ${title} is added.`)) newTitle.value = null;
}
async function beginParting(section: SectionSetting): Promise<void> {
  parting.value = { section, title: '', ids: [] };
  await readStudents();
}
async function part(): Promise<void> {
  const p = parting.value;
  if (p === null || p.title.trim() === '' || p.ids.length === 0) return;
  const many = p.ids.length === 1 ? '1 student' : `${p.ids.length} students`;
  if (
    await move(
      () => call(api.addSection, base.value, { title: p.title.trim(), enrolmentIds: p.ids }, `${many} parted from ${p.section.title}`),
      `${many} of ${p.section.title} are now ${p.title.trim()}.`,
    )
  )
    parting.value = null;
}
const address = computed(() => `${window.location.origin}/about/${courseId.value}`);
const day = (iso: string): string => writeDate(Date.parse(iso), 'UTC', true);
const value = (event: Event): string => (event.target as HTMLInputElement).value;
</script>

<template>
  <div class="pad settings">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <template v-if="!settings && !fault"><div v-for="n in 6" :key="n" class="skeleton" style="height: 34px; margin-top: 14px" /></template>
    <template v-if="settings">
      <TwoVersions
        v-if="clash"
        says="Somebody else changed this after you opened it."
        :lines="lines"
        @theirs="takeTheirs"
        @mine="keepMine"
      />
      <p class="label" role="status" style="min-height: 18px">{{ words }}</p>
      <div class="columns">
        <fieldset :disabled="!canEdit">
          <h2>The course</h2>
          <p class="soft">
            {{ settings.code }}, run {{ settings.run }}: fixed, since they stand in addresses. {{ settings.term.title }},
            {{ day(settings.term.startsOn) }} to {{ day(settings.term.endsOn) }}.
          </p>
          <label class="field"
            ><span class="label">Title</span><LineInput maxlength="160" :value="settings.title" @commit="set({ title: $event })"
          /></label>
          <p v-if="faults.title" class="fault" role="alert">{{ faults.title }}</p>
          <label class="field"
            ><span class="label">Short title, for lists</span
            ><LineInput maxlength="40" :value="settings.shortTitle" @commit="set({ shortTitle: $event })"
          /></label>
          <label class="field"
            ><span class="label">What it is about</span
            ><TextField rows="4" maxlength="4000" :model-value="settings.description" @change="set({ description: value($event) })" />
          </label>
          <ZoneChoice label="Time zone" :model-value="settings.timeZone" @update:model-value="$event !== '' && set({ timeZone: $event })" />
          <p v-if="faults.timeZone" class="fault" role="alert">{{ faults.timeZone }}</p>
          <label class="field"
            ><span class="label">Language of its texts, such as en, de, pt-PT</span
            ><LineInput maxlength="35" :value="settings.language" @commit="set({ language: $event.trim() })"
          /></label>
          <p v-if="faults.language" class="fault" role="alert">{{ faults.language }}</p>
          <label class="field"
            ><span class="label">Its dates are</span
            ><ChoiceField :model-value="settings.pacing" @change="set({ pacing: $event })">
              <option value="term">those of the term, for everyone</option>
              <option value="self">counted from each student’s start, at their own pace</option>
            </ChoiceField></label
          >
          <p v-if="settings.pacing === 'self'" class="soft">
            In the Plan a date is set as for someone who starts on {{ day(settings.term.startsOn) }}, and read as their day 1, 2, 3. Starts
            are in the Roster.
          </p>
          <p v-if="faults.pacing" class="fault" role="alert">{{ faults.pacing }}</p>
          <label class="field"
            ><span class="label">Progress is counted by</span
            ><ChoiceField :model-value="settings.progressBy" @change="set({ progressBy: $event as 'items' | 'minutes' })">
              <option value="items">items that are done</option>
              <option value="minutes">the minutes they ask</option>
            </ChoiceField></label
          >
          <label class="field"
            ><span class="label">Students see of their progress</span
            ><ChoiceField :model-value="settings.progressShows" @change="set({ progressShows: $event as ProgressShown })">
              <option value="nothing">nothing</option>
              <option value="own">how far they are themselves</option>
              <option value="class">also how far the class is, of five students at least</option>
            </ChoiceField></label
          >
          <div class="two-columns">
            <label class="field"
              ><span class="label">Objective reached from, in % of the points</span
              ><LineInput
                inputmode="decimal"
                :value="formatPoints(settings.reachedPercent)"
                @commit="setShare('reachedPercent', $event)" /></label
            ><label class="field"
              ><span class="label">With merit from, in %</span
              ><LineInput inputmode="decimal" :value="formatPoints(settings.meritPercent)" @commit="setShare('meritPercent', $event)"
            /></label>
          </div>
          <p v-if="faults.reachedPercent || faults.meritPercent" class="fault" role="alert">
            {{ faults.reachedPercent ?? faults.meritPercent }}
          </p>
          <h2>Its picture</h2>
          <template v-if="settings.picture">
            <img class="picture" :src="settings.picture.src" :alt="settings.picture.alt" />
            <label class="field"
              ><span class="label">What it shows, for those who do not see it; empty where it only adorns</span
              ><LineInput maxlength="400" :value="settings.picture.alt" @commit="set({ pictureAlt: $event.trim() })"
            /></label>
            <p v-if="canEdit"><ActButton look="act" @click="set({ pictureFileId: null })">remove it</ActButton></p>
          </template>
          <FilePick
            v-else-if="canEdit"
            :course-id="courseId"
            accept="image/png,image/jpeg,image/webp"
            :kinds="/^image\//"
            words="a picture"
            @choose="set({ pictureFileId: $event.id })"
          />
          <p v-if="faults.pictureFileId" class="fault" role="alert">{{ faults.pictureFileId }}</p>
          <h2>For those who are not in it</h2>
          <p>
            <label
              ><TickBox :model-value="settings.isPublic" @change="set({ isPublic: ($event.target as HTMLInputElement).checked })" /> anyone
              may read a page about it</label
            >
          </p>
          <template v-if="settings.isPublic">
            <p class="soft">
              <a :href="address" target="_blank">{{ address }}</a>
            </p>
            <DateField
              :model-value="settings.enrolsFrom"
              label="People enrol themselves from; empty is not at all"
              time="08:00"
              :zone="settings.timeZone"
              :now="course.now"
              :fault="faults.enrolsFrom ?? null"
              :is-fixed="!canEdit"
              @change="set({ enrolsFrom: $event })"
            />
            <DateField
              :model-value="settings.enrolsUntil"
              label="until"
              :zone="settings.timeZone"
              :now="course.now"
              :fault="faults.enrolsUntil ?? null"
              :is-fixed="!canEdit"
              @change="set({ enrolsUntil: $event })"
            />
          </template>
        </fieldset>
        <section>
          <h2>Sections</h2>
          <div v-for="s in settings.sections" :key="s.id" class="section">
            <div class="line">
              <LineInput
                class="title"
                maxlength="80"
                :aria-label="`Title of the section ${s.title}`"
                :disabled="!canEdit"
                :value="s.title"
                @commit="$event.trim() !== '' && setSection(s, { title: $event.trim() })"
              />
              <span class="soft">{{ s.students === 1 ? '1 student' : `${s.students} students` }}</span>
            </div>
            <p class="days">
              <label v-for="(d, n) in DAYS" :key="d"
                ><TickBox
                  :disabled="!canEdit"
                  :model-value="(s.meetingDays ?? settings.term.meetingDays).includes(n + 1)"
                  @change="turnDay(s, n + 1)"
                />
                {{ d }}</label
              >
              <span class="label">{{ s.meetingDays === null ? 'as the term' : '' }}</span>
              <ActButton v-if="canEdit && s.meetingDays !== null" look="act" @click="setSection(s, { meetingDays: null })">
                as the term
              </ActButton>
            </p>
            <p v-if="canEdit" class="acts">
              <ActionMenu v-if="settings.sections.length > 1" words="Merge with" :label="`Merge ${s.title} with`" @choose="join(s, $event)">
                <option v-for="o in settings.sections.filter((x) => x.id !== s.id)" :key="o.id" :value="o.id">{{ o.title }}</option>
              </ActionMenu>
              <ActButton v-if="s.students > 1" look="act" @click="beginParting(s)">Split section…</ActButton>
              <ActButton v-if="s.students === 0 && settings.sections.length > 1" look="act" @click="take(s)">Remove</ActButton>
            </p>
            <p v-if="faults[s.id]" class="fault" role="alert">{{ faults[s.id] }}</p>
            <form v-if="parting?.section.id === s.id" class="parting" @submit.prevent="part">
              <label class="field"
                ><span class="label">Title of the new section</span><LineField v-model="parting.title" maxlength="80" takes-focus
              /></label>
              <p class="label">Who goes there: {{ parting.ids.length }} of {{ s.students }}</p>
              <div class="names" tabindex="0" role="group" :aria-label="`Students of ${s.title}`">
                <label v-for="m in students.filter((x) => x.sectionId === s.id)" :key="m.enrolmentId"
                  ><TickBox v-model="parting.ids" :value="m.enrolmentId" /> {{ m.familyName }}, {{ m.givenName }}</label
                >
              </div>
              <p>
                <ActButton type="submit" look="quiet" :disabled="parting.title.trim() === '' || parting.ids.length === 0"
                  >Split section</ActButton
                >
                <ActButton look="act" @click="parting = null">leave it</ActButton>
              </p>
            </form>
          </div>
          <form v-if="newTitle !== null" class="line" @submit.prevent="addSection">
            <LineField
              v-model="newTitle"
              maxlength="80"
              aria-label="Title of the new section"
              placeholder="Title, then Enter"
              takes-focus
              @keydown.esc="newTitle = null"
            />
            <ActButton type="submit" look="quiet">Add</ActButton>
          </form>
          <p v-else-if="canEdit"><ActButton look="act" @click="newTitle = ''">Add section</ActButton></p>
          <ul v-if="settings.joined.length > 0" class="joined">
            <li v-for="j in settings.joined" :key="j.actId">
              {{ j.title }} was merged with {{ j.into }} on {{ day(j.at) }};
              {{ j.students === 1 ? '1 student came' : `${j.students} students came` }} from it.
              <ActButton v-if="canEdit" look="act" @click="partAgain(j)">Split them again</ActButton>
            </li>
          </ul>
          <p class="soft">
            Sections can be merged and split at any time: everyone keeps their work, their marks, and the dates that were set for them.
          </p>
          <template v-if="canEdit">
            <CourseLife :course-id="courseId" />
            <h2>The whole course as a file</h2>
            <p><router-link :to="{ name: 'exchange', params: { courseId } }">Export the course, or import a package</router-link></p>
          </template>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 48px;
}
h2 {
  margin: 10px 0 6px;
}
.picture {
  display: block;
  width: 100%;
  max-height: 160px;
  object-fit: cover;
  border-radius: 4px;
}
.section {
  border-top: 1px solid var(--frost);
  padding: 8px 0;
}
.line,
.acts,
.days {
  display: flex;
  gap: 12px;
  align-items: baseline;
  flex-wrap: wrap;
}
.line {
  flex-wrap: nowrap;
}
.line .soft {
  white-space: nowrap;
}
.title {
  font-weight: 600;
}
.names {
  max-height: 240px;
  overflow: auto;
  columns: 2;
}
.names label {
  display: block;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
.joined {
  list-style: none;
  padding: 0;
}
</style>
