import * as api from '@rosemary/api/endpoints';
import type { BookRow, CellSaved, Gradebook } from '@rosemary/api';
import { plainLetters, weekNumber } from '@rosemary/core';
import { computed, ref, shallowRef, type Ref } from 'vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { columnsOf, type Column } from './columns.ts';
import type { GridChoice } from './gridChoice.ts';
import { isRowShown } from './narrow.ts';

/** Whom of a class the grid shows, beside the section: the members of a group, and those whose name has certain letters. */
export interface Narrowed {
  readonly members: ReadonlySet<string> | null;
  readonly letters: string;
}

/** The gradebook of a course as it is read: its students and columns as far as they are asked for, each fresh row in place of the one before. */
export function useBook(courseId: Ref<string>, choice: Ref<GridChoice>, narrowed: Ref<Narrowed>, asOf: Ref<string | null>) {
  const course = useCourse();
  const book = shallowRef<Gradebook | null>(null);
  const fault = ref('');
  const base = computed(() => ({ courseId: courseId.value }));

  let asked = 0;
  async function load(): Promise<void> {
    // An answer that another question has overtaken is dropped: the gradebook of the past must not come in under today's.
    const mine = ++asked;
    try {
      const read = await call(api.getGradebook, { ...base.value, ...(asOf.value === null ? {} : { asOf: asOf.value }) });
      if (mine !== asked) return;
      book.value = read;
      fault.value = '';
    } catch (error) {
      if (mine !== asked) return;
      fault.value = error instanceof Error ? error.message : '';
    }
  }
  function put(fresh: readonly BookRow[]): void {
    if (book.value === null) return;
    const byId = new Map(fresh.map((r) => [r.enrolmentId, r]));
    book.value = { ...book.value, rows: book.value.rows.map((r) => byId.get(r.enrolmentId) ?? r) };
  }
  /** Reads the rows of some students again; the whole book where one of them is not in it. */
  async function loadRows(ids: readonly string[]): Promise<void> {
    const held = book.value;
    if (held === null || ids.some((id) => !held.rows.some((r) => r.enrolmentId === id))) return load();
    try {
      put(await Promise.all(ids.map((enrolmentId) => call(api.getGradebookRow, { ...base.value, enrolmentId }))));
    } catch (error) {
      fault.value = error instanceof Error ? error.message : '';
    }
  }
  const accept = (saved: CellSaved): void => {
    put([saved.row]);
  };

  const isInWeeks = (dueAt: string | null): boolean => {
    if (course.weeks === null) return true;
    const startsOn = course.head?.line.weeks[0]?.startsOn;
    const week = dueAt === null || startsOn === undefined ? 0 : weekNumber({ startsOn }, Date.parse(dueAt), course.zone);
    return week >= course.weeks[0] && week <= course.weeks[1];
  };
  const columns = computed((): readonly Column[] => (book.value === null ? [] : columnsOf(book.value, choice.value, isInWeeks)));
  const ofSection = computed((): readonly BookRow[] => {
    const { members, letters } = narrowed.value;
    const wanted = plainLetters(letters.trim());
    return (book.value?.rows ?? []).filter(
      (r) =>
        (course.sectionId === null || r.sectionId === course.sectionId) &&
        (members === null || members.has(r.enrolmentId)) &&
        (wanted === '' || plainLetters(`${r.givenName} ${r.familyName} ${r.givenName}`).includes(wanted)) &&
        isRowShown(r, columns.value, choice.value.state, book.value?.passPercent ?? null),
    );
  });
  return { book, fault, load, loadRows, columns, ofSection, accept };
}
