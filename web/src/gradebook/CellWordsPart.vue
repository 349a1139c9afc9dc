<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PathOf } from '@rosemary/api/endpoints';
import type { CellWords } from '@rosemary/api';
import { computed, defineAsyncComponent, onMounted, ref } from 'vue';
import TextField from '../parts/fields/TextField.vue';
import { call } from '../platform/call.ts';
import { useSaving } from '../platform/useSaving.ts';

const TwoVersions = defineAsyncComponent(() => import('../parts/TwoVersions.vue'));
/** Words on a result: a memo that only staff read, and a comment that the student reads with it. Both are saved as they are typed. */
const props = defineProps<{ at: PathOf<typeof api.getCellWords>; who: string; canEdit: boolean }>();
type Typed = Pick<CellWords, 'memo' | 'comment'>;
const words = ref<Typed | null>(null);
const fault = ref('');
let version = 0;
const saving = useSaving<Typed>(
  () => `words ${props.at.columnId} ${props.at.enrolmentId}`,
  async (typed) => {
    ({ version } = await call(api.saveCellWords, props.at, { ...typed, version }));
    return null;
  },
);
onMounted(async () => {
  try {
    const found = await call(api.getCellWords, props.at);
    ({ version } = found);
    const kept = props.canEdit ? await saving.findKept() : null;
    words.value = kept ?? { memo: found.memo, comment: found.comment };
    if (kept !== null) saving.push(kept);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
function type(field: keyof Typed, text: string | null | undefined): void {
  if (words.value === null) return;
  words.value = { ...words.value, [field]: text ?? '' };
  saving.push(words.value);
}
const theirs = computed(() => (saving.state.value === 'conflict' ? (saving.fault.value?.problem.current as CellWords) : null));
const lines = computed(() =>
  theirs.value === null || words.value === null
    ? []
    : [
        { what: 'Memo', theirs: theirs.value.memo, mine: words.value.memo },
        { what: 'Comment', theirs: theirs.value.comment, mine: words.value.comment },
      ],
);
function keepMine(): void {
  if (theirs.value === null || words.value === null) return;
  ({ version } = theirs.value);
  saving.push(words.value);
}
async function takeTheirs(): Promise<void> {
  const next = theirs.value;
  if (next === null) return;
  ({ version } = next);
  words.value = { memo: next.memo, comment: next.comment };
  await saving.forget();
}
</script>

<template>
  <section class="words">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <template v-else-if="words">
      <TwoVersions v-if="theirs" says="Somebody else wrote here meanwhile." :lines="lines" @mine="keepMine" @theirs="takeTheirs" />
      <label class="field"
        ><span class="label">Comment for {{ who }}, shown with the result</span>
        <TextField
          :model-value="words.comment"
          rows="2"
          auto-grow
          maxlength="2000"
          :readonly="!canEdit"
          @update:model-value="type('comment', $event)"
      /></label>
      <label class="field"
        ><span class="label">Memo, for staff only</span>
        <TextField
          :model-value="words.memo"
          rows="2"
          auto-grow
          maxlength="2000"
          :readonly="!canEdit"
          @update:model-value="type('memo', $event)"
      /></label>
      <p class="soft" role="status">{{ saving.words.value }}</p>
    </template>
  </section>
</template>

<style scoped>
.words {
  margin-top: 14px;
}
</style>
