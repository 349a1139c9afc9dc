<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { BankFolder } from '@rosemary/api';
import { computed, ref } from 'vue';
import TableForm from '../parts/TableForm.vue';
import { useTableReading } from '../parts/useTableReading.ts';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';
import ChoiceField from '../parts/fields/ChoiceField.vue';

/** Questions of a table, looked at row by row before any of them is made. */
const props = defineProps<{
  base: { readonly courseId: string };
  folders: readonly BankFolder[];
  folderId: string | null;
  reload: () => Promise<void>;
}>();
const emit = defineEmits<{ leave: [] }>();
const notices = useNotices();
const folder = ref(props.folders.some((f) => f.id === props.folderId && f.canEdit) ? props.folderId : null);
const { csv, rows, fault, good, ask, pick } = useTableReading(
  (text, isPreview) => call(api.importQuestionTable, props.base, { csv: text, folderId: folder.value, isPreview }),
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
      A CSV file with the columns <b>kind, words, answers, rules…</b>, as “Export” gives it: change it in a spreadsheet and import it again,
      or write your own.
    </p>
    <TableForm
      v-model="csv"
      placeholder="paste it here, or choose a file"
      :height="5"
      :is-looked="rows !== null"
      :good="good"
      :words="`${good === 1 ? 'Import one question' : `Import ${good} questions`}${left === 0 ? '' : `, leave out ${left}`}`"
      :fault="fault"
      @ask="ask"
      @pick="pick"
      @changed="rows = null"
      @leave="emit('leave')"
    >
      <template #where>
        <label class="field"
          ><span class="label">Into the folder</span>
          <ChoiceField v-model="folder">
            <option :value="null">of the subject</option>
            <option v-for="f in folders.filter((x) => x.canEdit)" :key="f.id" :value="f.id">{{ f.title }}</option>
          </ChoiceField></label
        >
      </template>
      <template #lines>
        <tr v-for="r in rows" :key="r.line">
          <td class="num soft">{{ r.line }}</td>
          <td class="soft">{{ r.kind }}</td>
          <td>
            {{ r.title }}
            <p v-if="r.problem" class="clay">{{ r.problem }} Left out.</p>
            <p v-for="note in r.notes" :key="note" class="soft">{{ note }}</p>
          </td>
        </tr>
      </template>
    </TableForm>
  </div>
</template>
