<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ArrangementChange, Roster, RosterMember, MemberChange } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call, takeBack } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import DateField from '../parts/DateField.vue';
import ArrangementsField from './ArrangementsField.vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import SearchChoice from '../parts/fields/SearchChoice.vue';
import ActionMenu from '../parts/ActionMenu.vue';

const route = useRoute();
const router = useRouter();
const course = useCourse();
const notices = useNotices();
const session = useSession();
const base = computed(() => ({ courseId: String(route.params.courseId) }));
const roster = ref<Roster | null>(null);
const fault = ref('');
const adding = ref<{ personId: string; role: 'student' | 'assistant' | 'instructor'; sectionId: string }>({
  personId: '',
  role: 'student',
  sectionId: '',
});
onMounted(async () => {
  try {
    roster.value = await call(api.getRoster, base.value);
    adding.value.sectionId = roster.value.sections[0]?.id ?? '';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const shown = computed(() =>
  (roster.value?.members ?? []).filter((m) => course.sectionId === null || m.sectionId === course.sectionId || m.role !== 'student'),
);
const groups = computed(() =>
  [
    { title: 'Staff', members: shown.value.filter((m) => m.role !== 'student') },
    { title: 'Students', members: shown.value.filter((m) => m.role === 'student' && !m.isSample && m.withdrawnAt === null) },
    { title: 'Withdrawn', members: shown.value.filter((m) => m.role === 'student' && m.withdrawnAt !== null) },
    { title: 'Sample students', members: shown.value.filter((m) => m.isSample) },
  ].filter((g) => g.members.length > 0),
);
async function run(
  change: () => Promise<Roster | null>,
  words: string,
  undo: ((r: Roster) => Promise<Roster>) | null = null,
): Promise<boolean> {
  try {
    fault.value = '';
    const next = await change();
    if (next === null) return false;
    roster.value = next;
    void course.load(String(route.params.courseId));
    const then = roster.value;
    notices.say(
      words,
      undo === null
        ? null
        : async () => {
            roster.value = await undo(then);
          },
    );
    return true;
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
    return false;
  }
}
const nameOf = (m: RosterMember): string => `${m.givenName} ${m.familyName}`;
type Change = Omit<MemberChange, 'version'>;
/** Sections, arrangements, starts and withdrawals move dates or totals: whom they move is shown first. */
function change(m: RosterMember, to: Change, from: Change, words: string, title = nameOf(m)): Promise<boolean> {
  const at = { ...base.value, enrolmentId: m.enrolmentId };
  const latest = (r: Roster): number => r.members.find((x) => x.enrolmentId === m.enrolmentId)?.version ?? m.version;
  return run(
    () => call(api.changeMember, at, { version: m.version, ...to }, title),
    words,
    (r) => takeBack(api.changeMember, at, { version: latest(r), ...from }),
  );
}
const withdraw = (m: RosterMember, is: boolean): Promise<boolean> =>
  change(m, { isWithdrawn: is }, { isWithdrawn: !is }, is ? `${nameOf(m)} is withdrawn; their work is kept.` : `${nameOf(m)} is back.`);
const listen = (m: RosterMember, is: boolean): Promise<boolean> =>
  change(
    m,
    { isAuditing: is },
    { isAuditing: !is },
    is ? `${nameOf(m)} only listens: no final grade is calculated.` : `${nameOf(m)} is graded like the others.`,
  );
const arrange = (m: RosterMember, arrangements: readonly ArrangementChange[]): Promise<boolean> =>
  change(
    m,
    { arrangements: [...arrangements] },
    { arrangements: [...m.arrangements] },
    `The arrangements of ${nameOf(m)} are changed.`,
    `Arrangement for ${nameOf(m)}`,
  );
const moveTo = (m: RosterMember, sectionId: string): Promise<boolean> =>
  change(m, { sectionId }, { sectionId: m.sectionId }, `${nameOf(m)} is moved.`);
/** Whose start is being set, in a course counted from each student’s start. */
const starting = ref<string | null>(null);
async function startOn(m: RosterMember, startedAt: string | null): Promise<void> {
  starting.value = null;
  if (startedAt === null || startedAt === m.startedAt) return;
  const when = dayAndTime(Date.parse(startedAt), course.zone, course.now);
  await change(
    m,
    { startedAt },
    { startedAt: m.startedAt },
    `${nameOf(m)} starts ${when}; every date is counted from there.`,
    `Start of ${nameOf(m)}`,
  );
}
async function add(): Promise<void> {
  const { personId, role, sectionId } = adding.value;
  if (personId === '') {
    fault.value = 'Choose whom to add: type letters of a name or an email, and pick one.';
    return;
  }
  const isAdded = await run(
    () => call(api.addMember, base.value, { personId, role, sectionId: role === 'student' ? sectionId : null }),
    'Added.',
  );
  if (isAdded) adding.value.personId = '';
}
async function seeAs(m: RosterMember): Promise<void> {
  await session.startSeeAs({ courseId: String(route.params.courseId), enrolmentId: m.enrolmentId, on: null });
  await course.load(String(route.params.courseId));
  await router.push({ name: 'own-week', params: { courseId: String(route.params.courseId) } });
}
interface Act {
  readonly does: string;
  readonly words: string;
}
/** What can be done for somebody: to see as they do, to move them, to withdraw them or take them back. */
const actsFor = (m: RosterMember): readonly Act[] => {
  if (roster.value?.canEdit !== true || m.role !== 'student') return [];
  const isHere = m.withdrawnAt === null;
  return [
    ...(isHere ? [{ does: 'see', words: 'See as this student' }] : []),
    ...(isHere && !m.isSample
      ? roster.value.sections.filter((s) => s.id !== m.sectionId).map((s) => ({ does: `move ${s.id}`, words: `Move to ${s.title}` }))
      : []),
    ...(isHere && !m.isSample
      ? [{ does: 'listen', words: m.isAuditing ? 'Is graded like the others' : 'Only listens, is not graded' }]
      : []),
    ...(m.isSample ? [] : [{ does: 'withdraw', words: isHere ? 'Withdraw' : 'Take back into the course' }]),
  ];
};
function act(m: RosterMember, does: string): void {
  const [what, id = ''] = does.split(' ');
  if (what === 'see') void seeAs(m);
  else if (what === 'move') void moveTo(m, id);
  else if (what === 'listen') void listen(m, !m.isAuditing);
  else void withdraw(m, m.withdrawnAt === null);
}
</script>

<template>
  <div class="pad">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <template v-if="!roster && !fault"><div v-for="n in 10" :key="n" class="skeleton" style="height: 22px; margin-top: 10px" /></template>
    <p v-if="roster" class="groups"><router-link :to="{ name: 'groups', params: route.params }">Groups</router-link></p>
    <form v-if="roster?.canEdit" class="add" @submit.prevent="add">
      <SearchChoice
        v-model="adding.personId"
        class="who"
        label="Add someone from the school"
        placeholder="letters of a name or email"
        :find="(letters) => call(api.findPeople, { ...base, q: letters })"
        :words-of="(p) => `${p.familyName}, ${p.givenName} (${p.email})`"
      />
      <label
        ><span class="label">as</span
        ><ChoiceField v-model="adding.role">
          <option>student</option>
          <option>assistant</option>
          <option>instructor</option>
        </ChoiceField></label
      >
      <label v-if="adding.role === 'student'"
        ><span class="label">in</span
        ><ChoiceField v-model="adding.sectionId">
          <option v-for="s in roster.sections" :key="s.id" :value="s.id">{{ s.title }}</option>
        </ChoiceField></label
      ><ActButton type="submit" look="go">Add</ActButton>
    </form>
    <section v-for="g in groups" :key="g.title">
      <h2>
        {{ g.title }} <span class="soft" style="font-size: 14px">{{ g.members.length }}</span>
      </h2>
      <PlainTable>
        <thead>
          <tr>
            <th>Name</th>
            <th>Email</th>
            <th>{{ g.title === 'Staff' ? 'Role' : 'Section' }}</th>
            <th v-if="course.head?.isSelfPaced && g.title !== 'Staff'">Start</th>
            <th>Arrangement</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in g.members" :key="m.enrolmentId">
            <td>
              <router-link v-if="m.role === 'student'" :to="`/courses/${route.params.courseId}/progress?person=${m.enrolmentId}`"
                >{{ m.familyName }}, {{ m.givenName }}</router-link
              ><span v-else>{{ m.familyName }}, {{ m.givenName }}</span>
            </td>
            <td class="soft">{{ m.isSample ? '' : m.email }}</td>
            <td>
              <template v-if="m.role !== 'student'"
                >{{ m.role }}, <span class="soft">{{ m.section }}</span></template
              ><span v-else>{{ m.section }}</span>
            </td>
            <td v-if="course.head?.isSelfPaced && m.role === 'student'">
              <DateField
                v-if="starting === m.enrolmentId"
                :model-value="m.startedAt"
                :label="`Start of ${m.givenName} ${m.familyName}`"
                :zone="course.zone"
                :now="course.now"
                time="00:00"
                is-required
                @change="startOn(m, $event)"
              />
              <ActButton
                v-else
                look="act"
                :disabled="!roster?.canEdit"
                :aria-label="`Start of ${m.givenName} ${m.familyName}`"
                @click="starting = m.enrolmentId"
              >
                {{ dayAndTime(Date.parse(m.startedAt), course.zone, course.now) }}
              </ActButton>
            </td>
            <td>
              <ArrangementsField
                v-if="m.role === 'student' && !m.isSample"
                :member="m"
                :can-edit="roster?.canEdit === true && m.withdrawnAt === null"
                :save="(arrangements) => arrange(m, arrangements)"
              />
            </td>
            <td class="num">
              <ActionMenu
                v-if="actsFor(m).length > 0"
                words="more"
                :label="`What can be done for ${m.givenName} ${m.familyName}`"
                @choose="act(m, $event)"
              >
                <option v-for="a in actsFor(m)" :key="a.does" :value="a.does">{{ a.words }}</option>
              </ActionMenu>
            </td>
          </tr>
        </tbody>
      </PlainTable>
    </section>
  </div>
</template>

<style scoped>
.groups {
  float: right;
}
.add {
  display: flex;
  gap: 18px;
  align-items: end;
  padding-bottom: 18px;
}
.who {
  flex: 1;
  max-width: 420px;
}
section {
  margin-bottom: 22px;
}
td {
  padding-top: 5px;
  padding-bottom: 5px;
}
h2 {
  margin-bottom: 4px;
}
</style>
