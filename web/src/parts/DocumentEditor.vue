<script setup lang="ts">
import type { BlockName } from '@rosemary/api';
import { countOf, type DocumentNode } from '@rosemary/core';
import * as api from '@rosemary/api/endpoints';
import type { NodeSelection } from '@tiptap/pm/state';
import { EditorContent, useEditor } from '@tiptap/vue-3';
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import BlockForm from './blocks/BlockForm.vue';
import BlockGutter from './blocks/BlockGutter.vue';
import { typeAfterBlock } from './blocks/typeAfterBlock.ts';
import { editorExtensions } from './blocks/editorBlocks.ts';
import { cleanPasted, picturesIn } from './blocks/pasted.ts';
import { BARE_PICTURE } from './blocks/picture.ts';
import { callWithFile } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useCourse } from '../stores/courseStore.ts';
import LinkForm from './LinkForm.vue';
import ActButton from './ActButton.vue';
import FloatMenu from './FloatMenu.vue';
import ChoiceField from './fields/ChoiceField.vue';

const props = withDefaults(
  defineProps<{ modelValue: DocumentNode | null; label: string; courseId?: string | null; isSmall?: boolean; isFixed?: boolean }>(),
  { courseId: null, isSmall: false, isFixed: false },
);
const emit = defineEmits<{ change: [document: DocumentNode] }>();
const course = useCourse();
/** The form that is open: of a new block, or of one that stands at `pos`. */
const form = shallowRef<{ name: BlockName | 'picture'; attrs: object | null; pos: number | null; isDrawn?: boolean } | null>(null);
const link = ref<string | null>(null);

const editor = useEditor({
  extensions: editorExtensions,
  content: (props.modelValue ?? '') as never,
  editable: !props.isFixed,
  editorProps: {
    attributes: { role: 'textbox', 'aria-multiline': 'true', 'aria-label': props.label },
    transformPastedHTML: cleanPasted,
    handlePaste: (_, event) => takePictures(event.clipboardData),
    handleDrop: (_, event) => takePictures(event.dataTransfer),
    handleTextInput: (view, _from, _to, text) => typeAfterBlock(view, text),
  },
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
const notices = useNotices();
const isArriving = ref(false);
/** Pictures that are pasted or dropped become files of the course, and ask what they show; true where there were any. */
function takePictures(from: DataTransfer | null): boolean {
  const pictures = [...(from?.files ?? [])].filter((file) => file.type.startsWith('image/'));
  const [picture] = pictures;
  const lost = picture === undefined ? picturesIn(from?.getData('text/html') ?? '') : 0;
  if (lost > 0)
    notices.say(
      `${countOf(lost, 'picture')} of the other page cannot be read from here. Copy ${lost === 1 ? 'it' : 'each'} by itself, and paste again.`,
    );
  if (picture === undefined) return false;
  if (props.courseId === null || props.isSmall) notices.say('Pictures cannot stand in this text. Add them as files.');
  else void keepPicture(props.courseId, picture, pictures.length);
  return true;
}
async function keepPicture(courseId: string, picture: File, many: number): Promise<void> {
  isArriving.value = true;
  try {
    const { id, url } = await callWithFile(api.addFile, { courseId }, picture);
    form.value = { name: 'picture', attrs: { ...BARE_PICTURE, fileId: id, src: url }, pos: null };
    if (many > 1) notices.say('Several pictures were pasted. The first is here; paste the others one by one.');
  } catch (error) {
    notices.sayFault(error);
  } finally {
    isArriving.value = false;
  }
}
/** A text that came from elsewhere (another version chosen) replaces what is shown; one's own typing does not come back. */
function replace(document: DocumentNode): void {
  editor.value?.commands.setContent(document as never, { emitUpdate: false });
}
/** Puts a node where the selection is, in its place; gives the words that stood there. */
function putInLine(node: DocumentNode): string {
  const e = editor.value;
  if (!e) return '';
  const { from, to } = e.state.selection;
  const words = e.state.doc.textBetween(from, to, ' ');
  e.chain()
    .focus()
    .insertContent(node as never)
    .run();
  return words;
}
const selected = (): string => {
  const e = editor.value;
  return e ? e.state.doc.textBetween(e.state.selection.from, e.state.selection.to, ' ') : '';
};
defineExpose({
  replace,
  putInLine,
  selected,
  /** Puts the caret into the text, as soon as there is one: the editor is made after its place. */
  focus: () => {
    const stop = watch(
      editor,
      (made) => {
        if (made === undefined) return;
        made.commands.focus();
        void nextTick(() => {
          stop();
        });
      },
      { immediate: true },
    );
  },
});

interface Tool {
  readonly word: string;
  readonly title: string;
  readonly isOn: boolean;
  readonly run: () => void;
}
const chain = () => editor.value!.chain().focus();
/** What is inserted stands after what is selected and never in its place. */
function inserting() {
  const { selection } = editor.value!.state;
  const { to } = selection;
  if (selection.empty) return chain();
  return 'node' in selection && (selection as NodeSelection).node.isBlock
    ? chain()
        .insertContentAt(to, { type: 'paragraph' })
        .setTextSelection(to + 1)
    : chain().setTextSelection(to);
}
const tools = computed((): Tool[] => {
  const e = editor.value;
  if (!e) return [];
  const base: Tool[] = [
    { word: 'B', title: 'Bold (Ctrl B)', isOn: e.isActive('bold'), run: () => chain().toggleBold().run() },
    { word: 'I', title: 'Italic (Ctrl I)', isOn: e.isActive('italic'), run: () => chain().toggleItalic().run() },
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
  ];
});
const level = computed(() => [2, 3, 4].find((n) => editor.value?.isActive('heading', { level: n })) ?? 0);
function setLevel(next: number): void {
  if (next === 0) chain().setParagraph().run();
  else
    chain()
      .setHeading({ level: next as 2 | 3 | 4 })
      .run();
}
const TABLE_ACTS = [
  ['row above', () => chain().addRowBefore().run()],
  ['row below', () => chain().addRowAfter().run()],
  ['column left', () => chain().addColumnBefore().run()],
  ['column right', () => chain().addColumnAfter().run()],
  ['delete row', () => chain().deleteRow().run()],
  ['delete column', () => chain().deleteColumn().run()],
  ['delete table', () => chain().deleteTable().run()],
] as const;

type Insert = readonly [word: string, run: () => void];
const open = (name: BlockName | 'picture'): void => {
  form.value = { name, attrs: null, pos: null };
};
const inserts = computed((): Insert[] => [
  ['Formula', () => open('formula')],
  ['Formula in the line', () => open('formulaInline')],
  ['Table', () => inserting().insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run()],
  ...(props.courseId === null
    ? []
    : ([
        ['Question to check oneself', () => open('question')],
        ['Answer handed in here', () => open('response')],
        ['Picture', () => open('picture')],
        ['Diagram, drawn here', () => (form.value = { name: 'picture', attrs: null, pos: null, isDrawn: true })],
        ['Video or sound', () => open('media')],
        ['File, shown here', () => open('fileShown')],
        ['Page of another site', () => open('embed')],
      ] as Insert[])),
  ['Rule', () => inserting().setHorizontalRule().run()],
]);

/** A block says that it wants its form; a picture is changed by a double click. */
function editAt(pos: number): void {
  const node = editor.value?.state.doc.nodeAt(pos);
  if (node) form.value = { name: node.type.name as BlockName, attrs: { ...node.attrs }, pos };
}
function onEditBlock(event: Event): void {
  editAt((event as CustomEvent<{ pos: number }>).detail.pos);
}
function onDoubleClick(event: MouseEvent): void {
  const e = editor.value;
  if (!e || props.isFixed || !(event.target instanceof HTMLImageElement)) return;
  editAt(e.view.posAtDOM(event.target, 0));
}
function saveBlock(attrs: object): void {
  const wanted = form.value;
  form.value = null;
  if (wanted === null) return;
  const node = { type: wanted.name, attrs };
  if (wanted.pos === null) inserting().insertContent(node).run();
  else {
    const { state, view } = editor.value!;
    view.dispatch(state.tr.setNodeMarkup(wanted.pos, undefined, attrs));
  }
}
function setLink(href: string): void {
  if (href === '') chain().extendMarkRange('link').unsetLink().run();
  else chain().extendMarkRange('link').setLink({ href }).run();
  link.value = null;
}
</script>

<template>
  <div class="editor" @edit-block="onEditBlock">
    <div v-if="!isFixed" class="tools no-print" role="toolbar" :aria-label="`Form of ${label}`">
      <ChoiceField v-if="!isSmall" class="level" aria-label="Form of the paragraph" :model-value="level" @change="setLevel">
        <option :value="0">Text</option>
        <option :value="2">Heading</option>
        <option :value="3">Heading below</option>
        <option :value="4">Heading of a part</option>
      </ChoiceField>
      <ActButton
        v-for="t in tools"
        :key="t.word"
        :title="t.title"
        :aria-pressed="t.isOn"
        :class="{ on: t.isOn, strong: t.word === 'B', slant: t.word === 'I' }"
        @click="t.run()"
      >
        {{ t.word }}
      </ActButton>
      <FloatMenu v-if="!isSmall" location="bottom start"
        ><template #activator="{ props: opener }"><ActButton v-bind="opener" class="insert">Insert ▾</ActButton></template>
        <div class="sheet menu" role="menu">
          <ActButton v-for="[word, run] in inserts" :key="word" role="menuitem" @click="run()">{{ word }}</ActButton>
        </div></FloatMenu
      >
      <FloatMenu v-if="editor?.isActive('table')" location="bottom start"
        ><template #activator="{ props: opener }"><ActButton v-bind="opener">Table ▾</ActButton></template>
        <div class="sheet menu" role="menu">
          <ActButton v-for="[word, run] in TABLE_ACTS" :key="word" role="menuitem" @click="run()">{{ word }}</ActButton>
        </div></FloatMenu
      ><span v-if="isArriving" class="label" role="status">The picture is arriving…</span><slot name="state" />
    </div>
    <div class="body">
      <BlockGutter v-if="editor && !isFixed && !isSmall" :editor="editor" />
      <EditorContent
        :editor="editor"
        :lang="course.head?.language"
        class="document"
        :class="{ small: isSmall }"
        @dblclick="onDoubleClick"
      />
    </div>
    <v-dialog :model-value="form !== null" persistent no-click-animation max-width="1100" @update:model-value="form = null"
      ><BlockForm
        v-if="form"
        :name="form.name"
        :attrs="form.attrs"
        :is-drawn="form.isDrawn"
        :is-new="form.pos === null"
        :course-id="courseId ?? ''"
        @save="saveBlock"
        @leave="form = null"
    /></v-dialog>
    <v-dialog :model-value="link !== null" @update:model-value="link = null"
      ><LinkForm v-if="link !== null" :href="link" :course-id="courseId" @set="setLink" @leave="link = null"
    /></v-dialog>
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
.level {
  width: 104px;
  font-size: 13.5px;
  color: var(--soft);
}
.tools button {
  border: 0;
  background: none;
  font: 13.5px/20px var(--sans);
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
.editor,
.body {
  background: inherit;
  position: relative;
}
</style>
