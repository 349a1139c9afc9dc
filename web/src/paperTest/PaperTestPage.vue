<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { QuizSetting } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import FileDrop from '../parts/media/FileDrop.vue';
import { useFresh } from '../platform/useEvents.ts';
import { useQuiz } from '../stores/quizStore.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import AnswersTableForm from './AnswersTableForm.vue';
import DoubtList from './DoubtList.vue';
import SheetTable from './SheetTable.vue';
import { usePaperTest } from './usePaperTest.ts';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';

/** A quiz on paper, from the printer to the gradebook. */
const route = useRoute();
const course = useCourse();
const quiz = useQuiz();
const notices = useNotices();
const test = usePaperTest();
const { view, fault, share, scanFault } = test;
const spare = ref(4);
const isTable = ref(false);
const canEdit = computed(() => course.head?.role === 'instructor');
const courseId = computed(() => String(route.params.courseId));
onMounted(test.load);
useFresh(courseId, ['marks', 'grades'], test.load);
const isPrinted = computed(() => view.value?.printedAt !== null);
const taken = computed(() => quiz.detail?.setting.taken ?? 'screen');
const doubtful = computed(() => view.value?.sheets.filter((s) => s.doubts.length > 0) ?? []);
const ready = computed(
  () => view.value?.sheets.filter((s) => s.enrolmentId !== null && (s.state === 'ready' || s.state === 'changed since')) ?? [],
);
const forms = computed(() => Array.from({ length: view.value?.setting.forms ?? 1 }, (_, n) => String.fromCharCode(65 + n)));
const written = computed(() => (view.value?.questions ?? 0) - (view.value?.onSheet ?? 0));
async function setTaken(next: QuizSetting['taken']): Promise<void> {
  const before = taken.value;
  try {
    if (await quiz.saveSetting({ taken: next })) notices.say('Changed.', () => setTaken(before));
  } catch (error) {
    notices.sayFault(error);
  }
}
const when = (at: string): string => dayAndTime(Date.parse(at), course.zone, course.now);
</script>

<template>
  <section class="page">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <template v-if="!view && !fault"><div v-for="n in 8" :key="n" class="skeleton" style="height: 22px; margin-top: 12px" /></template>
    <template v-else-if="view">
      <div class="columns">
        <div>
          <h2>Print</h2>
          <fieldset :disabled="!canEdit">
            <label class="field"
              ><span class="label">Taken</span>
              <ChoiceField :model-value="taken" @change="setTaken($event as 'paper')">
                <option value="screen">on screen</option>
                <option value="paper">on paper</option>
                <option value="both">on screen or on paper</option>
              </ChoiceField></label
            >
          </fieldset>
          <fieldset :disabled="!canEdit || isPrinted" class="grid">
            <label class="field"
              ><span class="label">Columns (at most {{ view.columnsFit }})</span>
              <ChoiceField
                :model-value="Math.min(view.setting.columns, view.columnsFit)"
                @change="test.setLayout({ columns: Number($event) })"
              >
                <option v-for="n in view.columnsFit" :key="n" :value="n">{{ n }}</option>
              </ChoiceField></label
            >
            <label class="field"
              ><span class="label">Rows</span>
              <ChoiceField :model-value="view.setting.spacing" @change="test.setLayout({ spacing: $event as 'tight' })">
                <option value="roomy">roomy</option>
                <option value="tight">tight</option>
              </ChoiceField></label
            >
            <label class="field"
              ><span class="label">Letters</span>
              <ChoiceField :model-value="String(view.setting.alternates)" @change="test.setLayout({ alternates: $event === 'true' })">
                <option value="true">others in every second row</option>
                <option value="false">the same in all rows</option>
              </ChoiceField></label
            >
            <label class="field"
              ><span class="label">Versions of the paper</span>
              <ChoiceField :model-value="view.setting.forms" @change="test.setLayout({ forms: Number($event) })">
                <option :value="1">one</option>
                <option v-for="n in [2, 3, 4]" :key="n" :value="n">{{ n }}</option>
              </ChoiceField></label
            >
          </fieldset>
          <p v-if="view.whyNot" class="clay">{{ view.whyNot }}</p>
          <template v-else>
            <p class="soft">
              {{ view.onSheet }} of {{ view.questions }} {{ view.questions === 1 ? 'question' : 'questions' }} on the sheet,
              {{ view.pages === 1 ? 'one page' : `${view.pages} pages` }} each{{
                written > 0 ? `; ${written} answered on the question paper and marked by hand` : ''
              }}.
            </p>
            <p class="line">
              <a v-for="f in forms" :key="f" :href="urlOf(api.getQuestionPaper, { ...test.base.value, form: f })" download
                >Question paper{{ forms.length > 1 ? ` ${f}` : '' }} (PDF)</a
              >
            </p>
            <template v-if="isPrinted">
              <p class="line">
                <a :href="urlOf(api.getSheets, test.base.value)" download>Answer sheets (PDF)</a>
                <a :href="urlOf(api.getSheets, { ...test.base.value, which: 'spare' })" download>Spare sheets (PDF)</a>
              </p>
              <p class="soft">Made {{ when(view.printedAt ?? '') }}; the paper stays as it is since.</p>
              <p v-if="canEdit" class="line">
                <ActButton v-if="view.without.length > 0" look="quiet" @click="test.makeSheets(0)">
                  Make sheets for {{ view.without.length === 1 ? 'one who has none' : `${view.without.length} who have none` }}
                </ActButton>
                <ActButton look="act" @click="test.makeSheets(4)">four more spare sheets</ActButton>
                <ActButton look="act" @click="test.startOver()">start over</ActButton>
              </p>
            </template>
            <form v-else-if="canEdit" class="line" @submit.prevent="test.makeSheets(spare)">
              <ActButton type="submit" look="go">Make the answer sheets</ActButton>
              <label>with <LineField v-model.number="spare" class="spare" type="number" min="0" max="200" /> spare ones</label>
            </form>
          </template>
        </div>
        <div>
          <h2>Read</h2>
          <template v-if="isPrinted">
            <FileDrop
              words="Choose scans…"
              hint="or let them fall here: PNG, JPEG, or a PDF of scanned pages; tilted or upside down is no matter"
              accept="image/png,image/jpeg,application/pdf,.png,.jpg,.jpeg,.pdf"
              is-many
              :share="share"
              doing="being read"
              :fault="scanFault"
              @many="test.sendScans"
              @cancel="test.cancel"
            />
            <p class="line">
              <ActButton look="act" @click="isTable = true">answers from a table</ActButton>
              <span class="soft">or type them below</span>
            </p>
            <p class="soft">
              {{
                view.scans === 0 ? 'No page has been scanned yet.' : view.scans === 1 ? 'One page scanned.' : `${view.scans} pages scanned.`
              }}
            </p>
            <div v-if="view.unread.length > 0" class="unread">
              <p class="clay">
                {{ view.unread.length === 1 ? 'One page could not be read:' : `${view.unread.length} pages could not be read:` }}
              </p>
              <ul>
                <li v-for="s in view.unread" :key="s.id">
                  <a :href="urlOf(api.getScanPage, { ...test.base.value, scanId: s.id })" target="_blank" rel="noopener">{{ s.name }}</a>
                  {{ s.problem }}
                  <ActButton look="act" @click="test.setLeftOut(s.id, true)">leave it out</ActButton>
                </li>
              </ul>
            </div>
            <p v-if="ready.length > 0" class="line">
              <ActButton look="go" @click="test.bringIn(ready)">
                Record {{ ready.length === 1 ? 'one result' : `${ready.length} results` }}
              </ActButton>
              <span class="soft">whom it moves is shown first</span>
            </p>
          </template>
          <p v-else class="soft">Once the sheets are made, scans of them are read here, or answers typed.</p>
        </div>
      </div>
      <DoubtList v-if="doubtful.length > 0" :sheets="doubtful" :base="test.base.value" class="part" @say="test.sayRow" />
      <div v-if="isPrinted" class="part">
        <h2>Sheets</h2>
        <SheetTable :view="view" :base="test.base.value" :say="test.sayAnswers" @owner="test.setOwner" @back="test.takeBack([$event])" />
      </div>
    </template>
    <v-dialog v-model="isTable" max-width="680">
      <AnswersTableForm :base="test.base.value" :reload="test.load" @leave="isTable = false" />
    </v-dialog>
  </section>
</template>

<style scoped>
.page {
  padding: 16px 26px 60px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
  gap: 48px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 8px 0;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px 20px;
}
.line {
  display: flex;
  gap: 16px;
  align-items: baseline;
  flex-wrap: wrap;
  margin: 8px 0;
}
.spare {
  width: 52px;
}
.unread a {
  text-decoration: underline;
}
.unread ul {
  padding-left: 18px;
  margin: 2px 0 8px;
}
.part {
  margin-top: 24px;
}
</style>
