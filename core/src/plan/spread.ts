import { DateTime } from 'luxon';
import { instantOfDay } from '../dates/wallTime.ts';
import { isHoliday, type Term } from '../dates/term.ts';

export interface SpreadItem {
  readonly id: string;
  readonly minutes: number;
}
export interface SpreadSettings {
  readonly term: Pick<Term, 'meetingDays' | 'holidays'>;
  readonly zone: string;
  /** First and last calendar day, both taken. */
  readonly from: string;
  readonly to: string;
  /** The wall-clock time of every due date, `HH:mm`. */
  readonly time: string;
}
export interface Placement {
  readonly id: string;
  readonly day: string;
  readonly dueAt: number;
}
export type Spread =
  | { readonly ok: true; readonly placements: readonly Placement[]; readonly days: readonly string[] }
  | { readonly ok: false; readonly reason: string };

const MOST_DAYS = 400;

/** The meeting days between two calendar days that are no holiday; Monday to Friday where a term names none. */
export function teachingDays(term: SpreadSettings['term'], from: string, to: string): readonly string[] {
  const meets = term.meetingDays.length > 0 ? term.meetingDays : [1, 2, 3, 4, 5];
  const days: string[] = [];
  const end = DateTime.fromISO(to, { zone: 'utc' });
  for (let day = DateTime.fromISO(from, { zone: 'utc' }), n = 0; day <= end && n < MOST_DAYS; day = day.plus({ days: 1 }), n += 1) {
    const iso = day.toISODate() as string;
    if (meets.includes(day.weekday) && !isHoliday({ ...EMPTY, ...term }, iso)) days.push(iso);
  }
  return days;
}
const EMPTY: Term = { title: '', startsOn: '', endsOn: '', meetingDays: [], holidays: [] };

/**
 * Lays items, in their order, over the teaching days between two dates, in proportion to their minutes.
 *
 * An item is due on the day on which the minutes up to and with it are used up, each day taking the same share of the
 * whole; so the last one is due on the last day, and the order of dates is the order of the items. Items without minutes
 * count as the smallest part; where none has any, all count alike. Wall-clock time in the course's zone.
 * Errors are values. Worked example: 60, 60 and 120 minutes over four days Mon to Thu: Mon, Tue, Thu.
 */
export function spread(items: readonly SpreadItem[], settings: SpreadSettings): Spread {
  if (items.length === 0) return { ok: false, reason: 'Choose at least one item to spread.' };
  if (settings.to < settings.from) return { ok: false, reason: 'The last day is before the first. Set a later last day.' };
  const days = teachingDays(settings.term, settings.from, settings.to);
  if (days.length === 0) return { ok: false, reason: 'There is no teaching day between these two dates. Choose a longer stretch.' };
  const [hour = 23, minute = 59] = settings.time.split(':').map(Number);
  // Whole numbers all the way, so that an item that ends exactly with a day stays on that day.
  const minutes = items.some((i) => i.minutes > 0) ? items.map((i) => Math.max(0, Math.round(i.minutes))) : items.map(() => 1);
  const whole = minutes.reduce((sum, m) => sum + m, 0);
  let used = 0;
  const placements = items.map((item, n): Placement => {
    used += minutes[n] as number;
    const place = Math.max(0, Math.ceil((used * days.length) / whole) - 1);
    const day = days[place] as string;
    return { id: item.id, day, dueAt: instantOfDay(day, hour, minute, settings.zone) };
  });
  return { ok: true, placements, days };
}
