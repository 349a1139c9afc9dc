<script setup lang="ts">
import type { PlanItem, Roster, RosterMember } from '@rosemary/api';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import DateField from '../parts/DateField.vue';
import { HttpProblem, get, send } from '../platform/http.ts';
import { useCourse } from '../shell/courseStore.ts';
import { useRipple } from '../shell/rippleStore.ts';

const props = defineProps<{ item: PlanItem; canEdit: boolean }>();
const emit = defineEmits<{ saved: [item: PlanItem] }>();
const route = useRoute();
const course = useCourse();
const ripple = useRipple();
const turn = ref(0);
const fault = ref<string | null>(null);
const free = computed(() => course.head?.sections.filter((s) => !props.item.variants.some((v) => v.sectionId === s.id)) ?? []);
/** The students are read when the list is first opened: most items need none of them. */
const students = ref<readonly RosterMember[] | null>(null);
async function readStudents(): Promise<void> {
  if (students.value !== null) return;
  const roster = await get<Roster>(`/courses/${String(route.params.courseId)}/roster`).catch(() => null);
  students.value = roster?.members.filter((m) => m.role === 'student' && !m.isSample && m.withdrawnAt === null) ?? [];
}
const freeStudents = computed(() =>
  (students.value ?? []).filter((m) => !props.item.variants.some((v) => v.enrolmentId === m.enrolmentId)),
);
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
    const path = `/courses/${String(route.params.courseId)}/items/${props.item.id}/variants`;
    if (await ripple.confirm(`Other dates of “${props.item.title}”`, 'PUT', path, body))
      emit('saved', await send<PlanItem>('PUT', path, body));
    else turn.value += 1;
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
  }
}
const change = (at: number, dueAt: string | null): Promise<void> =>
  save(props.item.variants.map((v, n) => (n === at ? { ...v, dueAt } : v)));
function add(event: Event): void {
  const select = event.target as HTMLSelectElement;
  const [what, id = ''] = select.value.split(' ');
  const one = { name: '', opensAt: null, dueAt: props.item.dueAt, closesAt: null };
  if (what === 'section') void save([...props.item.variants, { ...one, sectionId: id, enrolmentId: null }]);
  else if (what === 'person') void save([...props.item.variants, { ...one, sectionId: null, enrolmentId: id }]);
  select.value = '';
}
</script>

<template>
  <div :key="turn">
    <div v-for="(v, n) in item.variants" :key="v.name" class="variant">
      <DateField
        :model-value="v.dueAt"
        :label="`Due for ${v.name}`"
        :zone="course.zone"
        :now="course.now"
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
    <select
      v-if="canEdit"
      class="line-input soft"
      aria-label="Another due date for a section or a student"
      @focus="readStudents"
      @pointerenter="readStudents"
      @change="add"
    >
      <option value="">Another due date for…</option>
      <option v-for="s in free" :key="s.id" :value="`section ${s.id}`">{{ s.title }}</option>
      <optgroup v-if="freeStudents.length > 0" label="One student">
        <option v-for="m in freeStudents" :key="m.enrolmentId" :value="`person ${m.enrolmentId}`">
          {{ m.familyName }}, {{ m.givenName }}
        </option>
      </optgroup>
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
