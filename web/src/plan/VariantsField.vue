<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { AudienceName, PlanItem } from '@rosemary/api';
import { ref } from 'vue';
import { useRoute } from 'vue-router';
import DateField from '../parts/DateField.vue';
import WhomSelect from '../parts/WhomSelect.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useCourse } from '../stores/courseStore.ts';
import ActButton from '../parts/ActButton.vue';
import FoldOut from '../parts/FoldOut.vue';

const props = defineProps<{ item: PlanItem; canEdit: boolean }>();
const emit = defineEmits<{ saved: [item: PlanItem] }>();
const route = useRoute();
const course = useCourse();
const turn = ref(0);
const fault = ref<string | null>(null);
type Variant = PlanItem['variants'][number];

async function save(variants: readonly Variant[]): Promise<void> {
  fault.value = null;
  try {
    const body = {
      variants: variants.map(({ sectionId, enrolmentId, groupId, opensAt, dueAt, closesAt }) => ({
        sectionId,
        enrolmentId,
        groupId,
        opensAt,
        dueAt,
        closesAt,
      })),
    };
    const at = { courseId: String(route.params.courseId), itemId: props.item.id };
    const saved = await call(api.saveVariants, at, body, `Other dates of “${props.item.title}”`);
    if (saved === null) turn.value += 1;
    else emit('saved', saved);
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
  }
}
function add(member: AudienceName): void {
  void save([...props.item.variants, { ...member, opensAt: null, dueAt: props.item.dueAt, closesAt: null }]);
}
const setOne = (at: number, field: 'opensAt' | 'dueAt' | 'closesAt', value: string | null): Promise<void> =>
  save(props.item.variants.map((v, n) => (n === at ? { ...v, [field]: value } : v)));
</script>

<template>
  <div :key="turn">
    <div v-for="(v, n) in item.variants" :key="v.sectionId ?? v.enrolmentId ?? v.groupId ?? ''" class="variant">
      <DateField
        :model-value="v.dueAt"
        :label="`Due for ${v.name}`"
        :zone="course.zone"
        :now="course.now"
        :is-fixed="!canEdit"
        @change="setOne(n, 'dueAt', $event)"
      /><ActButton
        v-if="canEdit"
        look="act"
        :aria-label="`No other date for ${v.name}`"
        @click="save(item.variants.filter((_, m) => m !== n))"
        >Remove</ActButton
      >
      <FoldOut class="others" :open="v.opensAt !== null || v.closesAt !== null">
        <template #summary
          ><span class="label">Opening and closing for {{ v.name }}</span></template
        >
        <DateField
          :model-value="v.opensAt"
          :label="`Opens for ${v.name}`"
          time="08:00"
          :zone="course.zone"
          :now="course.now"
          :is-fixed="!canEdit"
          @change="setOne(n, 'opensAt', $event)"
        /><DateField
          :model-value="v.closesAt"
          :label="`Closes for ${v.name}`"
          :zone="course.zone"
          :now="course.now"
          :is-fixed="!canEdit"
          @change="setOne(n, 'closesAt', $event)"
        />
      </FoldOut>
    </div>
    <WhomSelect
      v-if="canEdit"
      label="Another due date for a section, a group or a student"
      words="Other dates for…"
      :taken="item.variants"
      @choose="add"
    />
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.variant {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  align-items: center;
}
.others {
  grid-column: 1 / -1;
  margin: -6px 0 10px;
}
</style>
