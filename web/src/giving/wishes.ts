import type { GivenCell, GivePlace } from '@rosemary/api';
import { DateTime } from 'luxon';

/** How one item is given to one class, as far as it is chosen. */
export interface Wish {
  readonly how: 'draft' | 'now' | 'later';
  readonly opensAt: string | null;
  readonly dueAt: string | null;
  readonly words: string;
  readonly tells: boolean;
}
export type Wishes = Readonly<Record<string, Wish>>;

/** A class: a course, or one of its sections. A course’s own items are given to its sections: all of it has the items themselves. */
export interface ClassLine {
  readonly id: string;
  readonly name: string;
  readonly place: GivePlace;
  readonly sectionId: string | null;
  readonly section: string;
}
export const classesOf = (places: readonly GivePlace[]): readonly ClassLine[] =>
  places.flatMap((place) => {
    const whole = place.isHere ? [] : [{ id: null, title: '' }];
    const sections = place.sections.length > 1 || place.isHere ? place.sections : [];
    return [...whole, ...sections].map(({ id, title }) => ({
      ...{ id: id ?? place.courseId, place, sectionId: id, section: title },
      name: title === '' ? place.course : `${place.course}, ${title}`,
    }));
  });

export const keyOf = (itemId: string, classId: string): string => `${itemId} ${classId}`;

/** What somebody begins with who gives an item to a class: a draft with the dates of the same teaching week. */
export function usualWish(place: GivePlace, itemId: string): Wish {
  const dates = place.dates.find((d) => d.itemId === itemId);
  return { how: 'draft', opensAt: dates?.opensAt ?? null, dueAt: dates?.dueAt ?? null, words: '', tells: true };
}

/** The same day and hour by the clock of another place. */
export const atClockOf = (at: string | null, from: string, to: string): string | null =>
  at === null ? null : (DateTime.fromISO(at, { zone: from }).setZone(to, { keepLocalTime: true }).toUTC().toISO() ?? null);

/** What is the same in all of them, or `undefined` where they differ. */
export function commonOf<T>(values: readonly T[]): T | undefined {
  const [first] = values;
  return values.every((value) => value === first) ? first : undefined;
}

/** Why a wish cannot be done as it stands, in words; empty where it can. */
export function faultOf(wish: Wish, now: number): string {
  const [opens, due] = [wish.how === 'now' ? null : wish.opensAt, wish.dueAt];
  if (wish.how === 'later' && opens === null) return 'has no time to open';
  if (wish.how !== 'draft' && due !== null && Date.parse(due) <= now) return 'is due in the past';
  if (opens !== null && due !== null && Date.parse(opens) >= Date.parse(due)) return 'opens after it is due';
  return '';
}

export const toCell = (itemId: string, to: ClassLine, wish: Wish): GivenCell => ({
  ...{ itemId, courseId: to.place.courseId, sectionId: to.sectionId },
  ...{ isDraft: wish.how === 'draft', opensAt: wish.how === 'now' ? null : wish.opensAt, dueAt: wish.dueAt },
  ...{ words: wish.words, tells: wish.how !== 'draft' && wish.tells },
});
