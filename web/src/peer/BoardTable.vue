<script setup lang="ts">
import type { PeerBoard } from '@rosemary/api';
import { countOf, ratio, roundHalfUp } from '@rosemary/core';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import type { ShownLine } from './boardLines.ts';
import SpreadStrip from '../parts/charts/SpreadStrip.vue';

/** The board itself: a line for each student, walked by the arrows. */
const props = defineProps<{ board: PeerBoard; lines: readonly ShownLine[]; chosen: string | null }>();
const emit = defineEmits<{ choose: [enrolmentId: string]; step: [by: number] }>();
const points = (value: number | null): string => (value === null ? '·' : roundHalfUp(ratio(value, 1000), 1));
const stateOf = ({ line, work }: ShownLine): string =>
  [
    line.workId === null ? (line.isMissing ? 'missing' : 'not yet') : line.isLate ? 'late' : 'in',
    work?.isRevised === true ? 'revised' : '',
    work?.isShown === true ? 'shown' : '',
  ]
    .filter((word) => word !== '')
    .join(', ');
const givenWords = ({ gives }: ShownLine): string =>
  `${gives.filter((r) => r.state === 'given' || r.state === 'set aside').length} of ${countOf(gives.length, 'review')} given`;
const hasReviewing = (): boolean => props.board.reviewingPossible !== null;
</script>

<template>
  <PlainTable class="peer-table" @keydown.down.prevent="emit('step', 1)" @keydown.up.prevent="emit('step', -1)">
    <thead>
      <tr>
        <th scope="col">Student</th>
        <th scope="col">work</th>
        <th v-if="board.samples > 0" scope="col">practised</th>
        <th scope="col">reviews given</th>
        <th scope="col">what the others saw</th>
        <th scope="col" class="num">work</th>
        <th v-if="hasReviewing()" scope="col" class="num">reviewing</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in lines" :key="one.line.enrolmentId" :class="{ chosen: one.line.enrolmentId === chosen }">
        <th scope="row">
          <ActButton class="name" :aria-pressed="one.line.enrolmentId === chosen" @click="emit('choose', one.line.enrolmentId)">{{
            one.line.name
          }}</ActButton>
        </th>
        <td :class="one.line.isMissing || one.line.isLate ? 'clay' : 'soft'">{{ stateOf(one) }}</td>
        <td v-if="board.samples > 0" :class="one.line.practised < board.samples ? 'soft' : ''">
          {{ one.line.practised }} of {{ board.samples }}
        </td>
        <td>
          <span class="boxes" role="img" :aria-label="givenWords(one)"
            ><i
              v-for="r in one.gives"
              :key="r.id"
              :class="['box', r.state === 'given' || r.state === 'set aside' ? 'done' : '', r.state === 'missing' ? 'late' : '']"
          /></span>
        </td>
        <td><SpreadStrip :reviews="one.received" :most="board.formMost" :value="one.work?.value ?? null" /></td>
        <td class="num">{{ points(one.line.work) }}</td>
        <td v-if="hasReviewing()" class="num">{{ points(one.line.reviewing) }}</td>
      </tr>
    </tbody>
  </PlainTable>
</template>
