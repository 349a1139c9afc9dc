<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { AudienceMember, AudienceName, Gradebook, LevelChange, NewColumn } from '@rosemary/api';
import { parsePoints, type ResultReading } from '@rosemary/core';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import DateField from '../parts/DateField.vue';
import FoldOut from '../parts/FoldOut.vue';
import WhomSelect from '../parts/WhomSelect.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { call, takeBack } from '../platform/call.ts';
import { useDraft } from '../platform/kept.ts';
import { HttpProblem } from '../platform/http.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** A new column for what is done in class, in one line; the rest folds away. */
const props = defineProps<{ courseId: string; categories: Gradebook['categories']; periods: Gradebook['periods'] }>();
const emit = defineEmits<{ close: []; added: [] }>();
const notices = useNotices();
const course = useCourse();
const ScaleDialog = defineAsyncComponent(() => import('../plan/ScaleDialog.vue'));
const isScaling = ref(false);
const NEW = 'new';
interface Typed {
  title: string;
  points: string;
  category: string;
  newCategory: string;
  dueAt: string | null;
  audience: readonly AudienceName[];
  isToldAtOnce: boolean;
  showsStatistics: boolean;
  isExtraCredit: boolean;
  multiplier: string;
  periodId: string | null;
  studentReads: ResultReading;
  ownLevels: LevelChange[] | null;
}
const draft = useDraft<Typed>(() => `column ${props.courseId}`);
const typed = ref<Typed>({
  ...{
    title: '',
    points: '10',
    category: props.categories[0]?.id ?? '',
    newCategory: '',
    dueAt: null,
    audience: [],
    isToldAtOnce: true,
    showsStatistics: false,
    isExtraCredit: false,
    multiplier: '1',
    periodId: null,
    studentReads: 'points',
    ownLevels: null,
  },
  // What was left before there was more to say lacks the rest.
  ...draft.find(),
});
const faults = ref<ReadonlyMap<string, string>>(new Map());
const isBusy = ref(false);
watch(
  typed,
  (now) => {
    draft.keep(now);
  },
  { deep: true },
);
const faultOf = (field: string): string => faults.value.get(field) ?? '';
const others = computed(() =>
  [...faults.value].filter(([field]) => !['title', 'possible', 'multiplier', 'newCategory', 'dueAt'].includes(field)),
);
const bare = ({ sectionId, enrolmentId, groupId }: AudienceName): AudienceMember => ({ sectionId, enrolmentId, groupId });
function read(): NewColumn | null {
  const [points, multiplier] = [parsePoints(typed.value.points), parsePoints(typed.value.multiplier)];
  const found: [string, string][] = [];
  if (typed.value.title.trim() === '') found.push(['title', 'Give it a title.']);
  if (!points.ok) found.push(['possible', points.reason]);
  if (!multiplier.ok) found.push(['multiplier', multiplier.reason]);
  if (typed.value.category === NEW && typed.value.newCategory.trim() === '') found.push(['newCategory', 'Name the new category.']);
  faults.value = new Map(found);
  if (!points.ok || !multiplier.ok || found.length > 0) return null;
  const { category } = typed.value;
  return {
    title: typed.value.title,
    possible: points.value,
    categoryId: category === '' || category === NEW ? null : category,
    newCategory: category === NEW ? typed.value.newCategory : null,
    dueAt: typed.value.dueAt,
    audience: typed.value.audience.map(bare),
    isToldAtOnce: typed.value.isToldAtOnce,
    showsStatistics: typed.value.showsStatistics,
    isExtraCredit: typed.value.isExtraCredit,
    multiplier: multiplier.value,
    periodId: typed.value.periodId,
    studentReads: typed.value.studentReads,
    ownLevels: typed.value.studentReads === 'letter' ? typed.value.ownLevels : null,
  };
}
async function add(): Promise<void> {
  const body = read();
  if (body === null) return;
  isBusy.value = true;
  try {
    const made = await call(api.addGradeColumn, { courseId: props.courseId }, body, `Add “${body.title}”`);
    if (made === null) return;
    draft.forget();
    emit('added');
    emit('close');
    notices.say(`“${body.title}” added.`, async () => {
      await takeBack(api.addGradeColumn, { courseId: props.courseId, itemId: made.itemId });
      emit('added');
    });
  } catch (error) {
    if (error instanceof HttpProblem && (error.problem.pointers?.length ?? 0) > 0)
      faults.value = new Map(error.problem.pointers?.map((p) => [p.field, p.text]));
    else notices.sayFault(error);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <v-dialog :model-value="true" width="720" max-width="720" @update:model-value="emit('close')">
    <form class="sheet pad" role="dialog" aria-label="New column" @submit.prevent="add">
      <h2>New column</h2>
      <p class="soft">For what is done in class and has nothing to hand in: a talk, a practical, a test on paper.</p>
      <div class="line">
        <label class="field title"
          >Title
          <LineField v-model="typed.title" takes-focus maxlength="160" />
          <span v-if="faultOf('title')" class="fault" role="alert">{{ faultOf('title') }}</span></label
        >
        <label class="field points"
          >Points
          <LineField v-model="typed.points" inputmode="decimal" />
          <span v-if="faultOf('possible')" class="fault" role="alert">{{ faultOf('possible') }}</span></label
        >
        <div class="field">
          Category
          <ChoiceField v-model="typed.category" aria-label="Category">
            <option v-for="c in categories" :key="c.id" :value="c.id">{{ c.title }}</option>
            <option value="">none</option>
            <option :value="NEW">a new one…</option>
          </ChoiceField>
        </div>
        <div class="field">
          <DateField
            :model-value="typed.dueAt"
            label="Date"
            :zone="course.zone"
            :now="course.now"
            :fault="faultOf('dueAt')"
            @change="typed.dueAt = $event"
          />
        </div>
      </div>
      <label v-if="typed.category === NEW" class="field"
        >Name of the new category
        <LineField v-model="typed.newCategory" maxlength="60" takes-focus />
        <span class="soft">It begins with a weight of 0 %: give it one in the policy.</span>
        <span v-if="faultOf('newCategory')" class="fault" role="alert">{{ faultOf('newCategory') }}</span></label
      >
      <FoldOut>
        <template #summary>For whom, release, how it is read, extra credit</template>
        <p>
          For {{ typed.audience.length === 0 ? 'everyone in the course' : typed.audience.map((a) => a.name).join(', ') }}
          <ActButton v-if="typed.audience.length > 0" look="act" @click="typed.audience = []">everyone</ActButton>
        </p>
        <WhomSelect
          label="For a section, a group or a student"
          words="Only for certain sections, groups or students…"
          :taken="typed.audience"
          @choose="typed.audience = [...typed.audience, $event]"
        />
        <label class="tick-line"><TickBox v-model="typed.isToldAtOnce" /> Students see a result as soon as it is written</label>
        <label class="tick-line"><TickBox v-model="typed.showsStatistics" /> Students see how the class did, from five results on</label>
        <label class="tick-line"><TickBox v-model="typed.isExtraCredit" /> Extra credit: adds points, not weight</label>
        <div class="two-columns">
          <div class="field">
            Students read it as
            <ChoiceField v-model="typed.studentReads" aria-label="Students read it as">
              <option value="points">points</option>
              <option value="percent">a percentage</option>
              <option value="letter">a letter or word</option>
            </ChoiceField>
          </div>
          <div v-if="periods.length > 0" class="field">
            Grading period
            <ChoiceField v-model="typed.periodId" aria-label="Grading period">
              <option :value="null">by its date</option>
              <option v-for="p in periods" :key="p.id" :value="p.id">{{ p.title }}</option>
            </ChoiceField>
          </div>
        </div>
        <p v-if="typed.studentReads === 'letter'" class="soft">
          {{ typed.ownLevels === null ? 'By the letters of the course.' : `By ${typed.ownLevels.map((l) => l.label).join(', ')}.` }}
          <ActButton look="act" @click="isScaling = true">Names of its own</ActButton>
        </p>
        <label class="field multiplier"
          >Multiplier in its category
          <LineField v-model="typed.multiplier" inputmode="decimal" />
          <span v-if="faultOf('multiplier')" class="fault" role="alert">{{ faultOf('multiplier') }}</span></label
        >
      </FoldOut>
      <p v-for="[field, text] in others" :key="field" class="fault" role="alert">{{ text }}</p>
      <div class="form-acts">
        <ActButton type="submit" look="go" :disabled="isBusy">Add column</ActButton>
        <ActButton look="quiet" @click="emit('close')">Cancel</ActButton>
      </div>
    </form>
    <ScaleDialog
      v-if="isScaling"
      :title="typed.title || 'this column'"
      :levels="typed.ownLevels"
      @close="isScaling = false"
      @use="typed.ownLevels = $event"
    />
  </v-dialog>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 1fr 70px 150px 170px;
  gap: 18px;
  align-items: start;
}
.multiplier {
  width: 180px;
}
</style>
