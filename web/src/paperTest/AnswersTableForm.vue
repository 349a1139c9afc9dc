<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import TableForm from '../parts/TableForm.vue';
import { useTableReading } from '../parts/useTableReading.ts';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** Answers from a table: pasted or from a file, looked at line by line before anything is taken. */
const props = defineProps<{ base: { readonly courseId: string; readonly itemId: string }; reload: () => Promise<void> }>();
const emit = defineEmits<{ leave: [] }>();
const notices = useNotices();
const { csv, rows, fault, good, ask, pick } = useTableReading(
  (text, isPreview) => call(api.importAnswers, props.base, { csv: text, isPreview }),
  async (many) => {
    await props.reload();
    notices.say(many === 1 ? 'The answers of one student are taken.' : `The answers of ${many} students are taken.`);
    emit('leave');
  },
);
</script>

<template>
  <div class="sheet form" role="dialog" aria-label="Answers from a table">
    <h2>Answers from a table</h2>
    <p class="soft">
      First line <b>email, answers</b>, then a line for each student: <span class="nowrap">ada@example.org, BDA-C</span>. Or
      <b>email, 1, 2, 3…</b> with a column for each question.
    </p>
    <TableForm
      v-model="csv"
      placeholder="email,answers"
      :height="8"
      :is-looked="rows !== null"
      :good="good"
      :words="good === 1 ? 'Take one line' : `Take ${good} lines`"
      :fault="fault"
      @ask="ask"
      @pick="pick"
      @changed="rows = null"
      @leave="emit('leave')"
    >
      <template #lines>
        <tr v-for="r in rows" :key="r.line">
          <td class="num soft">{{ r.line }}</td>
          <td>{{ r.name }}</td>
          <td v-if="r.problem" class="clay">{{ r.problem }} Left as it was.</td>
          <td v-else>{{ r.answers }}</td>
        </tr>
      </template>
    </TableForm>
  </div>
</template>

<style scoped>
.nowrap {
  white-space: nowrap;
}
</style>
