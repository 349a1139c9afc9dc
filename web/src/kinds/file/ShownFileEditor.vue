<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ItemDetail, ShownFileChange } from '@rosemary/api';
import { ref } from 'vue';
import FileInPlace from '../../parts/blocks/FileInPlace.vue';
import FilePick from '../../parts/media/FilePick.vue';
import LineInput from '../../parts/LineInput.vue';
import { call } from '../../platform/call.ts';
import { HttpProblem } from '../../platform/http.ts';
import { savedWords } from '@rosemary/core';

type Shown = NonNullable<ItemDetail['file']>;
/** An item that is one file of the course. */
const props = defineProps<{
  base: { readonly courseId: string; readonly itemId: string };
  courseId: string;
  shown: Shown;
  canEdit: boolean;
}>();
const emit = defineEmits<{ saved: [shown: Shown] }>();
const fault = ref('');
const words = ref('');
async function set(change: Omit<ShownFileChange, 'version'>, more: Partial<Shown>): Promise<void> {
  fault.value = '';
  try {
    const { version } = await call(api.saveShownFile, props.base, { ...change, version: props.shown.version });
    emit('saved', { ...props.shown, ...more, version });
    words.value = savedWords(new Date());
  } catch (error) {
    words.value = '';
    if (!(error instanceof HttpProblem)) throw error;
    if (error.code === 'conflict') emit('saved', error.problem.current as Shown);
    fault.value =
      error.code === 'conflict'
        ? 'Somebody else changed this after you opened it. Theirs is shown; choose yours again if you wish.'
        : error.message;
  }
}
</script>

<template>
  <div>
    <p v-if="!shown.file" class="soft">No file yet. Choose one of the course, or add one.</p>
    <FilePick
      v-if="canEdit"
      :course-id="courseId"
      accept=""
      :kinds="/./"
      :words="shown.file ? 'another file' : 'a file'"
      @choose="set({ fileId: $event.id }, { file: $event })"
    />
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <label class="field"
      ><span class="label">A word about it</span
      ><LineInput maxlength="2000" :disabled="!canEdit" :value="shown.note" @commit="set({ note: $event }, { note: $event })"
    /></label>
    <p class="label" role="status">{{ words }}</p>
    <FileInPlace
      v-if="shown.file"
      :key="shown.file.id"
      :file="{ fileId: shown.file.id, src: shown.file.url, name: shown.file.name, mediaType: shown.file.mediaType }"
      is-open-at-first
    />
  </div>
</template>
