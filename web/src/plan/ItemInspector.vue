<script setup lang="ts">
import type { ItemChange, PlanItem } from '@rosemary/api';
import { dayAndTime, kindOfItem, formatPoints, parsePoints, type DoneRule, type ResultReading, savedWords } from '@rosemary/core';
import { computed, defineAsyncComponent, nextTick, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import LineInput from '../parts/LineInput.vue';
import DateField from '../parts/DateField.vue';
import ObjectivesField from '../objectives/ObjectivesField.vue';
import { HttpProblem } from '../platform/http.ts';
import { useCourse } from '../stores/courseStore.ts';
import { kindTitle } from '../parts/kinds.ts';
import PeerLink from '../peer/PeerLink.vue';
import TaskTypeField from './TaskTypeField.vue';
import ReleaseFields from './ReleaseFields.vue';
import { SHOWN_KINDS } from '../kinds/kinds.ts';
import VariantsField from './VariantsField.vue';
import ActButton from '../parts/ActButton.vue';
import TickBox from '../parts/fields/TickBox.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import TextField from '../parts/fields/TextField.vue';
import { useFieldClash } from '../parts/useFieldClash.ts';

// Seldom needed, with what compares two texts.
const TwoVersions = defineAsyncComponent(() => import('../parts/TwoVersions.vue'));
const props = defineProps<{
  item: PlanItem;
  categories: readonly { readonly id: string; readonly title: string }[];
  canEdit: boolean;
  arrangements: number;
  others: readonly PlanItem[];
  change: (change: Omit<ItemChange, 'version'>) => Promise<boolean>;
}>();
const emit = defineEmits<{ close: []; remove: []; saved: [item: PlanItem] }>();
const ScaleDialog = defineAsyncComponent(() => import('./ScaleDialog.vue'));
const route = useRoute();
const course = useCourse();
const faults = ref<Record<string, string>>({});
/** Fields that stand in the part that is folded at first. */
const HIDDEN = new Set(['opening', 'announcedAt', 'audience']);
const isReleaseShown = ref(false);
/** A finding of the check leads to its field. */
onMounted(async () => {
  if (typeof route.query.field !== 'string') return;
  await nextTick();
  if (HIDDEN.has(route.query.field)) isReleaseShown.value = true;
  await nextTick();
  document.querySelector<HTMLElement>(`[data-field="${CSS.escape(route.query.field)}"] :is(input, select)`)?.focus();
});
const READING: Readonly<Record<ResultReading, string>> = { points: 'points', percent: 'a percentage', letter: 'a letter or word' };
const words = ref('');
const isScaling = ref(false);
/** Draws the fields afresh when a change was left, so that they read what stands. */
const turn = ref(0);
const { clash, lines, caught, takeTheirs, keepMine } = useFieldClash<PlanItem, Omit<ItemChange, 'version'>>(
  (current) => {
    emit('saved', current);
    turn.value += 1;
  },
  async (change) => {
    await nextTick();
    await set(change);
  },
  (field, value) => {
    if (value === null || value === undefined) return 'none';
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    if (field.endsWith('At')) return dayAndTime(Date.parse(String(value)), course.zone, course.now);
    return typeof value === 'number' && ['possible', 'multiplier', 'doneScore'].includes(field) ? formatPoints(value) : String(value);
  },
);
const kind = computed(() => kindOfItem(props.item.kind));
const isWork = computed(() => kind.value.isWork);

/** Each field saves as it is left; what is refused stays typed with the reason beside it. */
async function set(change: Omit<ItemChange, 'version'>): Promise<void> {
  faults.value = {};
  try {
    const isApplied = await props.change(change);
    words.value = isApplied ? savedWords(new Date()) : 'Left as it was';
    if (!isApplied) turn.value += 1;
  } catch (error) {
    words.value = '';
    if (!(error instanceof HttpProblem)) throw error;
    if (caught(error, change)) return;
    faults.value = Object.fromEntries(
      (error.problem.pointers ?? [{ field: Object.keys(change)[0] ?? 'title', text: error.message }]).map((p) => [p.field, p.text]),
    );
  }
}
function setPoints(text: string, field: 'possible' | 'multiplier' | 'doneScore'): void {
  const parsed = parsePoints(text);
  if (parsed.ok) void set({ [field]: parsed.value });
  else faults.value = { [field]: parsed.reason };
}
function setMinutes(typed: string, field: 'estimatedMinutes' | 'markingMinutes'): void {
  const text = typed.trim();
  if (/^\d{1,4}$/.test(text)) void set({ [field]: Number(text) });
  else faults.value = { [field]: `“${text}” is not a whole number of minutes.` };
}
const STATE = {
  draft: 'a draft: no student sees it',
  scheduled: 'scheduled: seen by title until it opens',
  open: 'open',
  closed: 'closed',
} as const;
const OFF = 'switched off: students see nothing of it, and it counts nowhere';
const RELEASE = { finished: 'as each is finished', date: 'at a date', hand: 'by hand, together' } as const;
const DONE: Record<DoneRule, string> = {
  opened: 'it is opened',
  ticked: 'the student ticks it',
  'handed in': 'it is handed in',
  marked: 'it is marked',
  score: 'a score is reached',
  reviewed: 'all reviews are given',
  'handed in and reviewed': 'it is handed in and all reviews are given',
  'handed in or reviewed': 'it is handed in or all reviews are given',
  never: 'never by itself',
};
/** Rules of reviews are offered where there are reviews; one that was chosen stays to be seen. */
const doneRules = computed(() =>
  kind.value.doneRules.filter((rule) => props.item.isReviewed || rule === props.item.doneRule || !rule.includes('reviewed')),
);
</script>

<template>
  <aside class="inspector" aria-label="Inspector">
    <div class="top spread">
      <span class="label">{{ kindTitle(item.kind) }} · {{ item.isOff ? 'off' : item.isStaffOnly ? 'staff only' : item.state }}</span
      ><ActButton look="act" aria-label="Close the inspector" @click="emit('close')">close</ActButton>
    </div>
    <h3>{{ item.title }}</h3>
    <p class="label" aria-live="polite" style="min-height: 18px">{{ words }}</p>
    <TwoVersions v-if="clash" says="Somebody else changed this after you opened it." :lines="lines" @theirs="takeTheirs" @mine="keepMine" />
    <fieldset :key="turn" :disabled="!canEdit">
      <label class="field"
        ><span class="label">State: {{ item.isOff ? OFF : STATE[item.state] }}</span
        ><ChoiceField v-if="item.isOff" model-value="off" @change="set({ isOff: $event === 'off' })">
          <option value="off">switched off</option>
          <option value="on">
            on again: {{ item.isStaffOnly ? 'for staff only' : item.isDraftOnceOn ? 'draft' : 'open by its dates' }}
          </option></ChoiceField
        ><ChoiceField
          v-else
          :model-value="item.isDraft ? 'draft' : 'open'"
          @change="set($event === 'off' ? { isOff: true } : { isDraft: $event === 'draft' })"
        >
          <option value="draft">{{ item.isStaffOnly ? 'for staff only' : 'draft' }}</option>
          <option v-if="!item.isStaffOnly" value="open">open by its dates</option>
          <option value="off">switched off</option>
        </ChoiceField></label
      >
      <p v-if="faults.isDraft" class="fault" role="alert">{{ faults.isDraft }}</p>
      <DateField
        v-if="isWork"
        :model-value="item.dueAt"
        data-field="dueAt"
        :label="`Due, ${course.zone}`"
        :zone="course.zone"
        :now="course.now"
        :fault="faults.dueAt ?? null"
        :hint="item.warnings[0] ?? null"
        :is-fixed="!canEdit"
        @change="set({ dueAt: $event })"
      />
      <p v-if="isWork && (item.variants.length > 0 || arrangements > 0)" class="label" style="margin: -8px 0 12px">
        {{ [...item.variants.map((v) => v.name), ...(arrangements > 0 ? [`${arrangements} arrangements`] : [])].join(' · ') }}
      </p>
      <DateField
        :model-value="item.opensAt"
        data-field="opensAt"
        label="Opens"
        time="08:00"
        :zone="course.zone"
        :now="course.now"
        :fault="faults.opensAt ?? null"
        :is-fixed="!canEdit"
        @change="set({ opensAt: $event })"
      />
      <DateField
        :model-value="item.closesAt"
        data-field="closesAt"
        label="Closes; empty is the end of the term"
        :zone="course.zone"
        :now="course.now"
        :fault="faults.closesAt ?? null"
        :is-fixed="!canEdit"
        @change="set({ closesAt: $event })"
      />
      <p v-if="item.judged === 'words' || item.judged === 'none'" class="label">
        {{ item.judged === 'words' ? 'Judged in words' : 'A reminder with a date, not judged' }}: it has no points and counts nothing.
      </p>
      <template v-else-if="isWork">
        <div class="two-columns">
          <label class="field" data-field="possible"
            ><span class="label">Points</span
            ><LineInput
              inputmode="decimal"
              :value="formatPoints(item.possible)"
              :disabled="!kind.hasOwnPoints"
              :title="kind.hasOwnPoints ? undefined : 'the points of its questions'"
              @commit="setPoints($event, 'possible')" /></label
          ><label class="field" data-field="categoryId"
            ><span class="label">Category</span
            ><ChoiceField :model-value="item.categoryId ?? ''" @change="set({ categoryId: $event === '' ? null : $event })">
              <option value="">none</option>
              <option v-for="c in categories" :key="c.id" :value="c.id">{{ c.title }}</option>
            </ChoiceField></label
          >
        </div>
        <p v-if="faults.possible || faults.categoryId" class="fault" role="alert">{{ faults.possible ?? faults.categoryId }}</p>
        <div class="checks two-columns">
          <label><TickBox :model-value="item.counts" @change="set({ counts: ($event.target as HTMLInputElement).checked })" /> counts</label
          ><label
            ><TickBox :model-value="item.isExtraCredit" @change="set({ isExtraCredit: ($event.target as HTMLInputElement).checked })" />
            extra credit</label
          >
        </div>
      </template>
      <div class="two-columns">
        <label class="field"
          ><span class="label">Minutes for a student</span
          ><LineInput inputmode="numeric" :value="item.estimatedMinutes" @commit="setMinutes($event, 'estimatedMinutes')" /></label
        ><label v-if="isWork" class="field"
          ><span class="label">Minutes to mark</span
          ><LineInput inputmode="numeric" :value="item.markingMinutes" @commit="setMinutes($event, 'markingMinutes')"
        /></label>
      </div>
      <p v-if="faults.estimatedMinutes || faults.markingMinutes" class="fault" role="alert">
        {{ faults.estimatedMinutes ?? faults.markingMinutes }}
      </p>
      <TaskTypeField
        v-if="isWork"
        :model-value="item.taskTypeId"
        :fault="faults.taskTypeId"
        :can-edit="canEdit"
        @change="set({ taskTypeId: $event })"
      />
      <label class="field"
        ><span class="label">Done when</span
        ><ChoiceField :model-value="item.doneRule" @change="set({ doneRule: $event as never })">
          <option v-for="r in doneRules" :key="r" :value="r">
            {{ r === 'handed in' ? kind.handedInRule : DONE[r] }}
          </option>
        </ChoiceField></label
      >
      <label v-if="item.doneRule === 'score'" class="field"
        ><span class="label">Score needed</span
        ><LineInput inputmode="decimal" :value="formatPoints(item.doneScore ?? 0)" @commit="setPoints($event, 'doneScore')"
      /></label>
      <p v-if="faults.doneScore || faults.doneRule" class="fault" role="alert">{{ faults.doneScore ?? faults.doneRule }}</p>
      <template v-if="kind.reviewed !== 'nothing'">
        <span class="label">Who else reads it</span>
        <PeerLink :base="{ courseId: String(route.params.courseId), itemId: item.id }" :is-reviewed="item.isReviewed" />
      </template>
      <component
        :is="SHOWN_KINDS[item.kind].inspectorPart"
        v-if="SHOWN_KINDS[item.kind].inspectorPart"
        :item="item"
        :can-edit="canEdit"
        @set="set"
      />
      <div v-if="isWork && item.possible > 0" class="two-columns">
        <label class="field"
          ><span class="label">Students read it as</span
          ><ChoiceField :model-value="item.studentReads" @change="set({ studentReads: $event as ResultReading })">
            <option v-for="(word, r) in READING" :key="r" :value="r">{{ word }}</option>
          </ChoiceField></label
        ><label class="field"
          ><span class="label">In the gradebook also</span
          ><ChoiceField :model-value="item.staffReads" @change="set({ staffReads: $event as ResultReading })">
            <option v-for="(word, r) in READING" :key="r" :value="r">{{ r === 'points' ? 'only points' : word }}</option>
          </ChoiceField></label
        >
      </div>
      <p v-if="isWork && item.possible > 0 && [item.studentReads, item.staffReads].includes('letter')" class="soft">
        {{
          item.ownLevels === null
            ? 'By the letters of the course.'
            : `By names of its own: ${item.ownLevels.map((l) => l.label).join(', ')}.`
        }}
        <ActButton v-if="canEdit" look="act" @click="isScaling = true">{{
          item.ownLevels === null ? 'Names of its own' : 'Change'
        }}</ActButton>
      </p>
      <ScaleDialog
        v-if="isScaling"
        :title="item.title"
        :levels="item.ownLevels"
        @close="isScaling = false"
        @use="set({ ownLevels: $event })"
      />
      <template v-if="isWork"
        ><label class="field"
          ><span class="label">Marks are released</span
          ><ChoiceField
            :model-value="item.releaseMode"
            @change="
              $event === 'date'
                ? set({
                    releaseMode: 'date',
                    releaseAt: item.releaseAt ?? item.closesAt ?? item.dueAt ?? new Date(course.now).toISOString(),
                  })
                : set({ releaseMode: $event as never })
            "
          >
            <option v-for="(word, mode) in RELEASE" :key="mode" :value="mode">{{ word }}</option>
          </ChoiceField></label
        >
        <DateField
          v-if="item.releaseMode === 'date'"
          :model-value="item.releaseAt"
          label="Released at"
          :zone="course.zone"
          :now="course.now"
          :fault="faults.releaseAt ?? null"
          @change="set({ releaseAt: $event })"
      /></template>
    </fieldset>
    <VariantsField v-if="isWork" :item="item" :can-edit="canEdit" @saved="emit('saved', $event)" />
    <ReleaseFields
      :key="`release ${turn}`"
      :item="item"
      :others="others"
      :base="{ courseId: String(route.params.courseId) }"
      :can-edit="canEdit"
      :faults="faults"
      :is-shown="isReleaseShown"
      @set="set"
      @saved="emit('saved', $event)"
    />
    <label class="field"
      ><span class="label">Note to next time; it comes up when the course is carried forward</span
      ><TextField
        rows="2"
        maxlength="2000"
        :model-value="item.nextNote"
        :disabled="!canEdit"
        @change="set({ nextNote: ($event.target as HTMLTextAreaElement).value })"
      />
    </label>
    <ObjectivesField :course-id="String(route.params.courseId)" :owner="{ itemId: item.id }" label="Objectives" :can-edit="canEdit" />
    <div class="foot">
      <router-link :to="{ name: 'item', params: { courseId: route.params.courseId, itemId: item.id } }">Open</router-link
      ><router-link v-if="kind.marking === 'work' && !item.isDraft" :to="`/courses/${route.params.courseId}/marking/${item.id}`"
        >Mark</router-link
      ><router-link v-if="canEdit" :to="{ name: 'give', params: { courseId: route.params.courseId }, query: { items: item.id } }"
        >Give to classes</router-link
      ><ActButton v-if="canEdit" look="act" @click="emit('remove')">Delete</ActButton>
    </div>
  </aside>
</template>

<style scoped>
.checks {
  margin: 0 0 12px;
}
.foot {
  display: flex;
  gap: 24px;
  padding-top: 12px;
  font-weight: 500;
}
</style>
