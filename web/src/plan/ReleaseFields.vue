<script setup lang="ts">
import type { ItemChange, PlanItem } from '@rosemary/api';
import { computed } from 'vue';
import DateField from '../parts/DateField.vue';
import { useCourse } from '../stores/courseStore.ts';
import AudienceField from './AudienceField.vue';
import HandOpeningField from './HandOpeningField.vue';
import OpeningField from './OpeningField.vue';
import FoldOut from '../parts/FoldOut.vue';
import TickBox from '../parts/fields/TickBox.vue';

/** Who sees an item, from when on, and what must be so before it opens. */
const props = defineProps<{
  item: PlanItem;
  others: readonly PlanItem[];
  base: { readonly courseId: string };
  canEdit: boolean;
  faults: Readonly<Record<string, string>>;
  isShown: boolean;
}>();
const emit = defineEmits<{ set: [change: Omit<ItemChange, 'version'>]; saved: [item: PlanItem] }>();
const course = useCourse();
const says = computed(() => {
  const { item } = props;
  if (item.isStaffOnly) return 'staff only';
  const rules = item.opening.rules.length;
  return [
    item.audience.length === 0 ? 'everyone' : item.audience.map((a) => a.name).join(', '),
    rules === 0 ? null : rules === 1 ? 'one opening rule' : `${rules} opening rules`,
    item.handOpenings.length === 0 ? null : 'opened by hand',
  ]
    .filter(Boolean)
    .join(' · ');
});
</script>

<template>
  <FoldOut class="more" :open="isShown">
    <template #summary>
      Who sees it, and when <span class="label">{{ says }}</span>
    </template>
    <label class="check"
      ><TickBox
        :model-value="item.isStaffOnly"
        :disabled="!canEdit"
        @change="emit('set', { isStaffOnly: ($event.target as HTMLInputElement).checked })"
      />
      for staff only; it can never be opened</label
    >
    <p v-if="faults.isStaffOnly" class="fault" role="alert">{{ faults.isStaffOnly }}</p>
    <template v-if="!item.isStaffOnly">
      <AudienceField
        :audience="item.audience"
        :can-edit="canEdit"
        :fault="faults.audience ?? null"
        @change="emit('set', { audience: $event })"
      />
      <DateField
        :model-value="item.announcedAt"
        data-field="announcedAt"
        label="Announced from; empty is as soon as it is no draft"
        time="08:00"
        :zone="course.zone"
        :now="course.now"
        :fault="faults.announcedAt ?? null"
        :is-fixed="!canEdit"
        @change="emit('set', { announcedAt: $event })"
      />
      <OpeningField
        :opening="item.opening"
        :others="others.filter((o) => o.id !== item.id && !o.isStaffOnly)"
        :zone="course.zone"
        :now="course.now"
        :can-edit="canEdit"
        :fault="faults.opening ?? null"
        @change="emit('set', { opening: $event })"
      />
      <HandOpeningField
        :item="item"
        :base="base"
        :zone="course.zone"
        :now="course.now"
        :can-edit="canEdit"
        @saved="emit('saved', $event)"
      />
    </template>
  </FoldOut>
</template>

<style scoped>
.more {
  border-top: 1px solid var(--frost);
  padding: 8px 0;
  margin-top: 4px;
}
:deep(summary) {
  margin-bottom: 8px;
}
.check {
  display: block;
  margin-bottom: 10px;
}
</style>
