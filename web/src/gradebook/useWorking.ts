import * as api from '@rosemary/api/endpoints';
import type { BookRow, WorkingView } from '@rosemary/api';
import { computed, ref, watch, type Ref } from 'vue';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';
import type { Column } from './columns.ts';

/** The working of the chosen number, or of the class; read anew whenever another is chosen. */
export function useWorking(courseId: Ref<string>, row: Ref<BookRow | null>, column: Ref<Column | null>, asOf: Ref<string | null>) {
  const notices = useNotices();
  const working = ref<WorkingView | null>(null);
  /** Which end of the range is shown. */
  const which = ref<'floor' | 'reach'>('floor');
  /** Counts the readings, so that the history beside the working follows it. */
  const turn = ref(0);
  const of = computed((): string => {
    const { value } = column;
    if (value === null) return '';
    return value.kind === 'graded' ? `column:${value.columnId}` : value.kind === 'range' ? which.value : value.key;
  });
  const past = computed(() => (asOf.value === null ? {} : { asOf: asOf.value }));
  let asked = 0;
  async function show(read: () => Promise<WorkingView>): Promise<void> {
    const mine = ++asked;
    try {
      const next = await read();
      if (mine === asked) working.value = next;
    } catch (error) {
      notices.sayFault(error);
    }
  }
  async function readWorking(): Promise<void> {
    const { value: who } = row;
    turn.value += 1;
    if (who === null || of.value === '') working.value = null;
    else await show(() => call(api.getWorking, { courseId: courseId.value, enrolmentId: who.enrolmentId, of: of.value, ...past.value }));
  }
  /** How the class stands, with every total it is the mean of. */
  const showClass = (sectionId: string | null): Promise<void> =>
    show(() => call(api.getClassWorking, { courseId: courseId.value, ...(sectionId === null ? {} : { section: sectionId }) }));
  watch([row, of], readWorking);
  return { working, which, turn, readWorking, showClass };
}
