<script setup lang="ts">
import type { AudienceName, PeerChange, PeerSetting } from '@rosemary/api';
import {
  type Among,
  type DrawnWhen,
  formatPoints,
  type OwnWork,
  parsePoints,
  type ReviewingFrom,
  type ReviewsOpen,
  type TeacherCounts,
  type WorkFrom,
} from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import DateField from '../parts/DateField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import TickBox from '../parts/fields/TickBox.vue';
import LineInput from '../parts/LineInput.vue';
import WhomSelect from '../parts/WhomSelect.vue';
import { useCourse } from '../stores/courseStore.ts';
import StrictnessField from './StrictnessField.vue';

/** Everything that is chosen of a peer review beside its prompt and its form. */
const props = defineProps<{
  found: PeerSetting;
  base: { readonly courseId: string; readonly itemId: string };
  canEdit: boolean;
  words: string;
  fault: string;
  set: (change: Partial<PeerChange>) => Promise<boolean>;
}>();
const emit = defineEmits<{ off: [] }>();
const course = useCourse();
const setting = computed(() => props.found.setting);
const pointsFault = ref('');
const names = ref<Record<string, string>>({});
const checked = (event: Event): boolean => (event.target as HTMLInputElement).checked;
const OWN: readonly (readonly [OwnWork, string])[] = [
  ['none', 'is not assessed by oneself'],
  ['first', 'is assessed first, before the others’'],
  ['last', 'is assessed last, after the others’'],
  ['alone', 'is all that is assessed: nobody reads another’s'],
];
const WHO: readonly (readonly [Among, string])[] = [
  ['course', 'all students of the course'],
  ['section', 'students of the same section'],
  ['group', 'students of the same group'],
  ['outside group', 'students of other groups'],
];
const OPEN: readonly (readonly [ReviewsOpen, string])[] = [
  ['works due', 'when the works are due'],
  ['own work', 'as soon as a work is handed in and given out'],
  ['time', 'at a time'],
];
const DRAW: readonly (readonly [DrawnWhen, string])[] = [
  ['works due', 'by themselves, when they are due'],
  ['as they come', 'by themselves, as they come in'],
  ['time', 'by themselves, at a time'],
  ['hand', 'when I say so'],
];
const FROM: readonly (readonly [WorkFrom, string])[] = [
  ['consensus', 'the reviews, without each reviewer’s bias'],
  ['mean', 'the plain mean of the reviews'],
  ['teacher', 'whoever marks it; reviews are only read'],
];
const COUNTS: readonly (readonly [TeacherCounts, string])[] = [
  ['decides', 'decides'],
  ['one', 'counts as one review'],
  ['more', 'counts as several reviews'],
];
const REVIEWING: readonly (readonly [ReviewingFrom, string])[] = [
  ['nearness', 'how near it is to what the others saw'],
  ['done', 'whether the reviews are given'],
  ['teacher', 'my own mark in the gradebook'],
  ['nothing', 'nothing: it has no points'],
];
const hidesNames = computed(() => !setting.value.showsAuthors);
const setNumber = (field: 'reviewsPerWork' | 'reviewsPerStudent', text: string): void => {
  const many = Math.min(10, Math.max(1, Math.round(Number(text) || 1)));
  // One number for both, until somebody wants them apart.
  const both = setting.value.reviewsPerWork === setting.value.reviewsPerStudent && field === 'reviewsPerWork';
  void props.set(both ? { reviewsPerWork: many, reviewsPerStudent: many } : { [field]: many });
};
function setPossible(text: string): void {
  const parsed = parsePoints(text);
  pointsFault.value = parsed.ok ? (parsed.value === 0 ? 'Give it points, or let the reviewing have none.' : '') : parsed.reason;
  if (parsed.ok && parsed.value > 0)
    void props.set({ reviewing: { possible: parsed.value, categoryId: setting.value.reviewing?.categoryId ?? null } });
}
function addDate(member: AudienceName): void {
  names.value[member.sectionId ?? member.enrolmentId ?? member.groupId ?? ''] = member.name;
  const date = { sectionId: member.sectionId, enrolmentId: member.enrolmentId, groupId: member.groupId ?? null };
  void props.set({ otherDates: [...setting.value.otherDates, { ...date, opensAt: null, dueAt: setting.value.reviewsDueAt }] });
}
const setDate = (at: number, dueAt: string | null): Promise<boolean> =>
  props.set({ otherDates: setting.value.otherDates.map((d, n) => (n === at ? { ...d, dueAt } : d)) });
const nameOf = (d: PeerChange['otherDates'][number]): string =>
  course.head?.sections.find((s) => s.id === d.sectionId)?.title ??
  names.value[d.enrolmentId ?? d.groupId ?? ''] ??
  (d.groupId === null ? 'a student' : 'a group');
</script>

<template>
  <aside class="inspector peer-choices" aria-label="How it is reviewed">
    <h3>Who reads what</h3>
    <p class="label status" role="status">{{ words }}</p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <fieldset :disabled="!canEdit">
      <div class="pair">
        <label class="field"
          ><span class="label">Reviews per work</span
          ><LineInput type="number" min="1" max="10" :value="setting.reviewsPerWork" @commit="setNumber('reviewsPerWork', $event)" /></label
        ><label class="field"
          ><span class="label">Reviews per student</span
          ><LineInput type="number" min="1" max="10" :value="setting.reviewsPerStudent" @commit="setNumber('reviewsPerStudent', $event)"
        /></label>
      </div>
      <label class="field"
        ><span class="label">Works are reviewed by</span
        ><ChoiceField :model-value="setting.among" @change="set({ among: $event as Among })">
          <option v-for="[value, text] in WHO" :key="value" :value="value">{{ text }}</option>
        </ChoiceField></label
      >
      <label v-if="setting.among === 'group' || setting.among === 'outside group'" class="field"
        ><span class="label">Groups of</span
        ><ChoiceField :model-value="setting.groupSetId ?? ''" @change="set({ groupSetId: $event === '' ? null : $event })">
          <option value="">choose a set</option>
          <option v-for="s in found.groupSets" :key="s.id" :value="s.id">{{ s.title }}</option>
        </ChoiceField></label
      >
      <label class="field"
        ><span class="label">One’s own work</span
        ><ChoiceField :model-value="setting.ownWork" @change="set({ ownWork: $event as OwnWork })">
          <option v-for="[value, text] in OWN" :key="value" :value="value">{{ text }}</option>
        </ChoiceField></label
      >
      <p>
        <label
          ><TickBox :model-value="setting.needsOwnWork" @change="set({ needsOwnWork: checked($event) })" /> only who has handed in reviews
          others</label
        >
      </p>
      <label class="field"
        ><span class="label">Words asked for in each comment</span
        ><LineInput
          type="number"
          min="0"
          max="500"
          :value="setting.leastWords"
          @commit="set({ leastWords: Math.min(500, Math.max(0, Math.round(Number($event) || 0))) })"
      /></label>
      <h3 class="part">Names</h3>
      <p>
        <label
          ><TickBox :model-value="setting.showsAuthors" @change="set({ showsAuthors: checked($event) })" /> reviewers see whose work it
          is</label
        >
      </p>
      <p>
        <label
          ><TickBox :model-value="setting.showsReviewers" @change="set({ showsReviewers: checked($event) })" /> authors see who reviewed
          them</label
        >
      </p>
      <p v-if="hidesNames" class="label">File names and what files say of their maker are hidden too.</p>
      <h3 class="part">When</h3>
      <p class="soft">
        The works are due
        <router-link :to="{ name: 'plan', params: { courseId: base.courseId }, query: { item: base.itemId } }">as the Plan says</router-link
        >.
      </p>
      <label class="field"
        ><span class="label">Works are given out</span
        ><ChoiceField :model-value="setting.drawing" @change="set({ drawing: $event as DrawnWhen })">
          <option v-for="[value, text] in DRAW" :key="value" :value="value">{{ text }}</option>
        </ChoiceField></label
      >
      <DateField
        v-if="setting.drawing === 'time'"
        :model-value="setting.drawAt"
        label="Given out at"
        time="08:00"
        :zone="course.zone"
        :now="course.now"
        :is-fixed="!canEdit"
        @change="set({ drawAt: $event })"
      />
      <p>
        <label
          ><TickBox :model-value="setting.fitsLateWorks" @change="set({ fitsLateWorks: checked($event) })" /> late works are given out
          too</label
        >
      </p>
      <label class="field"
        ><span class="label">Reviews open</span
        ><ChoiceField :model-value="setting.reviewsOpen" @change="set({ reviewsOpen: $event as ReviewsOpen })">
          <option v-for="[value, text] in OPEN" :key="value" :value="value">{{ text }}</option>
        </ChoiceField></label
      >
      <DateField
        v-if="setting.reviewsOpen === 'time'"
        :model-value="setting.reviewsOpenAt"
        label="Reviews open at"
        time="08:00"
        :zone="course.zone"
        :now="course.now"
        :is-fixed="!canEdit"
        @change="set({ reviewsOpenAt: $event })"
      />
      <DateField
        :model-value="setting.reviewsDueAt"
        label="Reviews due"
        :zone="course.zone"
        :now="course.now"
        :is-fixed="!canEdit"
        @change="set({ reviewsDueAt: $event })"
      />
      <div v-for="(d, n) in setting.otherDates" :key="d.sectionId ?? d.enrolmentId ?? d.groupId ?? n" class="other">
        <DateField
          :model-value="d.dueAt"
          :label="`Reviews due for ${nameOf(d)}`"
          :zone="course.zone"
          :now="course.now"
          :is-fixed="!canEdit"
          @change="setDate(n, $event)"
        /><ActButton
          v-if="canEdit"
          look="act"
          :aria-label="`No other date for ${nameOf(d)}`"
          @click="set({ otherDates: setting.otherDates.filter((_, m) => m !== n) })"
          >Remove</ActButton
        >
      </div>
      <WhomSelect v-if="canEdit" label="Another date for" words="another date for…" :taken="setting.otherDates" @choose="addDate" />
      <p>
        <label
          ><TickBox :model-value="setting.takesLateReviews" @change="set({ takesLateReviews: checked($event) })" /> late reviews are
          taken</label
        >
      </p>
      <DateField
        :model-value="setting.resultsAt"
        label="Students see the results"
        time="08:00"
        :zone="course.zone"
        :now="course.now"
        :is-fixed="!canEdit"
        @change="set({ resultsAt: $event })"
      />
      <DateField
        :model-value="setting.revisionDueAt"
        label="Works can be revised after that until"
        :zone="course.zone"
        :now="course.now"
        :is-fixed="!canEdit"
        @change="set({ revisionDueAt: $event })"
      />
      <p class="label">
        {{
          setting.revisionDueAt === null
            ? 'Without a date, the reviewed work is the last one.'
            : 'Each student has one attempt more; you mark it, with what changed shown beside the reviews.'
        }}
      </p>
      <h3 class="part">The result of the work</h3>
      <label class="field"
        ><span class="label">{{ formatPoints(found.item.possible) }} points, given by</span
        ><ChoiceField :model-value="setting.workFrom" @change="set({ workFrom: $event as WorkFrom })">
          <option v-for="[value, text] in FROM" :key="value" :value="value">{{ text }}</option>
        </ChoiceField></label
      >
      <template v-if="setting.workFrom !== 'teacher'">
        <label class="field"
          ><span class="label">My own assessment</span
          ><ChoiceField :model-value="setting.teacherCounts" @change="set({ teacherCounts: $event as TeacherCounts })">
            <option v-for="[value, text] in COUNTS" :key="value" :value="value">{{ text }}</option>
          </ChoiceField></label
        >
        <label v-if="setting.teacherCounts === 'more'" class="field"
          ><span class="label">As how many reviews</span
          ><LineInput
            type="number"
            min="2"
            max="10"
            :value="setting.teacherWeight"
            @commit="set({ teacherWeight: Math.min(10, Math.max(2, Math.round(Number($event) || 2))) })"
        /></label>
      </template>
      <h3 class="part">The result of the reviewing</h3>
      <label class="field"
        ><span class="label">Given by</span
        ><ChoiceField :model-value="setting.reviewingFrom" @change="set({ reviewingFrom: $event as ReviewingFrom })">
          <option v-for="[value, text] in REVIEWING" :key="value" :value="value">{{ text }}</option>
        </ChoiceField></label
      >
      <template v-if="setting.reviewingFrom !== 'nothing' && setting.reviewing">
        <div class="pair">
          <label class="field"
            ><span class="label">Points</span
            ><LineInput :value="formatPoints(setting.reviewing.possible)" inputmode="decimal" @commit="setPossible" /></label
          ><label class="field"
            ><span class="label">Category</span
            ><ChoiceField
              :model-value="setting.reviewing.categoryId ?? ''"
              @change="set({ reviewing: { possible: setting.reviewing.possible, categoryId: $event === '' ? null : $event } })"
            >
              <option value="">none</option>
              <option v-for="c in found.categories" :key="c.id" :value="c.id">{{ c.title }}</option>
            </ChoiceField></label
          >
        </div>
        <p v-if="pointsFault" class="fault" role="alert">{{ pointsFault }}</p>
        <StrictnessField
          v-if="setting.reviewingFrom === 'nearness'"
          :base="base"
          :strictness="setting.strictness"
          :given="found.given"
          :set="set"
        />
      </template>
      <p v-if="canEdit" class="part"><ActButton look="act" @click="emit('off')">Nobody else reads it</ActButton></p>
    </fieldset>
  </aside>
</template>
