<script setup lang="ts">
/** Whether other students read and assess what is handed in or written here, and the way to how that is set. */
defineProps<{ base: { readonly courseId: string; readonly itemId: string }; isReviewed: boolean }>();
</script>

<template>
  <p>
    {{ isReviewed ? 'Students review each other.' : 'Nobody but those who mark.' }}
    <router-link :to="{ name: 'peer-setting', params: base }">{{ isReviewed ? 'How it is set' : 'Other students…' }}</router-link>
    <template v-if="isReviewed"> · <router-link :to="{ name: 'peer-board', params: base }">Watch the reviews</router-link></template>
  </p>
</template>
