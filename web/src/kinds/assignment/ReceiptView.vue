<script setup lang="ts">
import type { CourseFile, LinkCopy } from '@rosemary/api';
import { dayAndTime, sizeInWords, countOf } from '@rosemary/core';
defineProps<{
  receipt: {
    readonly number: number;
    readonly handedInAt: string;
    readonly contentHash: string;
    readonly wordCount: number;
    readonly files: readonly CourseFile[];
    readonly lateText: string | null;
    readonly note: string;
    readonly link: string;
    readonly linkCopy?: LinkCopy | null;
  };
  zone: string;
  now: number;
  isNew: boolean;
}>();
</script>

<template>
  <section class="receipt" :role="isNew ? 'status' : undefined" aria-label="Receipt">
    <b>{{ isNew ? 'Handed in.' : 'Receipt' }}</b>
    <span
      >{{ dayAndTime(Date.parse(receipt.handedInAt), zone, now) }}{{ receipt.lateText ? `, ${receipt.lateText}` : ''
      }}{{ receipt.number > 1 ? `, attempt ${receipt.number}` : ''
      }}{{ receipt.wordCount > 0 ? `, ${countOf(receipt.wordCount, 'word')}` : '' }}</span
    >
    <p v-if="receipt.link">
      <a :href="receipt.link" target="_blank" rel="noreferrer noopener">{{ receipt.link }}</a>
      <span v-if="receipt.linkCopy" class="soft">
        {{ receipt.linkCopy.said }}
        {{
          receipt.linkCopy.state === 'kept'
            ? receipt.linkCopy.file
              ? 'A copy as of then is kept.'
              : ''
            : 'Whoever marks it may not be able to open it either: let everybody with the address read it, or hand in a file.'
        }}
      </span>
    </p>
    <ul v-if="receipt.files.length > 0">
      <li v-for="f in receipt.files" :key="f.id">
        <a :href="f.url" target="_blank" rel="noopener">{{ f.name }}</a> <span class="soft">{{ sizeInWords(f.size) }}</span>
      </li>
    </ul>
    <p v-if="receipt.note" class="soft">Your note: {{ receipt.note }}</p>
    <p class="label hash">content hash {{ receipt.contentHash }}</p>
  </section>
</template>

<style scoped>
.receipt {
  border-left: 3px solid var(--leaf);
  padding: 4px 0 4px 14px;
  margin-top: 16px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 4px 0;
}
.hash {
  overflow-wrap: anywhere;
}
</style>
