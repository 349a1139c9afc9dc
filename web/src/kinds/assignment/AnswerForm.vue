<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { emptyDocument, FILE_TYPES, type CourseFile, type Receipt, type StudentItem } from '@rosemary/api';
import { countOf, dayAndTime, plainText, wordCount, type DocumentNode } from '@rosemary/core';
import { computed, defineAsyncComponent, onMounted, ref, shallowRef } from 'vue';
import DocumentEditor from '../../parts/DocumentEditor.vue';
import DocumentView from '../../parts/DocumentView.vue';
import VoiceRecorder from '../../parts/media/VoiceRecorder.vue';
import { call } from '../../platform/call.ts';
import { HttpProblem } from '../../platform/http.ts';
import { uploadInParts } from '../../platform/uploadInParts.ts';
import { useSaving } from '../../platform/useSaving.ts';
import { useCourse } from '../../stores/courseStore.ts';
import { useNotices } from '../../stores/noticeStore.ts';
import ActButton from '../../parts/ActButton.vue';
import FoldOut from '../../parts/FoldOut.vue';
import FileInput from '../../parts/media/FileInput.vue';
import LineField from '../../parts/fields/LineField.vue';
import TextField from '../../parts/fields/TextField.vue';

// Seldom needed, with what compares two texts.
const TwoVersions = defineAsyncComponent(() => import('../../parts/TwoVersions.vue'));
const props = defineProps<{ base: { readonly courseId: string; readonly itemId: string }; item: StudentItem; isLooking: boolean }>();
const emit = defineEmits<{ handedIn: [receipt: Receipt]; reload: [] }>();
const notices = useNotices();
const course = useCourse();
const assignment = computed(() => props.item.assignment!);
const text = shallowRef<DocumentNode>(props.item.draft?.document ?? emptyDocument);
const files = ref<CourseFile[]>([...(props.item.draft?.files ?? [])]);
// A note that went with what was taken back comes back with it.
const note = ref(props.item.takenBack[0]?.note ?? '');
const fault = ref('');
const isSending = ref(false);
const going = ref<{ name: string; share: number; waits: boolean; stop: AbortController } | null>(null);
const editor = ref<InstanceType<typeof DocumentEditor> | null>(null);
const isReady = ref(false);
let version = props.item.draft?.version ?? 0;
// One key for one hand-in: pressing twice, or a retry after a lost answer, does nothing twice.
let key = crypto.randomUUID();

const saving = useSaving<DocumentNode>(
  () => `answer ${props.item.id}`,
  async (document) => {
    const saved = await call(api.saveDraft, props.base, { document, version });
    ({ version } = saved);
    return null;
  },
);
/** An address is kept as it is typed, as the text is. */
const link = ref(props.item.draft?.link ?? '');
const linkSaving = useSaving<string>(
  () => `link ${props.item.id}`,
  async (address) => {
    await call(api.saveDraftLink, props.base, { link: address });
    return null;
  },
);
onMounted(async () => {
  const keptLink = props.isLooking ? null : await linkSaving.findKept();
  if (keptLink !== null) {
    link.value = keptLink;
    linkSaving.push(keptLink);
  }
  const kept = props.isLooking ? null : await saving.findKept();
  if (kept !== null) {
    text.value = kept;
    saving.push(kept);
  }
  isReady.value = true;
});
/** The text of something that was taken back takes the place of the draft; Undo puts the draft back. */
function useTakenBack(document: DocumentNode): void {
  const before = text.value;
  const put = (next: DocumentNode): void => {
    text.value = next;
    saving.push(next);
  };
  put(document);
  notices.say('The text you took back is your draft now.', () => {
    put(before);
    return Promise.resolve();
  });
}
const words = computed(() => wordCount(plainText(text.value)));
function change(document: DocumentNode): void {
  text.value = document;
  fault.value = '';
  saving.push(document);
}
const theirs = computed(() =>
  saving.state.value === 'conflict' ? (saving.fault.value?.problem.current as { document: DocumentNode | null; version: number }) : null,
);
function keepMine(): void {
  if (theirs.value) {
    ({ version } = theirs.value);
    saving.push(text.value);
  }
}
async function takeTheirs(): Promise<void> {
  const next = theirs.value;
  if (!next) return;
  ({ version } = next);
  text.value = next.document ?? emptyDocument;
  editor.value?.replace(text.value);
  await saving.forget();
}

const picker = ref<InstanceType<typeof FileInput> | null>(null);
async function addFiles(list: ArrayLike<File> | null): Promise<void> {
  fault.value = '';
  for (const file of Array.from(list ?? [])) {
    const stop = new AbortController();
    going.value = { name: file.name, share: 0, waits: false, stop };
    try {
      files.value.push(
        await uploadInParts(
          props.base,
          file,
          (share, waits) => {
            if (going.value) going.value = { ...going.value, share, waits };
          },
          stop.signal,
        ),
      );
    } catch (error) {
      fault.value = error instanceof HttpProblem ? error.message : 'The file did not arrive.';
    } finally {
      going.value = null;
    }
  }
  emit('reload');
}
/** Files of one’s own, handed in before, of the kinds that are taken here. */
const earlier = ref<readonly CourseFile[] | null>(null);
async function loadEarlier(): Promise<void> {
  if (earlier.value !== null) return;
  const kinds = assignment.value.fileTypes.flatMap((t) => FILE_TYPES[t]?.mediaTypes ?? []);
  const found = await call(api.listOwnFiles, { courseId: props.base.courseId }).catch(() => ({ files: [] }));
  earlier.value = found.files.filter((f) => kinds.includes(f.mediaType));
}
async function takeEarlier(file: CourseFile): Promise<void> {
  fault.value = '';
  try {
    const taken = await call(api.restoreWorkFile, { ...props.base, fileId: file.id });
    if (!files.value.some((f) => f.id === taken.id)) files.value.push(taken);
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not added. Try again.';
  }
}
async function removeFile(file: CourseFile): Promise<void> {
  try {
    await call(api.removeWorkFile, { ...props.base, fileId: file.id });
    files.value = files.value.filter((f) => f.id !== file.id);
    notices.say(`“${file.name}” is removed.`, async () => {
      await call(api.restoreWorkFile, { ...props.base, fileId: file.id });
      files.value.push(file);
    });
  } catch (error) {
    notices.sayFault(error);
  }
}
async function handIn(): Promise<void> {
  isSending.value = true;
  fault.value = '';
  try {
    await Promise.all([saving.flush(), linkSaving.flush()]);
    if (saving.state.value === 'away' || linkSaving.state.value === 'away') {
      fault.value = 'There is no connection, so nothing was handed in yet. Your text is kept; try again in a moment.';
      return;
    }
    if (version === 0) version = 1;
    const receipt = await call(api.handIn, props.base, { note: note.value, key, version });
    key = crypto.randomUUID();
    emit('handedIn', receipt);
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not handed in.';
  } finally {
    isSending.value = false;
  }
}
const named = (file: File): File =>
  new File([file], `Recording ${files.value.length + 1}.${file.name.split('.').at(-1) ?? ''}`, { type: file.type });
const accepted = computed(() => assignment.value.fileTypes.map((t) => FILE_TYPES[t]?.name ?? t).join(', '));
const acceptList = computed(() => assignment.value.fileTypes.flatMap((t) => FILE_TYPES[t]?.extensions ?? []).join(','));
</script>

<template>
  <form class="answer" @submit.prevent="handIn">
    <h2>Your work</h2>
    <p class="label">
      Your instructor can see this draft. It is not handed in until you say so.<template v-if="item.group?.title">
        {{ item.group.title }} has one draft; whoever hands it in does so for all of you.</template
      >
    </p>
    <TwoVersions
      v-if="theirs"
      says="This text was changed in another window."
      :lines="[{ what: 'Your answer', theirs: plainText(theirs.document), mine: plainText(text) }]"
      their-word="The other"
      my-word="This one"
      @theirs="takeTheirs"
      @mine="keepMine"
      >To merge them, write into this one what you wish to have of the other; then keep this one.</TwoVersions
    >
    <div v-if="assignment.acceptsText && isReady" class="paper">
      <DocumentEditor ref="editor" :model-value="text" label="Your answer" :is-fixed="isLooking" @change="change"
        ><template #state
          ><span class="label saved" role="status">{{ saving.words.value }}</span></template
        ></DocumentEditor
      >
    </div>
    <p v-if="assignment.acceptsText" class="label">{{ countOf(words, 'word') }}</p>
    <FoldOut v-for="t in assignment.acceptsText ? item.takenBack.filter((one) => one.document !== null) : []" :key="t.id" class="earlier">
      <template #summary>What you took back, {{ dayAndTime(Date.parse(t.at), course.zone, course.now) }}</template>
      <DocumentView v-if="t.document" :document="t.document" />
      <p v-if="t.note" class="soft">Your note: {{ t.note }}</p>
      <ActButton v-if="t.document && !isLooking" look="act" @click="useTakenBack(t.document)">Use this text</ActButton>
    </FoldOut>
    <div
      v-if="assignment.acceptsFiles || assignment.acceptsRecording"
      class="files"
      @dragover.prevent
      @drop.prevent="addFiles(($event as DragEvent).dataTransfer?.files ?? null)"
    >
      <ul v-if="files.length > 0">
        <li v-for="f in files" :key="f.id">
          <a :href="f.url" target="_blank" rel="noopener">{{ f.name }}</a>
          <ActButton look="act" :disabled="isLooking" :aria-label="`Remove ${f.name}`" @click="removeFile(f)">Remove</ActButton>
        </li>
      </ul>
      <div v-if="going" role="progressbar" :aria-valuenow="Math.round(going.share * 100)" :aria-label="`Sending ${going.name}`">
        <span
          >{{ going.name }}, {{ Math.round(going.share * 100) }} %{{
            going.waits ? ': no connection; it goes on when it is back' : ''
          }}</span
        >
        <ActButton look="act" @click="going.stop.abort()">cancel</ActButton>
        <div class="track"><div :style="{ width: `${going.share * 100}%` }" /></div>
      </div>
      <VoiceRecorder v-if="assignment.acceptsRecording && !isLooking" :is-busy="going !== null" @use="addFiles([named($event)])" />
      <p v-if="assignment.acceptsFiles" class="pick">
        <ActButton look="act" :disabled="isLooking" @click="picker?.open()">Add a file</ActButton> or drop it here<FileInput
          ref="picker"
          is-many
          label="Add a file"
          :accept="acceptList"
          @choose="addFiles"
        />
      </p>
      <FoldOut v-if="assignment.acceptsFiles && !isLooking" class="earlier" @toggle="loadEarlier">
        <template #summary>From your earlier work</template>
        <p v-if="earlier && earlier.length === 0" class="soft">No file of your earlier work in this course can be used here.</p>
        <ul v-else-if="earlier">
          <li v-for="f in earlier" :key="f.id">
            <a :href="f.url" target="_blank" rel="noopener">{{ f.name }}</a>
            <ActButton look="act" @click="takeEarlier(f)">use it here</ActButton>
          </li>
        </ul>
      </FoldOut>
      <p v-if="assignment.acceptsFiles" class="label">
        {{ accepted }}; at most {{ assignment.mostFiles }}, each up to {{ Math.round(assignment.mostBytes / 1048576) }} MB
      </p>
    </div>
    <label v-if="assignment.acceptsLink" class="field"
      ><span class="label">The address of your work, beginning with https://; whoever marks it must be able to open it</span
      ><LineField v-model="link" inputmode="url" maxlength="2000" :disabled="isLooking" @input="linkSaving.push(link.trim())" /><span
        class="label"
        role="status"
        >{{ linkSaving.words.value }}</span
      ></label
    >
    <label class="field"
      ><span class="label">A note to the marker, if you wish</span
      ><TextField v-model="note" rows="1" maxlength="2000" :disabled="isLooking" />
    </label>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <ActButton type="submit" look="go" :disabled="isSending || isLooking || going !== null">Hand in</ActButton>
  </form>
</template>

<style scoped>
.answer {
  margin-top: 22px;
}
.paper {
  background: var(--paper);
  border: 1px solid var(--frost);
  padding: 14px 34px;
  margin: 8px 0 4px;
}
.files {
  border: 1px dashed var(--leaf);
  border-radius: 4px;
  padding: 12px 14px;
  margin: 10px 0 14px;
}
.files ul {
  list-style: none;
  padding: 0;
  margin: 0 0 6px;
}
.files li {
  display: flex;
  justify-content: space-between;
  padding: 3px 0;
}
.pick {
  cursor: pointer;
}
.pick:focus-within {
  outline: 2px solid var(--bloom);
}
.track {
  height: 3px;
  background: var(--frost);
  margin: 4px 0;
}
.track div {
  height: 3px;
  background: var(--needle);
}
@media (max-width: 600px) {
  .paper {
    padding: 12px 16px;
    margin-left: -16px;
    margin-right: -16px;
    border-left: 0;
    border-right: 0;
  }
}
</style>
