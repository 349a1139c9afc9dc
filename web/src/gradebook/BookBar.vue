<script setup lang="ts">
import type { Gradebook } from '@rosemary/api';
import ActButton from '../parts/ActButton.vue';
import FloatMenu from '../parts/FloatMenu.vue';
import LineField from '../parts/fields/LineField.vue';
import { computed } from 'vue';
import type { GridChoice } from './gridChoice.ts';
import { choiceWords } from './gridWords.ts';
import PastChoice from './PastChoice.vue';
import ViewChoice from './ViewChoice.vue';

/** What stands over the grid: finding somebody, adding a column, how it is looked at. */
const choice = defineModel<GridChoice>('choice', { required: true });
const letters = defineModel<string>('letters', { required: true });
const isFull = defineModel<boolean>('isFull', { required: true });
const props = defineProps<{ book: Gradebook; canEdit: boolean; groupTitle: string | null }>();
const emit = defineEmits<{ add: []; arrange: []; differences: [] }>();
const asOf = defineModel<string | null>('asOf', { required: true });
const leftOut = computed(() => choiceWords(choice.value, props.book, props.groupTitle));
const EVERYTHING = { categoryId: null, periodId: null, groupId: null, state: null };
</script>

<template>
  <span v-if="leftOut !== ''" class="soft"
    >{{ leftOut }} · <ActButton look="act" @click="choice = { ...choice, ...EVERYTHING }">show everything</ActButton></span
  >
  <LineField v-model="letters" class="letters" placeholder="Find a student" aria-label="Find a student in the gradebook" />
  <ActButton v-if="canEdit" look="act" @click="emit('add')">Add column</ActButton>
  <FloatMenu stays location="bottom end"
    ><template #activator="{ props: opener }"><ActButton v-bind="opener" look="act">View ▾</ActButton></template
    ><ViewChoice v-model="choice" :book="book" @arrange="emit('arrange')"
  /></FloatMenu>
  <FloatMenu stays location="bottom end"
    ><template #activator="{ props: opener }"><ActButton v-bind="opener" look="act">Past ▾</ActButton></template
    ><PastChoice v-model="asOf" @differences="emit('differences')"
  /></FloatMenu>
  <ActButton look="act" :aria-pressed="isFull" @click="isFull = !isFull">{{ isFull ? 'Leave full screen' : 'Full screen' }}</ActButton>
</template>

<style scoped>
.letters {
  width: 150px;
}
</style>
