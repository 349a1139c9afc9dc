<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { AudienceName, RosterMember } from '@rosemary/api';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import ActionMenu from './ActionMenu.vue';

/** Chooses a section, a group or a student of the course; what is chosen is kept at once, and the list stands ready for the next. */
const props = withDefaults(
  defineProps<{
    label: string;
    words: string;
    taken: readonly { sectionId: string | null; enrolmentId: string | null; groupId?: string | null }[];
    withSections?: boolean;
  }>(),
  { withSections: true },
);
const emit = defineEmits<{ choose: [member: AudienceName] }>();
const route = useRoute();
const course = useCourse();
const sections = computed(() =>
  props.withSections ? (course.head?.sections.filter((s) => !props.taken.some((t) => t.sectionId === s.id)) ?? []) : [],
);
const groups = computed(() =>
  props.withSections ? (course.head?.groups.filter((g) => !props.taken.some((t) => t.groupId === g.id)) ?? []) : [],
);
/** The students are read when the list is first opened: most items need none of them. */
const students = ref<readonly RosterMember[] | null>(null);
async function readStudents(): Promise<void> {
  if (students.value !== null) return;
  const roster = await call(api.getRoster, { courseId: String(route.params.courseId) }).catch(() => null);
  students.value = roster?.members.filter((m) => m.role === 'student' && !m.isSample && m.withdrawnAt === null) ?? [];
}
const free = computed(() => (students.value ?? []).filter((m) => !props.taken.some((t) => t.enrolmentId === m.enrolmentId)));
function choose(chosen: string): void {
  const [what, id = ''] = chosen.split(' ');
  const member = free.value.find((m) => m.enrolmentId === id);
  const name =
    [...sections.value, ...groups.value].find((one) => one.id === id)?.title ?? (member ? `${member.familyName}, ${member.givenName}` : '');
  if (what === 'section') emit('choose', { sectionId: id, enrolmentId: null, groupId: null, name });
  else if (what === 'group') emit('choose', { sectionId: null, enrolmentId: null, groupId: id, name });
  else if (what === 'person') emit('choose', { sectionId: null, enrolmentId: id, groupId: null, name });
}
</script>

<template>
  <ActionMenu :words="words" :label="label" @open="readStudents" @choose="choose">
    <option v-for="s in sections" :key="s.id" :value="`section ${s.id}`">{{ s.title }}</option>
    <optgroup v-if="groups.length > 0" label="A group">
      <option v-for="g in groups" :key="g.id" :value="`group ${g.id}`">{{ g.title }}</option>
    </optgroup>
    <optgroup v-if="free.length > 0" label="One student">
      <option v-for="m in free" :key="m.enrolmentId" :value="`person ${m.enrolmentId}`">{{ m.familyName }}, {{ m.givenName }}</option>
    </optgroup>
  </ActionMenu>
</template>
