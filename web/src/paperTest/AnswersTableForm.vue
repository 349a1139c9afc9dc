<script setup lang="ts">
import type { AnswersTableDone } from '@rosemary/api';
import { useTableReading } from '../parts/useTableReading.ts';
import { send } from '../platform/http.ts';
import { useNotices } from '../shell/noticeStore.ts';

/** Answers as a table: pasted or from a file, looked at line by line before anything is taken. */
const props = defineProps<{ base: string; reload: () => Promise<void> }>();
const emit = defineEmits<{ leave: [] }>();
const notices = useNotices();
const { csv, rows, fault, good, ask, pick } = useTableReading(
  (text, isPreview) => send<AnswersTableDone>('POST', `${props.base}/answers`, { csv: text, isPreview }),
  async (many) => {
    await props.reload();
    notices.say(many === 1 ? 'The answers of one student are taken.' : `The answers of ${many} students are taken.`);
    emit('leave');
  },
);
</script>

<template>
  <div class="sheet form" role="dialog" aria-label="Answers as a table">
    <h2>Answers as a table</h2>
    <p class="soft">
      First line <b>email, answers</b>, then a line for each student: <span class="nowrap">ada@example.org, BDA-C</span>. Or
      <b>email, 1, 2, 3…</b> with a column for each question.
    </p>
    <textarea v-model="csv" class="line-input" rows="8" aria-label="Table" placeholder="email,answers" @input="rows = null" />
    <p><input type="file" accept=".csv,text/csv,text/plain" aria-label="A file with the table" @change="pick" /></p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <table v-if="rows" class="plain">
      <tbody>
        <tr v-for="r in rows" :key="r.line">
          <td class="num soft">{{ r.line }}</td>
          <td>{{ r.name }}</td>
          <td v-if="r.problem" class="clay">{{ r.problem }} Left as it was.</td>
          <td v-else>{{ r.answers }}</td>
        </tr>
      </tbody>
    </table>
    <p class="acts">
      <button v-if="rows === null" class="go" :disabled="csv.trim() === ''" @click="ask(true)">Look at it</button>
      <button v-else class="go" :disabled="good === 0" @click="ask(false)">
        {{ good === 1 ? 'Take one line' : `Take ${good} lines` }}
      </button>
      <button class="quiet" @click="emit('leave')">Leave it</button>
    </p>
  </div>
</template>

<style scoped>
textarea {
  width: 100%;
  margin: 8px 0;
}
.plain td {
  padding: 3px 12px 3px 0;
}
.acts {
  margin-top: 12px;
  display: flex;
  gap: 10px;
}
.nowrap {
  white-space: nowrap;
}
</style>
