<script setup lang="ts">
import type { BankFolder } from '@rosemary/api';

/** The courses that use a bank, with who teaches them: each can be taken out, but the last. */
defineProps<{ courses: BankFolder['courses'] }>();
const emit = defineEmits<{ out: [BankFolder['courses'][number]] }>();
</script>

<template>
  <v-list density="compact" aria-label="Courses that use this bank" class="courses">
    <v-list-subheader>Courses that use this bank</v-list-subheader>
    <v-list-item v-for="c in courses" :key="c.courseId" :title="c.title" :subtitle="c.teachers.join(', ') || 'No instructor'">
      <template #append>
        <v-btn v-if="courses.length > 1" variant="text" size="small" @click="emit('out', c)">Remove</v-btn>
        <span v-else class="soft">The only one</span>
      </template>
    </v-list-item>
  </v-list>
</template>

<style scoped>
.courses {
  margin-top: 12px;
  background: none;
}
</style>
