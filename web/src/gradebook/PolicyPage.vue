<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PolicyCategory, PolicyChange, PolicyPast, PolicyView } from '@rosemary/api';
import { formatPoints, parsePoints, revertPolicy, type LatePolicy, type Ripple } from '@rosemary/core';
import { computed, onMounted, ref, toRaw } from 'vue';
import { useRoute } from 'vue-router';
import LineInput from '../parts/LineInput.vue';
import RippleView from '../parts/RippleView.vue';
import { useDraft } from '../platform/kept.ts';
import { call, callSeen, rippleOf, takeBack as putBack } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import CutPoints from './CutPoints.vue';
import LateWords from './LateWords.vue';
import NumberWord from './NumberWord.vue';
import PolicyHistory from './PolicyHistory.vue';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import ActionMenu from '../parts/ActionMenu.vue';

const route = useRoute();
const course = useCourse();
const notices = useNotices();
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
  draft.value = { ...found, version: saved.value.version };
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
function setPercent(c: PolicyCategory, text: string): void {
  const p = parsePoints(text);
  if (!p.ok || p.value > 1_000_000) {
    fault.value = `Weight of ${c.title}: ${p.ok ? 'at most 1000 %.' : p.reason}`;
    return;
  }
  edit(c, { weightPercent: p.value });
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
          late: null,
        },
      ],
    });
}
const DROPS = ['none', 'one', 'two', 'three', 'four', 'five'];
const totals = computed(() => saved.value?.totals.flatMap((t) => (t.percent === null ? [] : [Number(t.percent)])) ?? []);
function act(c: PolicyChange['categories'][number], does: string): void {
  if (does === 'late') edit(c, { late: c.late === null ? late.value : null });
  else if (does === 'extra') edit(c, { isExtraCredit: !c.isExtraCredit });
  else set({ categories: draft.value?.categories.filter((x) => x !== c) ?? [] });
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
          <p v-for="c in draft.categories" :key="c.id ?? c.title">
            <LineInput
              class="title"
              is-word
              is-quiet
              :value="c.title"
              :size="Math.max(6, c.title.length)"
              maxlength="60"
              aria-label="Category"
              @commit="edit(c, { title: $event })"
            />
            count
            <NumberWord
              :value="formatPoints(c.weightPercent)"
              :label="`Weight of ${c.title}`"
              :was="before(c) && before(c)!.weightPercent !== c.weightPercent ? formatPoints(before(c)!.weightPercent) : null"
              @set="setPercent(c, $event)"
            />
            % by
            <ChoiceField
              is-word
              :model-value="c.method"
              :aria-label="`Method of ${c.title}`"
              @change="edit(c, { method: $event as 'points' })"
            >
              <option value="points">points</option>
              <option value="share">equal share</option></ChoiceField
            >, leaving out the lowest
            <ChoiceField
              is-word
              :model-value="c.dropLowest"
              :aria-label="`Lowest left out of ${c.title}`"
              @change="edit(c, { dropLowest: Number($event) })"
            >
              <option v-for="(w, n) in DROPS" :key="n" :value="n">{{ w }}</option></ChoiceField
            ><template v-if="c.isExtraCredit">, on top of the whole</template>.
            <span v-if="c.late" class="own-late"
              >Late work in it
              <LateWords :late="c.late" :about="` of ${c.title}`" @set="edit(c, { late: $event })" @fault="fault = $event" />
            </span>
            <ActionMenu words="more" class="minor" :label="`What can be done with ${c.title}`" @choose="act(c, $event)">
              <option value="late">{{ c.late === null ? 'Give it a late rule of its own' : 'Late work as in the course' }}</option>
              <option value="extra">{{ c.isExtraCredit ? 'No extra credit' : 'Make it extra credit' }}</option>
              <option value="remove">Remove</option>
            </ActionMenu>
          </p>
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
          Of all items the lowest
          <ChoiceField
            is-word
            :model-value="draft.wholeDropLowest"
            aria-label="Lowest left out"
            @change="set({ wholeDropLowest: Number($event) })"
          >
            <option v-for="(w, n) in DROPS" :key="n" :value="n">{{ w }}</option>
          </ChoiceField>
          left out.
        </p>
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
        <CutPoints :levels="draft.levels" :totals="totals" :is-fixed="!canEdit" @change="set({ levels: $event })" />
      </fieldset>
      <PolicyHistory v-if="draft && canEdit" :base="base" @take-back="takeBack" />
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
  max-width: 640px;
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
.title {
  color: var(--ink);
}
p :deep(.minor) {
  font:
    13px/20px 'Source Sans 3 Variable',
    sans-serif;
  margin-left: 10px;
}
</style>
