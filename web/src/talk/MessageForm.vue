<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Correspondent, MessageSent } from '@rosemary/api';
import { computed, onMounted, reactive, ref } from 'vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useDraft } from '../platform/kept.ts';
import { useCourse } from '../stores/courseStore.ts';
import ActButton from '../parts/ActButton.vue';
import TickBox from '../parts/fields/TickBox.vue';
import LineField from '../parts/fields/LineField.vue';
import TextField from '../parts/fields/TextField.vue';

interface Form {
  key: string;
  title: string;
  body: string;
  personIds: string[];
}
const props = withDefaults(
  defineProps<{
    base: { readonly courseId: string };
    people: readonly Correspondent[];
    chosen?: { personIds: readonly string[]; about: string } | null;
  }>(),
  { chosen: null },
);
const emit = defineEmits<{ sent: [sent: MessageSent]; leave: [] }>();
const course = useCourse();
const form = reactive<Form>({ key: crypto.randomUUID(), title: '', body: '', personIds: [] });
const letters = ref('');
const faults = ref<Record<string, string>>({});
const isBusy = ref(false);
/** What is typed stays in this browser until it is sent. */
const kept = useDraft<Form>(() => `message ${props.base.courseId}`);
onMounted(() => {
  const found = kept.find();
  if (found !== null) Object.assign(form, found);
  if (props.chosen === null) return;
  // Those chosen elsewhere take the place of whom a draft was for; its words stay.
  form.personIds = props.chosen.personIds.filter((id) => props.people.some((p) => p.personId === id));
  if (form.title === '') form.title = props.chosen.about;
  keep();
});
const keep = (): void => {
  kept.keep({ ...form, personIds: [...form.personIds] });
};
const isTeaching = computed(() => course.head?.role !== 'student');
const shown = computed(() => props.people.filter((p) => p.name.toLowerCase().includes(letters.value.trim().toLowerCase())));
const groups = computed(() =>
  [
    { title: 'Staff', people: shown.value.filter((p) => p.role !== 'student') },
    ...(course.head?.sections ?? []).map((s) => ({ title: s.title, people: shown.value.filter((p) => p.sectionId === s.id) })),
  ].filter((g) => g.people.length > 0),
);
/** All of a group, or none of it where all are chosen already. */
function turn(people: readonly Correspondent[]): void {
  const ids = people.map((p) => p.personId);
  const isWhole = ids.every((id) => form.personIds.includes(id));
  form.personIds = isWhole ? form.personIds.filter((id) => !ids.includes(id)) : [...new Set([...form.personIds, ...ids])];
  keep();
}
async function go(): Promise<void> {
  faults.value = {};
  isBusy.value = true;
  try {
    const sent = await call(api.sendMessage, props.base, { ...form, title: form.title.trim(), body: form.body.trim() });
    kept.forget();
    emit('sent', sent);
  } catch (error) {
    if (!(error instanceof HttpProblem)) throw error;
    const pointers = error.problem.pointers ?? [{ field: 'body', text: error.message }];
    faults.value = Object.fromEntries(pointers.map((p) => [p.field, p.text]));
  } finally {
    isBusy.value = false;
  }
}
async function leave(): Promise<void> {
  kept.forget();
  emit('leave');
}
</script>

<template>
  <form class="write" @submit.prevent="go" @input="keep" @change="keep">
    <h2>A message</h2>
    <p class="soft">
      {{
        isTeaching
          ? 'To several it goes to each alone: nobody sees who else has it, and the answers come to you.'
          : 'To several it is one conversation with all of them.'
      }}
    </p>
    <div class="to">
      <p class="label">To: {{ form.personIds.length }} of {{ people.length }}</p>
      <LineField v-if="people.length > 8" v-model="letters" placeholder="Some letters of a name" aria-label="Some letters of a name" />
      <div class="names" tabindex="0" role="group" aria-label="Whom it is to">
        <fieldset v-for="g in groups" :key="g.title">
          <legend>
            <ActButton look="act" @click="turn(g.people)">{{ g.title }}, all {{ g.people.length }}</ActButton>
          </legend>
          <label v-for="p in g.people" :key="p.personId"
            ><TickBox v-model="form.personIds" :value="p.personId" /> {{ p.name
            }}<span v-if="p.role !== 'student'" class="soft">, {{ p.role }}</span></label
          >
        </fieldset>
        <p v-if="people.length === 0" class="soft">There is nobody here to write to yet.</p>
      </div>
      <p v-if="faults.personIds" class="fault" role="alert">{{ faults.personIds }}</p>
    </div>
    <label class="field"><span class="label">Subject</span><LineField v-model="form.title" class="serif title" maxlength="160" /></label>
    <p v-if="faults.title" class="fault" role="alert">{{ faults.title }}</p>
    <label class="field"><span class="label">Message</span><TextField v-model="form.body" rows="7" maxlength="8000" /> </label>
    <p v-if="faults.body" class="fault" role="alert">{{ faults.body }}</p>
    <p class="acts">
      <ActButton type="submit" look="go" :disabled="isBusy">
        {{ form.personIds.length > 1 && isTeaching ? `Send to ${form.personIds.length}` : 'Send' }}
      </ActButton>
      <ActButton look="act" @click="leave">leave it</ActButton>
    </p>
  </form>
</template>

<style scoped>
.write {
  max-width: 640px;
}
.names {
  max-height: 210px;
  overflow: auto;
  border-bottom: 1px solid var(--frost);
  margin-bottom: 12px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 6px 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
}
legend {
  padding: 0;
}
.title {
  font-size: 18px;
}
.acts {
  display: flex;
  gap: 20px;
  align-items: center;
  margin-top: 12px;
}
.field {
  display: block;
  margin-top: 10px;
}
</style>
