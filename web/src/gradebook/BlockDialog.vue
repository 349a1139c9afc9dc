<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { BlockChange, RippleAnswer } from '@rosemary/api';
import { countOf } from '@rosemary/core';
import { computed, onMounted, ref, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import RippleView from '../parts/RippleView.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call, callSeen, rippleOf } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { seenEvent } from './heldCell.ts';
import type { BlockCellPlan, BlockWish } from './useBlock.ts';

/** What is pasted, filled or imported, cell by cell and with whom it moves, before any of it is written. */
const props = defineProps<{ courseId: string; wish: BlockWish; levels: RippleAnswer['levels'] }>();
const emit = defineEmits<{ close: []; written: [] }>();
const notices = useNotices();
const FIRST_SHOWN = 200;
const showsAll = ref(false);
const takesAbove = ref(false);
const ripple = ref<RippleAnswer | null>(null);
const fault = ref('');
const isBusy = ref(false);
/** Cells that only the server could refuse, with its reason. */
const late = ref<ReadonlyMap<BlockCellPlan, string>>(new Map());
const reasonOf = (cell: BlockCellPlan): string | null =>
  late.value.get(cell) ?? (cell.judgement.kind === 'refused' ? cell.judgement.reason : null);
const refused = computed(() => props.wish.cells.filter((c) => reasonOf(c) !== null));
const above = computed(() => props.wish.cells.filter((c) => c.judgement.kind === 'above' && reasonOf(c) === null));
const written = computed(() =>
  props.wish.cells.filter(
    (c) => reasonOf(c) === null && (c.judgement.kind === 'change' || (c.judgement.kind === 'above' && takesAbove.value)),
  ),
);
/** What cannot be written first, then what asks, then the rest in the order of the grid. */
const listed = computed(() => {
  const rank = (c: BlockCellPlan): number => (reasonOf(c) !== null ? 0 : c.judgement.kind === 'above' ? 1 : 2);
  return [...props.wish.cells].sort((a, b) => rank(a) - rank(b));
});
const shown = computed(() => (showsAll.value ? listed.value : listed.value.slice(0, FIRST_SHOWN)));
function toChange(): BlockChange {
  const enrolmentIds = [...new Set(written.value.map((c) => c.who.enrolmentId))];
  const columnIds = [...new Set(written.value.flatMap((c) => c.what.columnId ?? []))];
  const [rowAt, columnAt] = [new Map(enrolmentIds.map((id, n) => [id, n])), new Map(columnIds.map((id, n) => [id, n]))];
  return {
    how: props.wish.how,
    enrolmentIds,
    columnIds,
    cells: written.value.map((c) => {
      const { wish } = c.judgement as Extract<typeof c.judgement, { wish: unknown }>;
      const given = wish.state === 'scored' ? wish.raw : wish.state;
      return [rowAt.get(c.who.enrolmentId) ?? 0, columnAt.get(c.what.columnId ?? '') ?? 0, given, seenEvent(c.who, c.what.place)] as const;
    }),
    isAboveConfirmed: takesAbove.value,
    reason: '',
  };
}
let turn = 0;
async function look(): Promise<void> {
  const mine = ++turn;
  fault.value = '';
  if (written.value.length === 0) {
    ripple.value = null;
    return;
  }
  const asked = written.value;
  try {
    const answer = await rippleOf(api.changeBlock, { courseId: props.courseId }, toChange());
    if (mine === turn) ripple.value = answer;
  } catch (error) {
    if (mine === turn) refuse(error, asked);
  }
}
/** Cells that the server refuses join those that cannot be written; the rest is asked for anew. */
function refuse(error: unknown, asked: readonly BlockCellPlan[]): void {
  const pointers = error instanceof HttpProblem ? (error.problem.pointers ?? []) : [];
  const found = pointers.flatMap(({ field, text }): [BlockCellPlan, string][] => {
    const cell = asked[Number(/^cells\.(\d+)$/.exec(field)?.[1] ?? -1)];
    return cell === undefined ? [] : [[cell, text]];
  });
  if (found.length > 0) late.value = new Map([...late.value, ...found]);
  else fault.value = error instanceof Error ? error.message : 'It could not be looked at.';
}
watch([takesAbove, late], look);
onMounted(look);
async function undo(act: string): Promise<string> {
  const undone = await call(api.undoBlock, { courseId: props.courseId }, { act });
  emit('written');
  const stay = undone.left === 1 ? 'was changed later and stays as it is' : 'were changed later and stay as they are';
  if (undone.left > 0) notices.say(`${countOf(undone.left, 'cell')} of it ${stay}.`, null);
  return undone.act;
}
async function write(): Promise<void> {
  isBusy.value = true;
  const asked = written.value;
  try {
    const { act, changed } = await callSeen(api.changeBlock, { courseId: props.courseId }, toChange());
    emit('written');
    emit('close');
    let last = act;
    const turnBack = async (): Promise<void> => {
      last = await undo(last);
    };
    notices.say(`${countOf(changed, 'cell')} written.`, turnBack, turnBack);
  } catch (error) {
    refuse(error, asked);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <v-dialog :model-value="true" max-width="1080" @update:model-value="emit('close')">
    <div class="sheet pad block-dialog" role="dialog" :aria-label="wish.title">
      <h2>{{ wish.title }}</h2>
      <p aria-live="polite">
        <b>{{ countOf(written.length, 'cell') }}</b> {{ written.length === 1 ? 'changes' : 'change'
        }}<template v-if="wish.same > 0">, {{ wish.same }} hold it already</template
        ><template v-if="refused.length > 0"
          >, <b class="clay">{{ refused.length }} cannot be written</b> and
          {{ refused.length === 1 ? 'stays as it is' : 'stay as they are' }}</template
        >.
        <span v-if="wish.outside !== ''" class="clay">Left out: {{ wish.outside }}.</span>
      </p>
      <label v-if="above.length > 0" class="above"
        ><TickBox v-model="takesAbove" /> {{ countOf(above.length, 'score') }} above the points
        {{ above.length === 1 ? 'is' : 'are' }} meant: write {{ above.length === 1 ? 'it' : 'them' }} too</label
      >
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div class="sides">
        <div class="cells">
          <PlainTable>
            <thead>
              <tr>
                <th>Student</th>
                <th>Column</th>
                <th class="num">Now</th>
                <th class="num">Then</th>
              </tr>
            </thead>
            <tbody>
              <template v-for="c in shown" :key="`${c.row} ${c.column}`">
                <tr>
                  <td>{{ c.who.familyName }}, {{ c.who.givenName }}</td>
                  <td>{{ c.what.title }}</td>
                  <template v-if="c.judgement.kind !== 'refused' && reasonOf(c) === null"
                    ><td class="num">{{ c.judgement.was }}</td>
                    <td class="num">
                      <b>{{ c.judgement.will }}</b>
                    </td></template
                  ><template v-else
                    ><td class="num">stays</td>
                    <td class="num">
                      <s>{{ c.text }}</s>
                    </td></template
                  >
                </tr>
                <tr v-if="reasonOf(c) !== null || (c.judgement.kind === 'above' && !takesAbove)" class="why">
                  <td colspan="4" class="clay">
                    {{ reasonOf(c) ?? (c.judgement.kind === 'above' ? `${c.judgement.note}, so it is left out unless it is meant` : '') }}
                  </td>
                </tr>
              </template>
            </tbody>
          </PlainTable>
          <p v-if="wish.cells.length === 0" class="soft">Nothing of it would change anything.</p>
          <p v-if="shown.length < listed.length">
            <ActButton look="act" @click="showsAll = true">Show all {{ listed.length }} cells</ActButton>
          </p>
        </div>
        <div class="moves">
          <RippleView v-if="ripple" :ripple="ripple" :levels="ripple.levels" />
          <p v-else-if="written.length > 0 && fault === ''" class="soft">Working out whom it moves…</p>
          <p v-else class="soft">Nobody’s total moves.</p>
        </div>
      </div>
      <div class="acts">
        <ActButton v-if="written.length > 0" look="go" :disabled="isBusy" @click="write"
          >Write {{ countOf(written.length, 'cell') }}</ActButton
        >
        <ActButton look="quiet" @click="emit('close')">{{ written.length > 0 ? 'Leave it' : 'Close' }}</ActButton>
        <span v-if="written.length > 0" class="soft">can be undone in one step</span>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.block-dialog {
  max-height: 86vh;
  display: flex;
  flex-direction: column;
}
.sides {
  display: grid;
  grid-template-columns: 1fr 440px;
  gap: 30px;
  min-height: 0;
  overflow: hidden;
  margin: 10px 0;
}
.cells,
.moves {
  overflow: auto;
  min-height: 0;
}
.why td {
  border-top: 0 !important;
  padding-top: 0 !important;
}
.above {
  display: flex;
  align-items: center;
  gap: 5px;
}
</style>
