<script setup lang="ts">
import type { AcceptedText, TextRules } from '@rosemary/core';
import LineInput from '../../parts/LineInput.vue';
import { readShare, shareWords } from './shares.ts';
import TickBox from '../../parts/fields/TickBox.vue';
import ActButton from '../../parts/ActButton.vue';

/** Texts that are accepted, word for word or as a pattern, and what counts in comparing. */
const props = defineProps<{ rules: TextRules; what: string }>();
const emit = defineEmits<{ change: [rules: TextRules] }>();
const put = (accepted: readonly AcceptedText[]): void => emit('change', { ...props.rules, accepted });
const change = (at: number, more: Partial<AcceptedText>): void =>
  put(props.rules.accepted.map((a, n) => (n === at ? { ...a, ...more } : a)));
function setShare(at: number, text: string): void {
  const share = readShare(text);
  if (share !== null) change(at, { share });
}
</script>

<template>
  <div>
    <p v-for="(a, n) in rules.accepted" :key="n" class="row">
      <LineInput
        class="text"
        :class="{ pattern: a.isPattern }"
        :value="a.text"
        :aria-label="`${what} ${n + 1}`"
        @commit="change(n, { text: $event })"
      />
      <label><TickBox :model-value="a.isPattern" @change="change(n, { isPattern: !a.isPattern })" /> pattern</label>
      <template v-if="rules.accepted.length > 1">
        <LineInput
          class="share"
          :value="shareWords(a.share)"
          :aria-label="`Percent of the points for ${a.text}`"
          @commit="setShare(n, $event)"
        /><span class="soft">%</span>
        <ActButton look="act" :aria-label="`Remove ${a.text}`" @click="put(rules.accepted.filter((_, m) => m !== n))"> × </ActButton>
      </template>
    </p>
    <p class="row">
      <ActButton look="act" @click="put([...rules.accepted, { text: '', isPattern: false, share: 100_000 }])">
        Add accepted answer
      </ActButton>
      <label
        ><TickBox :model-value="rules.caseMatters" @change="emit('change', { ...rules, caseMatters: !rules.caseMatters })" /> capitals
        count</label
      >
      <label
        ><TickBox :model-value="rules.spaceMatters" @change="emit('change', { ...rules, spaceMatters: !rules.spaceMatters })" /> spaces
        count</label
      >
    </p>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  gap: 12px;
  align-items: baseline;
  font-size: 14px;
}
.text {
  width: 260px;
  color: var(--needle);
}
.pattern {
  font-family: ui-monospace, monospace;
}
.share {
  width: 52px;
  text-align: right;
}
</style>
