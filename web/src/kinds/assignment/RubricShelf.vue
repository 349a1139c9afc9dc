<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { KeptRubric } from '@rosemary/api';
import { STARTER_RUBRICS, type PlainRubric } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { call } from '../../platform/call.ts';
import { useNotices } from '../../stores/noticeStore.ts';
import ActButton from '../../parts/ActButton.vue';
import TickBox from '../../parts/fields/TickBox.vue';
import LineField from '../../parts/fields/LineField.vue';
import ActionMenu from '../../parts/ActionMenu.vue';

/** Rubrics to begin from: those that ship, one's own, and those shared here; and the one at hand, to be kept. */
const props = defineProps<{ criteria: PlainRubric['criteria']; title: string }>();
const emit = defineEmits<{ take: [rubric: PlainRubric] }>();
const notices = useNotices();
const kept = ref<readonly KeptRubric[] | null>(null);
const isManaging = ref(false);
const keepAs = ref('');
onMounted(async () => {
  kept.value = await call(api.listKeptRubrics, {}).catch(() => []);
});
const own = computed(() => kept.value?.filter((k) => k.isOwn) ?? []);
const shared = computed(() => kept.value?.filter((k) => !k.isOwn) ?? []);
async function run(act: () => Promise<readonly KeptRubric[]>): Promise<boolean> {
  try {
    kept.value = await act();
    return true;
  } catch (error) {
    notices.sayFault(error);
    return false;
  }
}
function take(chosen: string): void {
  const [from, key] = chosen.split(' ');
  const found = from === 'starter' ? STARTER_RUBRICS[Number(key)] : kept.value?.find((k) => k.id === key);
  if (found !== undefined) emit('take', found);
}
async function keep(): Promise<void> {
  const id = crypto.randomUUID();
  const title = keepAs.value.trim() === '' ? props.title : keepAs.value.trim();
  if (!(await run(() => call(api.keepRubric, {}, { id, title, criteria: props.criteria })))) return;
  keepAs.value = '';
  notices.say(`“${title}” is kept among your rubrics.`, async () => {
    await run(() => call(api.removeKeptRubric, { rubricId: id }));
  });
}
async function remove(rubric: KeptRubric): Promise<void> {
  if (await run(() => call(api.removeKeptRubric, { rubricId: rubric.id })))
    notices.say(`“${rubric.title}” is removed; where it is used it stays.`, async () => {
      await run(() => call(api.restoreKeptRubric, { rubricId: rubric.id }));
    });
}
</script>

<template>
  <div class="shelf">
    <div class="row">
      <ActionMenu words="Begin with a rubric" @choose="take">
        <optgroup v-if="own.length > 0" label="Your own">
          <option v-for="k in own" :key="k.id" :value="`kept ${k.id}`">{{ k.title }}</option>
        </optgroup>
        <optgroup v-if="shared.length > 0" label="Shared here">
          <option v-for="k in shared" :key="k.id" :value="`kept ${k.id}`">{{ k.title }}, by {{ k.owner }}</option>
        </optgroup>
        <optgroup label="To begin with">
          <option v-for="(s, n) in STARTER_RUBRICS" :key="s.title" :value="`starter ${n}`">{{ s.title }}</option>
        </optgroup>
      </ActionMenu>
      <template v-if="criteria.length > 0">
        <LineField v-model="keepAs" maxlength="120" :placeholder="title" aria-label="Title to keep it by" />
        <ActButton look="act" @click="keep">Keep this one</ActButton>
      </template>
      <ActButton v-if="own.length > 0" look="act" :aria-expanded="isManaging" @click="isManaging = !isManaging">
        {{ isManaging ? 'done' : 'those I keep' }}
      </ActButton>
    </div>
    <p class="label">What is taken is fitted to the points of the item: the best levels of its criteria are their weights.</p>
    <ul v-if="isManaging">
      <li v-for="k in own" :key="k.id">
        <span>{{ k.title }}</span>
        <label
          ><TickBox
            :model-value="k.isShared"
            :aria-label="`Share ${k.title}`"
            @change="run(() => call(api.changeKeptRubric, { rubricId: k.id }, { isShared: ($event.target as HTMLInputElement).checked }))"
          />
          shared with everyone who teaches here</label
        >
        <ActButton look="act" :aria-label="`Remove ${k.title}`" @click="remove(k)">Remove</ActButton>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: baseline;
}
.row .line-field {
  width: auto;
  min-width: 180px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 6px 0;
}
li {
  display: flex;
  gap: 16px;
  padding: 2px 0;
}
</style>
