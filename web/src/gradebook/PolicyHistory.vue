<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PolicyPast } from '@rosemary/api';
import { dayAndTime, policyChangeWords } from '@rosemary/core';
import { ref } from 'vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import FoldOut from '../parts/FoldOut.vue';
import ActButton from '../parts/ActButton.vue';

/** Every change of the policy there was, each of which can be taken back; what that moves is shown before it is applied. */
const props = defineProps<{ base: { readonly courseId: string } }>();
const emit = defineEmits<{ takeBack: [past: PolicyPast] }>();
const course = useCourse();
const changes = ref<readonly PolicyPast[] | null>(null);
const fault = ref('');
const isOpen = ref(false);
async function load(isNowOpen: boolean): Promise<void> {
  isOpen.value = isNowOpen;
  if (!isNowOpen) return;
  try {
    ({ changes: changes.value } = await call(api.getPolicyHistory, props.base));
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
</script>

<template>
  <FoldOut class="past" @toggle="load">
    <template #summary>Earlier changes</template>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="isOpen && changes === null" class="skeleton" style="height: 18px" />
    <p v-else-if="changes?.length === 0" class="soft">The policy has not been changed yet.</p>
    <ul v-else-if="changes">
      <li v-for="c in changes" :key="c.id">
        {{ dayAndTime(Date.parse(c.at), course.zone, course.now) }}, {{ c.who }}: {{ policyChangeWords(c.before, c.after) }}
        <ActButton look="act" @click="emit('takeBack', c)">Undo this change</ActButton>
      </li>
    </ul>
  </FoldOut>
</template>

<style scoped>
.past {
  margin-top: 22px;
}
.past ul {
  padding-left: 18px;
}
</style>
