<script setup lang="ts">
import type { ReviewContent, ReviewNote, RubricView } from '@rosemary/api';
import { criterionPoints, formatPoints, mostOf } from '@rosemary/core';
import { computed } from 'vue';
import PlainTable from '../parts/PlainTable.vue';

/** A review as it is read: what was chosen at each criterion, the words, the notes. */
const props = defineProps<{
  review: ReviewContent & { readonly notes: readonly ReviewNote[] };
  form: RubricView;
  by: string;
  total: number | null;
}>();
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
          </td>
        </tr>
      </tbody>
    </PlainTable>
    <p v-if="review.words" class="words">{{ review.words }}</p>
    <ul v-if="review.notes.length > 0" class="notes">
      <li v-for="n in review.notes" :key="n.id">
        <q class="soft">{{ n.quote }}</q> {{ n.body }}
      </li>
    </ul>
  </div>
</template>
