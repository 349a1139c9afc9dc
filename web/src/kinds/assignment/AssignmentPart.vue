<script setup lang="ts">
import type { ItemChange, PlanItem } from '@rosemary/api';
import LateField from './LateField.vue';
import TickBox from '../../parts/fields/TickBox.vue';

defineProps<{ item: PlanItem; canEdit: boolean }>();
const emit = defineEmits<{ set: [change: Omit<ItemChange, 'version'>] }>();
</script>

<template>
  <LateField :late="item.late" :can-edit="canEdit" @set="emit('set', { late: $event })" />
  <p class="checks">
    <label
      ><TickBox
        :model-value="item.showsStatistics"
        @change="emit('set', { showsStatistics: ($event.target as HTMLInputElement).checked })"
      />
      students see how the class did, from five results on</label
    >
  </p>
</template>
