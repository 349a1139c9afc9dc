import type { ProgressDetail } from '@rosemary/api';
import { dayAndTime, doneInWords } from '@rosemary/core';
import type { FactPerson } from '../gradebook/index.ts';
import { type ItemRow, type ReadCourse, standingOf, tracesOf } from './readCourse.ts';

function howDone(course: ReadCourse, item: ItemRow, person: FactPerson, now: number): string {
  const traces = tracesOf(course, item, person);
  const isHidden = course.isHidden(item.id, person.enrolmentId);
  const at = (time: number): string => (isHidden ? '' : ` ${dayAndTime(time, course.facts.zone, now)}`);
  if (traces.isExempt) return 'exempt';
  if (traces.handedInAt !== null) return `handed in${at(traces.handedInAt)}`;
  if (traces.isMarked) return 'marked';
  return traces.openedAt !== null ? `first opened${at(traces.openedAt)}` : 'never opened';
}

/** How one student's share came about, item by item. */
export function makeDetail(course: ReadCourse, person: FactPerson, now: number): ProgressDetail {
  const own = course.items.map((item) => ({ item, standing: standingOf(course, item, person, now) })).filter((one) => one.standing.isFor);
  const counted = own.filter(({ standing }) => standing.isRequired && standing.isDue);
  return {
    name: `${person.givenName} ${person.familyName}`,
    share: `${counted.filter(({ standing }) => standing.isDone).length} of ${counted.length} required items that are open or past`,
    items: own.map(({ item, standing }) => ({
      id: item.id,
      kind: item.kind,
      title: item.title,
      unit: item.unit,
      unitId: item.unit_id,
      isDone: standing.isDone,
      isOpen: standing.isDue,
      rule: doneInWords(item.done_rule, item.done_score, item.kind) + (item.is_required ? '' : ', not required'),
      how: howDone(course, item, person, now),
      minutes: item.estimated_minutes,
    })),
  };
}
