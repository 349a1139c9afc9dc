<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { BookColumn, Gradebook, NewColumn } from '@rosemary/api';
import { countOf } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call, takeBack } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';

/** A column for other courses: an item of the Plan with all it consists of, a column of the gradebook alone as another such column. */
const props = defineProps<{ courseId: string; column: BookColumn; categories: Gradebook['categories'] }>();
const emit = defineEmits<{ close: [] }>();
const notices = useNotices();
const session = useSession();
const courses = computed(() => session.me?.courses.filter((c) => c.role === 'instructor' && c.id !== props.courseId) ?? []);
const chosen = ref<readonly string[]>([]);
const fault = ref('');
const isBusy = ref(false);
const toggle = (id: string): void => {
  chosen.value = chosen.value.includes(id) ? chosen.value.filter((c) => c !== id) : [...chosen.value, id];
};
/** A column stands in the category of the same title; where there is none it is made, with no weight. */
async function make(): Promise<void> {
  const { title, possible, isExtraCredit, multiplier } = props.column;
  const body: NewColumn = {
    ...{ title, possible, isExtraCredit, multiplier, categoryId: null, dueAt: null, audience: [], periodId: null },
    studentReads: props.column.takesLetters ? 'letter' : 'points',
    ownLevels: props.column.ownLevels === null ? null : props.column.ownLevels.map((l) => ({ ...l, value: l.value ?? null })),
    newCategory: props.categories.find((c) => c.id === props.column.categoryId)?.title ?? null,
    isToldAtOnce: false,
    showsStatistics: false,
  };
  isBusy.value = true;
  fault.value = '';
  try {
    const made: { courseId: string; itemId: string }[] = [];
    for (const courseId of chosen.value) {
      const done = await call(api.addGradeColumn, { courseId }, body, `Copy “${title}”`);
      if (done !== null) made.push({ courseId, itemId: done.itemId });
    }
    if (made.length === 0) return;
    notices.say(
      `“${title}” stands in ${countOf(made.length, 'other course')}. Results there are kept back until you release them.`,
      async () => {
        for (const at of made) await takeBack(api.addGradeColumn, at);
      },
    );
    emit('close');
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <v-dialog :model-value="true" max-width="560" @update:model-value="emit('close')">
    <div class="sheet form" role="dialog" aria-label="Copy to another course">
      <h2>Copy “{{ column.title }}”</h2>
      <p v-if="!column.isAlone && column.itemId">
        It is an item of the Plan, with text, setting and dates.
        <router-link :to="{ name: 'give', params: { courseId }, query: { items: column.itemId } }">Give it to classes</router-link>: to
        other courses and to sections.
      </p>
      <form v-else @submit.prevent="make">
        <p class="soft">Points, category, multiplier and extra credit go along; the date and the results do not.</p>
        <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
        <p v-if="courses.length === 0" class="soft">You teach no other course.</p>
        <label v-for="c in courses" :key="c.id" class="tick-line"
          ><TickBox :model-value="chosen.includes(c.id)" @update:model-value="toggle(c.id)" /> {{ c.code }} {{ c.run }},
          {{ c.title }}</label
        >
        <p class="form-acts">
          <ActButton v-if="chosen.length > 0" look="go" type="submit" :disabled="isBusy"
            >Copy to {{ countOf(chosen.length, 'course') }}</ActButton
          >
          <span v-else-if="courses.length > 0" class="soft">Choose where it goes.</span>
          <ActButton look="quiet" @click="emit('close')">Leave it</ActButton>
        </p>
      </form>
    </div>
  </v-dialog>
</template>
