<script setup lang="ts">
import type { BankFolder } from '@rosemary/api';

/** The courses that use a bank, with who teaches them: each can be taken out, but the last. */
defineProps<{ courses: BankFolder['courses'] }>();
const emit = defineEmits<{ out: [BankFolder['courses'][number]] }>();
</script>

<template>
  <v-list density="compact" aria-label="Courses that use this bank" class="courses">
    <v-list-subheader>Courses that use this bank</v-list-subheader>
    <v-list-item v-for="c in courses" :key="c.courseId" :subtitle="c.teachers.join(', ') || 'No instructor'">
      <template #title
        ><span class="name">{{ c.title }}</span></template
      >
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
.courses :deep(:is(.v-list-item, .v-list-subheader)) {
  padding-inline: 0 !important;
}
.name {
  white-space: normal;
}
</style>
