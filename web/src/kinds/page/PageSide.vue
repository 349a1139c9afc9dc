<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PageTemplate, PageVersion } from '@rosemary/api';
import { dayAndTime, plainText, type DocumentNode } from '@rosemary/core';
import { computed, onMounted, ref, watch } from 'vue';
import DocumentView from '../../parts/DocumentView.vue';
import { call } from '../../platform/call.ts';
import { useCourse } from '../../stores/courseStore.ts';
import { useNotices } from '../../stores/noticeStore.ts';
import ActButton from '../../parts/ActButton.vue';
import LineField from '../../parts/fields/LineField.vue';

/** Beside a page: its earlier versions, and the teacher's own templates. */
const props = defineProps<{
  base: { readonly courseId: string; readonly itemId: string };
  text: DocumentNode | null;
  canEdit: boolean;
  savedTurn: number;
  /** The last version is not published. */
  isWorking: boolean;
}>();
const emit = defineEmits<{ put: [document: DocumentNode, words: string] }>();
const course = useCourse();
const notices = useNotices();
const versions = ref<readonly PageVersion[] | null>(null);
const templates = ref<readonly PageTemplate[]>([]);
const looked = ref<{ version: PageVersion; document: DocumentNode } | null>(null);
const naming = ref<string | null>(null);
const isEmpty = computed(() => plainText(props.text).trim() === '');

async function readVersions(): Promise<void> {
  versions.value = (await call(api.getPageVersions, props.base).catch(() => ({ versions: [] }))).versions;
}
async function readTemplates(): Promise<void> {
  templates.value = (await call(api.listTemplates, {}).catch(() => ({ templates: [] }))).templates;
}
onMounted(() => Promise.all([readVersions(), readTemplates()]));
watch(() => props.savedTurn, readVersions);

async function look(version: PageVersion): Promise<void> {
  try {
    const { document } = await call(api.getPageVersion, { ...props.base, number: String(version.number) });
    looked.value = { version, document };
  } catch (error) {
    notices.sayFault(error);
  }
}
const when = (at: string): string => dayAndTime(Date.parse(at), course.zone, course.now);
function restore(): void {
  if (looked.value === null) return;
  emit('put', looked.value.document, `The version of ${when(looked.value.version.savedAt)} is back.`);
  looked.value = null;
}
async function keepTemplate(): Promise<void> {
  const title = (naming.value ?? '').trim();
  if (title === '' || props.text === null) return;
  naming.value = null;
  try {
    await call(api.addTemplate, {}, { title, document: props.text });
    await readTemplates();
    notices.say(`“${title}” is saved as a template.`);
  } catch (error) {
    notices.sayFault(error);
  }
}
async function take(template: PageTemplate): Promise<void> {
  try {
    const { document } = await call(api.useTemplate, { courseId: props.base.courseId, templateId: template.id });
    emit('put', document, `The page is begun from “${template.title}”.`);
  } catch (error) {
    notices.sayFault(error);
  }
}
async function dropTemplate(template: PageTemplate): Promise<void> {
  await call(api.removeTemplate, { templateId: template.id });
  await readTemplates();
  notices.say(`The template “${template.title}” is deleted.`, async () => {
    await call(api.restoreTemplate, { templateId: template.id });
    await readTemplates();
  });
}
const print = (): void => {
  window.print();
};
</script>

<template>
  <aside class="inspector no-print" aria-label="Page">
    <h3>Page</h3>
    <p><ActButton look="act" @click="print">Print, or save as PDF</ActButton></p>
    <template v-if="canEdit">
      <section>
        <h4 class="label">Templates</h4>
        <p v-if="templates.length === 0" class="soft">Pages you save as templates are listed here, to begin others from.</p>
        <ul class="bare-list">
          <li v-for="t in templates" :key="t.id">
            <ActButton look="act" @click="take(t)"> {{ isEmpty ? 'Begin from' : 'Replace by' }} {{ t.title }}</ActButton
            ><ActButton look="act" class="soft" :aria-label="`Delete the template ${t.title}`" @click="dropTemplate(t)">delete</ActButton>
          </li>
        </ul>
        <form v-if="naming !== null" @submit.prevent="keepTemplate">
          <LineField v-model="naming" maxlength="160" aria-label="Title of the template" placeholder="Title of the template" takes-focus />
          <ActButton type="submit" look="quiet">Keep</ActButton> <ActButton look="act" @click="naming = null">leave it</ActButton>
        </form>
        <p v-else-if="!isEmpty"><ActButton look="act" @click="naming = ''">Save copy as template…</ActButton></p>
      </section>
    </template>
    <section>
      <h4 class="label">Versions</h4>
      <p v-if="versions?.length === 0" class="soft">Every sitting at this page will stand here as a version, to look at and to restore.</p>
      <ul class="bare-list">
        <li v-for="(v, n) in versions ?? []" :key="v.number">
          <ActButton look="act" @click="look(v)">{{ when(v.savedAt) }}</ActButton><span class="label"
            >{{ n > 0 ? '' : isWorking ? 'not published · ' : 'now · ' }}{{ v.savedBy }} · {{ v.words }}
            {{ v.words === 1 ? 'word' : 'words' }}</span
          >
        </li>
      </ul>
    </section>
    <v-dialog :model-value="looked !== null" width="760" @update:model-value="looked = null">
      <div v-if="looked" class="sheet pad old">
        <h2>{{ when(looked.version.savedAt) }}, {{ looked.version.savedBy }}</h2>
        <DocumentView :document="looked.document" />
        <p class="acts">
          <ActButton v-if="canEdit" look="go" @click="restore">Restore this version</ActButton>
          <ActButton look="quiet" @click="looked = null">Close</ActButton>
          <span v-if="canEdit" class="soft">What stands now stays among the versions.</span>
        </p>
      </div>
    </v-dialog>
  </aside>
</template>

<style scoped>
section {
  margin-top: 16px;
  border-top: 1px solid var(--frost);
  padding-top: 8px;
}
h4 {
  margin: 0 0 4px;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 4px 12px;
  padding: 3px 0;
  flex-wrap: wrap;
}
.old {
  max-height: 84vh;
  overflow: auto;
}
.acts {
  position: sticky;
  bottom: -18px;
  background: var(--paper);
  padding: 10px 0 4px;
}
</style>
