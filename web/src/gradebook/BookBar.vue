<script setup lang="ts">
import type { BookRow, Gradebook } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import ActButton from '../parts/ActButton.vue';
import ActionMenu from '../parts/ActionMenu.vue';
import FloatMenu from '../parts/FloatMenu.vue';
import LineField from '../parts/fields/LineField.vue';
import { computed, ref, watch } from 'vue';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import type { Column } from './columns.ts';
import type { GridChoice } from './gridChoice.ts';
import { choiceWords } from './gridWords.ts';
import PastChoice from './PastChoice.vue';
import ViewChoice from './ViewChoice.vue';

/** What stands over the grid: finding somebody, adding a column, how it is looked at. */
const choice = defineModel<GridChoice>('choice', { required: true });
const letters = defineModel<string>('letters', { required: true });
const isFull = defineModel<boolean>('isFull', { required: true });
const props = defineProps<{
  courseId: string;
  book: Gradebook;
  rows: readonly BookRow[];
  columns: readonly Column[];
  canEdit: boolean;
  groupTitle: string | null;
}>();
const emit = defineEmits<{ add: []; arrange: []; differences: []; import: []; list: [] }>();
const asOf = defineModel<string | null>('asOf', { required: true });
const isPastOpen = ref(false);
const course = useCourse();
const notices = useNotices();
// The line stands under a full screen, and has to be seen to choose a day on it.
watch(
  () => course.picksDay,
  (picks) => {
    if (picks) isFull.value = false;
  },
);
const leftOut = computed(() => choiceWords(choice.value, props.book, props.groupTitle));
const EVERYTHING = { categoryId: null, periodId: null, groupId: null, state: null };
const MOST_NAMED = 200;
function choose(what: string): void {
  if (what === 'import') emit('import');
  else if (what === 'list') emit('list');
  else if (what === 'oneroster')
    location.assign(
      urlOf(api.getOneRosterResults, { courseId: props.courseId, ...(course.sectionId === null ? {} : { section: course.sectionId }) }),
    );
  else download(what);
}
/** Downloads the gradebook as a table: as it is shown, or whole. Students are named where not all of a section are shown. */
function download(what: string): void {
  const [whole, format] = what.startsWith('whole ') ? ['1', what.slice(6)] : [undefined, what];
  const ofSection = props.book.rows.filter((r) => course.sectionId === null || r.sectionId === course.sectionId);
  const isNarrowed = whole === undefined && props.rows.length < ofSection.length;
  if (isNarrowed && props.rows.length > MOST_NAMED) {
    notices.say(
      `More than ${MOST_NAMED} students are picked out. Show everybody, or download everything and narrow it in the spreadsheet.`,
      null,
    );
    return;
  }
  location.assign(
    urlOf(api.getGradebookTable, {
      courseId: props.courseId,
      format: format as 'csv',
      ...(course.sectionId === null ? {} : { section: course.sectionId }),
      ...(whole === undefined
        ? { columns: props.columns.flatMap((c) => (['soFar', 'range'].includes(c.kind) ? [] : [c.key])).join(',') }
        : { whole }),
      ...(isNarrowed ? { students: props.rows.map((r) => r.enrolmentId).join(',') } : {}),
    }),
  );
}
</script>

<template>
  <span v-if="leftOut !== ''" class="soft"
    >{{ leftOut }} · <ActButton look="act" @click="choice = { ...choice, ...EVERYTHING }">show everything</ActButton></span
  >
  <LineField v-model="letters" class="letters" placeholder="Find a student" aria-label="Find a student in the gradebook" />
  <ActButton v-if="canEdit" look="act" @click="emit('add')">Add column</ActButton>
  <FloatMenu stays location="bottom end"
    ><template #activator="{ props: opener }"><ActButton v-bind="opener" look="act">View ▾</ActButton></template
    ><ViewChoice v-model="choice" :book="book" @arrange="emit('arrange')"
  /></FloatMenu>
  <FloatMenu v-model="isPastOpen" stays location="bottom end"
    ><template #activator="{ props: opener }"><ActButton v-bind="opener" look="act">Past ▾</ActButton></template
    ><PastChoice v-model="asOf" @differences="emit('differences')" @close="isPastOpen = false"
  /></FloatMenu>
  <ActionMenu v-if="canEdit" words="File" label="Import, download, print" @choose="choose">
    <option value="import">Import a table…</option>
    <option value="list">Print a class list…</option>
    <option value="xlsx">Download what is shown (.xlsx)</option>
    <option value="csv">Download what is shown (.csv)</option>
    <option value="whole xlsx">Download everything, to import again (.xlsx)</option>
    <option value="whole csv">Download everything, to import again (.csv)</option>
    <option value="oneroster">Results for the school’s records (OneRoster 1.2, .zip)</option>
  </ActionMenu>
  <ActButton look="act" :aria-pressed="isFull" @click="isFull = !isFull">{{ isFull ? 'Leave full screen' : 'Full screen' }}</ActButton>
</template>

<style scoped>
.letters {
  width: 150px;
}
</style>
