import * as api from '@rosemary/api/endpoints';
import type { ProgressReport, ReportPerson } from '@rosemary/api';
import { weekNumber } from '@rosemary/core';
import { computed, ref, shallowRef, type Ref } from 'vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';

/** What of the report is looked at: students by section and group, items and works by weeks and period. All are places in the report. */
export interface Looked {
  readonly people: readonly number[];
  readonly items: readonly number[];
  readonly works: readonly number[];
}

/** The report of a course as it is read, and what is chosen of it. */
export function useReport(courseId: Ref<string>) {
  const course = useCourse();
  const report = shallowRef<ProgressReport | null>(null);
  const fault = ref('');
  const groupId = ref('');
  const periodId = ref('');

  async function load(): Promise<void> {
    try {
      report.value = await call(api.getProgress, { courseId: courseId.value });
      fault.value = '';
    } catch (error) {
      fault.value = error instanceof Error ? error.message : '';
    }
  }
  const isInWeeks = (dueAt: string | null): boolean => {
    if (course.weeks === null) return true;
    const startsOn = course.head?.line.weeks[0]?.startsOn;
    const week = dueAt === null || startsOn === undefined ? 0 : weekNumber({ startsOn }, Date.parse(dueAt), course.zone);
    return week >= course.weeks[0] && week <= course.weeks[1];
  };
  const isInTime = (one: { readonly dueAt: string | null; readonly periodId: string | null }): boolean =>
    isInWeeks(one.dueAt) && (periodId.value === '' || one.periodId === periodId.value);
  const isLooked = (person: ReportPerson): boolean =>
    (course.sectionId === null || person.sectionId === course.sectionId) &&
    (groupId.value === '' || person.groupIds.includes(groupId.value));
  const placesOf = <T>(list: readonly T[], test: (one: T) => boolean): number[] => list.flatMap((one, n) => (test(one) ? [n] : []));

  const looked = computed((): Looked => ({
    people: placesOf(report.value?.people ?? [], isLooked),
    items: placesOf(report.value?.items ?? [], isInTime),
    works: placesOf(report.value?.works ?? [], isInTime),
  }));
  return { report, fault, groupId, periodId, looked, load };
}

/** A name as it stands in a list: in short the initial of what is given. */
export const nameOf = (person: Pick<ReportPerson, 'familyName' | 'givenName'>, isFull: boolean): string =>
  isFull ? `${person.familyName}, ${person.givenName}` : `${person.familyName}, ${person.givenName.charAt(0)}.`;

/** Two names as they are; of more, the first and how many others. */
export const namesInShort = (names: readonly string[]): string =>
  names.length <= 2 ? names.join('; ') : `${names[0] ?? ''} and ${names.length - 1} others`;
