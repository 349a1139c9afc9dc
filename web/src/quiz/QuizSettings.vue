<script setup lang="ts">
import type { QuizChange, QuizSetting, ReviewWhen } from '@rosemary/api';
import { formatPoints, parsePoints, type DocumentNode, type Reviewed, savedWords } from '@rosemary/core';
import { computed, ref } from 'vue';
import DateField from '../parts/DateField.vue';
import DocumentEditor from '../parts/DocumentEditor.vue';
import PeerLink from '../peer/PeerLink.vue';
import LineInput from '../parts/LineInput.vue';
import { HttpProblem } from '../platform/http.ts';
import { useSaving } from '../platform/useSaving.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useQuiz } from '../stores/quizStore.ts';
import TickBox from '../parts/fields/TickBox.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

/** How a quiz is taken and what is told of it, the usual ones first. */
defineProps<{ canEdit: boolean }>();
const quiz = useQuiz();
const course = useCourse();
const fault = ref('');
const words = ref('');
const left = ref(0);
const setting = computed(() => quiz.detail!.setting);
/** A question that is drawn may be one too. */
const hasEssays = computed(() =>
  quiz.detail?.sections.some((s) => s.parts.some((p) => p.question === null || p.question.key.kind === 'essay')),
);
async function set(change: Omit<QuizChange, 'version'>): Promise<void> {
  fault.value = '';
  try {
    const isSaved = await quiz.saveSetting(change);
    words.value = isSaved ? savedWords(new Date()) : '';
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
    // What was left shows again as it is.
    if (error instanceof HttpProblem && error.code === 'running') left.value += 1;
  }
}
const instructions = useSaving<DocumentNode>(
  () => `quiz words ${quiz.detail?.itemId ?? ''}`,
  async (document) => {
    await quiz.saveInstructions(document);
    return null;
  },
);
const wholeOf = (text: string): number | null => (text.trim() === '' ? null : Math.round(Number(text)));
function setPoints(field: 'passPoints' | 'meritPoints' | 'retryUntil', text: string): void {
  if (text.trim() === '') {
    void set({ [field]: null });
    return;
  }
  const read = parsePoints(text);
  if (read.ok) void set({ [field]: read.value });
  else fault.value = read.reason;
}
const REVIEWED: readonly (readonly [Reviewed, string])[] = [
  ['score', 'the score'],
  ['answers', 'their answers'],
  ['key', 'what is right'],
  ['feedback', 'feedback'],
];
function setReview(what: Reviewed, kind: string): void {
  const review: QuizSetting['review'] = setting.value.review;
  const next: ReviewWhen =
    kind === 'window'
      ? { kind: 'window', from: new Date(course.now).toISOString(), to: new Date(course.now + 7 * 86_400_000).toISOString() }
      : { kind: kind as 'never' };
  void set({ review: { ...review, [what]: next } });
}
function setWindow(what: Reviewed, end: 'from' | 'to', at: string | null): void {
  const when = setting.value.review[what];
  if (when.kind === 'window' && at !== null) void set({ review: { ...setting.value.review, [what]: { ...when, [end]: at } } });
}
const checked = (event: Event): boolean => (event.target as HTMLInputElement).checked;
const pointsText = (value: number | null): string => (value === null ? '' : formatPoints(value));
</script>

<template>
  <div>
    <p class="label" style="min-height: 18px" role="status">{{ words }}</p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <fieldset :key="left" :disabled="!canEdit" class="bare-fieldset">
      <p class="label">Said before it begins</p>
      <DocumentEditor :model-value="setting.instructions" label="Said before it begins" is-small @change="instructions.push($event)" />
      <div class="pair">
        <label class="field"
          ><span class="label">Time limit, minutes</span
          ><LineInput
            :value="setting.limitMinutes ?? ''"
            placeholder="none"
            inputmode="numeric"
            @commit="set({ limitMinutes: wholeOf($event) })"
        /></label>
        <label class="field"
          ><span class="label">At its end</span>
          <ChoiceField :model-value="setting.atEnd" @change="set({ atEnd: $event as 'flag' })">
            <option value="hand in">it is handed in</option>
            <option value="flag">one may go on; it is noted</option>
          </ChoiceField></label
        >
        <label class="field"
          ><span class="label">Attempts</span
          ><LineInput
            :value="setting.attemptsAllowed ?? ''"
            placeholder="without limit"
            inputmode="numeric"
            @commit="set({ attemptsAllowed: wholeOf($event) })"
        /></label>
        <label class="field"
          ><span class="label">Which counts</span>
          <ChoiceField :model-value="setting.counted" @change="set({ counted: $event })">
            <option value="best">the best</option>
            <option value="latest">the latest</option>
            <option value="first">the first</option>
            <option value="mean">the mean of all</option>
          </ChoiceField></label
        >
        <label class="field"
          ><span class="label">No more once so many points</span
          ><LineInput :value="pointsText(setting.retryUntil)" placeholder="–" @commit="setPoints('retryUntil', $event)"
        /></label>
        <label class="field"
          ><span class="label">Laid out</span>
          <ChoiceField :model-value="setting.layout" @change="set({ layout: $event as 'page' })">
            <option value="one">one question at a time</option>
            <option value="page">all on one page</option>
          </ChoiceField></label
        >
      </div>
      <p v-if="setting.layout === 'one'">
        <label><TickBox :model-value="setting.mayGoBack" @change="set({ mayGoBack: checked($event) })" /> going back is allowed</label>
      </p>
      <p>
        <label
          ><TickBox :model-value="setting.shufflesAnswers" @change="set({ shufflesAnswers: checked($event) })" /> answers in another order
          for each</label
        >
      </p>
      <p>
        <label
          ><TickBox :model-value="setting.shufflesSections" @change="set({ shufflesSections: checked($event) })" /> sections in another
          order for each</label
        >
      </p>
      <p>
        <label
          ><TickBox :model-value="setting.allowsCalculator" @change="set({ allowsCalculator: checked($event) })" /> a calculator beside
          it</label
        >
      </p>
      <h3>What students see afterwards</h3>
      <div v-for="[what, word] in REVIEWED" :key="what" class="when">
        <label class="field"
          ><span class="label">{{ word }}</span>
          <ChoiceField :model-value="setting.review[what].kind" @change="setReview(what, $event)">
            <option value="at once">at once</option>
            <option value="closed">after closing</option>
            <option value="window">in a time</option>
            <option value="never">never</option>
          </ChoiceField></label
        >
        <template v-if="setting.review[what].kind === 'window'">
          <DateField
            label="from"
            :zone="course.zone"
            :now="course.now"
            :model-value="(setting.review[what] as { from: string }).from"
            is-required
            @change="setWindow(what, 'from', $event)"
          />
          <DateField
            label="to"
            :zone="course.zone"
            :now="course.now"
            :model-value="(setting.review[what] as { to: string }).to"
            is-required
            @change="setWindow(what, 'to', $event)"
          />
        </template>
      </div>
      <h3>Attainment</h3>
      <div class="pair">
        <label class="field"
          ><span class="label">Pass, points</span
          ><LineInput :value="pointsText(setting.passPoints)" placeholder="–" @commit="setPoints('passPoints', $event)"
        /></label>
        <label class="field"
          ><span class="label">With merit, points</span
          ><LineInput :value="pointsText(setting.meritPoints)" placeholder="–" @commit="setPoints('meritPoints', $event)"
        /></label>
      </div>
      <template v-if="hasEssays || quiz.detail?.isReviewed">
        <h3>Who else reads the essays</h3>
        <PeerLink :base="quiz.base" :is-reviewed="quiz.detail?.isReviewed === true" />
      </template>
      <h3>Supervised sitting</h3>
      <p class="soft">Code and address are asked when an attempt begins; who has begun goes on.</p>
      <label class="field"
        ><span class="label">Code shown in the room</span
        ><LineInput :value="setting.accessCode" maxlength="40" placeholder="none" @commit="set({ accessCode: $event.trim() })"
      /></label>
      <label class="field"
        ><span class="label">Only from these addresses of the network</span
        ><LineInput
          :value="setting.allowedAddresses.join(', ')"
          placeholder="from anywhere"
          @commit="
            set({
              allowedAddresses: $event
                .split(',')
                .map((a) => a.trim())
                .filter((a) => a !== ''),
            })
          "
      /></label>
      <p>
        <label
          ><TickBox :model-value="setting.recordsLeaving" @change="set({ recordsLeaving: checked($event) })" /> leaving the page is
          recorded</label
        >
      </p>
      <p>
        <label
          ><TickBox :model-value="setting.discouragesCopying" @change="set({ discouragesCopying: checked($event) })" /> copying and printing
          are made hard</label
        >
      </p>
    </fieldset>
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 16px;
  margin-top: 10px;
}
h3 {
  font-size: 15px;
  margin: 14px 0 6px;
}
p {
  margin: 3px 0;
}
</style>
