<script setup lang="ts">
import { alikeWeights, type QuestionKey, type TextRules } from '@rosemary/core';
import { computed } from 'vue';
import LineInput from '../../parts/LineInput.vue';
import { readShare, shareWords } from './shares.ts';
import TextRulesKey from './TextRulesKey.vue';
import ActButton from '../../parts/ActButton.vue';

type Key = Extract<QuestionKey, { kind: 'blanks' }>;
type Blank = Key['blanks'][number];
/** The blanks of a text, made from its words: what each accepts, and what it weighs. */
const props = defineProps<{ value: Key }>();
const emit = defineEmits<{ change: [key: Key] }>();
const put = (blanks: readonly Blank[]): void => emit('change', { kind: 'blanks', blanks });
const setRules = (id: string, rules: TextRules): void => put(props.value.blanks.map((b) => (b.id === id ? { ...b, rules } : b)));
function setWeight(id: string, text: string): void {
  const weight = readShare(text);
  if (weight !== null && weight >= 0) put(props.value.blanks.map((b) => (b.id === id ? { ...b, weight } : b)));
}
const sum = computed(() => props.value.blanks.reduce((total, b) => total + b.weight, 0));
const alike = (): void => {
  const weights = alikeWeights(props.value.blanks.length);
  put(props.value.blanks.map((b, n) => ({ ...b, weight: weights[n] ?? 0 })));
};
</script>

<template>
  <div>
    <p v-if="value.blanks.length === 0" class="soft">Choose words in the text above, then “Make a blank”.</p>
    <section v-for="(b, n) in value.blanks" :key="b.id" class="blank">
      <p class="row">
        <b>Blank {{ n + 1 }}</b>
        <span class="soft">weighs</span>
        <LineInput
          class="weight"
          :value="shareWords(b.weight)"
          :aria-label="`Weight of blank ${n + 1} in percent`"
          @commit="setWeight(b.id, $event)"
        /><span class="soft">%</span>
      </p>
      <TextRulesKey :rules="b.rules" :what="`Blank ${n + 1}, accepted`" @change="setRules(b.id, $event)" />
    </section>
    <p v-if="value.blanks.length > 0" :class="sum === 100_000 ? 'soft' : 'fault'">
      The weights add up to {{ shareWords(sum) }} %. <ActButton look="act" @click="alike">make them alike</ActButton>
    </p>
  </div>
</template>

<style scoped>
.blank {
  border-top: 1px solid var(--frost2);
  padding: 4px 0;
}
.row {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.weight {
  width: 60px;
  text-align: right;
}
</style>
