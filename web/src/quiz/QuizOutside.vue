<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import { call } from '../platform/call.ts';
import { ref } from 'vue';
import TakeOutForm from '../exchange/TakeOutForm.vue';
import SharesForm from '../parts/SharesForm.vue';
import { useQuiz } from '../stores/quizStore.ts';
import ActButton from '../parts/ActButton.vue';

/** A quiz beyond its course: shared with colleagues, and taken out. */
defineProps<{ canEdit: boolean }>();
const quiz = useQuiz();
const form = ref<'share' | 'out' | null>(null);
const names = (canEdit: boolean): string =>
  (quiz.detail?.shares ?? [])
    .filter((s) => s.canEdit === canEdit)
    .map((s) => s.name)
    .join(', ');
</script>

<template>
  <section v-if="quiz.detail" class="outside">
    <h3>Beyond this course</h3>
    <p v-if="names(false)">Read by {{ names(false) }}.</p>
    <p v-if="names(true)">Its questions edited by {{ names(true) }}.</p>
    <p class="acts">
      <ActButton v-if="canEdit" look="act" @click="form = 'share'">share it with a colleague</ActButton>
      <ActButton look="act" @click="form = 'out'">Export a package</ActButton>
    </p>
    <v-dialog :model-value="form !== null" :max-width="form === 'share' ? 520 : 720" @update:model-value="form = null">
      <SharesForm
        v-if="form === 'share'"
        :title="quiz.detail.title"
        :shares="quiz.detail.shares"
        note="To read is to see its questions with their key, and to make a copy of the quiz. Nothing of any student is shared."
        :save="(change) => call(api.shareQuiz, quiz.base, change)"
        :reload="quiz.reload"
        @leave="form = null"
      />
      <TakeOutForm
        v-else-if="form === 'out'"
        :heading="`Take “${quiz.detail.title}” out`"
        :look="(version) => call(api.getQuizPackageLosses, { ...quiz.base, version })"
        :url="(version) => urlOf(api.getQuizPackage, { ...quiz.base, version })"
        :csv="null"
        @leave="form = null"
      />
    </v-dialog>
  </section>
</template>

<style scoped>
.outside {
  margin-top: 22px;
}
h3 {
  font-size: 15px;
  margin-bottom: 4px;
}
.acts {
  display: flex;
  gap: 16px;
}
</style>
