<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { CourseFile, Work } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { ref } from 'vue';
import DocumentEditor from '../parts/DocumentEditor.vue';
import VoiceRecorder from '../parts/media/VoiceRecorder.vue';
import { call, callWithFile } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';
import ActButton from '../parts/ActButton.vue';
import FileInput from '../parts/media/FileInput.vue';

/** Overall feedback: words, files, and a voice recorded here. */
const props = defineProps<{
  work: Work;
  base: { readonly courseId: string; readonly itemId: string; readonly enrolmentId: string };
  feedback: DocumentNode | null;
  state: string;
}>();
const emit = defineEmits<{ change: [document: DocumentNode]; close: [] }>();
const notices = useNotices();
const files = ref<readonly CourseFile[]>(props.work.feedbackFiles);
const going = ref<{ name: string; share: number } | null>(null);
const fault = ref('');
const input = ref<InstanceType<typeof FileInput> | null>(null);
async function add(list: ArrayLike<File> | null): Promise<void> {
  fault.value = '';
  for (const file of Array.from(list ?? [])) {
    going.value = { name: file.name, share: 0 };
    try {
      files.value = await callWithFile(api.addFeedbackFile, props.base, file, {
        onProgress: (share) => {
          going.value = { name: file.name, share };
        },
      });
    } catch (error) {
      fault.value = error instanceof HttpProblem ? error.message : `“${file.name}” did not arrive.`;
    } finally {
      going.value = null;
    }
  }
}
async function takeAway(file: CourseFile): Promise<void> {
  try {
    files.value = await call(api.removeFeedbackFile, { ...props.base, fileId: file.id });
    notices.say(`“${file.name}” is removed.`, async () => {
      files.value = await call(api.restoreFeedbackFile, { ...props.base, fileId: file.id });
    });
  } catch (error) {
    notices.sayFault(error);
  }
}
const named = (file: File): File =>
  new File([file], `Spoken feedback ${files.value.length + 1}.${file.name.split('.').at(-1) ?? ''}`, { type: file.type });
</script>

<template>
  <div class="feedback" @dragover.prevent @drop.prevent="add(($event as DragEvent).dataTransfer?.files ?? null)">
    <div class="fb-head">
      <b>Overall feedback</b><span class="label" role="status">{{ state }}</span
      ><ActButton look="act" @click="emit('close')">close</ActButton>
    </div>
    <DocumentEditor :model-value="feedback" label="Overall feedback" is-small @change="emit('change', $event)" />
    <ul v-if="files.length > 0" class="files">
      <li v-for="f in files" :key="f.id">
        <audio v-if="f.mediaType.startsWith('audio/')" controls preload="none" :src="f.url" :aria-label="f.name" />
        <a :href="`${f.url}?download=1`" :download="f.name">{{ f.name }}</a>
        <ActButton look="act" :aria-label="`Remove ${f.name}`" @click="takeAway(f)">Remove</ActButton>
      </li>
    </ul>
    <div class="add">
      <VoiceRecorder :is-busy="going !== null" @use="add([named($event)])" />
      <p>
        <ActButton look="act" :disabled="going !== null" @click="input?.open()">Add a file</ActButton
        ><span v-if="going" class="label" role="status"> {{ going.name }}, {{ Math.round(going.share * 100) }} %</span
        ><FileInput ref="input" is-many label="A file of feedback" @choose="add" />
      </p>
    </div>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.feedback {
  position: absolute;
  bottom: 100%;
  right: 0;
  width: 620px;
  max-height: 420px;
  overflow: auto;
  background: var(--paper);
  border: 1px solid var(--frost);
  border-bottom: 0;
  padding: 12px 18px;
  box-shadow: 0 -6px 22px rgb(20 32 26 / 0.12);
  z-index: 5;
}
.fb-head {
  display: flex;
  gap: 14px;
  justify-content: space-between;
  padding-bottom: 6px;
}
.files {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
}
.files li {
  display: flex;
  gap: 12px;
  align-items: center;
}
.files audio {
  height: 34px;
}
.add {
  display: flex;
  gap: 24px;
  padding-top: 6px;
}
</style>
