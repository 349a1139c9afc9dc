<script setup lang="ts">
import type { AnswersTableDone } from '@rosemary/api';
import { computed, ref } from 'vue';
import { HttpProblem, send } from '../platform/http.ts';
import { useNotices } from '../shell/noticeStore.ts';

/** Answers as a table: pasted or from a file, looked at line by line before anything is taken. */
const props = defineProps<{ base: string; reload: () => Promise<void> }>();
const emit = defineEmits<{ leave: [] }>();
const notices = useNotices();
const csv = ref('');
const done = ref<AnswersTableDone | null>(null);
const fault = ref('');
const good = computed(() => done.value?.rows.filter((r) => r.problem === '') ?? []);
async function ask(isPreview: boolean): Promise<void> {
  fault.value = '';
  try {
    done.value = await send<AnswersTableDone>('POST', `${props.base}/answers`, { csv: csv.value, isPreview });
    if (isPreview) return;
    await props.reload();
    notices.say(
      good.value.length === 1 ? 'The answers of one student are taken.' : `The answers of ${good.value.length} students are taken.`,
    );
    emit('leave');
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not done.';
  }
}
async function pick(event: Event): Promise<void> {
  const [file] = (event.target as HTMLInputElement).files ?? [];
  if (file === undefined) return;
  csv.value = await file.text();
  await ask(true);
}
</script>

<template>
  <div class="sheet form" role="dialog" aria-label="Answers as a table">
    <h2>Answers as a table</h2>
    <p class="soft">
      First line <b>email, answers</b>, then a line for each student: <span class="nowrap">ada@example.org, BDA-C</span>. Or
      <b>email, 1, 2, 3…</b> with a column for each question.
    </p>
    <textarea v-model="csv" class="line-input" rows="8" aria-label="Table" placeholder="email,answers" @input="done = null" />
    <p><input type="file" accept=".csv,text/csv,text/plain" aria-label="A file with the table" @change="pick" /></p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <table v-if="done" class="plain">
      <tbody>
        <tr v-for="r in done.rows" :key="r.line">
          <td class="num soft">{{ r.line }}</td>
          <td>{{ r.name }}</td>
          <td v-if="r.problem" class="clay">{{ r.problem }} Left as it was.</td>
          <td v-else>{{ r.answers }}</td>
        </tr>
      </tbody>
    </table>
    <p class="acts">
      <button v-if="done === null" class="go" :disabled="csv.trim() === ''" @click="ask(true)">Look at it</button>
      <button v-else class="go" :disabled="good.length === 0" @click="ask(false)">
        {{ good.length === 1 ? 'Take one line' : `Take ${good.length} lines` }}
      </button>
      <button class="quiet" @click="emit('leave')">Leave it</button>
    </p>
  </div>
</template>

<style scoped>
.form {
  padding: 20px 26px;
  overflow: auto;
}
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
