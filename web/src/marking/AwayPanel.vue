<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { SheetDone, SheetPreview, SheetRow } from '@rosemary/api';
import { computed, ref } from 'vue';
import { callWithForm } from '../platform/call.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useNotices } from '../stores/noticeStore.ts';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import TickBox from '../parts/fields/TickBox.vue';
import FileInput from '../parts/media/FileInput.vue';
import { countOf } from '@rosemary/core';

/** Works out, marked away from the network, and back in: what would change is seen before it does. */
const props = defineProps<{ base: { readonly courseId: string; readonly itemId: string } }>();
const emit = defineEmits<{ done: [] }>();
const notices = useNotices();
const file = ref<File | null>(null);
const preview = ref<SheetPreview | null>(null);
const left = ref<ReadonlySet<string>>(new Set());
/** A line that is older than what it would change is left unless it is chosen. */
const takeOlder = ref<ReadonlySet<string>>(new Set());
const isTaken = (r: SheetRow): boolean => (r.older === '' ? !left.value.has(r.workId) : takeOlder.value.has(r.workId));
const finishes = ref(false);
const { isBusy, fault, run } = useBusy('Not read. Try again.');
const result = ref<SheetDone | null>(null);
const input = ref<InstanceType<typeof FileInput> | null>(null);
function form(of: File, fields: Readonly<Record<string, string>> = {}): FormData {
  const data = new FormData();
  for (const [name, value] of Object.entries(fields)) data.append(name, value);
  data.append('file', of);
  return data;
}
function choose([chosen]: readonly File[]): Promise<unknown> {
  if (chosen === undefined) return Promise.resolve();
  file.value = chosen;
  preview.value = null;
  result.value = null;
  left.value = new Set();
  takeOlder.value = new Set();
  return run(async () => {
    preview.value = await callWithForm(api.previewScoreSheet, props.base, form(chosen));
  });
}
const changing = computed(() => (preview.value?.rows ?? []).filter((r) => r.outcome === 'changes'));
const refused = computed(() => (preview.value?.rows ?? []).filter((r) => r.outcome === 'refused'));
const same = computed(() => (preview.value?.rows ?? []).filter((r) => r.outcome === 'same').length);
const many = computed(() => changing.value.filter(isTaken).length);
function turn(r: SheetRow): void {
  const of = r.older === '' ? left : takeOlder;
  const next = new Set(of.value);
  if (!next.delete(r.workId)) next.add(r.workId);
  of.value = next;
}
const bring = (): Promise<unknown> =>
  run(async () => {
    if (file.value === null) return;
    const fields = { leave: [...left.value].join(','), takeOlder: [...takeOlder.value].join(','), finishes: String(finishes.value) };
    result.value = await callWithForm(api.importScoreSheet, props.base, form(file.value, fields));
    preview.value = null;
    notices.say(
      `${countOf(result.value.changed, 'work')} changed${result.value.finished > 0 ? `, ${result.value.finished} of them finished` : ''}.`,
    );
    emit('done');
  });
</script>

<template>
  <section class="part" aria-label="Away from the network">
    <h3>Away from the network</h3>
    <p>
      <a class="quiet" :href="urlOf(api.getWorksArchive, base)">All works as an archive</a>
      <ActButton look="quiet" :disabled="isBusy" @click="input?.open()">Import scores…</ActButton
      ><FileInput ref="input" accept=".csv,.zip" label="Scores marked elsewhere" @choose="choose" />
    </p>
    <p class="soft">
      The archive holds a folder for each work, <i>scores.csv</i> for points and feedback, and <i>notes.csv</i> for notes on quoted words.
      Import the sheet, or the whole archive with files that have “marked” in their name. An empty cell changes nothing; type
      <i>clear</i> to empty a score or feedback.
    </p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div v-if="isBusy && !preview" class="skeleton" style="height: 40px" />
    <template v-if="preview">
      <p>
        <b>{{ file?.name }}</b>: {{ countOf(changing.length, 'work') }} would change, {{ same }} stay as they are,
        {{ refused.length }} lines are refused.
      </p>
      <ul v-if="preview.faults.length > 0 || refused.length > 0" class="fault">
        <li v-for="r in refused" :key="`r ${r.line} ${r.workId}`">line {{ r.line }}{{ r.name ? `, ${r.name}` : '' }}: {{ r.reason }}</li>
        <li v-for="f in preview.faults" :key="f">{{ f }}</li>
      </ul>
      <PlainTable v-if="changing.length > 0">
        <thead>
          <tr>
            <th>take</th>
            <th>who</th>
            <th class="num">was</th>
            <th class="num">will be</th>
            <th>feedback, notes, files</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in changing" :key="r.workId">
            <td><TickBox :model-value="isTaken(r)" :aria-label="`Take ${r.name}`" @change="turn(r)" /></td>
            <td>
              {{ r.name }}
              <div v-if="r.older" class="clay">{{ r.older }}</div>
            </td>
            <td class="num soft">{{ r.scoreBefore || '–' }}</td>
            <td class="num">{{ r.scoreAfter || 'as it is' }}</td>
            <td class="soft">
              {{
                [r.feedback === '' ? 'feedback cleared' : (r.feedback ?? ''), r.notes > 0 ? countOf(r.notes, 'note') : '', ...r.files]
                  .filter((w) => w !== '')
                  .join(' · ')
              }}
            </td>
          </tr>
        </tbody>
      </PlainTable>
      <p>
        <label><TickBox v-model="finishes" /> finish these marks at once</label>
      </p>
      <p>
        <ActButton look="go" :disabled="isBusy || many === 0" @click="bring">Import {{ many }}</ActButton>
        <ActButton look="quiet" @click="preview = null">Leave it</ActButton>
      </p>
    </template>
    <ul v-if="result && result.left.length > 0" class="fault">
      <li v-for="l in result.left" :key="l.name">{{ l.name }}: {{ l.reason }}</li>
    </ul>
  </section>
</template>
