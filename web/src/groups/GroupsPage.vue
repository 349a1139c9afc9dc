<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Groups, GroupSet, GroupSetChange, ListedGroups } from '@rosemary/api';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import DateField from '../parts/DateField.vue';
import LineInput from '../parts/LineInput.vue';
import { call, callWithForm, takeBack } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import TickBox from '../parts/fields/TickBox.vue';
import ActButton from '../parts/ActButton.vue';
import FileInput from '../parts/media/FileInput.vue';
import LineField from '../parts/fields/LineField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import ActionMenu from '../parts/ActionMenu.vue';
import { countOf, sizesOfDeal } from '@rosemary/core';
import DragList from '../parts/DragList.vue';
import ColumnNames from '../parts/ColumnNames.vue';

const route = useRoute();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const base = computed(() => ({ courseId: courseId.value }));
const canEdit = computed(() => course.head?.role === 'instructor');
const groups = ref<Groups | null>(null);
const fault = ref('');
const setFault = ref<{ id: string; text: string } | null>(null);
const form = ref({ title: '', makes: 'dealt' as 'dealt' | 'empty' | 'balanced' | 'listed', number: 3, withinSections: true });
const formFault = ref('');
onMounted(async () => {
  try {
    groups.value = await call(api.getGroups, base.value);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const nameOf = computed(() => new Map((groups.value?.students ?? []).map((s) => [s.enrolmentId, s.name])));
const sectionOf = computed(() => new Map((course.head?.sections ?? []).map((s) => [s.id, s.title])));
const without = (set: GroupSet) => {
  const placed = new Set(set.groups.flatMap((g) => g.enrolmentIds));
  return (groups.value?.students ?? []).filter((s) => !placed.has(s.enrolmentId));
};
/** How large the groups will be, before anybody is dealt. */
const sizes = computed(() => {
  const { makes, number, withinSections } = form.value;
  const students = groups.value?.students ?? [];
  if ((makes !== 'dealt' && makes !== 'balanced') || !(number >= 1) || students.length === 0) return '';
  const many = new Map<number, number>();
  for (const size of sizesOfDeal(
    students.map((s) => ({ id: s.enrolmentId, sectionId: s.sectionId })),
    number,
    withinSections,
  ))
    many.set(size, (many.get(size) ?? 0) + 1);
  const words = [...many].sort((a, b) => b[0] - a[0]).map(([size, times]) => (times === 1 ? `one of ${size}` : `${times} of ${size}`));
  return `${countOf(students.length, 'student')}: ${words.join(', ')}`;
});
function taken(next: Groups): void {
  groups.value = next;
  // Pickers elsewhere name the groups of the course.
  void course.load(courseId.value);
}

async function make(): Promise<void> {
  formFault.value = '';
  try {
    const lists =
      form.value.makes === 'listed'
        ? { groups: (listed.value?.groups ?? []).map((g) => ({ title: g.title, enrolmentIds: g.enrolmentIds })) }
        : {};
    const made = await call(api.addGroupSet, base.value, {
      ...form.value,
      title: form.value.title.trim(),
      ...lists,
    });
    listed.value = null;
    taken(made.groups);
    notices.say(`The set “${form.value.title.trim()}” is made.`, async () => {
      const left = await call(api.removeGroupSet, { ...base.value, setId: made.id }, undefined, 'Without the groups');
      if (left !== null) taken(left);
    });
    form.value.title = '';
  } catch (error) {
    formFault.value = error instanceof HttpProblem ? error.message : 'Not made. Try again.';
  }
}
/** What a list says is seen before anything is made of it. */
const listed = ref<ListedGroups | null>(null);
/** A list that names its columns otherwise, until somebody has said which is which. */
const unnamed = ref<{ readonly name: string; readonly text: string } | null>(null);
const LIST = { groups: { words: 'groups', needed: ['group', 'student'], more: [] } };
const listInput = ref<InstanceType<typeof FileInput> | null>(null);
async function readList([file]: readonly File[]): Promise<void> {
  if (file === undefined) return;
  formFault.value = '';
  const data = new FormData();
  data.append('file', file);
  try {
    listed.value = await callWithForm(api.readGroupList, base.value, data);
    unnamed.value = null;
  } catch (error) {
    const said = error instanceof HttpProblem ? error.message : 'Not read. Try again.';
    // A table that was refused may only name its columns otherwise.
    if (said.includes('It needs group and student')) unnamed.value = { name: file.name, text: await file.text() };
    else formFault.value = said;
  }
}
/** Until when students choose for themselves, and how many a group takes. */
async function setSignUp(set: GroupSet, change: { signUpUntil?: string | null; mostMembers?: number | null }): Promise<void> {
  setFault.value = null;
  try {
    const body = { version: set.version, title: set.title, groups: layoutOf(set), ...change };
    const next = await call(api.changeGroupSet, { ...base.value, setId: set.id }, body, `Groups: ${set.title}`);
    if (next !== null) taken(next);
  } catch (error) {
    setFault.value = { id: set.id, text: error instanceof HttpProblem ? error.message : 'Not saved. Try again.' };
  }
}
type Layout = GroupSetChange['groups'];
const layoutOf = (set: GroupSet): Layout => set.groups.map((g) => ({ id: g.id, title: g.title, enrolmentIds: [...g.enrolmentIds] }));

/** Writes a set as it shall stand; dates of its members may move, so the ripple comes first, and one Undo puts it back. */
async function save(set: GroupSet, groupsOf: Layout, words: string, title = set.title): Promise<void> {
  setFault.value = null;
  const at = { ...base.value, setId: set.id };
  const body: GroupSetChange = { version: set.version, title, groups: groupsOf };
  try {
    const next = await call(api.changeGroupSet, at, body, `Groups: ${set.title}`);
    if (next === null) return;
    taken(next);
    notices.say(
      words,
      async () => {
        const now = groups.value?.sets.find((s) => s.id === set.id);
        const known = new Set(now?.groups.map((g) => g.id));
        // A group removed comes back as a new one with the same people.
        const back = layoutOf(set).map((g) => ({ ...g, id: known.has(g.id ?? '') ? g.id : null }));
        taken(await takeBack(api.changeGroupSet, at, { version: now?.version ?? 0, title: set.title, groups: back }));
      },
      () => save(groups.value?.sets.find((s) => s.id === set.id) ?? set, groupsOf, words, title),
    );
  } catch (error) {
    if (error instanceof HttpProblem && error.code === 'conflict') {
      groups.value = await call(api.getGroups, base.value);
      setFault.value = { id: set.id, text: 'Someone else changed these groups meanwhile. They are shown as they are now; do it again.' };
    } else setFault.value = { id: set.id, text: error instanceof HttpProblem ? error.message : 'Not saved. Try again.' };
  }
}
function put(set: GroupSet, enrolmentId: string, groupId: string): void {
  const name = nameOf.value.get(enrolmentId) ?? '';
  const layout = layoutOf(set).map((g) => {
    const others = g.enrolmentIds.filter((id) => id !== enrolmentId);
    return { ...g, enrolmentIds: g.id === groupId ? [...others, enrolmentId] : others };
  });
  const to = set.groups.find((g) => g.id === groupId)?.title;
  void save(set, layout, to === undefined ? `${name} is in no group now.` : `${name} is in ${to}.`);
}
/** Somebody was let go over another group: the list that they left says nothing, the one they came to puts them there. */
function dropped(set: GroupSet, now: readonly string[], before: readonly string[], groupId: string): void {
  const come = now.find((id) => !before.includes(id));
  if (come !== undefined) put(set, come, groupId);
}
const rename = (set: GroupSet, id: string, title: string): Promise<void> =>
  save(
    set,
    layoutOf(set).map((g) => (g.id === id ? { ...g, title } : g)),
    `The group is called ${title}.`,
  );
const addGroup = (set: GroupSet): Promise<void> =>
  save(set, [...layoutOf(set), { id: null, title: `Group ${set.groups.length + 1}`, enrolmentIds: [] }], 'A group is added.');
const drop = (set: GroupSet, id: string, title: string): Promise<void> =>
  save(
    set,
    layoutOf(set).filter((g) => g.id !== id),
    `${title} is removed; its members are in no group.`,
  );
async function removeSet(set: GroupSet): Promise<void> {
  setFault.value = null;
  try {
    const at = { ...base.value, setId: set.id };
    const left = await call(api.removeGroupSet, at, undefined, `Without the groups “${set.title}”`);
    if (left === null) return;
    taken(left);
    notices.say(`The set “${set.title}” is removed.`, async () => {
      taken(await takeBack(api.removeGroupSet, at));
    });
  } catch (error) {
    setFault.value = { id: set.id, text: error instanceof HttpProblem ? error.message : 'Not removed. Try again.' };
  }
}
</script>

<template>
  <div class="pad">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <template v-if="!groups && !fault"><div v-for="n in 4" :key="n" class="skeleton" style="height: 60px; margin-top: 12px" /></template>
    <template v-if="groups">
      <p v-if="groups.sets.length === 0" class="soft">
        No groups yet. A set of groups parts the class for one purpose: a restoration in threes, two benches. An item can be for a group, or
        be due on another day for it.
      </p>
      <form v-if="canEdit" class="make" @submit.prevent="make">
        <label
          ><span class="label">A new set, such as “Restoration in threes”</span><LineField v-model="form.title" maxlength="80"
        /></label>
        <label
          ><span class="label">with</span
          ><ChoiceField v-model="form.makes">
            <option value="dealt">everyone dealt at random, in groups of</option>
            <option value="balanced">everyone dealt so that groups are alike, of</option>
            <option value="listed">as listed in a file</option>
            <option value="empty">empty groups, this many</option>
          </ChoiceField></label
        >
        <label v-if="form.makes !== 'listed'"
          ><span class="label">number</span><LineField v-model.number="form.number" type="number" min="1" max="100"
        /></label>
        <label v-if="form.makes === 'dealt' || form.makes === 'balanced'" class="within"
          ><TickBox v-model="form.withinSections" /> each section for itself</label
        >
        <span v-if="sizes !== ''" class="within soft" role="status">{{ sizes }}</span>
        <span v-if="form.makes === 'listed'" class="within"
          ><ActButton look="act" @click="listInput?.open()">{{ listed ? 'another file' : 'Choose the file' }}</ActButton
          ><FileInput ref="listInput" accept=".csv" label="The file of groups" @choose="readList"
        /></span>
        <ActButton
          type="submit"
          look="go"
          :disabled="form.title.trim() === '' || (form.makes === 'listed' && (listed?.groups.length ?? 0) === 0)"
        >
          Make it
        </ActButton>
      </form>
      <template v-if="form.makes === 'listed'">
        <ColumnNames
          v-if="unnamed"
          :name="unnamed.name"
          :text="unnamed.text"
          :lists="LIST"
          @named="readList([$event])"
          @leave="unnamed = null"
        />
        <p v-else-if="!listed" class="label">
          A CSV file with the columns <i>group</i> and <i>student</i>: email address, identifier or name, a line each.
        </p>
        <template v-else>
          <p>
            {{ countOf(listed.groups.length, 'group') }}: {{ listed.groups.map((g) => `${g.title} (${g.names.join('; ')})`).join(' · ') }}
          </p>
          <p v-if="listed.refused.length > 0" class="fault">
            Not made, since none of {{ listed.refused.length === 1 ? 'its' : 'their' }} lines could be taken:
            {{ listed.refused.map((title) => `“${title}”`).join(', ') }}.
          </p>
          <ul v-if="listed.faults.length > 0" class="fault">
            <li v-for="f in listed.faults" :key="f.line">line {{ f.line }}: {{ f.text }}</li>
          </ul>
        </template>
      </template>
      <p v-if="formFault" class="fault" role="alert">{{ formFault }}</p>
      <section v-for="set in groups.sets" :key="set.id">
        <div class="head">
          <h2>
            <LineInput
              v-if="canEdit"
              class="serif"
              maxlength="80"
              aria-label="Title of the set"
              :value="set.title"
              @commit="$event.trim() !== '' && save(set, layoutOf(set), 'The set is renamed.', $event.trim())"
            /><template v-else>{{ set.title }}</template>
          </h2>
          <span class="soft">{{ countOf(set.groups.length, 'group') }}, {{ without(set).length }} without one</span>
          <ActButton v-if="canEdit" look="act" @click="removeSet(set)">remove it</ActButton>
        </div>
        <div v-if="canEdit" class="sign-up">
          <DateField
            :model-value="set.signUpUntil"
            label="Students choose their group until; empty is never"
            :zone="course.zone"
            :now="course.now"
            @change="setSignUp(set, { signUpUntil: $event })"
          />
          <label v-if="set.signUpUntil" class="field"
            ><span class="label">members at most</span
            ><LineInput
              :value="set.mostMembers ?? ''"
              inputmode="numeric"
              @commit="
                /^[1-9]\d{0,1}$|^100$|^$/.test($event.trim()) &&
                setSignUp(set, { mostMembers: $event.trim() === '' ? null : Number($event) })
              "
          /></label>
        </div>
        <p v-if="setFault?.id === set.id" class="fault" role="alert">{{ setFault.text }}</p>
        <div class="groups">
          <div v-for="g in set.groups" :key="g.id" class="group">
            <div class="name">
              <LineInput
                maxlength="80"
                :aria-label="`Title of ${g.title}`"
                :disabled="!canEdit"
                :value="g.title"
                @commit="$event.trim() !== '' && rename(set, g.id, $event.trim())"
              />
              <span class="label">{{ g.enrolmentIds.length }}</span>
              <ActButton v-if="canEdit" look="act" :aria-label="`Remove ${g.title}`" @click="drop(set, g.id, g.title)">Remove</ActButton>
            </div>
            <p v-if="g.uses.length > 0" class="label">named by {{ g.uses.join(', ') }}</p>
            <DragList
              tag="ul"
              :model-value="[...g.enrolmentIds]"
              handle=".who"
              :group="`set ${set.id}`"
              :is-fixed="!canEdit"
              is-followed
              @update:model-value="dropped(set, $event, g.enrolmentIds, g.id)"
            >
              <li v-for="id in g.enrolmentIds" :key="id">
                <span class="who">{{ nameOf.get(id) }}</span>
                <ChoiceField
                  v-if="canEdit"
                  class="soft move"
                  :aria-label="`Group of ${nameOf.get(id)}`"
                  :model-value="g.id"
                  @change="put(set, id, $event)"
                >
                  <option v-for="o in set.groups" :key="o.id" :value="o.id">{{ o.title }}</option>
                  <option value="">no group</option>
                </ChoiceField>
              </li>
            </DragList>
            <p v-if="g.enrolmentIds.length === 0" class="soft">nobody yet</p>
          </div>
          <div v-if="without(set).length > 0" class="group">
            <div class="name">
              <b>In no group</b> <span class="label">{{ without(set).length }}</span>
            </div>
            <DragList
              tag="ul"
              :model-value="without(set).map((s) => s.enrolmentId)"
              handle=".who"
              :group="`set ${set.id}`"
              :is-fixed="!canEdit"
              is-followed
              @update:model-value="
                dropped(
                  set,
                  $event,
                  without(set).map((s) => s.enrolmentId),
                  '',
                )
              "
            >
              <li v-for="s in without(set)" :key="s.enrolmentId">
                <span class="who"
                  >{{ s.name }} <span class="label">{{ sectionOf.get(s.sectionId ?? '') }}</span></span
                >
                <ActionMenu
                  v-if="canEdit"
                  words="put into"
                  class="move"
                  :label="`Group of ${s.name}`"
                  @choose="put(set, s.enrolmentId, $event)"
                >
                  <option v-for="o in set.groups" :key="o.id" :value="o.id">{{ o.title }}</option>
                </ActionMenu>
              </li>
            </DragList>
          </div>
        </div>
        <p v-if="canEdit"><ActButton look="act" @click="addGroup(set)">Add group</ActButton></p>
      </section>
    </template>
  </div>
</template>

<style scoped>
.make {
  display: flex;
  flex-wrap: wrap;
  gap: 18px;
  align-items: end;
  padding: 10px 0 12px;
}
.make label:first-child {
  flex: 1;
  max-width: 360px;
}
.make [type='number'] {
  width: 70px;
}
.make label:not(.within) {
  display: grid;
}
.within {
  padding-bottom: 6px;
}
.sign-up {
  display: flex;
  gap: 24px;
  max-width: 560px;
}
.sign-up > * {
  flex: 1;
}
section {
  margin-top: 22px;
}
.head {
  display: flex;
  gap: 16px;
  align-items: baseline;
}
.head h2 {
  min-width: 260px;
}
.groups {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 14px 28px;
}
.name .act {
  white-space: nowrap;
}
.name {
  display: flex;
  gap: 10px;
  align-items: baseline;
  border-bottom: 1px solid var(--frost);
}
/* Somebody is let go over an empty one too. */
ul {
  min-height: 28px;
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  max-height: 260px;
  overflow: auto;
}
li .who {
  cursor: grab;
  user-select: none;
}
li {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  gap: 8px;
  padding: 1px 0;
}
.move {
  width: 96px;
  flex: none;
}
</style>
