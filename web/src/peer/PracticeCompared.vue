<script setup lang="ts">
import type { ReviewContent, RubricView } from '@rosemary/api';
import { awayInWords, comparePractice, formatPoints } from '@rosemary/core';
import { computed } from 'vue';

/** A student’s assessment of a sample work beside the teacher’s, criterion by criterion. */
const props = defineProps<{ form: RubricView; mine: ReviewContent; teacher: ReviewContent }>();
const compared = computed(() => comparePractice(props.form.criteria, props.mine, props.teacher));
const lines = computed(() =>
  props.form.criteria.map((c) => {
    const line = compared.value.find((l) => l.criterionId === c.id);
    const said = (content: ReviewContent): string => c.levels.find((l) => l.id === content.choices[c.id])?.descriptor ?? '';
    return {
      id: c.id,
      title: c.title,
      away: line === undefined ? '' : awayInWords(line.away),
      isSame: line?.away.equals(0) === true,
      mine: line === undefined ? '' : formatPoints(line.mine),
      theirs: line === undefined ? '' : formatPoints(line.theirs),
      mySaid: said(props.mine),
      theirSaid: said(props.teacher),
      myWords: props.mine.comments[c.id] ?? '',
      theirWords: props.teacher.comments[c.id] ?? '',
    };
  }),
);
const same = computed(() => lines.value.filter((l) => l.isSame).length);
</script>

<template>
  <p>
    <b>{{ same }}</b> of {{ compared.length }} criteria as the teacher.
  </p>
  <section v-for="l in lines" :key="l.id" class="compared" :aria-label="l.title">
    <h3>{{ l.title }}</h3>
    <p v-if="l.away" :class="l.isSame ? 'soft' : 'clay'">{{ l.isSame ? 'As the teacher' : `You: ${l.away}` }}</p>
    <dl>
      <dt v-if="l.mine || l.myWords" class="label">You</dt>
      <dd v-if="l.mine || l.myWords">
        <b v-if="l.mine">{{ l.mine }}</b> <span class="soft">{{ l.mySaid }}</span>
        <p v-if="l.myWords" class="words">{{ l.myWords }}</p>
      </dd>
      <dt v-if="l.theirs || l.theirWords" class="label">Teacher</dt>
      <dd v-if="l.theirs || l.theirWords">
        <b v-if="l.theirs">{{ l.theirs }}</b> <span class="soft">{{ l.theirSaid }}</span>
        <p v-if="l.theirWords" class="words">{{ l.theirWords }}</p>
      </dd>
    </dl>
  </section>
  <section v-if="teacher.words" class="compared" aria-label="What the teacher says">
    <h3>What the teacher says</h3>
    <p class="words">{{ teacher.words }}</p>
  </section>
</template>
