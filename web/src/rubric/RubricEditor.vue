<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { RubricView, RubricChange } from '@rosemary/api';
import { fitRubric, formatPoints, pointsInWords, parsePoints, weighRubric, type CriterionForm, type PlainRubric } from '@rosemary/core';
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import { call, takeBack } from '../platform/call.ts';
import { useDraft } from '../platform/kept.ts';
import { HttpProblem } from '../platform/http.ts';
import LineInput from '../parts/LineInput.vue';
import ObjectivesField from '../objectives/ObjectivesField.vue';
import { useNotices } from '../stores/noticeStore.ts';
import RubricShelf from './RubricShelf.vue';
import ActButton from '../parts/ActButton.vue';
import ActionMenu from '../parts/ActionMenu.vue';
import DragList from '../parts/DragList.vue';
import PlainTable from '../parts/PlainTable.vue';
import LineField from '../parts/fields/LineField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import TextField from '../parts/fields/TextField.vue';

interface Level {
  id: string | null;
  title: string;
  descriptor: string;
  points: string;
  least: string;
  upTo: string;
}
interface Criterion {
  /** Its own while it is on the page, so that it is moved and not made anew. */
  readonly key: string;
  id: string | null;
  title: string;
  form: CriterionForm;
  levels: Level[];
}
const FORMS: Readonly<Record<CriterionForm, string>> = {
  levels: 'by levels',
  range: 'points within levels',
  check: 'a tick',
  count: 'errors counted',
  comment: 'in words',
};
const props = defineProps<{
  base: { readonly courseId: string; readonly itemId: string };
  title: string;
  rubric: RubricView | null;
  possible: number;
  canEdit: boolean;
  /** The form of the reviews that students give, not the rubric of their marker. */
  isOfReviews?: boolean;
}>();
const emit = defineEmits<{ saved: [rubric: RubricView | null] }>();
const word = computed(() => (props.isOfReviews ? 'form' : 'rubric'));
const notices = useNotices();
const route = useRoute();
const isOpen = ref(false);
const draft = ref<Criterion[]>([]);
const fault = ref('');

/** A level as it is typed. */
function typed(id: string | null, l: PlainRubric['criteria'][number]['levels'][number]): Level {
  const least = l.least === null || l.least === undefined ? '' : formatPoints(l.least);
  const upTo = l.upTo === null || l.upTo === undefined ? '' : String(l.upTo);
  return { id, title: l.title, descriptor: l.descriptor, points: formatPoints(l.points), least, upTo };
}
function fill(): void {
  draft.value = (props.rubric?.criteria ?? []).map((c) => ({
    key: c.id,
    id: c.id,
    title: c.title,
    form: c.form ?? 'levels',
    levels: c.levels.map((l) => typed(l.id, l)),
  }));
}
const kept = useDraft<{ readonly version: number; readonly criteria: Criterion[] }>(
  () => `${props.isOfReviews ? 'form' : 'rubric'} ${props.base.itemId}`,
);
/** Whether what stands here is a draft from an earlier sitting. */
const isRestored = ref(false);
/** What was typed here and left before it was saved; made on another rubric than the one of today, its criteria are new ones. */
function restore(): void {
  const found = props.canEdit ? kept.find() : null;
  if (found === null) return;
  const isSame = found.version === (props.rubric?.version ?? 0);
  const known = new Set(props.rubric?.criteria.map((c) => c.id));
  draft.value = isSame ? found.criteria : found.criteria.map((c) => (c.id !== null && known.has(c.id) ? c : { ...c, id: null }));
  isOpen.value = true;
  isRestored.value = true;
}
watch(
  () => props.rubric,
  () => {
    fill();
    restore();
  },
  { immediate: true },
);
watch(
  draft,
  (now) => {
    if (isOpen.value) kept.keep({ version: props.rubric?.version ?? 0, criteria: now });
  },
  { deep: true },
);
function leave(): void {
  isOpen.value = false;
  isRestored.value = false;
  kept.forget();
  fill();
}
const blank = (points: string, more: Partial<Level> = {}): Level => ({
  id: null,
  title: '',
  descriptor: '',
  points,
  least: '',
  upTo: '',
  ...more,
});
/** What a new criterion of each form begins with. */
const BEGINNINGS: Readonly<Record<CriterionForm, () => Level[]>> = {
  levels: () => ['0', '3', '6', '10'].map((points, n) => blank(points, { title: String(n + 1) })),
  range: () => [blank('5', { least: '0' }), blank('10', { least: '6' })],
  check: () => [blank('0', { title: 'no', descriptor: 'not there' }), blank('5', { title: 'yes', descriptor: 'there' })],
  count: () => [blank('10', { upTo: '0' }), blank('6', { upTo: '3' }), blank('0')],
  comment: () => [],
};
function addCriterion(form: CriterionForm = 'levels'): void {
  draft.value.push({ key: crypto.randomUUID(), id: null, title: '', form, levels: BEGINNINGS[form]() });
  isOpen.value = true;
}
/** Another form begins afresh, with the way back. */
function setForm(at: number, form: CriterionForm): void {
  const before = draft.value[at];
  if (before === undefined) return;
  const levels = form === 'levels' && before.form === 'range' ? before.levels : BEGINNINGS[form]();
  draft.value[at] = { ...before, form, levels };
  notices.say(`“${before.title || 'The criterion'}” is judged ${FORMS[form]} now, and not saved yet.`, () => {
    draft.value[at] = before;
    return Promise.resolve();
  });
}
function move(at: number, by: number): void {
  if (at + by < 0 || at + by >= draft.value.length) return;
  const [c] = draft.value.splice(at, 1);
  if (c) draft.value.splice(at + by, 0, c);
}
function remove(at: number): void {
  const before = draft.value;
  draft.value = before.filter((_, n) => n !== at);
  notices.say(`“${before[at]?.title || 'The criterion'}” is removed, and not saved yet.`, () => {
    draft.value = before;
    return Promise.resolve();
  });
}
function act(at: number, does: string): void {
  if (does === 'remove') remove(at);
  else if (does === 'level') draft.value[at]?.levels.push(blank('10', { title: String(draft.value[at].levels.length + 1) }));
  else move(at, does === 'up' ? -1 : 1);
}
const best = (c: Criterion): number =>
  c.levels.reduce((most, l) => {
    const p = parsePoints(l.points);
    return p.ok ? Math.max(most, p.value) : most;
  }, 0);
const total = computed(() => draft.value.reduce((sum, c) => sum + best(c), 0));

const pointsOf = (text: string): number => {
  const parsed = parsePoints(text);
  return parsed.ok ? parsed.value : 0;
};
const bounds = (c: Criterion, l: Level) => ({
  ...(c.form === 'range' ? { least: pointsOf(l.least || '0') } : {}),
  ...(c.form === 'count' ? { upTo: l.upTo.trim() === '' ? null : Number(l.upTo) } : {}),
});
const plainOf = (c: Criterion): PlainRubric['criteria'][number] => ({
  title: c.title.trim(),
  form: c.form,
  levels: c.levels.map((l) => ({ title: l.title, descriptor: l.descriptor, points: pointsOf(l.points), ...bounds(c, l) })),
});
/** The rubric at hand as it could be kept: what cannot be read as points is left out of it. */
const plain = computed(() => draft.value.filter((c) => c.title.trim() !== '').map(plainOf));
function take(rubric: PlainRubric): void {
  const before = draft.value;
  draft.value = fitRubric(rubric.criteria, props.possible).map((c) => ({
    key: crypto.randomUUID(),
    id: null,
    title: c.title,
    form: c.form ?? 'levels',
    levels: c.levels.map((l) => typed(null, l)),
  }));
  isOpen.value = true;
  if (before.length > 0)
    notices.say(`The ${word.value} is replaced here, and not saved yet.`, () => {
      draft.value = before;
      return Promise.resolve();
    });
}
/** Takes other points for the criteria that are here, which keep their identity. */
function reprice(fitted: PlainRubric['criteria']): void {
  draft.value = draft.value.map((c, n) => ({
    ...c,
    levels: c.levels.map((l, m) => {
      const next = fitted[n]?.levels[m];
      return next === undefined
        ? l
        : { ...l, points: formatPoints(next.points), ...(c.form === 'range' ? { least: formatPoints(next.least ?? 0) } : {}) };
    }),
  }));
}
/** Its criteria keep their weights against each other, and add up to the points of the item. */
const fit = (): void => {
  reprice(fitRubric(draft.value.map(plainOf), props.possible));
};
const weightOf = (c: Criterion): number => (total.value === 0 ? 0 : Math.round((1000 * best(c)) / total.value) / 10);
/** A weight is typed; the points of all criteria follow from the weights. */
function setWeight(at: number, text: string): void {
  const wanted = Number(text.replace(',', '.'));
  if (!Number.isFinite(wanted) || wanted < 0 || wanted > 100) {
    fault.value = `“${text}” is no weight from 0 to 100 %.`;
    return;
  }
  fault.value = '';
  const others = draft.value.reduce((sum, c, n) => sum + (n === at ? 0 : weightOf(c)), 0);
  // The others share what is left, in the proportions they had.
  const weights = draft.value.map((c, n) => (n === at ? wanted : others === 0 ? 0 : (weightOf(c) * (100 - wanted)) / others));
  reprice(weighRubric(draft.value.map(plainOf), weights, props.possible));
}
interface Saved {
  readonly rubric: RubricView | null;
  readonly followed: number;
  readonly kept: number;
}
const words = ({ followed, kept }: Saved): string =>
  [
    `The ${word.value} is saved.`,
    followed > 0 ? `${followed === 1 ? 'One finished mark follows' : `${followed} finished marks follow`} its points.` : '',
    kept > 0 ? `${kept === 1 ? 'One keeps its score' : `${kept} keep their score`}.` : '',
  ]
    .filter((w) => w !== '')
    .join(' ');

/** Saves it the way it is saved here: as the rubric of the marker, or as the form of the reviews. */
type Body = { readonly version: number; readonly criteria: RubricChange['criteria'] | RubricView['criteria'] };
async function send(body: Body): Promise<Saved | null> {
  if (!props.isOfReviews) return call(api.saveRubric, props.base, body, 'The points of the rubric');
  const saved = await call(api.changePeerForm, props.base, body, 'The form of the reviews');
  return saved === null ? null : { rubric: saved.form, followed: 0, kept: 0 };
}
const sendBack = async (body: Body): Promise<RubricView | null> =>
  props.isOfReviews
    ? (await takeBack(api.changePeerForm, props.base, body)).form
    : (await takeBack(api.saveRubric, props.base, body)).rubric;
/** Puts a rubric in place, once whom it moves is seen; Undo puts back the one before. */
async function put(criteria: RubricChange['criteria'], before: RubricView | null): Promise<void> {
  const body = { version: props.rubric?.version ?? 0, criteria };
  const saved = await send(body);
  if (saved === null) return;
  kept.forget();
  isOpen.value = false;
  isRestored.value = false;
  emit('saved', saved.rubric);
  notices.say(words(saved), async () => {
    emit('saved', await sendBack({ version: saved.rubric?.version ?? 0, criteria: before?.criteria ?? [] }));
  });
}
async function save(): Promise<void> {
  fault.value = '';
  const criteria = [];
  for (const c of draft.value) {
    const levels = [];
    for (const l of c.levels) {
      const parsed = [l.points, ...(c.form === 'range' ? [l.least || '0'] : [])].map(parsePoints).find((p) => !p.ok);
      const isCount = c.form !== 'count' || /^\d{0,5}$/.test(l.upTo.trim());
      if (parsed?.ok === false || !isCount) {
        fault.value = `${c.title || 'A criterion'}, level ${l.title}: ${parsed?.ok === false ? parsed.reason : `“${l.upTo}” is no number of errors.`}`;
        return;
      }
      levels.push({ id: l.id, title: l.title, descriptor: l.descriptor, points: pointsOf(l.points), ...bounds(c, l) });
    }
    criteria.push({ id: c.id, title: c.title, form: c.form, levels });
  }
  try {
    await put(criteria, props.rubric);
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
  }
}
</script>

<template>
  <section class="rubric" :aria-label="isOfReviews ? 'Form' : 'Rubric'">
    <div class="head">
      <h2>{{ isOfReviews ? 'Form' : 'Rubric' }}</h2>
      <span class="soft">{{
        draft.length === 0 ? (isOfReviews ? 'none yet' : 'none; the score is typed') : `${draft.length} criteria, ${pointsInWords(total)}`
      }}</span><span v-if="!isOfReviews && draft.length > 0 && total !== possible" class="clay"
        >the item has {{ formatPoints(possible) }}
        <ActButton v-if="isOpen && plain.length === draft.length" look="act" @click="fit">fit it</ActButton></span
      ><ActButton v-if="canEdit && !isOpen" look="act" class="end" @click="draft.length === 0 ? addCriterion() : (isOpen = true)">
        {{ draft.length === 0 ? 'Make one' : 'Change' }}
      </ActButton>
    </div>
    <p v-if="canEdit && draft.length === 0 && !isOpen" class="soft">
      Or another form:
      <ActButton look="act" @click="addCriterion('check')">a checklist</ActButton> ·
      <ActButton look="act" @click="addCriterion('count')">errors counted</ActButton> ·
      <ActButton look="act" @click="addCriterion('comment')">in words, point by point</ActButton>
    </p>
    <RubricShelf v-if="canEdit && (isOpen || draft.length === 0)" :criteria="isOpen ? plain : []" :title="title" @take="take" />
    <PlainTable v-if="!isOpen && draft.length > 0">
      <tbody>
        <tr v-for="c in draft" :key="c.title">
          <td style="width: 120px">
            <b>{{ c.title }}</b>
          </td>
          <td v-if="c.form === 'comment'" class="soft">in words</td>
          <td v-for="(l, m) in c.levels" :key="m">
            <b>{{ c.form === 'range' ? `${l.least || 0}–${l.points}` : l.points }}</b><span v-if="c.form === 'count'" class="soft">
              {{ l.upTo === '' ? 'with more' : `up to ${l.upTo}` }}</span
            ><br /><span class="soft">{{ l.descriptor }}</span>
          </td>
        </tr>
      </tbody>
    </PlainTable>
    <form v-else-if="isOpen" @submit.prevent="save">
      <p v-if="isRestored" class="clay" role="status">You left these changes before they were saved. They are only in this browser yet.</p>
      <DragList v-model="draft" handle=".grip">
        <div v-for="(c, n) in draft" :key="c.key" class="criterion">
          <span class="grip" title="drag, or Alt with ↑ and ↓" aria-hidden="true">⠿</span>
          <div class="top">
            <LineField
              v-model="c.title"
              class="title"
              maxlength="120"
              placeholder="Criterion"
              :aria-label="`Criterion ${n + 1}`"
              required
            />
            <ChoiceField
              class="form soft"
              :aria-label="`How criterion ${n + 1} is judged`"
              :model-value="c.form"
              @change="setForm(n, $event as CriterionForm)"
            >
              <option v-for="(words, form) in FORMS" :key="form" :value="form">{{ words }}</option>
            </ChoiceField>
            <template v-if="c.form !== 'comment'"
              ><span class="weight"
                ><LineInput
                  :value="weightOf(c)"
                  inputmode="decimal"
                  :aria-label="`Weight of criterion ${n + 1} in percent`"
                  @commit="setWeight(n, $event)"
                />
                %</span
              ><span class="soft worth">{{ pointsInWords(best(c)) }}</span></template
            ><ActionMenu words="more" :label="`What can be done with criterion ${n + 1}`" @choose="act(n, $event)">
              <option v-if="c.levels.length < 8 && c.form !== 'check' && c.form !== 'comment'" value="level">Add a level</option>
              <option value="up" :disabled="n === 0">Move up</option>
              <option value="down" :disabled="n === draft.length - 1">Move down</option>
              <option value="remove">Remove</option>
            </ActionMenu>
          </div>
          <div class="levels">
            <div v-for="(l, m) in c.levels" :key="m" class="level">
              <span class="bounds"
                ><template v-if="c.form === 'range'"
                  ><LineField v-model="l.least" inputmode="decimal" :aria-label="`Least points of level ${m + 1}`" />–</template
                ><LineField v-model="l.points" inputmode="decimal" :aria-label="`Points of level ${m + 1}`" /><template
                  v-if="c.form === 'count'"
                >
                  <span class="soft">up to</span>
                  <LineField
                    v-model="l.upTo"
                    inputmode="numeric"
                    placeholder="any"
                    :aria-label="`Errors up to, level ${m + 1}`" /></template
                ><ActButton
                  v-if="c.form !== 'check' && c.levels.length > (c.form === 'levels' ? 2 : 1)"
                  look="act"
                  class="less"
                  :aria-label="`Remove level ${m + 1} of criterion ${n + 1}`"
                  @click="c.levels.splice(m, 1)"
                  >×</ActButton
                ></span
              ><TextField
                v-model="l.descriptor"
                rows="2"
                auto-grow
                maxlength="600"
                :aria-label="`What level ${m + 1} looks like`"
                placeholder="what it looks like"
              />
            </div>
          </div>
          <ObjectivesField
            v-if="c.id"
            class="objectives"
            :course-id="String(route.params.courseId)"
            :owner="{ criterionId: c.id }"
            :label="`Objectives of ${c.title}`"
            :can-edit="canEdit"
          />
        </div>
      </DragList>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <ActButton look="quiet" @click="addCriterion()">Add criterion</ActButton>
      <ActButton type="submit" look="go">Save the {{ word }}</ActButton>
      <ActButton look="quiet" @click="leave">Discard changes</ActButton>
    </form>
  </section>
</template>

<style scoped>
.rubric {
  margin-top: 30px;
  border-top: 1px solid var(--frost);
  padding-top: 14px;
}
.head {
  display: flex;
  gap: 14px;
  align-items: baseline;
  margin-bottom: 6px;
}
/* A grid: what is judged and what it is worth over how well it can be. */
.criterion {
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr);
  gap: 6px 10px;
  padding: 10px 0;
  border-top: 1px solid var(--frost);
}
.grip {
  color: var(--soft);
  cursor: grab;
  padding-top: 3px;
}
.top {
  display: flex;
  gap: 12px;
  align-items: baseline;
  white-space: nowrap;
}
.title {
  flex: 1;
  font-weight: 600;
}
.form {
  width: 150px;
}
.weight :deep(.line-field) {
  width: 44px;
  text-align: right;
}
.worth {
  min-width: 64px;
  text-align: right;
}
.levels,
.objectives {
  grid-column: 2;
}
.levels {
  display: flex;
}
.level {
  flex: 1;
  min-width: 0;
  padding: 0 10px;
  border-left: 1px solid var(--frost);
}
.bounds {
  display: flex;
  gap: 4px;
  align-items: baseline;
  white-space: nowrap;
}
.bounds .line-field {
  width: 52px;
  font-weight: 600;
}
.less {
  min-width: 24px;
  min-height: 24px;
  margin-left: auto;
}
.top .button {
  min-height: 24px;
}
.text-field {
  font-size: 13px;
  line-height: 17px;
}
</style>
