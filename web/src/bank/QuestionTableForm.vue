<script setup lang="ts">
import type { BankFolder, QuestionTableDone } from '@rosemary/api';
import { computed, ref } from 'vue';
import { useTableReading } from '../parts/useTableReading.ts';
import { send } from '../platform/http.ts';
import { useNotices } from '../shell/noticeStore.ts';

/** Questions of a table, looked at row by row before any of them is made. */
const props = defineProps<{ base: string; folders: readonly BankFolder[]; folderId: string | null; reload: () => Promise<void> }>();
const emit = defineEmits<{ leave: [] }>();
const notices = useNotices();
const folder = ref(props.folders.some((f) => f.id === props.folderId && f.canEdit) ? props.folderId : null);
const { csv, rows, fault, good, ask, pick } = useTableReading(
  (text, isPreview) => send<QuestionTableDone>('POST', `${props.base}/table`, { csv: text, folderId: folder.value, isPreview }),
  async (many) => {
    await props.reload();
    notices.say(many === 1 ? 'One question is in the bank.' : `${many} questions are in the bank.`);
    emit('leave');
  },
);
const left = computed(() => (rows.value?.length ?? 0) - good.value);
</script>

<template>
  <div>
    <p class="soft">
      A CSV file with the columns <b>kind, words, answers, rules…</b>, as “take out” gives it: change it in a spreadsheet and bring it back,
      or write your own.
    </p>
    <p><input type="file" accept=".csv,text/csv,text/plain" aria-label="A file with the table" @change="pick" /></p>
    <textarea v-model="csv" class="line-input" rows="5" aria-label="Table" placeholder="or paste it here" @input="rows = null" />
    <label class="field"
      ><span class="label">Into the folder</span>
      <select v-model="folder" class="line-input">
        <option :value="null">of the subject</option>
        <option v-for="f in folders.filter((x) => x.canEdit)" :key="f.id" :value="f.id">{{ f.title }}</option>
      </select></label
    >
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <table v-if="rows" class="plain">
      <tbody>
        <tr v-for="r in rows" :key="r.line">
          <td class="num soft">{{ r.line }}</td>
          <td class="soft">{{ r.kind }}</td>
          <td>
            {{ r.title }}
            <p v-if="r.problem" class="clay">{{ r.problem }} Left out.</p>
            <p v-for="note in r.notes" :key="note" class="soft">{{ note }}</p>
          </td>
        </tr>
      </tbody>
    </table>
    <p class="acts">
      <button v-if="rows === null" class="go" :disabled="csv.trim() === ''" @click="ask(true)">Look at it</button>
      <button v-else class="go" :disabled="good === 0" @click="ask(false)">
        {{ good === 1 ? 'Bring in one question' : `Bring in ${good} questions` }}{{ left === 0 ? '' : `, leave out ${left}` }}
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
  vertical-align: top;
}
.acts {
  margin-top: 12px;
  display: flex;
  gap: 10px;
}
</style>
