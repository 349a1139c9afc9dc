<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { call } from '../platform/call.ts';
import type { BankView, DrawWish } from '@rosemary/api';
import { drawInWords, formatPoints, KIND_WORDS, parsePoints, QUESTION_LEVELS, type QuestionKind } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import LineInput from '../parts/LineInput.vue';
import TickBox from '../parts/fields/TickBox.vue';
import FoldOut from '../parts/FoldOut.vue';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

/** “Take n questions at random from the bank that match this.” */
const props = defineProps<{
  courseId: string;
  folderId: string;
  draw: DrawWish | null;
  points: number;
  objectives: readonly { readonly code: string }[];
}>();
const emit = defineEmits<{ save: [draw: DrawWish, points: number]; leave: [] }>();
const wish = ref<DrawWish>(props.draw ?? { count: 1, folderId: props.folderId, tags: [], levels: [], objectives: [], kinds: [] });
const points = ref(props.points);
const bank = shallowRef<BankView | null>(null);
const fault = ref('');
const KINDS = Object.entries(KIND_WORDS) as [QuestionKind, string][];
async function count(): Promise<void> {
  const w = wish.value;
  const query = {
    folder: w.folderId,
    tags: w.tags.join(','),
    levels: w.levels.join(','),
    objectives: w.objectives.join(','),
    kinds: w.kinds.join(','),
  };
  bank.value = await call(api.getBank, { courseId: props.courseId, ...query }).catch(() => null);
}
onMounted(count);
watch(wish, () => void count());
const put = (more: Partial<DrawWish>): void => {
  wish.value = { ...wish.value, ...more };
};
const turn = <T,>(list: readonly T[], one: T): T[] => (list.includes(one) ? list.filter((x) => x !== one) : [...list, one]);
const words = (text: string): string[] =>
  text
    .split(',')
    .map((w) => w.trim())
    .filter((w) => w !== '');
function setPoints(text: string): void {
  const read = parsePoints(text);
  fault.value = read.ok ? '' : read.reason;
  if (read.ok) points.value = read.value;
}
const matching = computed(() => bank.value?.total ?? 0);
const folder = computed(() => bank.value?.folders.find((f) => f.id === wish.value.folderId)?.title ?? '');
</script>

<template>
  <div class="sheet draw" role="dialog" aria-label="Draw questions">
    <h2>Draw questions at random</h2>
    <p>
      <LineInput
        class="n"
        :value="wish.count"
        inputmode="numeric"
        aria-label="How many"
        @commit="put({ count: Math.max(1, Math.min(200, Math.round(Number($event)) || 1)) })"
      />
      from
      <ChoiceField class="from" aria-label="Folder" :model-value="wish.folderId" @change="put({ folderId: $event })">
        <option v-for="f in bank?.folders ?? []" :key="f.id" :value="f.id">{{ f.title }}</option>
      </ChoiceField>
      for <LineInput class="n" :value="formatPoints(points)" aria-label="Points each" @commit="setPoints" /> points each
    </p>
    <fieldset>
      <legend class="label">Level</legend>
      <label v-for="l in QUESTION_LEVELS" :key="l"
        ><TickBox :model-value="wish.levels.includes(l)" @change="put({ levels: turn(wish.levels, l) })" /> {{ l }}</label
      >
    </fieldset>
    <label class="field"
      ><span class="label">Objectives, by code{{ objectives.length > 0 ? ` (${objectives.map((o) => o.code).join(', ')})` : '' }}</span
      ><LineInput :value="wish.objectives.join(', ')" @commit="put({ objectives: words($event) })"
    /></label>
    <label class="field"
      ><span class="label">Tags</span><LineInput :value="wish.tags.join(', ')" @commit="put({ tags: words($event) })"
    /></label>
    <fieldset>
      <legend class="label">Kinds</legend>
      <label v-for="[kind, word] in KINDS" :key="kind"
        ><TickBox :model-value="wish.kinds.includes(kind)" @change="put({ kinds: turn(wish.kinds, kind) })" /> {{ word }}</label
      >
    </fieldset>
    <p role="status" :class="matching < wish.count ? 'clay' : 'soft'">
      {{ matching === 1 ? 'One matches' : `${matching} match` }}
      {{ drawInWords({ folder, tags: wish.tags, levels: wish.levels, objectives: wish.objectives, kinds: wish.kinds })
      }}{{ matching < wish.count ? '. Draw fewer, or ask for less.' : '.' }}
    </p>
    <FoldOut v-if="bank && bank.questions.length > 0">
      <template #summary><span class="label">See them</span></template>
      <ul>
        <li v-for="q in bank.questions" :key="q.id">{{ q.title }}</li>
      </ul>
    </FoldOut>
    <p v-if="fault" class="fault">{{ fault }}</p>
    <p class="acts">
      <ActButton look="go" @click="emit('save', wish, points)">{{ draw === null ? 'Lay it into the paper' : 'Change it' }}</ActButton>
      <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
    </p>
  </div>
</template>

<style scoped>
.draw {
  padding: 20px 26px;
  max-height: 84vh;
  overflow: auto;
}
.n {
  width: 48px;
  text-align: center;
}
.from {
  width: auto;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 10px 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
}
.acts {
  margin-top: 12px;
}
</style>
