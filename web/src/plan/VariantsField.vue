<script setup lang="ts">
import type { PlanItem } from '@rosemary/api';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import DateField from '../parts/DateField.vue';
import { HttpProblem, send } from '../platform/http.ts';
import { useCourse } from '../shell/courseStore.ts';

const props = defineProps<{ item: PlanItem; canEdit: boolean }>();
const emit = defineEmits<{ saved: [item: PlanItem] }>();
const route = useRoute();
const course = useCourse();
const fault = ref<string | null>(null);
const free = computed(() => course.head?.sections.filter((s) => !props.item.variants.some((v) => v.sectionId === s.id)) ?? []);
type Variant = PlanItem['variants'][number];

async function save(variants: readonly Variant[]): Promise<void> {
  fault.value = null;
  try {
    const body = {
      variants: variants.map(({ sectionId, enrolmentId, opensAt, dueAt, closesAt }) => ({
        sectionId,
        enrolmentId,
        opensAt,
        dueAt,
        closesAt,
      })),
    };
    emit('saved', await send<PlanItem>('PUT', `/courses/${String(route.params.courseId)}/items/${props.item.id}/variants`, body));
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
  }
}
const change = (at: number, dueAt: string | null): Promise<void> =>
  save(props.item.variants.map((v, n) => (n === at ? { ...v, dueAt } : v)));
function add(event: Event): void {
  const select = event.target as HTMLSelectElement;
  if (select.value !== '')
    void save([
      ...props.item.variants,
      { sectionId: select.value, enrolmentId: null, name: '', opensAt: null, dueAt: props.item.dueAt, closesAt: null },
    ]);
  select.value = '';
}
</script>

<template>
  <div>
    <div v-for="(v, n) in item.variants" :key="v.name" class="variant">
      <DateField
        :model-value="v.dueAt"
        :label="`Due for ${v.name}`"
        :zone="course.zone"
        :is-fixed="!canEdit"
        @change="change(n, $event)"
      /><button
        v-if="canEdit"
        class="act"
        :aria-label="`No other date for ${v.name}`"
        @click="save(item.variants.filter((_, m) => m !== n))"
      >
        take away
      </button>
    </div>
    <select v-if="canEdit && free.length > 0" class="line-input soft" aria-label="Other date for a section" @change="add">
      <option value="">Another due date for…</option>
      <option v-for="s in free" :key="s.id" :value="s.id">{{ s.title }}</option>
    </select>
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
</style>
