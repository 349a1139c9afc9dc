<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Plan } from '@rosemary/api';
import { computed, onMounted, ref } from 'vue';
import { call } from '../platform/call.ts';
import ItemGlyph from './ItemGlyph.vue';
import ActButton from './ActButton.vue';
import LineField from './fields/LineField.vue';

/** Where a link leads: an item of the course, found by letters of its title, or an address. */
const props = defineProps<{ href: string; courseId: string | null }>();
const emit = defineEmits<{ set: [href: string]; leave: [] }>();
const text = ref(props.href);
const plan = ref<Plan | null>(null);
onMounted(async () => {
  if (props.courseId !== null) plan.value = await call(api.getPlan, { courseId: props.courseId }).catch(() => null);
});
const items = computed(() => plan.value?.units.flatMap((u) => u.items) ?? []);
const present = computed(() => items.value.find((i) => props.href.endsWith(i.id)) ?? null);
const found = computed(() => {
  const letters = text.value.trim().toLowerCase();
  if (letters.length < 2 || /^[a-z]+:/.test(letters)) return [];
  return items.value.filter((i) => i.title.toLowerCase().includes(letters)).slice(0, 8);
});
function set(): void {
  const href = text.value.trim();
  emit('set', href === '' || /^([a-z]+:|\/|#)/i.test(href) ? href : `https://${href}`);
}
</script>

<template>
  <form class="sheet pad" @submit.prevent="set">
    <h2>Where does it lead?</h2>
    <p v-if="present" class="label">Now to “{{ present.title }}”.</p>
    <label class="field"
      ><span class="label"
        >{{ courseId === null ? 'Address' : 'Letters of an item’s title, or an address' }}; empty takes the link away</span
      ><LineField v-model="text" takes-focus placeholder="https://"
    /></label>
    <ul v-if="found.length > 0">
      <li v-for="i in found" :key="i.id">
        <ActButton look="act" @click="emit('set', `/courses/${courseId}/items/${i.id}`)">
          <ItemGlyph :kind="i.kind" /> {{ i.title }}
        </ActButton>
      </li>
    </ul>
    <p><ActButton type="submit" look="go">Set</ActButton> <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton></p>
  </form>
</template>

<style scoped>
.sheet {
  width: 460px;
  max-width: 92vw;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 12px;
}
li {
  padding: 2px 0;
}
</style>
