<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { ObjectivesPreview } from '@rosemary/api';
import { computed, nextTick, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import LineInput from '../parts/LineInput.vue';
import { HttpProblem } from '../platform/http.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useObjectives, type ShownObjective } from './useObjectives.ts';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import FileInput from '../parts/media/FileInput.vue';
import LineField from '../parts/fields/LineField.vue';

const route = useRoute();
const course = useCourse();
const courseId = computed(() => String(route.params.courseId));
const o = useObjectives(courseId);
const canEdit = computed(() => course.head?.role === 'instructor');
const letters = ref('');
const adding = ref<{ code: string; statement: string; parentId: string | null } | null>(null);
const faults = ref<Record<string, string>>({});
const coming = ref<{ file: File; preview: ObjectivesPreview } | null>(null);
const comingFault = ref('');
const picker = ref<InstanceType<typeof FileInput> | null>(null);
const openId = ref<string | null>(null);
onMounted(o.load);
useFresh(courseId, ['plan'], o.load);

const shown = computed(() => {
  const find = letters.value.trim().toLowerCase();
  return find === '' ? o.shown.value : o.shown.value.filter((one) => `${one.code} ${one.statement}`.toLowerCase().includes(find));
});
async function begin(parentId: string | null): Promise<void> {
  faults.value = {};
  adding.value = { code: '', statement: '', parentId };
  await nextTick();
  document.getElementById('new-code')?.focus();
}
async function add(): Promise<void> {
  if (adding.value === null) return;
  faults.value = {};
  try {
    await o.add({ ...adding.value, code: adding.value.code.trim(), statement: adding.value.statement.trim() });
    await begin(adding.value.parentId);
  } catch (error) {
    if (!(error instanceof HttpProblem)) throw error;
    faults.value = Object.fromEntries(
      (error.problem.pointers ?? [{ field: 'statement', text: error.message }]).map((p) => [p.field, p.text]),
    );
  }
}
async function look([file]: readonly File[]): Promise<void> {
  if (file === undefined) return;
  comingFault.value = '';
  try {
    coming.value = { file, preview: await o.preview(file) };
  } catch (error) {
    comingFault.value = error instanceof Error ? error.message : 'The file did not arrive.';
  }
}
async function bring(): Promise<void> {
  if (coming.value === null) return;
  try {
    await o.bring(coming.value.file);
    coming.value = null;
  } catch (error) {
    comingFault.value = error instanceof Error ? error.message : '';
  }
}
const count = (what: 'add' | 'change' | 'same'): number => coming.value?.preview.rows.filter((r) => r.what === what).length ?? 0;
const WHAT = { add: 'new', change: 'changed', same: 'as it is' } as const;
function onKey(event: KeyboardEvent, one: ShownObjective): void {
  if (!event.altKey || !canEdit.value) return;
  const by = { ArrowUp: -1, ArrowDown: 1, ArrowLeft: -1, ArrowRight: 1 }[event.key] as -1 | 1 | undefined;
  if (by === undefined) return;
  event.preventDefault();
  void (event.key === 'ArrowUp' || event.key === 'ArrowDown' ? o.move(one, by) : o.indent(one, by)).then(() =>
    nextTick(() => document.getElementById(`objective-${one.id}`)?.focus()),
  );
}
const uses = (n: number): string => (n === 0 ? 'not used' : n === 1 ? 'used once' : `used ${n} times`);
</script>

<template>
  <div class="pad objectives">
    <div class="top">
      <h2>Objectives</h2>
      <LineField
        v-if="(o.all.value?.length ?? 0) > 8"
        v-model="letters"
        class="find"
        placeholder="Find by code or words"
        aria-label="Find an objective"
      />
      <span class="acts">
        <ActButton v-if="canEdit" look="act" @click="picker?.open()">Import</ActButton>
        <a v-if="o.all.value?.length" :href="urlOf(api.getObjectivesFile, { courseId, format: 'csv' })" download>Download CSV</a>
        <a v-if="o.all.value?.length" :href="urlOf(api.getObjectivesFile, { courseId, format: 'case' })" download>As a framework (CASE)</a>
      </span>
      <FileInput ref="picker" accept=".csv,.json,text/csv,application/json" label="A file of objectives" @choose="look" />
    </div>
    <p v-if="o.fault.value" class="fault">{{ o.fault.value }}</p>
    <p v-if="comingFault" class="fault" role="alert">{{ comingFault }}</p>
    <template v-if="!o.all.value && !o.fault.value"
      ><div v-for="n in 6" :key="n" class="skeleton" style="height: 22px; margin: 9px 0"
    /></template>
    <p v-if="o.all.value?.length === 0" class="soft">
      What students should be able to do will stand here, as a tree with codes. Items and the criteria of rubrics are aligned with it. Begin
      with the first, or import a table (code, statement, parent) or a competency framework.
    </p>
    <ul v-if="shown.length > 0">
      <li v-for="one in shown" :key="one.id" :style="{ paddingLeft: `${letters === '' ? one.depth * 24 : 0}px` }">
        <div class="line">
          <ActButton
            :id="`objective-${one.id}`"
            look="act"
            class="code"
            :title="canEdit ? 'Alt and arrows move it' : ''"
            :aria-label="`Move ${one.code || one.statement}`"
            @keydown="onKey($event, one)"
            @click="openId = openId === one.id ? null : one.id"
          >
            {{ one.code || '·' }}
          </ActButton>
          <LineInput
            is-quiet
            class="words"
            maxlength="2000"
            :aria-label="`Statement of ${one.code || one.statement}`"
            :disabled="!canEdit"
            :value="one.statement"
            @commit="$event.trim() !== '' && o.change(one, { statement: $event.trim() })"
          />
          <ActButton look="act" class="soft" :aria-expanded="openId === one.id" @click="openId = openId === one.id ? null : one.id">
            {{ uses(one.uses.length) }}
          </ActButton>
          <span v-if="canEdit" class="acts quiet-acts">
            <ActButton look="act" :aria-label="`Add below ${one.code || one.statement}`" @click="begin(one.id)">Add below</ActButton>
            <ActButton look="act" :aria-label="`Delete ${one.code || one.statement}`" @click="o.remove(one)">delete</ActButton>
          </span>
        </div>
        <div v-if="openId === one.id" class="open">
          <label v-if="canEdit" class="label"
            >Code <LineInput class="short" maxlength="60" :value="one.code" @commit="o.change(one, { code: $event.trim() })"
          /></label>
          <p v-if="one.uses.length === 0" class="soft">
            Nothing is aligned with it yet. In the Plan, an item takes it under “Objectives”; a criterion does in its rubric.
          </p>
          <p v-for="u in one.uses" :key="`${u.itemId} ${u.criterion}`">
            <router-link :to="{ name: 'item', params: { courseId, itemId: u.itemId } }">{{ u.title }}</router-link>
            <span v-if="u.criterion" class="label"> criterion {{ u.criterion }}</span>
          </p>
        </div>
        <form v-if="adding && adding.parentId === one.id" class="line new" @submit.prevent="add">
          <LineField id="new-code" v-model="adding.code" class="short" maxlength="60" placeholder="code" aria-label="Code" />
          <LineField
            v-model="adding.statement"
            maxlength="2000"
            placeholder="What a student can do, then Enter"
            aria-label="Statement"
            @keydown.esc="adding = null"
          />
          <ActButton type="submit" look="quiet">Add</ActButton> <ActButton look="act" @click="adding = null">leave it</ActButton>
        </form>
      </li>
    </ul>
    <form v-if="adding && adding.parentId === null" class="line new" @submit.prevent="add">
      <LineField id="new-code" v-model="adding.code" class="short" maxlength="60" placeholder="code" aria-label="Code" />
      <LineField
        v-model="adding.statement"
        maxlength="2000"
        placeholder="What a student can do, then Enter"
        aria-label="Statement"
        @keydown.esc="adding = null"
      />
      <ActButton type="submit" look="quiet">Add</ActButton> <ActButton look="act" @click="adding = null">leave it</ActButton>
    </form>
    <p v-else-if="canEdit && o.all.value" style="margin-top: 12px"><ActButton look="act" @click="begin(null)">Add objective</ActButton></p>
    <p v-for="(text, field) in faults" :key="field" class="fault" role="alert">{{ text }}</p>
    <v-dialog :model-value="coming !== null" width="720" @update:model-value="coming = null">
      <div v-if="coming" class="sheet pad coming">
        <h2>{{ coming.file.name }}</h2>
        <p>
          {{ count('add') }} new, {{ count('change') }} changed, {{ count('same') }} as they are<template
            v-if="coming.preview.problems.length > 0"
            >, {{ coming.preview.problems.length }} left out</template
          >.
        </p>
        <ul v-if="coming.preview.problems.length > 0" class="problems">
          <li v-for="p in coming.preview.problems.slice(0, 50)" :key="p.line + p.text" class="clay">{{ p.text }}</li>
        </ul>
        <PlainTable>
          <tbody>
            <tr v-for="(r, n) in coming.preview.rows.slice(0, 400)" :key="n">
              <td class="soft">{{ WHAT[r.what] }}</td>
              <td :style="{ paddingLeft: `${r.depth * 18}px` }">
                <b>{{ r.code }}</b> {{ r.statement }}
              </td>
            </tr>
          </tbody>
        </PlainTable>
        <p class="foot">
          <ActButton look="go" :disabled="coming.preview.rows.length === 0" @click="bring">
            Import {{ count('add') + count('change') }}
          </ActButton>
          <ActButton look="quiet" @click="coming = null">Leave it</ActButton>
        </p>
      </div>
    </v-dialog>
  </div>
</template>

<style scoped>
.top,
.acts {
  display: flex;
  gap: 18px;
  align-items: baseline;
  flex-wrap: wrap;
}
.top .acts {
  margin-left: auto;
}
.find {
  width: 220px;
}
ul {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
}
.line {
  display: flex;
  gap: 12px;
  align-items: baseline;
  border-bottom: 1px solid var(--frost2);
  padding: 3px 0;
}
.code {
  min-width: 56px;
  min-height: 26px;
  text-align: left;
  font-weight: 600;
}
.words {
  flex: 1;
}
.short {
  width: 90px;
  display: inline-block;
}
.quiet-acts {
  font-size: 13px;
  white-space: nowrap;
  flex-wrap: nowrap;
}
.open {
  padding: 4px 0 8px 68px;
}
.coming {
  max-height: 84vh;
  overflow: auto;
}
.problems {
  margin-bottom: 10px;
}
.foot {
  position: sticky;
  bottom: -18px;
  background: var(--paper);
  padding: 10px 0 4px;
}
</style>
