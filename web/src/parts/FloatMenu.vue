<script setup lang="ts">
import { computed, defineAsyncComponent, ref, type ComponentPublicInstance } from 'vue';

/**
 * What opens over the page from a button and closes by a click elsewhere, Esc or, unless it `stays`, by what is chosen in it.
 * What opens it is drawn at once; the menu itself is loaded when it is first asked for.
 */
withDefaults(defineProps<{ stays?: boolean; location?: 'bottom' | 'bottom start' | 'bottom end' | 'top' | 'top start' }>(), {
  location: 'bottom',
});
const isOpen = defineModel<boolean>({ default: false });
const Menu = defineAsyncComponent(() => import('vuetify/components/VMenu').then((m) => m.VMenu));
const button = ref<HTMLElement | null>(null);
const wasAsked = ref(false);
function open(isNow: boolean): void {
  wasAsked.value ||= isNow;
  isOpen.value = isNow;
}
const opener = computed(() => ({
  ref: (found: Element | ComponentPublicInstance | null) => {
    button.value = (found && '$el' in found ? (found.$el as HTMLElement) : found) as HTMLElement | null;
  },
  'aria-haspopup': 'menu' as const,
  'aria-expanded': isOpen.value,
  onClick: () => {
    open(!isOpen.value);
  },
  onKeydown: (event: KeyboardEvent) => {
    // From then on the menu itself listens.
    if (wasAsked.value || !['ArrowDown', 'ArrowUp'].includes(event.key)) return;
    event.preventDefault();
    open(true);
  },
}));
</script>

<template>
  <slot name="activator" :props="opener" />
  <component
    :is="Menu"
    v-if="(wasAsked || isOpen) && button"
    :model-value="isOpen"
    :activator="button"
    :open-on-click="false"
    :close-on-content-click="!stays"
    :location="location"
    @update:model-value="open"
    ><slot
  /></component>
</template>
