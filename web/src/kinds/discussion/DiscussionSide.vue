<script setup lang="ts">
import type { DiscussionView } from '@rosemary/api';
import { pointsInWords } from '@rosemary/core';
import { useRoute } from 'vue-router';
import TickBox from '../../parts/fields/TickBox.vue';
import PeerLink from '../../peer/PeerLink.vue';
import PlainTable from '../../parts/PlainTable.vue';

/** Beside a discussion: how it is held, and who has written. */
defineProps<{
  view: DiscussionView;
  canEdit: boolean;
  counts: boolean;
  base: { readonly courseId: string; readonly itemId: string };
  isReviewed: boolean;
}>();
const emit = defineEmits<{ set: [change: { isPostFirst?: boolean; isClosed?: boolean }] }>();
const route = useRoute();
const checked = (event: Event): boolean => (event.target as HTMLInputElement).checked;
</script>

<template>
  <aside class="inspector" aria-label="Discussion">
    <h3>Discussion</h3>
    <p>
      <label
        ><TickBox :model-value="view.isPostFirst" :disabled="!canEdit" @change="emit('set', { isPostFirst: checked($event) })" /> one writes
        first, then sees the others</label
      >
    </p>
    <p>
      <label
        ><TickBox :model-value="view.isClosed" :disabled="!canEdit" @change="emit('set', { isClosed: checked($event) })" /> closed: read,
        not written</label
      >
    </p>
    <p class="soft">
      <template v-if="counts && view.possible > 0"
        >Worth {{ pointsInWords(view.possible) }}; a post counts as handing in.
        <router-link :to="{ name: 'gradebook', params: { courseId: route.params.courseId } }"
          >Scores are typed in the gradebook.</router-link
        ></template
      >
      <template v-else>It counts toward no grade. Points and “counts” are set in the Plan.</template>
    </p>
    <h3>Who assesses it</h3>
    <PeerLink :base="base" :is-reviewed="isReviewed" />
    <template v-if="view.people.length > 0">
      <PlainTable>
        <thead>
          <tr>
            <th>Who has written</th>
            <th class="num">posts</th>
            <th class="num">words</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in view.people" :key="p.enrolmentId">
            <td>{{ p.name }}</td>
            <td class="num">{{ p.posts }}</td>
            <td class="num">{{ p.words }}</td>
          </tr>
        </tbody>
      </PlainTable>
    </template>
    <p v-else class="soft">Who has written will stand here, with how much.</p>
  </aside>
</template>
