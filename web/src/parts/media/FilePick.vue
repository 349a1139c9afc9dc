<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { CourseFile, StoreFile } from '@rosemary/api';
import { computed, onMounted, ref } from 'vue';
import { call, callWithFile } from '../../platform/call.ts';
import { HttpProblem } from '../../platform/http.ts';
import ActButton from '../ActButton.vue';
import ProgressBar from '../ProgressBar.vue';
import FileInput from './FileInput.vue';
import ActionMenu from '../ActionMenu.vue';

/** Chooses a file of the course, or adds one: what is picked is kept at once. */
const props = defineProps<{ courseId: string; accept: string; kinds: RegExp; words: string; isFirst?: boolean }>();
const emit = defineEmits<{ choose: [file: CourseFile] }>();
const files = ref<readonly StoreFile[]>([]);
const fault = ref('');
const share = ref<number | null>(null);
const input = ref<InstanceType<typeof FileInput> | null>(null);
let abort: AbortController | null = null;
const fitting = computed(() => files.value.filter((f) => props.kinds.test(f.mediaType)));
onMounted(async () => {
  files.value = (await call(api.getFileStore, { courseId: props.courseId }).catch(() => ({ files: [] }))).files;
});
function choose(fileId: string): void {
  const found = fitting.value.find((f) => f.id === fileId);
  if (found) emit('choose', found);
}
async function add([file]: readonly File[]): Promise<void> {
  if (file === undefined) return;
  fault.value = '';
  share.value = 0;
  abort = new AbortController();
  try {
    const added = await callWithFile(api.addFile, { courseId: props.courseId }, file, {
      onProgress: (s) => (share.value = s),
      signal: abort.signal,
    });
    if (props.kinds.test(added.mediaType)) emit('choose', added);
    else fault.value = `“${added.name}” is now among the files of the course, but it is not ${props.words}.`;
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'The file did not arrive.';
  } finally {
    share.value = null;
  }
}
</script>

<template>
  <div class="pick">
    <p v-if="share !== null" role="status">
      <ProgressBar :share="share" label="Arrived" /> {{ Math.round(share * 100) }} %
      <ActButton look="act" @click="abort?.abort()">cancel</ActButton>
    </p>
    <template v-else>
      <ActionMenu v-if="fitting.length > 0" :words="`Choose ${words} of the course`" @choose="choose">
        <option v-for="f in fitting" :key="f.id" :value="f.id">{{ f.name }}</option>
      </ActionMenu>
      <ActButton look="act" @click="input?.open()">{{ fitting.length > 0 ? 'or add a new one' : `Add ${words}` }}</ActButton>
    </template>
    <FileInput ref="input" :accept="accept" :label="words" @choose="add" />
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.pick {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
  margin-bottom: 10px;
}
</style>
