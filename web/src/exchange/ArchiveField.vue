<script setup lang="ts">
import type { ArchiveDone } from '@rosemary/api';
import { ref } from 'vue';
import { HttpProblem, send, upload } from '../platform/http.ts';
import { useCourse } from '../shell/courseStore.ts';
import { useNotices } from '../shell/noticeStore.ts';

/** The whole course as a file, out and in: everything it is made of, and nobody's work. */
const props = defineProps<{ courseId: string; canEdit: boolean }>();
const course = useCourse();
const notices = useNotices();
const picker = ref<HTMLInputElement | null>(null);
const share = ref<number | null>(null);
const fault = ref('');
const done = ref<ArchiveDone | null>(null);
let abort: AbortController | null = null;

async function bring(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (file === undefined) return;
  fault.value = '';
  done.value = null;
  share.value = 0;
  abort = new AbortController();
  const base = `/courses/${props.courseId}`;
  try {
    const report = await upload<ArchiveDone>(`${base}/archive`, file, (s) => (share.value = s), abort.signal);
    done.value = report;
    void course.load(props.courseId);
    notices.say(
      `${report.itemIds.length} items are here, as they stood there.`,
      report.itemIds.length === 0
        ? null
        : async () => {
            await send('POST', `${base}/items/removals`, { itemIds: report.itemIds });
            for (const id of report.unitIds) await send('DELETE', `${base}/units/${id}`);
            done.value = null;
            void course.load(props.courseId);
          },
    );
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'The archive did not arrive.';
  } finally {
    share.value = null;
  }
}
const many = (n: number, one: string, more: string): string => (n === 1 ? `1 ${one}` : `${n} ${more}`);
</script>

<template>
  <section v-if="canEdit">
    <h2>The whole course as a file</h2>
    <p class="soft">
      Units, items, texts, rubrics, files, objectives and the policy, with nothing of its people. Brought in, it stands beside what is here
      and never over it.
    </p>
    <p class="acts">
      <a :href="`/api/courses/${courseId}/archive`" download>Take it out</a>
      <button v-if="share === null" class="act" @click="picker?.click()">Bring an archive in…</button>
      <span v-else role="status"
        ><progress :value="share" max="1" /> {{ share < 1 ? `${Math.round(share * 100)} %` : 'being unpacked' }}
        <button class="act" @click="abort?.abort()">cancel</button></span
      >
      <input ref="picker" type="file" accept=".zip,application/zip" hidden @change="bring" />
    </p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div v-if="done" role="status" class="report">
      <p>
        {{ many(done.itemIds.length, 'item', 'items') }} in {{ many(done.unitIds.length, 'unit', 'units') }} and
        {{ many(done.files, 'file', 'files') }} came in. <router-link :to="{ name: 'plan', params: { courseId } }">To the Plan</router-link>
      </p>
      <template v-if="done.problems.length > 0">
        <p>{{ many(done.problems.length, 'thing', 'things') }} to know:</p>
        <ul>
          <li v-for="(p, n) in done.problems" :key="n">{{ p }}</li>
        </ul>
      </template>
    </div>
  </section>
</template>

<style scoped>
section {
  margin-top: 20px;
}
.acts {
  display: flex;
  gap: 20px;
  margin: 8px 0;
}
.report {
  border-left: 3px solid var(--leaf);
  padding-left: 12px;
}
ul {
  margin: 4px 0;
  padding-left: 18px;
}
</style>
