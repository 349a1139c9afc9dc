import type { DatesInForce, ItemDates } from './dateInForce.ts';

export type ItemState = 'draft' | 'scheduled' | 'open' | 'closed';

/**
 * The life of an item at an instant: a draft until its teacher opens it; then scheduled before it opens,
 * open, and closed from its closing instant on. Example: open item, opens Monday, now Sunday: `scheduled`.
 */
export function itemState(isDraft: boolean, opensAt: number | null, closesAt: number | null, now: number): ItemState {
  if (isDraft) return 'draft';
  if (opensAt !== null && now < opensAt) return 'scheduled';
  return closesAt !== null && now >= closesAt ? 'closed' : 'open';
}

export type Visibility = 'hidden' | 'announced' | 'open' | 'closed';

/** What else decides whether an item is open to one student. */
export interface Doors {
  /** Opened by hand, and that has not ended. */
  readonly isOpenedByHand: boolean;
  /** Rules of opening are not met yet. */
  readonly isWaiting: boolean;
}
const NO_DOORS: Doors = { isOpenedByHand: false, isWaiting: false };

/**
 * What one student may see: a draft nothing; before opening only the title and dates, and those only from its
 * announcement on (an item with no announcement date is announced as soon as it is no draft). Rules not met keep it announced.
 * A hand that opens it goes before its dates and rules; a draft it never opens.
 * Worked example: opens Monday, now Sunday, opened by hand: `open`.
 */
export function visibilityFor(isDraft: boolean, dates: DatesInForce, now: number, doors: Doors = NO_DOORS): Visibility {
  const state = itemState(isDraft, dates.opens.at, dates.closes.at, now);
  if (state === 'draft') return 'hidden';
  if (doors.isOpenedByHand) return 'open';
  if (state === 'scheduled' || doors.isWaiting) return dates.announced.at !== null && now < dates.announced.at ? 'hidden' : 'announced';
  return state;
}

export interface DateFault {
  readonly field: 'opens' | 'due' | 'closes' | 'announced';
  readonly text: string;
}

/** Dates that contradict one another; an empty list is right. Example: closes before opens names `closes`. */
export function dateFaults(dates: ItemDates): readonly DateFault[] {
  const faults: DateFault[] = [];
  const { announced, opens, due, closes } = dates;
  if (opens !== null && closes !== null && closes <= opens)
    faults.push({ field: 'closes', text: 'It closes before it opens. Set a later closing time or an earlier opening.' });
  if (opens !== null && due !== null && due <= opens)
    faults.push({ field: 'due', text: 'It is due before it opens. Set a later due time or an earlier opening.' });
  if (due !== null && closes !== null && closes < due)
    faults.push({ field: 'closes', text: 'It closes before it is due. Set the closing time at or after the due time.' });
  if (announced !== null && opens !== null && announced > opens)
    faults.push({ field: 'announced', text: 'It is announced after it opens. Set an earlier announcement, or none.' });
  return faults;
}
