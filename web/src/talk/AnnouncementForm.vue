<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { call } from '../platform/call.ts';
import type { AnnouncementChange, Announcements, AnnouncementView } from '@rosemary/api';
import { plainText, type DocumentNode } from '@rosemary/core';
import { computed, defineAsyncComponent, onMounted, reactive, ref } from 'vue';
import { useRoute } from 'vue-router';
import DateField from '../parts/DateField.vue';
import DocumentEditor from '../parts/DocumentEditor.vue';
import { HttpProblem } from '../platform/http.ts';
import { useDraft } from '../platform/kept.ts';
import { useCourse } from '../stores/courseStore.ts';
import TickBox from '../parts/fields/TickBox.vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';

// Seldom needed, with what compares two texts.
const TwoVersions = defineAsyncComponent(() => import('../parts/TwoVersions.vue'));
interface Form {
  title: string;
  document: DocumentNode;
  publishAt: string | null;
  sectionIds: string[];
  tells: boolean;
}
const props = defineProps<{ base: { readonly courseId: string }; announcement: AnnouncementView | null }>();
const emit = defineEmits<{ saved: [list: Announcements, words: string]; leave: [] }>();
const route = useRoute();
const course = useCourse();
const editor = ref<InstanceType<typeof DocumentEditor> | null>(null);
const a = props.announcement;
const form = reactive<Form>({
  title: a?.title ?? '',
  document: a?.document ?? { type: 'doc', content: [{ type: 'paragraph' }] },
  publishAt: a?.isScheduled === true ? a.publishAt : null,
  sectionIds: a?.sections.map((s) => s.id) ?? [],
  tells: a?.tells ?? true,
});
let version = a?.version ?? 0;
const faults = ref<Record<string, string>>({});
const other = ref<AnnouncementView | null>(null);
const isBusy = ref(false);
/** What is typed stays in this browser until it is published: nothing goes out while it is being written. */
const kept = useDraft<Form>(() => `announcement ${String(route.params.courseId)} ${a?.id ?? 'new'}`);
onMounted(() => {
  const found = kept.find();
  if (found === null) return;
  Object.assign(form, found);
  editor.value?.replace(found.document);
});
const keep = (): void => {
  kept.keep({ ...form });
};
const sections = computed(() => course.head?.sections ?? []);
async function save(): Promise<void> {
  faults.value = {};
  isBusy.value = true;
  const body: AnnouncementChange = { version, ...form, title: form.title.trim() };
  try {
    const list = await (a === null
      ? call(api.addAnnouncement, props.base, body)
      : call(api.changeAnnouncement, { ...props.base, announcementId: a.id }, body));
    kept.forget();
    emit('saved', list, form.publishAt === null ? `“${body.title}” is published.` : `“${body.title}” will be published at its time.`);
  } catch (error) {
    if (!(error instanceof HttpProblem)) throw error;
    if (error.code === 'conflict') {
      other.value = error.problem.current as AnnouncementView;
      version = other.value.version;
    } else
      faults.value = Object.fromEntries(
        (error.problem.pointers ?? [{ field: 'title', text: error.message }]).map((p) => [p.field, p.text]),
      );
  } finally {
    isBusy.value = false;
  }
}
function takeTheirs(): void {
  const { value: next } = other;
  if (next === null) return;
  Object.assign(form, { title: next.title, document: next.document });
  editor.value?.replace(next.document);
  other.value = null;
  keep();
}
function leave(): void {
  kept.forget();
  emit('leave');
}
</script>

<template>
  <form class="write" @submit.prevent="save" @change="keep">
    <TwoVersions
      v-if="other"
      says="Somebody else changed this announcement after you opened it."
      :lines="[
        { what: 'Title', theirs: other.title, mine: form.title },
        { what: 'Text', theirs: plainText(other.document), mine: plainText(form.document) },
      ]"
      @theirs="takeTheirs"
      @mine="other = null"
      >Nothing goes out until you publish it again.</TwoVersions
    >
    <label class="field"
      ><span class="label">Title</span><LineField v-model="form.title" class="serif title" maxlength="160" takes-focus @input="keep"
    /></label>
    <p v-if="faults.title" class="fault" role="alert">{{ faults.title }}</p>
    <DocumentEditor
      ref="editor"
      :model-value="form.document"
      label="Announcement"
      is-small
      @change="
        form.document = $event;
        keep();
      "
    />
    <p v-if="faults.document" class="fault" role="alert">{{ faults.document }}</p>
    <div class="pair">
      <DateField
        :model-value="form.publishAt"
        label="Published; empty is now"
        time="08:00"
        :zone="course.zone"
        :now="course.now"
        :fault="faults.publishAt ?? null"
        @change="
          form.publishAt = $event;
          keep();
        "
      />
      <div v-if="sections.length > 1" class="field">
        <span class="label">For {{ form.sectionIds.length === 0 ? 'every section' : 'these sections only' }}</span>
        <label v-for="s in sections" :key="s.id" class="section"><TickBox v-model="form.sectionIds" :value="s.id" /> {{ s.title }}</label>
      </div>
    </div>
    <label><TickBox v-model="form.tells" /> tell them, here and by mail, as each of them chose</label>
    <p v-if="faults.sectionIds" class="fault" role="alert">{{ faults.sectionIds }}</p>
    <p class="acts">
      <ActButton type="submit" look="go" :disabled="isBusy">{{ form.publishAt === null ? 'Publish' : 'Publish at its time' }}</ActButton>
      <ActButton look="quiet" @click="leave">Leave it</ActButton>
    </p>
  </form>
</template>

<style scoped>
.write {
  background: var(--paper);
  border: 1px solid var(--frost);
  border-radius: 4px;
  padding: 16px 20px;
}
.title {
  font-size: 18px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 20px;
  margin-top: 14px;
}
.section {
  display: block;
}
.acts {
  margin: 12px 0 0;
}
</style>
