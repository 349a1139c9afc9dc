<script setup lang="ts">
import { criterionPoints, formatPoints, pointsInWords, levelOfCount, parsePoints, type RubricCriterion, countOf } from '@rosemary/core';
import { computed, ref, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import TextField from '../parts/fields/TextField.vue';

/** One criterion in the mark strip: its levels as steps, a tick, points within a range, a count, or words alone. */
const props = defineProps<{
  criterion: RubricCriterion;
  choice: string | undefined;
  given: number | undefined;
  comment: string;
  isNow: boolean;
  /** Notes in the margin so far: where errors are counted, they are often the errors. */
  notes: number;
  /** Levels by their words, for whoever has not marked with this form before. */
  isWorded?: boolean;
}>();
const emit = defineEmits<{ now: []; choose: [digit: number]; give: [value: number | null]; comment: [words: string] }>();
const form = computed(() => props.criterion.form ?? 'levels');
const most = computed(() => props.criterion.levels.reduce((m, l) => Math.max(m, l.points), 0));
const level = computed(() =>
  form.value === 'count'
    ? props.given === undefined
      ? null
      : levelOfCount(props.criterion.levels, props.given)
    : (props.criterion.levels.find((l) => l.id === props.choice) ?? null),
);
const points = computed(() =>
  criterionPoints(props.criterion, {
    choices: props.choice === undefined ? {} : { [props.criterion.id]: props.choice },
    given: props.given === undefined ? {} : { [props.criterion.id]: props.given },
  }),
);
const text = ref('');
const fault = ref('');
const shown = computed(() => (props.given === undefined ? '' : form.value === 'count' ? String(props.given) : formatPoints(props.given)));
watch(
  shown,
  (next) => {
    text.value = next;
  },
  { immediate: true },
);
function give(): void {
  fault.value = '';
  const typed = text.value.trim();
  if (typed === '') emit('give', null);
  else if (form.value === 'count') {
    if (/^\d{1,4}$/.test(typed)) emit('give', Number(typed));
    else fault.value = `“${typed}” is no number of errors.`;
  } else {
    const parsed = parsePoints(typed);
    const l = level.value;
    if (!parsed.ok) fault.value = parsed.reason;
    else if (l !== null && (parsed.value > l.points || parsed.value < (l.least ?? 0)))
      fault.value = `This level goes from ${formatPoints(l.least ?? 0)} to ${formatPoints(l.points)}.`;
    else emit('give', parsed.value);
  }
}
const isTalking = ref(false);
const said = ref(props.comment);
watch(
  () => props.comment,
  (next) => {
    if (!isTalking.value) said.value = next;
  },
);
</script>

<template>
  <div
    :class="['cr', { now: isNow }]"
    :role="form === 'levels' || form === 'range' || form === 'check' ? 'radiogroup' : 'group'"
    :aria-label="criterion.title"
  >
    <div class="top">
      <ActButton class="head" :title="criterion.title" @click="emit('now')">
        <b>{{ criterion.title }}</b>
        <span v-if="form !== 'comment'" class="label"
          >{{ points !== null && (form === 'range' || form === 'count') ? `${formatPoints(points)} of ` : ''
          }}{{ formatPoints(most) }}</span
        >
      </ActButton>
      <ActButton
        v-if="form !== 'comment'"
        look="act"
        class="say"
        :aria-expanded="isTalking"
        :aria-label="`Words on ${criterion.title}`"
        @click="isTalking = !isTalking"
      >
        {{ comment === '' ? 'comment' : 'commented' }}
      </ActButton>
    </div>
    <div v-if="form === 'count'" class="lv count">
      <LineField
        v-model="text"
        inputmode="numeric"
        :aria-label="`Errors, ${criterion.title}`"
        placeholder="how many"
        @focus="emit('now')"
        @change="give"
        @keydown.enter.prevent="give"
      /><ActButton v-if="notes > 0 && given !== notes" look="act" @click="emit('give', notes)">{{ countOf(notes, 'note') }}</ActButton>
    </div>
    <TextField
      v-else-if="form === 'comment'"
      v-model="said"
      class="words"
      rows="2"
      maxlength="4000"
      :aria-label="criterion.title"
      @focus="
        emit('now');
        isTalking = true;
      "
      @blur="isTalking = false"
      @input="emit('comment', said)"
    />
    <div v-else class="lv">
      <ActButton
        v-for="(l, m) in criterion.levels"
        :key="l.id"
        role="radio"
        :aria-checked="choice === l.id"
        :class="{ on: choice === l.id }"
        :title="`${form === 'range' ? `${formatPoints(l.least ?? 0)} to ` : ''}${formatPoints(l.points)}: ${l.descriptor}`"
        :aria-label="`${pointsInWords(l.points)}: ${l.descriptor}`"
        @click="emit('choose', m + 1)"
      >
        {{ form === 'check' || isWorded ? l.title || m + 1 : m + 1 }}
      </ActButton>
      <LineField
        v-if="form === 'range' && level"
        v-model="text"
        class="exact"
        inputmode="decimal"
        :placeholder="formatPoints(level.points)"
        :aria-label="`Points within the level, ${criterion.title}`"
        @change="give"
        @keydown.enter.prevent="give"
      />
    </div>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div v-else-if="form !== 'comment'" class="label des">{{ level?.descriptor || (level ? '' : 'not yet chosen') }}</div>
    <TextField
      v-if="isTalking && form !== 'comment'"
      v-model="said"
      class="words"
      rows="2"
      maxlength="4000"
      :aria-label="`Words on ${criterion.title}`"
      takes-focus
      @input="emit('comment', said)"
      @keydown.esc="isTalking = false"
    />
  </div>
</template>

<style scoped>
.cr {
  flex: 1;
  min-width: 0;
}
.top {
  display: flex;
  justify-content: space-between;
  gap: 6px;
  align-items: baseline;
}
.head {
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  color: inherit;
  cursor: pointer;
  text-align: left;
  min-width: 0;
  min-height: 24px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.say {
  font-size: 13px;
  min-height: 24px;
  min-width: 24px;
}
.lv {
  display: flex;
  gap: 3px;
  margin-top: 4px;
  padding-bottom: 4px;
  border-bottom: 2px solid transparent;
}
.now .lv {
  border-color: var(--bloom);
}
.lv > button:not(.act) {
  flex: 1;
  text-align: center;
  padding: 3px 0;
  border-radius: 3px;
  background: var(--frost2);
  color: var(--soft);
  border: 0;
  font: inherit;
  cursor: pointer;
}
.lv > button:not(.act):hover {
  background: var(--frost);
}
.lv > button.on {
  background: var(--needle);
  color: var(--on-needle);
  font-weight: 600;
}
.exact {
  width: 44px;
  text-align: right;
}
.count .line-field {
  width: 90px;
}
.words {
  font-size: 14px;
  line-height: 18px;
}
.des {
  margin-top: 4px;
}
</style>
