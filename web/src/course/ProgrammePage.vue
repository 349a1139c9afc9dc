<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Programme } from '@rosemary/api';
import { dayAndTime, formatPoints, writeDate, type DocumentNode } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import DocumentEditor from '../parts/DocumentEditor.vue';
import DocumentView from '../parts/DocumentView.vue';
import ItemGlyph from '../parts/ItemGlyph.vue';
import { call } from '../platform/call.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useSaving } from '../platform/useSaving.ts';
import { useCourse } from '../stores/courseStore.ts';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';

const route = useRoute();
const course = useCourse();
const courseId = computed(() => String(route.params.courseId));
const programme = ref<Programme | null>(null);
const text = ref<DocumentNode | null>(null);
const isWriting = ref(false);
const fault = ref('');
let version = 0;
const saving = useSaving<DocumentNode>(
  () => `programme ${courseId.value}`,
  async (document) => {
    ({ version } = await call(api.saveProgramme, { courseId: courseId.value }, { document, version }));
    return null;
  },
);
async function load(): Promise<void> {
  try {
    programme.value = await call(api.getProgramme, { courseId: courseId.value });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(async () => {
  await load();
  version = programme.value?.version ?? 0;
  const kept = programme.value?.canEdit === true ? await saving.findKept() : null;
  text.value = kept ?? programme.value?.text ?? null;
  if (kept !== null) {
    isWriting.value = true;
    saving.push(kept);
  }
});
useFresh(courseId, ['plan', 'grades'], load);
function write(document: DocumentNode): void {
  text.value = document;
  saving.push(document);
}
const day = (iso: string): string => writeDate(Date.parse(iso), 'UTC', true);
const when = (iso: string): string => dayAndTime(Date.parse(iso), programme.value?.timeZone ?? 'UTC', course.now);
const print = (): void => {
  window.print();
};
</script>

<template>
  <div class="pad sheet-like">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <template v-if="!programme && !fault"
      ><div v-for="n in 10" :key="n" class="skeleton" style="height: 22px; margin-top: 12px"
    /></template>
    <article v-if="programme" class="programme">
      <p class="tools no-print">
        <span class="soft"
          >Made from the Plan and the policy as they stand{{
            programme.drafts > 0 ? `; ${programme.drafts} drafts are left out` : ''
          }}.</span
        >
        <ActButton v-if="programme.canEdit" look="act" @click="isWriting = !isWriting">
          {{ isWriting ? 'Done writing' : 'Write your own words' }}
        </ActButton>
        <ActButton look="act" @click="print">Print</ActButton>
      </p>
      <h1>{{ programme.title }}</h1>
      <p class="soft">
        {{ programme.code }} · {{ programme.term.title }}, {{ day(programme.term.startsOn) }} to {{ day(programme.term.endsOn)
        }}{{ programme.sections.length > 0 ? ` · ${programme.sections.join(', ')}` : '' }}
      </p>
      <section>
        <h2>Who teaches</h2>
        <ul class="people">
          <li v-for="s in programme.staff" :key="s.email">
            {{ s.name }}<span class="soft">, {{ s.role }}</span> <a :href="`mailto:${s.email}`">{{ s.email }}</a>
          </li>
        </ul>
      </section>
      <section v-if="isWriting">
        <p class="label" aria-live="polite">
          {{ saving.words.value || 'Your own words: what the course is for, how to ask for help, what to bring.' }}
        </p>
        <DocumentEditor :model-value="text" label="Your own words" :course-id="courseId" @change="write" />
      </section>
      <section v-else-if="text"><DocumentView :document="text" /></section>
      <section v-for="u in programme.units" :key="u.id" class="unit">
        <h2>{{ u.title }}</h2>
        <PlainTable>
          <tbody>
            <tr v-for="i in u.items" :key="i.id">
              <td><ItemGlyph :kind="i.kind" /> {{ i.title }}</td>
              <td class="when">{{ i.dueAt === null ? '' : `${when(i.dueAt)}` }}</td>
              <td class="num week">{{ i.week === null ? '' : `week ${i.week}` }}</td>
              <td class="num time">{{ i.time }}</td>
              <td class="num points">{{ i.possible > 0 ? `${formatPoints(i.possible)} p` : '' }}</td>
              <td class="soft category">{{ i.category ?? '' }}</td>
            </tr>
          </tbody>
        </PlainTable>
      </section>
      <section>
        <h2>How the grade is made</h2>
        <p v-for="s in programme.policy" :key="s" class="serif rule">{{ s }}</p>
      </section>
      <section v-if="programme.term.holidays.length > 0">
        <h2>No teaching</h2>
        <p v-for="h in programme.term.holidays" :key="h.startsOn">
          {{ h.title }}: {{ day(h.startsOn) }}{{ h.endsOn === h.startsOn ? '' : ` to ${day(h.endsOn)}` }}
        </p>
      </section>
    </article>
  </div>
</template>

<style scoped>
.sheet-like {
  background: var(--paper);
  flex: 1;
}
.programme {
  max-width: 860px;
}
.tools {
  display: flex;
  gap: 20px;
  justify-content: space-between;
  padding-bottom: 14px;
}
.tools .soft {
  margin-right: auto;
}
section {
  padding-top: 18px;
  break-inside: avoid;
}
.people {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
}
.people a {
  text-decoration: underline;
  text-underline-offset: 2px;
}
.rule {
  padding: 3px 0;
}
td {
  vertical-align: top;
}
.when {
  width: 170px;
}
.week,
.time,
.points {
  width: 70px;
  white-space: nowrap;
}
.category {
  width: 130px;
}
@media (max-width: 700px) {
  .time,
  .category,
  .week {
    display: none;
  }
  .when {
    width: 110px;
  }
}
</style>
