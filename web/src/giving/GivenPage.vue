<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { type GivenBoard, type GivenClass, type GivenState, type GivingLine, markingPageOf } from '@rosemary/api';
import { countOf, dayAndTime } from '@rosemary/core';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import PlainTable from '../parts/PlainTable.vue';
import { call } from '../platform/call.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { isIn, peopleShown, stateWords } from './board.ts';

/** Who has handed in what was given to several classes, over all of them. */
const route = useRoute();
const router = useRouter();
const course = useCourse();
const courseId = computed(() => String(route.params.courseId));
const lines = ref<readonly GivingLine[] | null>(null);
const board = ref<GivenBoard | null>(null);
const fault = ref('');
const show = ref<'everyone' | 'not in' | 'late'>('everyone');
const ofId = computed(() => (typeof route.query.of === 'string' ? route.query.of : (lines.value?.[0]?.id ?? null)));
async function load(): Promise<void> {
  fault.value = '';
  try {
    lines.value = await call(api.listGivings, { courseId: courseId.value });
    board.value = ofId.value === null ? null : await call(api.getGivenBoard, { courseId: courseId.value, givingId: ofId.value });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
useFresh(courseId, ['plan', 'work', 'marks'], load);
watch([courseId, () => route.query.of], load, { immediate: true });
const nameOf = (line: GivingLine): string =>
  `${line.titles.join(', ')} · ${countOf(line.classes, 'class', 'classes')} · ${dayAndTime(Date.parse(line.at), course.zone, course.now)}`;
const when = (at: string, zone: string): string => dayAndTime(Date.parse(at), zone, course.now);
const shown = computed(() => (board.value?.classes ?? []).map((one) => ({ ...one, shown: peopleShown(one, show.value) })));
const total = computed(() => {
  const copies = (board.value?.classes ?? []).flatMap((c) => c.copies.filter((copy) => copy?.takesWork));
  const [inNow, of] = [copies.reduce((sum, c) => sum + (c?.handedIn ?? 0), 0), copies.reduce((sum, c) => sum + (c?.of ?? 0), 0)];
  return of === 0 ? '' : `${inNow} of ${of} in`;
});
/** What stands at the head of a column: when it is due there, and how many have handed in. */
function copyWords(copy: GivenClass['copies'][number], zone: string): string {
  if (copy === null) return 'not given';
  if (copy.isDraft) return 'a draft';
  const due = copy.dueAt === null ? 'no due date' : `due ${when(copy.dueAt, zone)}`;
  if (!copy.takesWork) return `${due} · nothing is handed in`;
  return `${copy.handedIn} of ${copy.of} in · ${due}${copy.isVeiled ? ' · names hidden while it is marked' : ''}`;
}
const notIn = (one: GivenClass) => one.people.filter((p) => p.states.some((state) => state !== null && !isIn(state)));
const writeTo = (one: GivenClass): Promise<unknown> =>
  router.push({
    name: 'messages',
    params: { courseId: one.courseId },
    state: { to: notIn(one).map((p) => p.personId), about: board.value?.items.map((i) => i.title).join(', ') ?? '' },
  });
const pageOfWork = (courseId: string, n: number, itemId: string, enrolmentId: string): string =>
  markingPageOf(board.value?.items[n]?.kind ?? 'assignment', { courseId, itemId, enrolmentId });
const wordsOf = (state: GivenState | null, zone: string): string => (state === null ? '' : stateWords(state, (at) => when(at, zone)));
</script>

<template>
  <div class="pad">
    <p class="label"><router-link :to="{ name: 'plan', params: { courseId } }">Plan</router-link></p>
    <h2>Given to classes</h2>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <template v-else-if="lines === null"><div v-for="n in 6" :key="n" class="skeleton" style="height: 24px; margin-top: 10px" /></template>
    <p v-else-if="board === null" class="soft">
      Nothing has been given to several classes yet. Choose items in the Plan, and then “Give to classes” beside them; who has handed in
      stands here for all classes together.
    </p>
    <template v-else>
      <div class="wrapping">
        <label v-if="lines.length > 1" class="field which"
          ><span class="label">Given</span
          ><ChoiceField :model-value="board.id" @change="router.push({ query: { of: String($event) } })">
            <option v-for="line in lines" :key="line.id" :value="line.id">{{ nameOf(line) }}</option>
          </ChoiceField></label
        >
        <label class="field"
          ><span class="label">Show</span
          ><ChoiceField v-model="show">
            <option value="everyone">everyone</option>
            <option value="not in">who has not handed in</option>
            <option value="late">who was late</option>
          </ChoiceField></label
        >
        <span class="soft" role="status">{{
          [`given ${when(board.at, course.zone)} by ${board.by}`, total].filter(Boolean).join(' · ')
        }}</span>
      </div>
      <p v-if="board.elsewhere > 0" class="soft">
        {{ countOf(board.elsewhere, 'class is', 'classes are') }} in a course that you do not teach.
      </p>
      <PlainTable>
        <caption class="hidden">
          Who has handed in, class by class
        </caption>
        <thead>
          <tr>
            <th></th>
            <th v-for="item in board.items" :key="item.id">{{ item.title }}</th>
          </tr>
        </thead>
        <tbody v-for="one in shown" :key="`${one.courseId} ${one.sectionId}`">
          <tr class="class">
            <th scope="rowgroup">
              <b>{{ one.name }}</b>
              <ActButton v-if="notIn(one).length > 0" look="act" @click="writeTo(one)"
                >Write to the {{ notIn(one).length === 1 ? 'one who has' : `${notIn(one).length} who have` }} not handed in</ActButton
              >
            </th>
            <td v-for="(copy, n) in one.copies" :key="n" class="soft">
              <router-link v-if="copy" :to="{ name: 'item', params: { courseId: one.courseId, itemId: copy.itemId } }">{{
                copyWords(copy, one.zone)
              }}</router-link><template v-else>not given</template>
            </td>
          </tr>
          <tr v-for="person in one.shown" :key="person.enrolmentId">
            <td>{{ person.name }}</td>
            <td v-for="(state, n) in person.states" :key="n">
              <router-link
                v-if="state && isIn(state) && one.copies[n]"
                :to="pageOfWork(one.courseId, n, one.copies[n]!.itemId, person.enrolmentId)"
                >{{ wordsOf(state, one.zone) }}</router-link
              >
              <span v-else :class="state?.state === 'missing' ? 'clay' : 'soft'">{{ wordsOf(state, one.zone) }}</span>
            </td>
          </tr>
          <tr v-if="one.shown.length === 0 && one.people.length > 0">
            <td class="soft" :colspan="board.items.length + 1">{{ show === 'late' ? 'Nobody was late.' : 'Everyone has handed in.' }}</td>
          </tr>
        </tbody>
      </PlainTable>
    </template>
  </div>
</template>

<style scoped>
.which {
  min-width: 340px;
}
tr.class > * {
  padding-top: 18px;
}
tr.class b {
  margin-right: 12px;
  color: var(--ink);
}
</style>
