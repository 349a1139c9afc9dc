<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { onMounted, ref } from 'vue';
import { call } from '../../platform/call.ts';
import ItemSheet from '../ItemSheet.vue';
import ItemText from '../ItemText.vue';
import type { EditorEmits, EditorProps } from '../shownKind.ts';
import { useItemText } from '../useItemText.ts';
import PageSide from './PageSide.vue';

const props = defineProps<EditorProps>();
defineEmits<EditorEmits>();
const held = useItemText(
  () => `text ${props.base.itemId}`,
  (document, version, isReplacing) => call(api.savePage, props.base, { document, version, ...(isReplacing ? { isReplacing } : {}) }),
);
const written = ref<InstanceType<typeof ItemText> | null>(null);
const { text, savedTurn, isWorking } = held;
onMounted(() => held.begin(props.detail.text, props.detail.page?.version ?? 0));
</script>

<template>
  <ItemSheet>
    <slot name="head" />
    <ItemText ref="written" :held="held" label="Page" :base="base" :can-edit="canEdit" />
  </ItemSheet>
  <PageSide
    :base="base"
    :text="text"
    :can-edit="canEdit"
    :saved-turn="savedTurn"
    :is-working="isWorking"
    @put="(document, words) => written?.put(document, words)"
  />
</template>
