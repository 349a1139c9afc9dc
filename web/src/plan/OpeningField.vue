<script setup lang="ts">
import type { OpeningRuleWish, OpeningWish } from '@rosemary/api';
import { formatPoints, parsePoints } from '@rosemary/core';
import { computed, ref } from 'vue';
import DateField from '../parts/DateField.vue';
import LineInput from '../parts/LineInput.vue';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import ActionMenu from '../parts/ActionMenu.vue';

interface Other {
  readonly id: string;
  readonly title: string;
  readonly possible: number;
}
/** What must be true before an item opens, as sentences that are edited where they stand. */
const props = defineProps<{
  opening: OpeningWish;
  others: readonly Other[];
  zone: string;
  now: number;
  canEdit: boolean;
  fault?: string | null;
}>();
const emit = defineEmits<{ change: [opening: OpeningWish] }>();
const ownFault = ref('');
const rules = computed(() => props.opening.rules);
const scored = computed(() => props.others.filter((o) => o.possible > 0));
const titleOf = (id: string): string => props.others.find((o) => o.id === id)?.title ?? 'an item that is gone';

function put(at: number, rule: OpeningRuleWish): void {
  ownFault.value = '';
  emit('change', { ...props.opening, rules: rules.value.map((r, n) => (n === at ? rule : r)) });
}
function add(chosen: string): void {
  const [kind, id = ''] = chosen.split(' ');
  const rule: OpeningRuleWish | null =
    kind === 'date'
      ? { kind, at: new Date(props.now + 7 * 86_400_000).toISOString() }
      : kind === 'done'
        ? { kind, itemId: id }
        : kind === 'score'
          ? { kind, itemId: id, least: Math.round((props.others.find((o) => o.id === id)?.possible ?? 0) / 2) }
          : null;
  if (rule !== null) emit('change', { ...props.opening, rules: [...rules.value, rule] });
}
function setLeast(at: number, rule: OpeningRuleWish & { kind: 'score' }, text: string): void {
  const parsed = parsePoints(text);
  if (parsed.ok) put(at, { ...rule, least: parsed.value });
  else ownFault.value = parsed.reason;
}
</script>

<template>
  <div class="field" data-field="opening">
    <span class="label"
      >Opens
      <template v-if="rules.length === 0">by its dates alone</template>
      <template v-else-if="rules.length === 1">when</template>
      <template v-else
        >when
        <ChoiceField
          is-word
          aria-label="All of the rules or one of them"
          :model-value="opening.needs"
          :disabled="!canEdit"
          @change="emit('change', { ...props.opening, needs: $event as 'all' | 'any' })"
        >
          <option value="all">all of these are so</option>
          <option value="any">one of these is so</option>
        </ChoiceField></template
      ></span
    >
    <ul v-if="rules.length > 0" class="bare-list">
      <li v-for="(rule, n) in rules" :key="n">
        <DateField
          v-if="rule.kind === 'date'"
          :model-value="rule.at"
          label="It is"
          time="08:00"
          :zone="zone"
          :now="now"
          is-required
          :is-fixed="!canEdit"
          @change="$event !== null && put(n, { kind: 'date', at: $event })"
        />
        <span v-else-if="rule.kind === 'done'">“{{ titleOf(rule.itemId) }}” is done</span>
        <span v-else
          >at least
          <LineInput
            class="least"
            inputmode="decimal"
            :aria-label="`Least points in ${titleOf(rule.itemId)}`"
            :value="formatPoints(rule.least)"
            :disabled="!canEdit"
            @commit="setLeast(n, rule, $event)"
          />
          points in “{{ titleOf(rule.itemId) }}”</span
        >
        <ActButton
          v-if="canEdit"
          look="act"
          :aria-label="`Take rule ${n + 1} away`"
          @click="emit('change', { ...props.opening, rules: rules.filter((_, m) => m !== n) })"
          >Remove</ActButton
        >
      </li>
    </ul>
    <ActionMenu v-if="canEdit" :words="rules.length === 0 ? 'Only when' : 'And'" label="Another opening rule" @choose="add">
      <option value="date">a time has come</option>
      <optgroup label="is done">
        <option v-for="o in others" :key="o.id" :value="`done ${o.id}`">{{ o.title }}</option>
      </optgroup>
      <optgroup label="reaches a score">
        <option v-for="o in scored" :key="o.id" :value="`score ${o.id}`">{{ o.title }}</option>
      </optgroup>
    </ActionMenu>
    <p v-if="ownFault || fault" class="fault" role="alert">{{ ownFault || fault }}</p>
  </div>
</template>

<style scoped>
li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 3px 0;
  align-items: baseline;
}
.least {
  width: 44px;
  display: inline-block;
}
</style>
