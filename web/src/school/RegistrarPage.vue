<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { FormColumn, LetterTableView, SchoolHandover, SchoolHandoverSetting, SchoolSection } from '@rosemary/api';
import { countOf, dayAndTime, FORM_FIELDS, type FormField } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import ActButton from '../parts/ActButton.vue';
import LineInput from '../parts/LineInput.vue';
import PlainTable from '../parts/PlainTable.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** The handover of final grades for the whole school: the registrar, his letters for each scheme, every section, and what waits for approval. */
const notices = useNotices();
const school = shallowRef<SchoolHandover | null>(null);
const fault = ref('');
async function read(send: () => Promise<SchoolHandover>): Promise<boolean> {
  try {
    school.value = await send();
    fault.value = '';
    return true;
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
    return false;
  }
}
onMounted(() => read(() => call(api.getSchoolHandover, {})));
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
const when = (iso: string): string => dayAndTime(Date.parse(iso), zone, Date.now());
const letters = computed(() => school.value?.rules?.letters.map((l) => l.letter) ?? []);
async function setRules(change: Partial<SchoolHandoverSetting>): Promise<void> {
  if (school.value === null) return;
  const before = school.value.setting;
  if (await read(() => call(api.saveSchoolHandover, {}, { ...before, ...change })))
    notices.say('The rules are changed.', async () => {
      const { version } = school.value?.setting ?? before;
      await read(() => call(api.saveSchoolHandover, {}, { ...before, version }));
    });
}
/** What of a letter is sent: as the table says, else the letter itself where the registrar knows it. */
const sentOf = (table: LetterTableView, label: string): string | null =>
  table.letters[label] ?? (letters.value.includes(label) ? label : null);
async function setLetter(table: LetterTableView, label: string, letter: string | null): Promise<void> {
  const { [label]: _, ...rest } = table.letters;
  const save = (version: number, next: LetterTableView['letters']) =>
    read(() => call(api.saveLetterTable, {}, { version, labels: [...table.labels], letters: next }));
  if (await save(table.version, letter === null ? rest : { ...rest, [label]: letter }))
    notices.say(`“${label}” is sent as ${letter ?? 'nothing'}.`, async () => {
      const now = school.value?.tables.find((t) => t.labels.join() === table.labels.join());
      await save(now?.version ?? 0, table.letters);
    });
}
async function askAgain(): Promise<void> {
  try {
    await call(api.askSchoolRegistrar, {});
    notices.say('The registrar is asked. Look again in a moment.', null);
  } catch (error) {
    notices.sayFault(error);
  }
}
const setForm = (form: FormColumn[]): Promise<void> => setRules({ form });
function addColumn(): void {
  const form = school.value?.setting.form ?? [];
  const field = (Object.keys(FORM_FIELDS) as FormField[]).find((f) => !form.some((c) => c.field === f)) ?? 'student';
  void setForm([...form, { field, head: FORM_FIELDS[field] }]);
}
async function setOfRecord(section: SchoolSection, enrolmentId: string): Promise<void> {
  const before = section.instructors.find((i) => i.isOfRecord)?.enrolmentId;
  const put = (id: string): Promise<boolean> => read(() => call(api.setOfRecord, { enrolmentId: id }));
  if (await put(enrolmentId))
    notices.say(
      `${section.course} is handed over by another instructor now.`,
      before === undefined
        ? null
        : async () => {
            await put(before);
          },
    );
}
async function remind(): Promise<void> {
  try {
    const { reminded, withoutAnybody } = await call(api.remindOfFinals, {});
    const nobody = withoutAnybody.length === 0 ? '' : ` Nobody hands over ${withoutAnybody.join('; ')}: choose an instructor of record.`;
    notices.say(`${countOf(reminded, 'instructor is', 'instructors are')} written to.${nobody}`, null);
  } catch (error) {
    notices.sayFault(error);
  }
}
const approve = (rowIds: string[]): Promise<boolean> => read(() => call(api.approveFinals, {}, { rowIds }));
const withStudents = computed(() => school.value?.sections.filter((s) => s.students > 0) ?? []);
const open = computed(() => withStudents.value.filter((s) => s.accepted < s.students).length);
/** Where the school stands, in a sentence; a school without students has nothing that could be handed over. */
const standing = computed(() => {
  if (withStudents.value.length === 0) return 'No section has students yet, so there is nothing to hand over.';
  return open.value === 0 ? 'Every section is handed over.' : `${countOf(open.value, 'section is', 'sections are')} not handed over yet.`;
});
</script>

<template>
  <div class="pad registrar">
    <p class="label"><router-link to="/school">School</router-link></p>
    <h1>Final grades and the registrar</h1>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div v-if="!school && !fault"><div v-for="n in 6" :key="n" class="skeleton" style="height: 24px; margin-top: 10px" /></div>
    <template v-if="school">
      <p v-if="!school.registrar.isSet">
        No registrar is set. Name his address and token in the settings of the server (docs/registrar.md); until then nothing can be sent.
      </p>
      <p v-else>
        <template v-if="school.registrar.opensAt && school.registrar.closesAt"
          >He takes grades from {{ when(school.registrar.opensAt) }} to {{ when(school.registrar.closesAt) }}.
        </template>
        <template v-if="school.registrar.askedAt">He answered last {{ when(school.registrar.askedAt) }}. </template>
        <template v-else>He has not answered yet. </template>
        <span v-if="school.registrar.fault" class="clay">{{ school.registrar.fault }}</span>
        {{ ' ' }}<ActButton look="act" @click="askAgain">Ask him again</ActButton> ·
        <ActButton look="act" @click="read(() => call(api.getSchoolHandover, {}))">Look again</ActButton>
      </p>
      <section v-if="school.approvals.length > 0" aria-label="Corrections that wait for approval">
        <h2>Corrections that wait for you</h2>
        <PlainTable>
          <tbody>
            <tr v-for="a in school.approvals" :key="a.rowId">
              <td>{{ a.student }}, {{ a.course }}</td>
              <td>
                <b>{{ a.from }} → {{ a.to }}</b>
              </td>
              <td>{{ a.reason }}</td>
              <td class="soft">{{ a.who }}, {{ when(a.at) }}</td>
              <td><ActButton look="act" :aria-label="`Approve ${a.student}`" @click="approve([a.rowId])">Approve</ActButton></td>
            </tr>
          </tbody>
        </PlainTable>
      </section>
      <section aria-label="Letters">
        <h2>Letters</h2>
        <p v-if="school.rules === null" class="soft">Which letters he takes is not known before he has answered.</p>
        <p v-for="t in school.tables" v-else :key="t.labels.join()" class="table">
          <span v-for="l in t.labels" :key="l" class="pair"
            >{{ l }} →
            <ChoiceField
              is-word
              :model-value="sentOf(t, l)"
              :aria-label="`Registrar’s letter for ${l}`"
              @change="setLetter(t, l, $event as string | null)"
            >
              <option :value="null">nothing</option>
              <option v-for="r in letters" :key="r" :value="r">{{ r }}</option>
            </ChoiceField></span
          ><span class="soft">{{ t.courses.length > 3 ? countOf(t.courses.length, 'course') : t.courses.join(', ') }}</span>
          <span v-if="t.gaps.length > 0" class="clay"> {{ countOf(t.gaps.length, 'gap') }}</span>
        </p>
      </section>
      <section aria-label="Rules">
        <h2>Rules</h2>
        <p>
          Students who withdrew
          <ChoiceField
            is-word
            :model-value="school.setting.withdrawnLetter"
            aria-label="Students who withdrew"
            @change="setRules({ withdrawnLetter: $event as string | null })"
          >
            <option :value="null">are left out</option>
            <option v-for="r in letters" :key="r" :value="r">are sent as {{ r }}</option></ChoiceField
          >; those who only listen
          <ChoiceField
            is-word
            :model-value="school.setting.auditingLetter"
            aria-label="Students who only listen"
            @change="setRules({ auditingLetter: $event as string | null })"
          >
            <option :value="null">are left out</option>
            <option v-for="r in letters" :key="r" :value="r">are sent as {{ r }}</option></ChoiceField
          >.
        </p>
        <label class="tick-line"
          ><TickBox :model-value="school.setting.needsApproval" @update:model-value="setRules({ needsApproval: $event === true })" /> A
          grade that is changed after the registrar has it waits for approval here</label
        >
      </section>
      <section aria-label="The registrar’s form">
        <h2>The registrar’s form</h2>
        <p class="soft">
          For a registrar who takes a file: the columns of his form, in its order. Without any, everything there is stands under our own
          heads.
        </p>
        <div v-for="(f, n) in school.setting.form" :key="n" class="column">
          <ChoiceField
            :model-value="f.field"
            :aria-label="`What stands in column ${n + 1}`"
            @change="setForm(school.setting.form.map((x, k) => (k === n ? { ...x, field: $event as FormField } : x)))"
          >
            <option v-for="(words, field) in FORM_FIELDS" :key="field" :value="field">{{ words }}</option>
          </ChoiceField>
          <LineInput
            :value="f.head"
            maxlength="80"
            :aria-label="`Head of column ${n + 1}`"
            @commit="setForm(school.setting.form.map((x, k) => (k === n ? { ...x, head: $event } : x)))"
          />
          <ActButton look="act" :aria-label="`Remove column ${n + 1}`" @click="setForm(school.setting.form.filter((_, k) => k !== n))"
            >Remove</ActButton
          >
        </div>
        <ActButton look="act" @click="addColumn">Add column</ActButton>
      </section>
      <section aria-label="Sections">
        <h2>Sections</h2>
        <p>
          {{ standing }}
          <ActButton v-if="open > 0" look="act" @click="remind">Remind those who hand over</ActButton>
        </p>
        <PlainTable>
          <thead>
            <tr>
              <th>Course</th>
              <th>Section</th>
              <th>Instructor of record</th>
              <th class="num">Students</th>
              <th class="num">Agreed</th>
              <th class="num">On the way</th>
              <th class="num">With the registrar</th>
              <th class="num">Refused</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in school.sections" :key="s.sectionId">
              <td>{{ s.course }}</td>
              <td>{{ s.section }}</td>
              <td :class="{ clay: s.teacher === '' }">
                <ChoiceField
                  v-if="s.instructors.length > 1 || s.teacher === ''"
                  is-word
                  :model-value="s.instructors.find((i) => i.isOfRecord)?.enrolmentId ?? null"
                  :aria-label="`Instructor of record of ${s.course}`"
                  @change="setOfRecord(s, String($event))"
                >
                  <option v-if="s.teacher === ''" :value="null">nobody</option>
                  <option v-for="i in s.instructors" :key="i.enrolmentId" :value="i.enrolmentId">{{ i.name }}</option>
                </ChoiceField>
                <template v-else>{{ s.teacher }}</template>
              </td>
              <td class="num">{{ s.students }}</td>
              <td class="num">{{ s.agreed }}</td>
              <td class="num">{{ s.underWay }}</td>
              <td class="num">{{ s.accepted }}</td>
              <td class="num" :class="{ clay: s.refused > 0 }">{{ s.refused }}</td>
            </tr>
          </tbody>
        </PlainTable>
      </section>
    </template>
  </div>
</template>

<style scoped>
.registrar {
  background: var(--paper);
  flex: 1;
}
h2 {
  margin-top: 22px;
}
.table {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  align-items: baseline;
}
.pair {
  white-space: nowrap;
}
.column {
  display: grid;
  grid-template-columns: 220px 260px auto;
  gap: 0 18px;
  align-items: baseline;
}
</style>
