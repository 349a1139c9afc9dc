<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue';
defineProps<{ keys: readonly (readonly [string, string])[] }>();
const isOpen = ref(false);
function onKey(event: KeyboardEvent): void {
  const target = event.target as HTMLElement;
  if (event.key !== '?' || target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName)) return;
  isOpen.value = true;
}
onMounted(() => {
  document.addEventListener('keydown', onKey);
});
onBeforeUnmount(() => {
  document.removeEventListener('keydown', onKey);
});
</script>

<template>
  <span
    ><button class="act soft-act" title="Keys of this view (?)" @click="isOpen = true">keys</button>
    <v-dialog v-model="isOpen"
      ><div class="sheet pad">
        <h2>Keys of this view</h2>
        <table class="plain" style="margin: 8px 0 14px">
          <tbody>
            <tr v-for="[key, what] in keys" :key="key">
              <td style="width: 120px">
                <kbd>{{ key }}</kbd>
              </td>
              <td>{{ what }}</td>
            </tr>
            <tr>
              <td><kbd>Ctrl K</kbd></td>
              <td>find or do anything</td>
            </tr>
            <tr>
              <td><kbd>?</kbd></td>
              <td>these keys</td>
            </tr>
          </tbody>
        </table>
        <button class="go" @click="isOpen = false">Close</button>
      </div></v-dialog
    >
  </span>
</template>

<style scoped>
.soft-act {
  color: var(--soft);
  font-size: 13px;
}
</style>
