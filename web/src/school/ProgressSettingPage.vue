<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ActivitySetting, TaskType } from '@rosemary/api';
import { countOf, DOING_WORDS, DOINGS } from '@rosemary/core';
import { onMounted, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import DragList from '../parts/DragList.vue';
import LineField from '../parts/fields/LineField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import LineInput from '../parts/LineInput.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** What the school decides about Progress: its types of task, for how long activity is kept, what staff are shown of it. */
const notices = useNotices();
const types = ref<readonly TaskType[]>([]);
const setting = ref<ActivitySetting | null>(null);
const fault = ref('');
const faults = ref<Readonly<Record<string, string>>>({});
const fresh = ref('');
async function load(): Promise<void> {
  try {
    [{ taskTypes: types.value }, setting.value] = await Promise.all([call(api.listTaskTypes, {}), call(api.getActivitySetting, {})]);
    fault.value = '';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
const said = (error: unknown): string => (error instanceof HttpProblem ? error.message : 'Not saved. Try again.');
type Entry = { id: string | null; title: string };
async function keep(next: Entry[]): Promise<boolean> {
  try {
    ({ taskTypes: types.value } = await call(api.changeTaskTypes, {}, { taskTypes: next }));
    faults.value = {};
    return true;
  } catch (error) {
    faults.value = { types: said(error) };
    return false;
  }
}
const entries = (): Entry[] => types.value.map(({ id, title }) => ({ id, title }));
async function add(): Promise<void> {
  const title = fresh.value.trim();
  if (title === '') {
    faults.value = { types: 'Type a title first, such as essay or pre-test.' };
    return;
  }
  if (await keep([...entries(), { id: null, title }])) fresh.value = '';
}
const rename = (type: TaskType, title: string): Promise<boolean> =>
  keep(entries().map((t) => (t.id === type.id ? { ...t, title: title.trim() } : t)));
async function takeOff(type: TaskType): Promise<void> {
  if (await keep(entries().filter((t) => t.id !== type.id)))
    notices.say(`“${type.title}” is off the list.${type.uses > 0 ? ` ${countOf(type.uses, 'item')} of this type keep it.` : ''}`);
}
async function move(next: readonly TaskType[]): Promise<void> {
  types.value = next;
  await keep(entries());
}
async function keepSetting(change: Partial<ActivitySetting>): Promise<void> {
  const before = setting.value;
  if (before === null) return;
  try {
    setting.value = await call(api.changeActivitySetting, {}, { ...before, ...change });
    faults.value = {};
  } catch (error) {
    setting.value = { ...before };
    faults.value = { months: said(error) };
  }
}
function setMonths(typed: string): void {
  const text = typed.trim();
  if (/^\d{1,3}$/.test(text)) void keepSetting({ months: Number(text) });
  else faults.value = { months: `“${text}” is not a whole number of months from 1 to 120.` };
}
</script>

<template>
  <div class="pad reading-column">
    <p class="soft"><router-link :to="{ name: 'school' }">School</router-link></p>
    <h1>Progress</h1>
    <p v-if="fault" class="fault" role="alert">{{ fault }} <ActButton look="act" @click="load">Try again</ActButton></p>
    <div v-else-if="setting === null" class="skeleton" style="height: 200px" />
    <template v-else>
      <h2>Types of task</h2>
      <p class="soft">
        Whoever builds a course gives graded work one of these types; in Progress, results are looked at by type, in every course alike.
      </p>
      <p v-if="types.length === 0" class="soft">None yet. Usual ones are pre-test, post-test, essay and practical.</p>
      <DragList v-else :model-value="[...types]" tag="ul" class="bare-list" handle=".grip" @update:model-value="move($event)">
        <li v-for="type in types" :key="type.id" class="type">
          <span class="grip" title="drag, or Alt with ↑ and ↓" aria-hidden="true">⠿</span>
          <LineInput :value="type.title" :aria-label="`Title of the type ${type.title}`" maxlength="60" @commit="rename(type, $event)" />
          <span class="soft">{{ type.uses === 0 ? 'not used' : countOf(type.uses, 'item') }}</span>
          <ActButton look="act" :aria-label="`Take ${type.title} off the list`" @click="takeOff(type)">Take off</ActButton>
        </li>
      </DragList>
      <form class="two-columns" @submit.prevent="add">
        <label class="field"><span class="label">New type of task</span><LineField v-model="fresh" maxlength="60" /></label>
        <span><ActButton look="quiet" type="submit">Add</ActButton></span>
      </form>
      <p v-if="faults.types" class="fault" role="alert">{{ faults.types }}</p>

      <h2>What is recorded of students</h2>
      <p class="soft">
        By day, student and item:
        <template v-for="(doing, n) in DOINGS" :key="doing">{{ n === 0 ? '' : '; ' }}{{ DOING_WORDS[doing] }}</template
        >. Students read this, and how long it is kept, in their account.
      </p>
      <label class="field"
        ><span class="label">Kept for so many months</span
        ><LineInput inputmode="numeric" :value="String(setting.months)" @commit="setMonths"
      /></label>
      <p v-if="faults.months" class="fault" role="alert">{{ faults.months }}</p>
      <p class="soft">
        What is older is forgotten each day, for good. When a student opened an item first and last stays, since what is done rests on it.
      </p>
      <p>
        <label
          ><TickBox
            :model-value="setting.showsVisitsAgainstResults"
            @change="keepSetting({ showsVisitsAgainstResults: ($event.target as HTMLInputElement).checked })"
          />
          Staff are shown visits against results</label
        >
      </p>
    </template>
  </div>
</template>

<style scoped>
h2 {
  margin-top: 24px;
}
.soft,
form {
  margin: 6px 0 12px;
}
.type {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) 90px 70px;
  gap: 12px;
  align-items: baseline;
}
</style>
