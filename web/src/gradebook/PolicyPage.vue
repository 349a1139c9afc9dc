<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PolicyCategory, PolicyChange, PolicyPast, PolicyView } from '@rosemary/api';
import { formatPoints, parsePoints, revertPolicy, takePolicy, type LatePolicy, type Ripple } from '@rosemary/core';
import { computed, onMounted, ref, toRaw } from 'vue';
import { useRoute } from 'vue-router';
import RippleView from '../parts/RippleView.vue';
import { useDraft } from '../platform/kept.ts';
import { call, callSeen, rippleOf, takeBack as putBack } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import CategoryLine from './CategoryLine.vue';
import CutPoints from '../parts/CutPoints.vue';
import LateWords from './LateWords.vue';
import NumberWord from './NumberWord.vue';
import PeriodsPart from './PeriodsPart.vue';
import SchemeShelf from '../parts/SchemeShelf.vue';
import PolicyHistory from './PolicyHistory.vue';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import ActionMenu from '../parts/ActionMenu.vue';

const route = useRoute();
const course = useCourse();
const notices = useNotices();
const session = useSession();
const base = computed(() => ({ courseId: String(route.params.courseId) }));
const saved = ref<PolicyView | null>(null);
const draft = ref<PolicyChange | null>(null);
const ripple = ref<Ripple | null>(null);
const fault = ref('');
const canEdit = computed(() => course.head?.role === 'instructor');

const toChange = (v: PolicyView): PolicyChange => {
  const { weightsSum, totals, columns, ...change } = structuredClone(toRaw(v)) as PolicyView;
  void weightsSum;
  void totals;
  void columns;
  return change;
};
async function load(): Promise<void> {
  try {
    saved.value = await call(api.getPolicy, base.value);
    draft.value = toChange(saved.value);
    ripple.value = null;
    await restore();
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
const isChanged = computed(
  () => saved.value !== null && draft.value !== null && JSON.stringify(toChange(saved.value)) !== JSON.stringify(draft.value),
);
const before = (c: PolicyCategory): PolicyCategory | undefined => saved.value?.categories.find((x) => x.id === c.id);
const sum = computed(() => draft.value?.categories.filter((c) => !c.isExtraCredit).reduce((s, c) => s + c.weightPercent, 0) ?? 0);

const kept = useDraft<PolicyChange>(() => `policy ${base.value.courseId}`);
const isRestored = ref(false);
/** A draft that was left before it was applied stands here again; what somebody else changed since is shown struck through beside it. */
async function restore(): Promise<void> {
  const found = canEdit.value ? kept.find() : null;
  if (found === null || saved.value === null) return;
  // What was left before the policy had more to say lacks the rest.
  draft.value = { ...toChange(saved.value), ...found, version: saved.value.version };
  isRestored.value = isChanged.value;
  if (isChanged.value) await changed();
  else kept.forget();
}
let turn = 0;
/** Every change asks the server for its ripple; only the latest answer is shown. */
async function changed(): Promise<void> {
  fault.value = '';
  const mine = ++turn;
  if (isChanged.value) kept.keep(toRaw(draft.value!));
  else kept.forget();
  if (!isChanged.value) {
    isRestored.value = false;
    ripple.value = null;
    return;
  }
  try {
    const next = await rippleOf(api.changePolicy, base.value, toRaw(draft.value!));
    if (mine === turn) ripple.value = next;
  } catch (error) {
    if (mine === turn) {
      ripple.value = null;
      fault.value = error instanceof HttpProblem ? error.message : 'The ripple could not be worked out.';
    }
  }
}
async function apply(): Promise<void> {
  if (draft.value === null) return;
  try {
    const { before: was, after } = await callSeen(api.changePolicy, base.value, toRaw(draft.value));
    kept.forget();
    isRestored.value = false;
    await load();
    notices.say('Applied. Every total is made by the new policy.', async () => {
      await putBack(api.changePolicy, base.value, { ...was, version: after.version });
      await load();
    });
  } catch (error) {
    if (error instanceof HttpProblem && error.code === 'conflict') {
      fault.value =
        'Someone else changed the policy after you opened it. Theirs is shown struck through beside yours; look at the ripple again, then apply or leave it.';
      const theirs = error.problem.current as PolicyChange;
      draft.value = { ...draft.value, version: theirs.version };
      saved.value = { ...(await call(api.getPolicy, base.value)) };
      await changed();
    } else fault.value = error instanceof HttpProblem ? error.message : 'Not applied.';
  }
}
/** An earlier change is taken back in the draft, so that its ripple is seen before it is applied. */
function takeBack(past: PolicyPast): void {
  if (saved.value === null) return;
  draft.value = revertPolicy(toChange(saved.value), past.before, past.after);
  if (!isChanged.value) notices.say('Nothing of that change is left to undo.', null);
  void changed();
}
function leave(): void {
  kept.forget();
  isRestored.value = false;
  if (saved.value) draft.value = toChange(saved.value);
  ripple.value = null;
  fault.value = '';
}
function edit(c: PolicyCategory, change: Partial<PolicyCategory>): void {
  if (draft.value) {
    draft.value = { ...draft.value, categories: draft.value.categories.map((x) => (x === c ? { ...x, ...change } : x)) };
    void changed();
  }
}
function set(change: Partial<PolicyChange>): void {
  if (draft.value) {
    draft.value = { ...draft.value, ...change };
    void changed();
  }
}
const late = computed((): LatePolicy => ({
  ratePercent: draft.value?.lateRatePercent ?? 0,
  stepMinutes: draft.value?.lateStepMinutes ?? 1440,
  base: draft.value?.lateBase ?? 'earned',
  capPercent: draft.value?.lateCapPercent ?? 0,
  floorPercent: draft.value?.lateFloorPercent ?? 0,
  graceMinutes: draft.value?.lateGraceMinutes ?? 0,
}));
const setLate = (next: LatePolicy): void =>
  set({
    lateRatePercent: next.ratePercent,
    lateStepMinutes: next.stepMinutes,
    lateBase: next.base,
    lateCapPercent: next.capPercent,
    lateFloorPercent: next.floorPercent,
    lateGraceMinutes: next.graceMinutes,
  });
function addCategory(): void {
  if (draft.value)
    set({
      categories: [
        ...draft.value.categories,
        {
          id: null,
          title: `Category ${draft.value.categories.length + 1}`,
          weightPercent: 0,
          method: 'points',
          dropLowest: 0,
          keepBest: 0,
          dropHighest: 0,
          isExtraCredit: false,
          isCapped: false,
          declaredItems: 0,
          declaredPoints: 0,
          declaredIn: [],
          late: null,
        },
      ],
    });
}
const totals = computed(() => saved.value?.totals.flatMap((t) => (t.percent === null ? [] : [Number(t.percent)])) ?? []);
type PolicyColumn = PolicyView['columns'][number];
/** Where each column counts by the draft. */
const places = computed(() => {
  const moves = new Map(draft.value?.moves.map((m) => [m.columnId, m]));
  return (saved.value?.columns ?? []).map((column) => ({ ...column, ...moves.get(column.id) }));
});
const summed = (own: readonly PolicyColumn[]): { pieces: number; points: number } => ({
  pieces: own.length,
  points: own.reduce((total, column) => total + column.possible, 0),
});
/** What counts in a category by the draft: how many columns, and their points together. */
const builtIn = (c: PolicyCategory) => summed(c.id === null ? [] : places.value.filter((column) => column.categoryId === c.id));
/** The same in each grading period that has an identity already. */
const builtByPeriod = (c: PolicyCategory) =>
  (draft.value?.periods ?? []).flatMap(({ id, title }) =>
    id === null
      ? []
      : [{ id, title, ...summed(places.value.filter((own) => own.categoryId === c.id && (own.periodId ?? own.inPeriodId) === id)) }],
  );
const placeOf = (n: number, many: number): 'first' | 'middle' | 'last' | 'only' =>
  many === 1 ? 'only' : n === 0 ? 'first' : n === many - 1 ? 'last' : 'middle';
function moveCategory(n: number, by: -1 | 1): void {
  const list = [...(draft.value?.categories ?? [])];
  list.splice(n + by, 0, ...list.splice(n, 1));
  set({ categories: list });
}
/** A category goes, and its columns into another or into none. */
function removeCategory(c: PolicyCategory, goesTo: string | null): void {
  const held = draft.value;
  if (held === null) return;
  const moves = new Map(held.moves.map((m) => [m.columnId, m]));
  for (const column of saved.value?.columns ?? []) {
    const place = moves.get(column.id) ?? { columnId: column.id, categoryId: column.categoryId, periodId: column.periodId };
    if (c.id !== null && place.categoryId === c.id) moves.set(column.id, { ...place, categoryId: goesTo });
  }
  set({ categories: held.categories.filter((x) => x !== c), moves: [...moves.values()] });
}
const wholeKeeps = computed(() =>
  (draft.value?.wholeKeepBest ?? 0) > 0 ? 'best' : (draft.value?.wholeDropLowest ?? 0) > 0 ? 'lowest' : 'all',
);
function setWholeKeeping(how: unknown): void {
  set({
    wholeDropLowest: how === 'lowest' ? Math.max(1, draft.value?.wholeDropLowest ?? 1) : 0,
    wholeKeepBest: how === 'best' ? Math.max(1, draft.value?.wholeKeepBest ?? 1) : 0,
  });
}
function setWhole(field: 'wholeDropLowest' | 'wholeKeepBest' | 'wholeDropHighest', text: string): void {
  if (/^\d{1,2}$/.test(text) && Number(text) <= 50) set({ [field]: Number(text) });
  else fault.value = `“${text}” is not a whole number from 0 to 50.`;
}
function setPass(text: string): void {
  const p = parsePoints(text);
  if (p.ok && p.value <= 1_000_000) set({ passPercent: p.value });
  else fault.value = `Pass mark: ${p.ok ? 'at most 1000 %.' : p.reason}`;
}
const otherCourses = computed(() => session.me?.courses.filter((c) => c.role === 'instructor' && c.id !== base.value.courseId) ?? []);
/** The policy of another course as a draft; categories are met by their titles. */
async function takeFrom(courseId: string): Promise<void> {
  if (saved.value === null) return;
  try {
    const theirs = toChange(await call(api.getPolicy, { courseId }));
    draft.value = takePolicy(theirs, toChange(saved.value), saved.value.columns);
    await changed();
  } catch (error) {
    notices.sayFault(error);
  }
}
</script>

<template>
  <div class="two policy">
    <section class="sentences" aria-label="How the grade is made">
      <p class="label"><router-link :to="{ name: 'gradebook', params: { courseId: route.params.courseId } }">Gradebook</router-link></p>
      <h2>How the grade is made</h2>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div v-if="!draft && !fault"><div v-for="n in 6" :key="n" class="skeleton" style="height: 26px; margin-top: 12px" /></div>
      <p v-if="isRestored" class="clay" role="status">
        You left these changes before they were applied. They are only in this browser yet.
      </p>
      <fieldset v-if="draft" :disabled="!canEdit" class="serif">
        <p>
          The total is made
          <ChoiceField
            is-word
            :model-value="draft.total"
            aria-label="How the total is made"
            @change="set({ total: $event as PolicyChange['total'] })"
          >
            <option value="weights">of weighted categories</option>
            <option value="points">of all points</option>
            <option value="share">of all items, each an equal share</option></ChoiceField
          >.
        </p>
        <template v-if="draft.total === 'weights'">
          <CategoryLine
            v-for="(c, n) in draft.categories"
            :key="c.id ?? c.title"
            :category="c"
            :was="before(c) ?? null"
            :course-late="late"
            :built="builtIn(c)"
            :periods="builtByPeriod(c)"
            :others="draft.categories.filter((o) => o !== c && o.id !== null)"
            :place="placeOf(n, draft.categories.length)"
            @edit="edit(c, $event)"
            @fault="fault = $event"
            @move="moveCategory(n, $event)"
            @remove="removeCategory(c, $event)"
          />
          <p>
            Together <b>{{ formatPoints(sum) }}</b> %<span v-if="sum !== 100000" class="clay"
              >, which is not 100 %; totals are taken in proportion</span
            >. A category with nothing marked
            <ChoiceField
              is-word
              :model-value="draft.isRenormalised ? 'aside' : 'zero'"
              aria-label="A category with nothing marked"
              @change="set({ isRenormalised: $event === 'aside' })"
            >
              <option value="aside">is left aside</option>
              <option value="zero">counts as zero</option></ChoiceField
            >. <ActButton look="act" class="minor" @click="addCategory">Add category</ActButton>
          </p>
        </template>
        <p v-else>
          Of all items
          <ChoiceField is-word :model-value="wholeKeeps" aria-label="What is left out" @change="setWholeKeeping">
            <option value="all">nothing is left out</option>
            <option value="lowest">the lowest are left out:</option>
            <option value="best">only the best are kept:</option> </ChoiceField
          ><template v-if="wholeKeeps === 'lowest'"
            >{{ ' '
            }}<NumberWord
              :value="String(draft.wholeDropLowest)"
              label="How many of the lowest are left out"
              @set="setWhole('wholeDropLowest', $event)" /></template
          ><template v-if="wholeKeeps === 'best'"
            >{{ ' '
            }}<NumberWord
              :value="String(draft.wholeKeepBest)"
              label="How many of the best are kept"
              @set="setWhole('wholeKeepBest', $event)" /></template
          ><template v-if="draft.total === 'share'"
            >, and of the highest
            <NumberWord
              :value="String(draft.wholeDropHighest)"
              label="How many of the highest are left out"
              @set="setWhole('wholeDropHighest', $event)" /></template
          >; the total
          <ChoiceField
            is-word
            :model-value="draft.wholeIsCapped ? 'cap' : 'free'"
            aria-label="Cap"
            @change="set({ wholeIsCapped: $event === 'cap' })"
          >
            <option value="free">may pass 100 % by extra credit</option>
            <option value="cap">is at most 100 %</option></ChoiceField
          >.
        </p>
        <PeriodsPart :draft="draft" :columns="saved?.columns ?? []" @set="set" @fault="fault = $event" />
        <p>
          Missing work
          <ChoiceField
            is-word
            :model-value="draft.isMissingZero ? 'zero' : 'aside'"
            aria-label="Missing work"
            @change="set({ isMissingZero: $event === 'zero' })"
          >
            <option value="zero">counts as zero</option>
            <option value="aside">is left aside</option>
          </ChoiceField>
          once it is due.
        </p>
        <p>
          Late work
          <LateWords :late="late" about="" @set="setLate" @fault="fault = $event" />
        </p>
        <p>
          Totals are read to
          <ChoiceField is-word :model-value="draft.decimals" aria-label="Decimals" @change="set({ decimals: Number($event) })">
            <option :value="0">whole numbers</option>
            <option :value="1">one decimal</option>
            <option :value="2">two decimals</option></ChoiceField
          >, half up. Students
          <ChoiceField
            is-word
            :model-value="draft.showsFloorAndReach ? 'see' : 'no'"
            aria-label="Floor and reach for students"
            @change="set({ showsFloorAndReach: $event === 'see' })"
          >
            <option value="see">see</option>
            <option value="no">do not see</option>
          </ChoiceField>
          floor and reach.
        </p>
        <p>
          The course is passed
          <ChoiceField
            is-word
            :model-value="draft.passPercent === null ? 'no' : 'from'"
            aria-label="Whether there is a pass mark"
            @change="set({ passPercent: $event === 'from' ? 50_000 : null })"
          >
            <option value="from">from</option>
            <option value="no">by no stated mark</option></ChoiceField
          ><template v-if="draft.passPercent !== null"
            >{{ ' ' }}<NumberWord :value="formatPoints(draft.passPercent)" label="Pass mark in percent" @set="setPass" /> %</template
          >.
        </p>
        <CutPoints :levels="draft.levels" :totals="totals" :is-fixed="!canEdit" @change="set({ levels: $event })" />
        <SchemeShelf
          v-if="canEdit"
          class="sheet-words"
          :scheme="{ levels: draft.levels, passPercent: draft.passPercent }"
          :title="course.head?.title ?? 'Scheme'"
          @take="set($event)"
        />
      </fieldset>
      <PolicyHistory v-if="draft && canEdit" :base="base" @take-back="takeBack" />
      <p v-if="draft && canEdit && otherCourses.length > 0" class="from-other">
        <ActionMenu words="Take the policy of another course" @choose="takeFrom">
          <option v-for="c in otherCourses" :key="c.id" :value="c.id">{{ c.title }}, {{ c.code }} {{ c.run }}</option>
        </ActionMenu>
        <span class="soft"> It comes as a draft: whom it moves is seen before it is applied.</span>
      </p>
    </section>
    <aside class="ripple-side" aria-label="Ripple">
      <RippleView v-if="ripple && draft" :ripple="ripple" :levels="draft.levels"
        ><ActButton look="go" @click="apply">Apply to {{ ripple.rows.length }}</ActButton>
        <ActButton look="quiet" @click="leave">Leave it</ActButton> <span class="soft">can be undone</span></RippleView
      >
      <p v-else class="soft">
        Change a word in the sentences: who rises, who falls and who crosses a letter stands here before anything is applied.
      </p>
    </aside>
  </div>
</template>

<style scoped>
.policy {
  flex: 1;
}
.sentences {
  flex: 1;
  padding: 18px 40px 40px;
  min-width: 0;
}
h2 {
  font-size: 21px;
  line-height: 30px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 6px 0 0;
  font-size: 17px;
  line-height: 34px;
  max-width: 680px;
  min-width: 0;
}
.ripple-side {
  width: 520px;
  flex: none;
  background: var(--paper);
  border-left: 1px solid var(--frost);
  padding: 22px 26px;
  box-sizing: border-box;
}
/* Whom a change moves stays in view, however far down it is made. */
.ripple-side > * {
  position: sticky;
  top: 22px;
}
.from-other {
  margin-top: 14px;
}
fieldset :deep(.minor) {
  font: 13px/20px var(--sans);
  margin-left: 10px;
}
</style>
