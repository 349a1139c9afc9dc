<script setup lang="ts">
import { documentExtensions, type CourseFile } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { EditorContent, useEditor } from '@tiptap/vue-3';
import { computed, ref, watch } from 'vue';
import { upload } from '../platform/http.ts';
import { useNotices } from '../shell/noticeStore.ts';

const props = withDefaults(
  defineProps<{ modelValue: DocumentNode | null; label: string; courseId?: string | null; isSmall?: boolean; isFixed?: boolean }>(),
  { courseId: null, isSmall: false, isFixed: false },
);
const emit = defineEmits<{ change: [document: DocumentNode] }>();
const notices = useNotices();
const picker = ref<HTMLInputElement | null>(null);
const picture = ref<{ file: CourseFile; alt: string; caption: string } | null>(null);
const link = ref<string | null>(null);

const editor = useEditor({
  extensions: documentExtensions,
  content: (props.modelValue ?? '') as never,
  editable: !props.isFixed,
  editorProps: { attributes: { role: 'textbox', 'aria-multiline': 'true', 'aria-label': props.label } },
  onUpdate: ({ editor: e }) => {
    emit('change', e.getJSON() as DocumentNode);
  },
});
watch(
  () => props.isFixed,
  (fixed) => {
    editor.value?.setEditable(!fixed);
  },
);
/** A text that came from elsewhere (another version chosen) replaces what is shown; one's own typing does not come back. */
function replace(document: DocumentNode): void {
  editor.value?.commands.setContent(document as never, { emitUpdate: false });
}
defineExpose({
  replace,
  focus: () => {
    editor.value?.commands.focus();
  },
});

interface Tool {
  readonly word: string;
  readonly title: string;
  readonly isOn: boolean;
  readonly run: () => void;
}
const chain = () => editor.value!.chain().focus();
const tools = computed((): Tool[] => {
  const e = editor.value;
  if (!e) return [];
  const base: Tool[] = [
    { word: 'B', title: 'Bold (Ctrl B)', isOn: e.isActive('bold'), run: () => chain().toggleBold().run() },
    { word: 'I', title: 'Italic (Ctrl I)', isOn: e.isActive('italic'), run: () => chain().toggleItalic().run() },
    { word: 'Heading', title: 'Heading', isOn: e.isActive('heading'), run: () => chain().toggleHeading({ level: 2 }).run() },
    { word: 'List', title: 'List', isOn: e.isActive('bulletList'), run: () => chain().toggleBulletList().run() },
    { word: 'Numbers', title: 'Numbered list', isOn: e.isActive('orderedList'), run: () => chain().toggleOrderedList().run() },
    {
      word: 'Link',
      title: 'Link',
      isOn: e.isActive('link'),
      run: () => {
        link.value = String(e.getAttributes('link').href ?? '');
      },
    },
  ];
  if (props.isSmall) return base;
  return [
    ...base,
    {
      word: 'Caution',
      title: 'A passage set apart',
      isOn: e.isActive('callout'),
      run: () => (e.isActive('callout') ? chain().lift('callout').run() : chain().wrapIn('callout').run()),
    },
    { word: 'Quotation', title: 'Quotation', isOn: e.isActive('blockquote'), run: () => chain().toggleBlockquote().run() },
    { word: 'Code', title: 'Code', isOn: e.isActive('codeBlock'), run: () => chain().toggleCodeBlock().run() },
    {
      word: 'Table',
      title: 'Table of three by three',
      isOn: e.isActive('table'),
      run: () => chain().insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run(),
    },
    ...(props.courseId === null
      ? []
      : [
          {
            word: 'Picture',
            title: 'Picture with a text alternative',
            isOn: false,
            run: () => {
              picker.value?.click();
            },
          },
        ]),
  ];
});

async function choosePicture(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (file === undefined || props.courseId === null) return;
  try {
    picture.value = { file: await upload<CourseFile>(`/courses/${props.courseId}/files`, file, () => undefined), alt: '', caption: '' };
  } catch (error) {
    notices.sayFault(error);
  }
}
function insertPicture(): void {
  const chosen = picture.value;
  if (chosen === null || chosen.alt.trim() === '') return;
  chain()
    .insertContent({
      type: 'picture',
      attrs: { fileId: chosen.file.id, src: chosen.file.url, alt: chosen.alt.trim(), caption: chosen.caption.trim() },
    })
    .run();
  picture.value = null;
}
function setLink(): void {
  const href = (link.value ?? '').trim();
  if (href === '') chain().unsetLink().run();
  else
    chain()
      .setLink({ href: /^[a-z]+:/i.test(href) ? href : `https://${href}` })
      .run();
  link.value = null;
}
</script>

<template>
  <div class="editor">
    <div v-if="!isFixed" class="tools" role="toolbar" :aria-label="`Form of ${label}`">
      <button
        v-for="t in tools"
        :key="t.word"
        type="button"
        :title="t.title"
        :aria-pressed="t.isOn"
        :class="{ on: t.isOn, strong: t.word === 'B', slant: t.word === 'I' }"
        @click="t.run()"
      >
        {{ t.word }}</button><slot name="state" />
    </div>
    <EditorContent :editor="editor" class="document" :class="{ small: isSmall }" />
    <input ref="picker" type="file" accept="image/png,image/jpeg,image/webp" hidden @change="choosePicture" />
    <v-dialog :model-value="picture !== null" @update:model-value="picture = null"
      ><form v-if="picture" class="sheet pad" @submit.prevent="insertPicture">
        <h2>What does the picture show?</h2>
        <p class="soft">Someone who cannot see it hears this instead.</p>
        <img :src="picture.file.url" alt="" style="max-height: 160px; max-width: 100%; margin: 10px 0" />
        <label class="field"
          ><span class="label">Text alternative</span
          ><input v-model="picture.alt" class="line-input" maxlength="400" required autofocus /></label
        ><label class="field"
          ><span class="label">Caption, if it has one</span><input v-model="picture.caption" class="line-input" maxlength="300" /></label
        ><button class="go">Insert</button> <button type="button" class="quiet" @click="picture = null">Leave it</button>
      </form></v-dialog
    >
    <v-dialog :model-value="link !== null" @update:model-value="link = null"
      ><form v-if="link !== null" class="sheet pad" @submit.prevent="setLink">
        <h2>Where does it lead?</h2>
        <label class="field"
          ><span class="label">Address; empty takes the link away</span
          ><input v-model="link" class="line-input" autofocus placeholder="https://" /></label
        ><button class="go">Set</button> <button type="button" class="quiet" @click="link = null">Leave it</button>
      </form></v-dialog
    >
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  gap: 2px;
  align-items: baseline;
  flex-wrap: wrap;
  border-bottom: 1px solid var(--frost);
  padding-bottom: 5px;
  margin-bottom: 12px;
  position: sticky;
  top: 0;
  background: inherit;
  z-index: 2;
}
.tools button {
  border: 0;
  background: none;
  font:
    13.5px/20px 'Source Sans 3 Variable',
    sans-serif;
  color: var(--soft);
  padding: 2px 7px;
  min-width: 26px;
  min-height: 26px;
  border-radius: 3px;
  cursor: pointer;
}
.tools button:hover {
  background: var(--frost2);
}
.tools button.on {
  background: var(--bloom-wash);
  color: var(--bloom);
}
.strong {
  font-weight: 700 !important;
}
.slant {
  font-style: italic !important;
}
.small {
  font-size: 14px;
  line-height: 21px;
}
.small :deep(.ProseMirror) {
  min-height: 60px;
}
.editor {
  background: inherit;
}
</style>
