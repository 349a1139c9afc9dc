<script setup lang="ts">
import type { StudentEntry } from '@rosemary/api';
import { dayAndTime, kindOfItem, pointsInWords, minutesInWords, ownReason } from '@rosemary/core';
import ItemGlyph from '../parts/ItemGlyph.vue';
defineProps<{ entry: StudentEntry; zone: string; now: number; showsCourse?: boolean }>();
</script>

<template>
  <li class="entry">
    <ItemGlyph :kind="entry.kind" />
    <div class="what">
      <router-link v-if="entry.visibility !== 'announced'" :to="`/courses/${entry.courseId}/study/${entry.id}`">{{
        entry.title
      }}</router-link><span v-else>{{ entry.title }}</span>
      <div class="label">
        {{
          [
            showsCourse ? entry.course : null,
            entry.visibility === 'announced' ? entry.waitsFor : null,
            entry.visibility === 'closed' ? 'closed' : null,
            entry.dueAt
              ? [`due ${dayAndTime(Date.parse(entry.dueAt), zone, now)}`, ownReason(entry.dueReason)].filter((w) => w !== '').join(', ')
              : null,
            minutesInWords(entry.estimatedMinutes),
            entry.unread > 0 ? `${entry.unread} new ${entry.unread === 1 ? 'post' : 'posts'}` : null,
            entry.possible > 0 ? pointsInWords(entry.possible) : null,
          ]
            .filter(Boolean)
            .join(' · ')
        }}
      </div>
    </div>
    <div class="state">
      <router-link v-if="entry.scoreText" :to="`/courses/${entry.courseId}/study/${entry.id}`">{{ entry.scoreText }}</router-link><span
        v-else-if="entry.isMissing && !entry.isHandedIn"
        class="clay"
        ><span class="ring" aria-hidden="true" /> missing</span
      ><span v-else-if="entry.isHandedIn" class="soft">{{ kindOfItem(entry.kind).handedInState }}</span
      ><span v-else-if="entry.isDone" class="soft">done</span><span v-else-if="entry.isOnPaper" class="soft">on paper</span>
    </div>
  </li>
</template>

<style scoped>
.entry {
  display: grid;
  grid-template-columns: 18px 1fr auto;
  gap: 10px;
  padding: 9px 0;
  border-top: 1px solid var(--frost);
  align-items: baseline;
}
.what a {
  font-size: 15px;
}
.state {
  white-space: nowrap;
}
.ring {
  display: inline-block;
  width: 10px;
  height: 10px;
  border: 1.4px dashed currentColor;
  border-radius: 50%;
  vertical-align: -1px;
}
</style>
