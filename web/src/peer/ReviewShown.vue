<script setup lang="ts">
import type { PointAnswer, ReviewContent, ReviewNote, RubricView } from '@rosemary/api';
import { criterionPoints, formatPoints, mostOf } from '@rosemary/core';
import { computed } from 'vue';
import PlainTable from '../parts/PlainTable.vue';
import TakenUp from './TakenUp.vue';

/** A review as it is read: what was chosen at each criterion, the words, the notes. */
const props = defineProps<{
  review: ReviewContent & { readonly notes: readonly ReviewNote[] };
  form: RubricView;
  by: string;
  total: number | null;
  /** What its author took up, by identifier of note and criterion; null where that is not asked. */
  answered?: readonly string[] | null;
  /** Its author is reading, and can say so. */
  canAnswer?: boolean;
}>();
const emit = defineEmits<{ answer: [point: PointAnswer] }>();
const isAnswered = (id: string): boolean => props.answered?.includes(id) === true;
const lines = computed(() =>
  props.form.criteria.map((c) => {
    const points = criterionPoints(c, props.review);
    const level = c.levels.find((l) => l.id === props.review.choices[c.id]);
    const most = mostOf(c);
    return {
      id: c.id,
      title: c.title,
      points: most === 0 ? '' : points === null ? '·' : `${formatPoints(points)} of ${formatPoints(most)}`,
      descriptor: level?.descriptor ?? '',
      comment: props.review.comments[c.id] ?? '',
    };
  }),
);
</script>

<template>
  <div class="review-shown">
    <div class="head">
      <b>{{ by }}</b><span v-if="total !== null" class="num">{{ formatPoints(total) }}</span>
    </div>
    <PlainTable look="bare">
      <tbody>
        <tr v-for="l in lines" :key="l.id">
          <th scope="row">{{ l.title }}</th>
          <td class="num">{{ l.points }}</td>
          <td>
            <span class="soft">{{ l.descriptor }}</span>
            <p v-if="l.comment" class="words">{{ l.comment }}</p>
            <TakenUp
              v-if="l.comment && answered"
              :is-taken-up="isAnswered(l.id)"
              :can-say="canAnswer === true"
              @say="emit('answer', { point: { criterionId: l.id }, isAnswered: $event })"
            />
          </td>
        </tr>
      </tbody>
    </PlainTable>
    <p v-if="review.words" class="words">{{ review.words }}</p>
    <ul v-if="review.notes.length > 0" class="notes">
      <li v-for="n in review.notes" :key="n.id">
        <q class="soft">{{ n.quote }}</q> {{ n.body }}
        <TakenUp
          v-if="answered"
          :is-taken-up="isAnswered(n.id)"
          :can-say="canAnswer === true"
          @say="emit('answer', { point: { noteId: n.id }, isAnswered: $event })"
        />
      </li>
    </ul>
  </div>
</template>
