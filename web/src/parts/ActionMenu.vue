<script setup lang="ts" generic="T = string">
import { useSlots } from 'vue';
import ActButton from './ActButton.vue';
import { keyOf, readChoices } from './fields/choices.ts';
import FloatMenu from './FloatMenu.vue';

/** Several things that can be done, behind one button: each stands in it as `<option>`, and what is chosen is done at once. */
defineOptions({ inheritAttrs: false });
withDefaults(defineProps<{ words: string; look?: 'act' | 'quiet'; label?: string; disabled?: boolean }>(), {
  look: 'act',
  label: undefined,
});
const emit = defineEmits<{ choose: [value: T]; open: [] }>();
const slots = useSlots();
const acts = (): ReturnType<typeof readChoices> => readChoices(slots.default?.() as Parameters<typeof readChoices>[0]);
</script>

<template>
  <FloatMenu location="bottom start" @update:model-value="$event && emit('open')"
    ><template #activator="{ props }"
      ><ActButton v-bind="{ ...$attrs, ...props }" :look="look" class="action-menu" :aria-label="label" :disabled="disabled"
        >{{ words }} <span aria-hidden="true">▾</span></ActButton
      ></template
    >
    <div class="sheet menu" role="menu" :aria-label="label ?? words">
      <template v-for="(act, n) in acts()" :key="n"
        ><p v-if="act.isHeading" class="label heading">{{ act.title }}</p>
        <ActButton v-else role="menuitem" :disabled="act.isOff" :data-value="keyOf(act.value)" @click="emit('choose', act.value as T)">{{
          act.title
        }}</ActButton></template
      >
      <p v-if="acts().length === 0" class="label heading">Nothing to choose here.</p>
    </div>
  </FloatMenu>
</template>

<style scoped>
.heading {
  padding: 5px 14px;
}
.action-menu {
  white-space: nowrap;
}
</style>
