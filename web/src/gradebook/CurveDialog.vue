<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ColumnView, CurveChange, RippleAnswer } from '@rosemary/api';
import {
  applyCurve,
  curveFault,
  drawnPoints,
  formatPoints,
  meanShift,
  parsePoints,
  pointsInWords,
  type Curve,
  type CurveKind,
} from '@rosemary/core';
import { computed, onMounted, ref, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import DotPlot from '../parts/DotPlot.vue';
import RippleView from '../parts/RippleView.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call, callSeen, rippleOf, takeBack } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** A curve on a column: the results before and after, and whom it moves, before it is applied. What was given stays as it is. */
const props = defineProps<{ courseId: string; columnId: string }>();
const emit = defineEmits<{ close: []; changed: [] }>();
const notices = useNotices();
const KINDS: { readonly [kind in CurveKind | 'none']: string } = {
  none: 'no curve',
  add: 'add points to everyone',
  scale: 'a score that becomes full marks',
  root: 'square root of the share',
  mean: 'set the mean',
};
const view = ref<ColumnView | null>(null);
const kind = ref<CurveKind | 'none'>('add');
const amount = ref('');
const isCapped = ref(true);
const ripple = ref<RippleAnswer | null>(null);
const fault = ref('');
const at = computed(() => ({ courseId: props.courseId, columnId: props.columnId }));
onMounted(async () => {
  try {
    view.value = await call(api.getGradeColumn, at.value);
    const { curve } = view.value;
    if (curve === null) return;
    [kind.value, isCapped.value] = [curve.kind, curve.isCapped];
    amount.value = curve.amount === null ? '' : formatPoints(curve.amount);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const wanted = computed((): CurveChange['curve'] | 'unread' => {
  if (kind.value === 'none') return null;
  if (kind.value === 'root') return { kind: 'root', amount: null, isCapped: isCapped.value };
  const read = parsePoints(amount.value);
  return read.ok ? { kind: kind.value, amount: read.value, isCapped: isCapped.value } : 'unread';
});
const ownFault = computed(() => {
  if (wanted.value === 'unread') {
    const read = parsePoints(amount.value);
    return amount.value.trim() === '' || read.ok ? '' : read.reason;
  }
  return wanted.value === null || view.value === null ? '' : (curveFault(wanted.value, view.value.possible, view.value.marks.length) ?? '');
});
const percentOf = (points: number): number => (points * 100_000) / (view.value?.possible ?? 1);
const before = computed(() => ((view.value?.possible ?? 0) === 0 ? [] : (view.value?.marks ?? []).map((raw) => percentOf(raw / 1000))));
const after = computed(() => {
  if (view.value === null || wanted.value === null || wanted.value === 'unread' || ownFault.value !== '' || view.value.possible === 0)
    return null;
  const shift = wanted.value.kind === 'mean' ? meanShift(view.value.marks, wanted.value.amount ?? 0) : null;
  const curve: Curve = { ...wanted.value, shift: shift === null ? null : { value: shift, marks: view.value.marks.length } };
  const { possible, marks } = view.value;
  return marks.map((raw) => percentOf(drawnPoints(applyCurve(curve, raw, possible))));
});
let turn = 0;
watch([wanted, view], async () => {
  const mine = ++turn;
  ripple.value = null;
  if (view.value === null || wanted.value === 'unread' || ownFault.value !== '') return;
  try {
    const answer = await rippleOf(api.setCurve, at.value, { curve: wanted.value });
    if (mine === turn) [ripple.value, fault.value] = [answer, ''];
  } catch (error) {
    if (mine === turn) fault.value = error instanceof Error ? error.message : '';
  }
});
async function apply(): Promise<void> {
  if (wanted.value === 'unread') return;
  try {
    const { before: was } = await callSeen(api.setCurve, at.value, { curve: wanted.value });
    const title = view.value?.title ?? '';
    emit('changed');
    emit('close');
    notices.say(
      wanted.value === null ? `The curve on “${title}” is gone.` : `“${title}” is curved. The scores that were given stay as they are.`,
      async () => {
        await takeBack(api.setCurve, at.value, was);
        emit('changed');
      },
    );
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
</script>

<template>
  <v-dialog :model-value="true" max-width="980" @update:model-value="emit('close')">
    <form class="sheet form" role="dialog" aria-label="Curve" @submit.prevent="ripple && apply()">
      <h2>Curve{{ view ? ` “${view.title}”` : '' }}</h2>
      <div class="sides">
        <div>
          <p class="soft">The scores that were given stay; the curve changes what becomes of them, and can be taken away again.</p>
          <div v-if="!view && !fault" class="skeleton" style="height: 120px" />
          <template v-if="view">
            <div class="field">
              Curve
              <ChoiceField v-model="kind" aria-label="Kind of curve">
                <option v-for="(words, k) in KINDS" :key="k" :value="k">{{ words }}</option>
              </ChoiceField>
            </div>
            <label v-if="kind === 'add' || kind === 'scale' || kind === 'mean'" class="field"
              >{{ { add: 'Points added', scale: 'Score that becomes full marks', mean: 'The mean becomes' }[kind] }}
              <LineField v-model="amount" inputmode="decimal" :placeholder="`of ${pointsInWords(view.possible)}`" />
            </label>
            <p v-if="ownFault || fault" class="fault" role="alert">{{ ownFault || fault }}</p>
            <label v-if="kind !== 'none'" class="tick-line"><TickBox v-model="isCapped" /> at most full marks</label>
            <p v-if="kind === 'mean'" class="soft">
              The shift is worked out once, from the {{ view.marks.length }} marks there are now: a mark that comes later moves nobody else.
            </p>
            <template v-if="before.length > 0"
              ><p class="label">{{ after ? 'Results before (above) and after, in percent' : 'Results, in percent' }}</p>
              <DotPlot :values="before" :then="after" label="Results before and after" :width="400"
            /></template>
            <p v-else class="soft">There is no result in this column yet.</p>
          </template>
        </div>
        <div class="moves">
          <RippleView v-if="ripple" :ripple="ripple" :levels="ripple.levels"
            ><ActButton look="go" type="submit">Apply</ActButton> <ActButton look="quiet" @click="emit('close')">Leave it</ActButton>
            <span class="soft">can be undone</span></RippleView
          >
          <template v-else
            ><p class="soft">Whom it moves stands here before it is applied.</p>
            <ActButton look="quiet" @click="emit('close')">Close</ActButton></template
          >
        </div>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: 1fr 460px;
  gap: 34px;
}
</style>
