<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { FinalRow, FinalShown } from '@rosemary/api';
import { countOf, dayAndTime, ROW_STATES, spanInWords } from '@rosemary/core';
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import ActionMenu from '../parts/ActionMenu.vue';
import DateField from '../parts/DateField.vue';
import PlainTable from '../parts/PlainTable.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import AgreePart from './AgreePart.vue';
import FindingsPart from './FindingsPart.vue';
import SectionPart from './SectionPart.vue';
import { asCalculated, STAGES, stageOf, useFinals, type Stage } from './useFinals.ts';

const ReopenPart = defineAsyncComponent(() => import('./ReopenPart.vue'));
const route = useRoute();
const course = useCourse();
const courseId = computed(() => String(route.params.courseId));
const finals = useFinals(courseId);
const { view, rows, fault, isBusy, left } = finals;
const stage = ref<Stage | 'all'>('all');
const chosen = ref<ReadonlySet<string>>(new Set());
const openedId = ref<string | null>(null);
const reason = ref('');
const STALE = 10 * 60_000;
onMounted(async () => {
  await finals.load();
  const registrar = view.value?.registrar;
  // What he takes may have changed since he was asked last.
  if (registrar?.isSet === true && (registrar.askedAt === null || course.now - Date.parse(registrar.askedAt) > STALE))
    await finals.askRegistrar();
});
const shown = computed(() => rows.value.filter((r) => stage.value === 'all' || stageOf(r) === stage.value));
/** A choice stands over all pages, sections and filters, so it always says how many of how many. */
const PAGE = 100;
const page = ref(0);
watch([stage, () => course.sectionId], () => {
  page.value = 0;
});
const pages = computed(() => Math.max(1, Math.ceil(shown.value.length / PAGE)));
const onPage = computed(() => shown.value.slice(page.value * PAGE, (page.value + 1) * PAGE));
const picked = computed(() => (view.value?.rows ?? []).filter((r) => chosen.value.has(r.enrolmentId)));
const pickedIds = computed(() => picked.value.map((r) => r.enrolmentId));
const areAllChosen = computed(() => shown.value.length > 0 && shown.value.every((r) => chosen.value.has(r.enrolmentId)));
function toggle(id: string): void {
  const next = new Set(chosen.value);
  if (!next.delete(id)) next.add(id);
  chosen.value = next;
}
const toggleAll = (): void => {
  const next = new Set(chosen.value);
  for (const r of shown.value)
    if (areAllChosen.value) next.delete(r.enrolmentId);
    else next.add(r.enrolmentId);
  chosen.value = next;
};
const inStage = (...wanted: Stage[]): FinalRow[] => picked.value.filter((r) => wanted.includes(stageOf(r)));
const corrections = computed(() => inStage('agreed', 'refused').filter((r) => r.row !== null && r.row.state !== 'refused'));
const opened = computed(() => view.value?.rows.find((r) => r.enrolmentId === openedId.value) ?? null);
const sections = computed(() => view.value?.sections.filter((s) => course.sectionId === null || s.id === course.sectionId) ?? []);
const titleOf = computed(() => new Map(view.value?.sections.map((s) => [s.id, s.title])));
const when = (iso: string): string => dayAndTime(Date.parse(iso), course.zone, course.now);
const windowWords = computed(() => {
  const { opensAt = null, closesAt = null } = view.value?.registrar ?? {};
  if (opensAt === null || closesAt === null) return '';
  if (Date.parse(opensAt) > course.now) return `The registrar’s window opens ${when(opensAt)}.`;
  const rest = Date.parse(closesAt) - course.now;
  return rest <= 0
    ? `The registrar’s window closed ${when(closesAt)}.`
    : `The registrar’s window closes ${when(closesAt)}, in ${spanInWords(rest)}.`;
});
const SHOWS: { readonly [what in FinalShown]: string } = {
  none: 'no final grade',
  calculated: 'the calculated grade',
  agreed: 'the agreed grade',
};
const setShown = (change: { readonly shows?: FinalShown; readonly shownFrom?: string | null }): Promise<boolean> =>
  finals.act(async () => {
    if (view.value === null) return;
    const { version, shows, shownFrom } = view.value;
    view.value = await call(api.changeFinalSetting, finals.at.value, { version, shows, shownFrom, ...change });
  });
const download = (format: string): void => {
  location.assign(
    urlOf(api.getFinalsTable, {
      courseId: courseId.value,
      format: format as 'csv',
      ...(course.sectionId === null ? {} : { section: course.sectionId }),
    }),
  );
};
async function sendChosen(): Promise<void> {
  if (await finals.send(pickedIds.value, reason.value.trim())) {
    reason.value = '';
    chosen.value = new Set();
  }
}
async function agreeChosen(): Promise<void> {
  if (await finals.agree(picked.value.map(asCalculated))) chosen.value = new Set();
}
</script>

<template>
  <div class="two finals">
    <section class="pad main" aria-label="Final grades">
      <p class="label"><router-link :to="{ name: 'gradebook', params: { courseId } }">Gradebook</router-link></p>
      <h2>Final grades</h2>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div v-if="!view && !fault"><div v-for="n in 8" :key="n" class="skeleton" style="height: 24px; margin-top: 10px" /></div>
      <template v-if="view">
        <p>
          <template v-if="!view.registrar.isSet"
            >No registrar is set for this school, so nothing can be sent. What is entered at his desk by hand can be noted here.</template
          ><template v-else
            >{{ windowWords }}
            <span v-if="view.registrar.fault" class="clay">{{ view.registrar.fault }} What he said before is shown.</span>
            <ActButton look="act" :disabled="isBusy" @click="finals.askRegistrar()">Ask the registrar again</ActButton></template
          >
        </p>
        <ReopenPart v-if="view.closedAt" :closed-at="view.closedAt" :can-send="view.canSend" :at="finals.at.value" @done="view = $event" />
        <p>
          Students see
          <ChoiceField is-word :model-value="view.shows" aria-label="What students see" @change="setShown({ shows: $event as FinalShown })">
            <option v-for="(words, what) in SHOWS" :key="what" :value="what">{{ words }}</option></ChoiceField
          ><template v-if="view.shows !== 'none'">
            from
            <DateField
              class="from"
              :model-value="view.shownFrom"
              label="From when (empty: at once)"
              :zone="course.zone"
              :now="course.now"
              @change="setShown({ shownFrom: $event })" /></template
          ><template v-else>.</template>
        </p>
        <SectionPart
          v-for="s in sections"
          :key="s.id"
          :course-id="courseId"
          :section="s"
          :can-send="view.canSend && view.registrar.isSet"
        />
        <FindingsPart v-if="!view.closedAt" :course-id="courseId" :findings="view.findings" />
        <div class="bar">
          <ChoiceField v-model="stage" aria-label="Grades that are shown">
            <option value="all">all {{ rows.length }}</option>
            <option v-for="(words, s) in STAGES" :key="s" :value="s">
              {{ words }} ({{ rows.filter((r) => stageOf(r) === s).length }})
            </option>
          </ChoiceField>
          <span aria-live="polite">{{ picked.length }} of {{ view.rows.length }} chosen</span>
          <template v-if="picked.length > 0">
            <ActButton
              v-if="inStage('open', 'agreed', 'refused').length > 0 && view.rules"
              look="act"
              :disabled="isBusy"
              @click="agreeChosen"
              >Agree as calculated</ActButton
            >
            <ActButton v-if="view.canSend && inStage('agreed', 'refused').length > 0" look="go" :disabled="isBusy" @click="sendChosen"
              >Send {{ countOf(inStage('agreed', 'refused').length, 'grade') }}</ActButton
            >
            <ActButton
              v-if="inStage('under way').length > 0 && view.canSend"
              look="act"
              :disabled="isBusy"
              @click="finals.tryAgain(pickedIds)"
              >Try now</ActButton
            >
            <ActButton v-if="inStage('under way').length > 0 && view.canSend" look="act" :disabled="isBusy" @click="finals.stop(pickedIds)"
              >Stop what is not sent</ActButton
            >
            <ActButton
              v-if="view.canSend && inStage('agreed', 'refused').length > 0"
              look="act"
              :disabled="isBusy"
              @click="finals.noteByHand(pickedIds)"
              >Entered by hand</ActButton
            >
            <ActButton look="act" @click="chosen = new Set()">Choose none</ActButton>
          </template>
          <ActionMenu v-if="view.sections.some((s) => s.agreed > 0)" words="Download" @choose="download">
            <option value="csv">Agreed grades in the registrar’s form (.csv)</option>
            <option value="oneroster">Agreed grades as OneRoster 1.2 results (.zip)</option>
          </ActionMenu>
          <span v-if="!view.canSend" class="soft">The instructor of record sends; you can agree.</span>
        </div>
        <label v-if="corrections.length > 0 && view.canSend" class="field why"
          >{{ countOf(corrections.length, 'grade is', 'grades are') }} with the registrar already: why
          {{ corrections.length === 1 ? 'it is' : 'they are' }} corrected
          <LineField v-model="reason" maxlength="600" aria-label="Why they are corrected"
        /></label>
        <ul v-if="left.length > 0" class="bare-list side-note" role="status">
          <li v-for="l in left" :key="l.enrolmentId">
            <b>{{ l.name }}</b> {{ l.text }}
          </li>
          <li><ActButton look="act" @click="left = []">Close</ActButton></li>
        </ul>
        <p v-if="rows.length === 0" class="soft">Students will stand here once the roster has some.</p>
        <PlainTable v-else class="list">
          <thead>
            <tr>
              <th>
                <TickBox
                  :model-value="areAllChosen"
                  aria-label="Choose all that are shown, over all pages"
                  @update:model-value="toggleAll"
                />
              </th>
              <th>Student</th>
              <th v-if="view.sections.length > 1">Section</th>
              <th class="num">Calculated</th>
              <th>Letter</th>
              <th>For the registrar</th>
              <th>Agreed</th>
              <th>Registrar</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in onPage" :key="r.enrolmentId" :class="{ opened: r.enrolmentId === openedId }">
              <td>
                <TickBox
                  :model-value="chosen.has(r.enrolmentId)"
                  :aria-label="`Choose ${r.givenName} ${r.familyName}`"
                  @update:model-value="toggle(r.enrolmentId)"
                />
              </td>
              <td>
                <ActButton look="act" @click="openedId = r.enrolmentId">{{ r.familyName }}, {{ r.givenName }}</ActButton
                ><span v-if="r.standing !== 'enrolled'" class="soft"> {{ r.standing }}</span>
              </td>
              <td v-if="view.sections.length > 1" class="soft">{{ titleOf.get(r.sectionId ?? '') ?? 'none' }}</td>
              <td class="num">{{ r.calculated.percent ?? '—' }}</td>
              <td>{{ r.calculated.letter ?? '—' }}</td>
              <td :class="{ clay: r.calculated.letter !== null && r.calculated.sentLetter === null }">
                {{ r.calculated.sentLetter ?? (r.calculated.letter === null ? '—' : 'not taken') }}
              </td>
              <td>
                <b>{{ r.agreed?.sentLetter ?? '' }}</b><span v-if="r.agreed?.isOverride" class="soft"> decided</span
                ><span v-if="r.moved" class="clay"> now {{ r.moved.to }}</span
                ><span v-if="r.faults.length > 0" class="clay" :title="r.faults.join(' ')"> lacks something</span>
              </td>
              <td :class="{ clay: r.row?.state === 'refused' || r.row?.state === 'unknown' }">
                <template v-if="r.row"
                  >{{ ROW_STATES[r.row.state]
                  }}<span class="soft">, {{ when(r.row.at) }}{{ r.row.isCorrection ? ', corrected' : '' }}</span>
                  <div v-if="r.row.state === 'refused'" class="soft">{{ r.row.says }} {{ r.row.mend }}</div></template
                >
              </td>
            </tr>
          </tbody>
        </PlainTable>
        <p v-if="pages > 1" class="pages">
          <ActButton look="act" :disabled="page === 0" @click="page -= 1">Earlier</ActButton> {{ page * PAGE + 1 }} to
          {{ Math.min(shown.length, (page + 1) * PAGE) }} of {{ shown.length }}
          <ActButton look="act" :disabled="page >= pages - 1" @click="page += 1">Later</ActButton>
        </p>
      </template>
    </section>
    <AgreePart
      v-if="opened && view"
      :key="opened.enrolmentId"
      :course-id="courseId"
      :row="opened"
      :view="view"
      :is-busy="isBusy"
      @agree="finals.agree([$event])"
      @take-back="finals.takeBack([opened.enrolmentId])"
      @close="openedId = null"
    />
  </div>
</template>

<style scoped>
.finals {
  flex: 1;
}
.main {
  flex: 1;
  min-width: 0;
  background: var(--paper);
}
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  align-items: baseline;
  padding: 8px 0;
}
.bar > :first-child {
  max-width: 220px;
}
.from {
  display: inline-block;
  width: 230px;
  vertical-align: bottom;
}
.why {
  max-width: 560px;
}
.opened {
  background: var(--lit);
}
</style>
