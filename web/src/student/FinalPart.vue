<script setup lang="ts">
import type { OwnFinal } from '@rosemary/api';
import { dayAndTime, writeDate } from '@rosemary/core';
import { useRouter } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import { useCourse } from '../stores/courseStore.ts';

/** The final grade, once it is shown; a question about it is a conversation with the instructor of record. */
const props = defineProps<{ courseId: string; final: OwnFinal }>();
const course = useCourse();
const router = useRouter();
const ask = (): void =>
  void router.push({
    name: 'messages',
    params: { courseId: props.courseId },
    state: { to: props.final.askId === null ? [] : [props.final.askId], about: 'Final grade' },
  });
const day = (iso: string): string => writeDate(Date.parse(iso), 'UTC', true);
</script>

<template>
  <section class="side-note final" aria-label="Final grade">
    <p>
      Final grade: <b class="serif">{{ final.letter ?? `${final.percent} %` }}</b><template
        v-if="final.letter !== null && final.percent !== null"
        >, {{ final.percent }} %</template
      >.
      <span v-if="final.kind === 'calculated'" class="soft"
        >Calculated from what is released to you; your instructor has not agreed it here.</span
      ><span v-else-if="final.at" class="soft"
        >Agreed {{ dayAndTime(Date.parse(final.at), course.zone, course.now) }}. How it came about stands below.</span
      >
      <template v-if="final.expiresOn">
        It may be finished until {{ day(final.expiresOn) }}, and becomes {{ final.lapsesTo }} then.</template
      >
    </p>
    <ActButton v-if="final.askId" look="act" @click="ask">Ask about this grade</ActButton>
  </section>
</template>

<style scoped>
.final b {
  font-size: 22px;
}
</style>
