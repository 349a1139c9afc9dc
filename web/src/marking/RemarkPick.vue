<script setup lang="ts">
import type { RemarkView } from '@rosemary/api';
import { formatPoints, offerRemarks, parsePoints } from '@rosemary/core';
import { computed, nextTick, onMounted, ref, watch } from 'vue';
import LineInput from '../parts/LineInput.vue';
import { useNotices } from '../stores/noticeStore.ts';
import { useRemarks } from './useRemarks.ts';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import type { Typing } from '../parts/fields/typing.ts';

/** Finds a stock remark by its letters or its words; Enter takes the first, arrows go through them. */
const props = defineProps<{ criterion: string; criteria: readonly string[] }>();
const emit = defineEmits<{ take: [remark: RemarkView]; leave: [] }>();
const r = useRemarks();
const notices = useNotices();
const typed = ref('');
const at = ref(0);
const isChanging = ref(false);
const field = ref<Typing | null>(null);
onMounted(async () => {
  field.value?.focus();
  await r.load(true);
});
const offered = computed(() => offerRemarks(r.remarks.value ?? [], typed.value, props.criterion));
watch(typed, () => {
  at.value = 0;
});
function move(by: number): void {
  at.value = Math.min(Math.max(at.value + by, 0), Math.max(0, offered.value.length - 1));
  void nextTick(() => document.getElementById(`remark-${at.value}`)?.scrollIntoView({ block: 'nearest' }));
}
function take(): void {
  const remark = offered.value[at.value];
  if (remark) emit('take', remark);
}
const signed = (points: number): string => `${points > 0 ? '+' : '−'}${formatPoints(Math.abs(points))}`;
/** What it gives (+) or takes (−) where it is used; empty is nothing. */
function setPoints(remark: RemarkView, typed: string): void {
  const text = typed.trim().replace('−', '-');
  const parsed = parsePoints(text.replace(/^[+-]/, '') || '0');
  if (!parsed.ok) notices.say(parsed.reason);
  else void r.change(remark, { points: parsed.value === 0 ? null : text.startsWith('-') ? -parsed.value : parsed.value });
}
</script>

<template>
  <div class="pick" @keydown.esc.stop="emit('leave')">
    <LineField
      ref="field"
      v-model="typed"
      input-role="combobox"
      aria-label="A stock remark, by its letters or words"
      aria-expanded="true"
      aria-controls="remarks"
      :aria-activedescendant="offered.length > 0 && !isChanging ? `remark-${at}` : undefined"
      placeholder="letters or words of a remark"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter.prevent="take"
    />
    <p v-if="r.remarks.value === null" class="skeleton" style="height: 60px" />
    <p v-else-if="r.remarks.value.length === 0" class="soft">
      What you say often can be kept here.
      <ActButton look="act" @click="r.takeStarters()">Begin with twelve that serve in any subject</ActButton>, or write a note and keep it
      as a remark.
    </p>
    <p v-else-if="offered.length === 0" class="soft" role="status">None of your remarks has these letters.</p>
    <ul v-else-if="!isChanging" id="remarks" role="listbox" aria-label="Remarks">
      <li
        v-for="(remark, n) in offered"
        :id="`remark-${n}`"
        :key="remark.id"
        role="option"
        :aria-selected="n === at"
        :class="{ on: n === at }"
        @mousedown.prevent
        @click="emit('take', remark)"
      >
        <b v-if="remark.shortcut">{{ remark.shortcut }}</b> {{ remark.body }}
        <b v-if="remark.points">{{ signed(remark.points) }}</b>
        <span class="label"
          >{{ remark.criterion }}{{ remark.criterion && remark.uses ? ' · ' : ''
          }}{{ remark.uses === 0 ? '' : remark.uses === 1 ? 'said once' : `said ${remark.uses} times` }}</span
        >
      </li>
    </ul>
    <ul v-else aria-label="Remarks, to be changed">
      <li v-for="remark in offered" :key="remark.id" class="change">
        <LineInput
          :value="remark.body"
          maxlength="4000"
          :aria-label="`What it says: ${remark.body}`"
          @commit="$event.trim() !== '' && r.change(remark, { body: $event.trim() })"
        />
        <div class="row">
          <LineInput
            :value="remark.shortcut"
            maxlength="6"
            placeholder="letters"
            :aria-label="`Called by, of ${remark.body}`"
            @commit="r.change(remark, { shortcut: $event.trim().toLowerCase() })"
          />
          <ChoiceField
            :aria-label="`Criterion of ${remark.body}`"
            :model-value="remark.criterion"
            @change="r.change(remark, { criterion: $event })"
          >
            <option value="">any criterion</option>
            <option v-for="c in new Set([...criteria, ...(remark.criterion ? [remark.criterion] : [])])" :key="c" :value="c">
              {{ c }}
            </option>
          </ChoiceField>
          <LineInput
            :value="remark.points ? signed(remark.points) : ''"
            placeholder="points"
            inputmode="decimal"
            :aria-label="`Points it gives or takes, of ${remark.body}`"
            @commit="setPoints(remark, $event)"
          />
          <ActButton look="act" :aria-label="`Remove ${remark.body}`" @click="r.remove(remark)">Remove</ActButton>
        </div>
      </li>
    </ul>
    <p class="foot">
      <ActButton v-if="(r.remarks.value?.length ?? 0) > 0" look="act" @click="isChanging = !isChanging">
        {{ isChanging ? 'done' : 'change them' }}
      </ActButton>
      <ActButton look="act" @click="emit('leave')">write it myself</ActButton>
    </p>
  </div>
</template>

<style scoped>
.pick {
  background: var(--paper);
}
ul {
  list-style: none;
  margin: 4px 0;
  padding: 0;
  max-height: 260px;
  overflow: auto;
}
li {
  padding: 4px 6px;
  border-radius: 3px;
  cursor: pointer;
}
li:hover {
  background: var(--frost2);
}
li.on {
  background: var(--bloom-wash);
}
.change {
  cursor: default;
  border-bottom: 1px solid var(--frost2);
}
.row {
  display: grid;
  grid-template-columns: 60px 1fr auto;
  gap: 8px;
  align-items: baseline;
}
.foot {
  display: flex;
  gap: 14px;
}
</style>
