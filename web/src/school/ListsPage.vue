<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ListedRow, ListsDone, ListsPreview } from '@rosemary/api';
import { LIST_COLUMNS, MORE_COLUMNS, SAMPLE_LISTS, type ListedWhat, type ListKind, numberInWords } from '@rosemary/core';
import { computed, ref } from 'vue';
import FileDrop from '../parts/media/FileDrop.vue';
import { useFileSending } from '../parts/media/useFileSending.ts';
import { useSession } from '../stores/sessionStore.ts';
import ColumnNames from '../parts/ColumnNames.vue';
import type { NamedList } from '../parts/namedList.ts';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import ZoneChoice from '../parts/fields/ZoneChoice.vue';

/** The school’s lists of people, courses and enrolments: looked at row by row, then taken in. */
const session = useSession();
const { file, share, fault, carry, cancel } = useFileSending();
const preview = ref<ListsPreview | null>(null);
const done = ref<ListsDone | null>(null);
const zone = ref(Intl.DateTimeFormat().resolvedOptions().timeZone);
const only = ref<ListedWhat | null>(null);
/** A table that makes no list by the names of its columns. */
const unnamed = ref<{ readonly name: string; readonly text: string } | null>(null);

const LISTS: Readonly<Record<ListKind, NamedList>> = {
  people: { words: 'people', needed: LIST_COLUMNS.people, more: MORE_COLUMNS.people },
  enrolments: { words: 'enrolments', needed: LIST_COLUMNS.enrolments, more: MORE_COLUMNS.enrolments },
  courses: { words: 'courses with their sections', needed: LIST_COLUMNS.courses, more: MORE_COLUMNS.courses },
};
async function look(chosen: File): Promise<void> {
  done.value = null;
  preview.value = null;
  only.value = null;
  file.value = chosen;
  preview.value = await carry(api.previewLists, {});
  unnamed.value = null;
  if (preview.value !== null) return;
  // A table that was refused may only name its columns otherwise.
  if (!chosen.name.toLowerCase().endsWith('.zip') && fault.value.includes('which make no list'))
    unnamed.value = { name: chosen.name, text: await chosen.text() };
  file.value = null;
}
/** A list to begin from, with made-up rows. */
function giveSample(kind: ListKind): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([`\ufeff${SAMPLE_LISTS[kind]}`], { type: 'text/csv' }));
  link.download = `${kind}.csv`;
  link.click();
  URL.revokeObjectURL(link.href);
}
async function bring(): Promise<void> {
  const answer = await carry(api.importLists, { zone: zone.value });
  if (answer === null) return;
  done.value = answer;
  preview.value = null;
  await session.load();
}
function drop(): void {
  preview.value = null;
  file.value = null;
}
const WORDS: Readonly<Record<ListedWhat, string>> = { add: 'added', change: 'changed', same: 'left as they are', refuse: 'refused' };
const counts = (of: ListsPreview['counts']): string =>
  (Object.keys(WORDS) as ListedWhat[])
    .filter((what) => of[what] > 0)
    .map((what) => `${numberInWords(of[what])} ${WORDS[what]}`)
    .join(', ');
const kinds = computed(() => (Object.keys(WORDS) as ListedWhat[]).filter((what) => (preview.value?.counts[what] ?? 0) > 0));
const rows = computed((): readonly ListedRow[] =>
  (preview.value?.rows ?? []).filter((row) => only.value === null || row.what === only.value),
);
const taken = computed(() => (preview.value === null ? 0 : preview.value.counts.add + preview.value.counts.change));
const OF: Readonly<Record<ListedRow['of'], string>> = {
  term: 'term',
  person: 'person',
  course: 'course',
  section: 'section',
  enrolment: 'enrolment',
  file: '',
};
</script>

<template>
  <div class="pad">
    <p class="label"><router-link :to="{ name: 'school' }">School</router-link></p>
    <h1>The school’s lists</h1>
    <div class="columns">
      <section>
        <p>
          A table (CSV, UTF-8) of people, of courses with their sections, or of enrolments, told apart by their columns; or the files of
          OneRoster 1.2 as one zip.
        </p>
        <dl>
          <template v-for="(columns, kind) in LIST_COLUMNS" :key="kind">
            <dt>{{ kind }}</dt>
            <dd>
              {{ columns.join(', ')
              }}<span class="soft">{{
                kind === 'people'
                  ? '; id, if the school has one'
                  : kind === 'enrolments'
                    ? '; section, for students'
                    : '; one row a section, the instructor by email'
              }}</span>
              <ActButton look="act" :aria-label="`Sample of ${kind}`" @click="giveSample(kind)">sample</ActButton>
            </dd>
          </template>
        </dl>
        <p class="soft">
          Whoever is new is mailed a way to set a password. What is here and not in the lists stays as it is; nobody is deleted.
        </p>
        <ZoneChoice v-model="zone" label="Time zone of courses that are added" />
        <FileDrop
          words="Choose a list…"
          hint="or let one fall here (.csv, .zip)"
          accept=".csv,.zip,text/csv,application/zip"
          :share="share"
          :doing="preview ? 'being taken in' : 'being read'"
          :fault="fault"
          :is-hidden="preview !== null"
          @choose="look"
          @cancel="cancel"
        />
        <div v-if="done" role="status" class="report">
          <p>{{ counts(done.counts) || 'Nothing to do' }}.</p>
          <p v-if="done.invited > 0">
            {{ done.invited === 1 ? '1 person was' : `${numberInWords(done.invited)} people were` }} mailed a way to set a password.
            <router-link :to="{ name: 'outbox' }">To the outbox</router-link>
          </p>
          <p><router-link :to="{ name: 'school' }">To the school</router-link></p>
        </div>
      </section>
      <section v-if="unnamed">
        <ColumnNames :name="unnamed.name" :text="unnamed.text" :lists="LISTS" @named="look" @leave="unnamed = null" />
      </section>
      <section v-if="preview">
        <h2>{{ file?.name }}</h2>
        <p>{{ counts(preview.counts) }}.</p>
        <p class="acts">
          <ActButton look="go" :disabled="share !== null || taken === 0" @click="bring">
            {{ taken === 0 ? 'Nothing to import' : preview.counts.refuse > 0 ? 'Import the rest' : 'Import it' }}
          </ActButton>
          <ActButton look="act" :disabled="share !== null" @click="drop">leave it</ActButton>
        </p>
        <p class="chips" role="group" aria-label="Show">
          <ActButton :class="['chip', { on: only === null }]" :aria-pressed="only === null" @click="only = null">all</ActButton>
          <ActButton v-for="k in kinds" :key="k" :class="['chip', { on: only === k }]" :aria-pressed="only === k" @click="only = k">
            {{ WORDS[k] }} {{ preview.counts[k] }}
          </ActButton>
        </p>
        <div class="scroll" tabindex="0" role="group" aria-label="Rows of the lists">
          <PlainTable>
            <thead>
              <tr>
                <th scope="col">Row</th>
                <th scope="col">What</th>
                <th scope="col">Becomes</th>
                <th scope="col">Why, or what changes</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(r, n) in rows" :key="n">
                <td class="number">{{ r.file }} {{ r.line }}</td>
                <td>{{ r.name === '' ? '' : `${OF[r.of]} ${r.name}` }}</td>
                <td :class="{ clay: r.what === 'refuse' }">{{ WORDS[r.what] }}</td>
                <td>{{ r.text }}</td>
              </tr>
            </tbody>
          </PlainTable>
          <p v-if="rows.length === 0" class="soft">No row of this kind says more than that.</p>
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.field {
  display: block;
  margin-top: 14px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 4fr) minmax(0, 8fr);
  gap: 48px;
  padding-top: 8px;
}
dl {
  margin: 12px 0;
}
dt {
  font-weight: 600;
  text-transform: capitalize;
}
dd {
  margin: 0 0 8px;
}
.acts {
  display: flex;
  gap: 20px;
  align-items: center;
  margin: 12px 0;
}
.chips {
  display: flex;
  gap: 6px;
  margin-bottom: 8px;
}
.scroll {
  max-height: 520px;
  overflow: auto;
}
.number {
  white-space: nowrap;
}
td {
  vertical-align: top;
}
.report {
  border-left: 3px solid var(--leaf);
  padding-left: 12px;
  margin-top: 14px;
}
</style>
