<script setup lang="ts">
import type { NoticeChoice, NoticesView } from '@rosemary/api';
import PlainTable from '../parts/PlainTable.vue';
import TickBox from '../parts/fields/TickBox.vue';

/** Of what somebody is told, and where: here, or by mail as well. */
defineProps<{ choices: NoticesView['choices'] }>();
const emit = defineEmits<{ choose: [NoticeChoice] }>();
const WORDS = {
  announcement: 'announcements',
  reply: 'answers to what I wrote',
  returned: 'work that came back',
  review: 'works to review, and reviews of mine',
  message: 'messages',
} as const;
const checked = (event: Event): boolean => (event.target as HTMLInputElement).checked;
</script>

<template>
  <PlainTable look="bare" class="choices">
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
          <TickBox
            :model-value="c.isShown"
            :aria-label="`Here, of ${WORDS[c.kind]}`"
            @change="emit('choose', { ...c, isShown: checked($event) })"
          />
        </td>
        <td>
          <TickBox
            :model-value="c.isMailed"
            :aria-label="`By mail, of ${WORDS[c.kind]}`"
            @change="emit('choose', { ...c, isMailed: checked($event) })"
          />
        </td>
      </tr>
    </tbody>
  </PlainTable>
</template>

<style scoped>
.choices {
  margin: 4px 14px;
}
.choices :deep(table) {
  width: 100%;
}
.choices th {
  text-align: left;
  font-weight: 400;
  color: var(--soft);
}
</style>
