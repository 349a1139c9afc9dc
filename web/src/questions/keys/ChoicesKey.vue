<script setup lang="ts">
import { asEqualParts, plainText, type Choice, type DocumentNode, type QuestionKey } from '@rosemary/core';
import { emptyDocument } from '@rosemary/api';
import { computed, nextTick, ref } from 'vue';
import DocumentEditor from '../../parts/DocumentEditor.vue';
import LineInput from '../../parts/LineInput.vue';
import ChoiceWords from './ChoiceWords.vue';
import { newId, readShare, shareWords } from './shares.ts';
import ActButton from '../../parts/ActButton.vue';
import TickBox from '../../parts/fields/TickBox.vue';
import PickMark from '../../parts/fields/PickMark.vue';
import DragList from '../../parts/DragList.vue';
import ChoiceField from '../../parts/fields/ChoiceField.vue';

type ChoicesKey = Extract<QuestionKey, { kind: 'single' | 'several' | 'truth' }>;
/** Answers to choose from: which are right, what each is worth, what is said to whoever picks it. */
const props = defineProps<{ value: ChoicesKey }>();
const emit = defineEmits<{ change: [key: ChoicesKey] }>();
const ALL = 100_000;
const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';
const opened = ref<string | null>(null);
const list = ref<HTMLElement | null>(null);
const isSeveral = computed(() => props.value.kind === 'several');
const isByValue = computed(() => props.value.kind === 'several' && props.value.rule === 'own values');
const put = (choices: readonly Choice[]): void => emit('change', { ...props.value, choices });
const change = (id: string, more: Partial<Choice>): void => put(props.value.choices.map((c) => (c.id === id ? { ...c, ...more } : c)));
function setRight(id: string, isRight: boolean): void {
  put(
    props.value.choices.map((c) =>
      c.id === id ? { ...c, share: isRight ? ALL : 0 } : isSeveral.value ? c : { ...c, share: c.share >= ALL ? 0 : c.share },
    ),
  );
}
function setShare(id: string, text: string): void {
  const share = readShare(text);
  if (share !== null) change(id, { share });
}
/** The caret goes to the answer that follows; a new one is made only where none that is empty follows. */
async function add(after?: number): Promise<void> {
  const choices = [...props.value.choices];
  const at = after === undefined ? choices.length : after + 1;
  const next = choices[at];
  if (next === undefined || plainText(next.words).trim() !== '') {
    choices.splice(at, 0, { id: newId(), words: emptyDocument, share: 0, feedback: null });
    put(choices);
    await nextTick();
  }
  list.value?.querySelectorAll<HTMLElement>('.choice-words input')[at]?.focus();
}
const remove = (id: string): void => put(props.value.choices.filter((c) => c.id !== id));
const setRule = (rule: Extract<QuestionKey, { kind: 'several' }>['rule']): void => {
  if (props.value.kind === 'several') emit('change', { ...props.value, rule });
};
/** Right answers that were meant to be equal parts and were typed with too few decimals: they can be made exact. */
const parts = computed(() => {
  const right = props.value.choices.filter((c) => c.share > 0);
  return isByValue.value ? asEqualParts(right.map((c) => c.share)) : null;
});
function makeParts(): void {
  const next = [...(parts.value ?? [])];
  put(props.value.choices.map((c) => (c.share > 0 ? { ...c, share: next.shift() ?? c.share } : c)));
}
const setFeedback = (id: string, feedback: DocumentNode): void => change(id, { feedback });
</script>

<template>
  <div ref="list">
    <DragList :model-value="[...value.choices]" tag="ol" class="choices bare-list" handle=".letter" @update:model-value="put($event)">
      <li v-for="(c, n) in value.choices" :key="c.id" :class="{ right: c.share > 0 }">
        <div class="row">
          <span class="letter" title="drag, or Alt with ↑ and ↓">{{ LETTERS.charAt(n) }}</span>
          <PickMark
            :is-several="isSeveral"
            :value="true"
            :model-value="c.share >= 100_000 || (isSeveral && c.share > 0)"
            :name="`right-${value.choices[0]?.id}`"
            :aria-label="`Answer ${LETTERS.charAt(n)} is right`"
            @change="setRight(c.id, ($event.target as HTMLInputElement).checked)"
          />
          <ChoiceWords
            :words="c.words"
            :label="`Answer ${LETTERS.charAt(n)}`"
            @change="change(c.id, { words: $event })"
            @enter="add(n)"
            @empty="value.choices.length > 2 && remove(c.id)"
          />
          <LineInput
            v-if="isByValue || (!isSeveral && c.share !== 0 && c.share !== 100_000) || opened === c.id"
            class="share"
            :value="shareWords(c.share)"
            :aria-label="`Percent of the points for ${LETTERS.charAt(n)}`"
            @commit="setShare(c.id, $event)"
          /><span v-if="isByValue || opened === c.id || (c.share !== 0 && c.share !== 100_000)" class="soft">%</span>
          <ActButton look="act" class="quiet-act" @click="opened = opened === c.id ? null : c.id">
            {{ c.feedback ? 'feedback ✓' : 'feedback' }}
          </ActButton>
          <ActButton
            v-if="value.kind !== 'truth'"
            look="act"
            class="quiet-act"
            :aria-label="`Remove ${LETTERS.charAt(n)}`"
            @click="remove(c.id)"
          >
            ×
          </ActButton>
        </div>
        <div v-if="opened === c.id" class="said">
          <span class="label">Said to whoever picks it</span>
          <DocumentEditor
            :model-value="c.feedback"
            :label="`Said to whoever picks ${LETTERS.charAt(n)}`"
            is-small
            @change="setFeedback(c.id, $event)"
          />
        </div>
      </li>
    </DragList>
    <p v-if="parts" class="label">
      Meant as {{ parts.length }} equal parts? <ActButton look="act" @click="makeParts">Make them exact</ActButton>, so that together they
      are all the points.
    </p>
    <p class="under">
      <ActButton v-if="value.kind !== 'truth' && value.choices.length < 26" look="act" @click="add()">Add answer</ActButton>
      <label
        ><TickBox :model-value="value.hasDontKnow" @change="emit('change', { ...value, hasDontKnow: !value.hasDontKnow })" /> “I do not
        know” last</label
      >
      <ChoiceField
        v-if="value.kind === 'several'"
        class="rule"
        aria-label="How several choices are scored"
        :model-value="value.rule"
        @change="setRule"
      >
        <option value="less wrong">right picks less wrong ones</option>
        <option value="all or nothing">all or nothing</option>
        <option value="own values">each by its own value</option>
      </ChoiceField>
    </p>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding: 1px 0;
}
.letter {
  width: 14px;
  color: var(--soft);
  cursor: grab;
}
.right .letter {
  color: var(--needle);
  font-weight: 700;
}
.right :deep(.choice-words) {
  color: var(--needle);
}
.share {
  width: 52px;
  text-align: right;
}
.quiet-act {
  font-size: 13px;
  opacity: 0.75;
}
.said {
  margin: 2px 0 8px 46px;
}
.under {
  display: flex;
  gap: 18px;
  align-items: baseline;
  font-size: 14px;
  margin-top: 4px;
}
.rule {
  width: auto;
}
</style>
