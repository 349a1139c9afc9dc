<script setup lang="ts">
import RippleView from '../parts/RippleView.vue';
import { useRipple } from '../stores/rippleStore.ts';
import ActButton from '../parts/ActButton.vue';

const ripple = useRipple();
</script>

<template>
  <v-dialog :model-value="ripple.answer !== null" width="560" @update:model-value="ripple.close(false)" @keydown.esc="ripple.close(false)">
    <div v-if="ripple.answer" class="sheet pad ripple" role="alertdialog" aria-label="Ripple of a change">
      <h2>{{ ripple.title }}</h2>
      <RippleView :ripple="ripple.answer" :levels="ripple.answer.levels">
        <ActButton look="go" @click="ripple.close(true)">Apply</ActButton>
        <ActButton look="quiet" @click="ripple.close(false)">Leave it</ActButton>
        <span v-if="ripple.canUndo" class="soft">can be undone</span>
      </RippleView>
    </div>
  </v-dialog>
</template>

<style scoped>
/* However long the list of who moves, Apply and Leave it stay in reach. */
.ripple :deep(.acts) {
  position: sticky;
  bottom: -18px;
  margin: 0 -26px -18px;
  padding: 12px 26px 18px;
  background: var(--paper);
  border-top: 1px solid var(--frost);
}
.ripple {
  max-height: 84vh;
  overflow: auto;
}
h2 {
  margin-bottom: 8px;
}
</style>
