<script setup lang="ts">
import type { NoticeChoice, NoticesView } from '@rosemary/api';

/** Of what somebody is told, and where: here, or by mail as well. */
defineProps<{ choices: NoticesView['choices'] }>();
const emit = defineEmits<{ choose: [NoticeChoice] }>();
const WORDS = {
  announcement: 'announcements',
  reply: 'answers to what I wrote',
  returned: 'work that came back',
  message: 'messages',
} as const;
const checked = (event: Event): boolean => (event.target as HTMLInputElement).checked;
</script>

<template>
  <table class="choices">
    <thead>
      <tr>
        <th>of</th>
        <th>here</th>
        <th>by mail</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="c in choices" :key="c.kind">
        <td>{{ WORDS[c.kind] }}</td>
        <td>
          <input
            type="checkbox"
            :checked="c.isShown"
            :aria-label="`Here, of ${WORDS[c.kind]}`"
            @change="emit('choose', { ...c, isShown: checked($event) })"
          />
        </td>
        <td>
          <input
            type="checkbox"
            :checked="c.isMailed"
            :aria-label="`By mail, of ${WORDS[c.kind]}`"
            @change="emit('choose', { ...c, isMailed: checked($event) })"
          />
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.choices {
  margin: 4px 14px;
  width: calc(100% - 28px);
}
.choices th {
  text-align: left;
  font-weight: 400;
  color: var(--soft);
}
</style>
