<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { OwnGroup } from '@rosemary/api';
import { ref } from 'vue';
import { dayAndTime } from '@rosemary/core';
import DocumentView from '../../parts/DocumentView.vue';
import { useCourse } from '../../stores/courseStore.ts';
import { call } from '../../platform/call.ts';
import { HttpProblem } from '../../platform/http.ts';
import { useNotices } from '../../stores/noticeStore.ts';
import FoldOut from '../../parts/FoldOut.vue';
import ActButton from '../../parts/ActButton.vue';

/** The group one works in, and where it may still be chosen, the choice. */
const props = defineProps<{ group: OwnGroup; courseId: string; isLooking: boolean }>();
const emit = defineEmits<{ changed: [] }>();
const notices = useNotices();
const course = useCourse();
const fault = ref('');
async function choose(groupId: string | null): Promise<void> {
  const before = props.group.groupId;
  fault.value = '';
  try {
    await call(api.joinGroup, { courseId: props.courseId, setId: props.group.setId }, { groupId });
    emit('changed');
    notices.say(groupId === null ? 'You are in no group now.' : 'You are in the group.', async () => {
      await call(api.joinGroup, { courseId: props.courseId, setId: props.group.setId }, { groupId: before });
      emit('changed');
    });
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not changed. Try again.';
  }
}
</script>

<template>
  <section class="own" aria-label="Your group">
    <p v-if="group.title">
      You work on this together: <b>{{ group.title }}</b><template v-if="group.members.length > 0"
        >, {{ group.members.join(', ') }}</template
      >. One draft, one hand-in, one mark.
    </p>
    <p v-else-if="group.choices.length === 0" class="soft">
      This is work for groups, and you are in none. You hand in by yourself unless your instructor puts you into one.
    </p>
    <FoldOut v-if="group.ownDraft">
      <template #summary>
        What you wrote before, by yourself<span v-if="group.ownDraft.savedAt" class="label">
          {{ dayAndTime(Date.parse(group.ownDraft.savedAt), course.zone, course.now) }}</span
        >
      </template>
      <p class="label">The group has one draft, and this is not in it. Take from it what you wish.</p>
      <DocumentView :document="group.ownDraft.document" />
    </FoldOut>
    <template v-if="group.choices.length > 0 && !isLooking">
      <p class="label">{{ group.title ? 'You may still change to another group.' : 'Choose the group you work in.' }}</p>
      <ul>
        <li v-for="g in group.choices" :key="g.id">
          <span
            ><b>{{ g.title }}</b> <span class="soft">{{ g.members.length === 0 ? 'nobody yet' : g.members.join(', ') }}</span></span
          >
          <ActButton v-if="g.id === group.groupId" look="act" @click="choose(null)">leave it</ActButton>
          <ActButton v-else look="act" :disabled="g.isFull" @click="choose(g.id)">{{ g.isFull ? 'full' : 'go in' }}</ActButton>
        </li>
      </ul>
    </template>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </section>
</template>

<style scoped>
.own {
  margin-top: 14px;
  border-left: 3px solid var(--leaf);
  padding-left: 12px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 4px 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 14px;
  border-bottom: 1px solid var(--frost2);
  padding: 2px 0;
}
</style>
