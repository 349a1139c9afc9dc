import { weekdayOf, writeDate } from '@rosemary/core';
import { DateTime } from 'luxon';

export const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;

/** The days of a term by their number from its first, as activity is kept. */
export function termDays({ startsOn, days }: { readonly startsOn: string; readonly days: number }, now: number, zone: string) {
  const begins = DateTime.fromISO(startsOn, { zone: 'utc' });
  const first = begins.weekday - 1;
  const today = Math.floor(DateTime.fromMillis(now, { zone }).setZone('utc', { keepLocalTime: true }).diff(begins, 'days').days);
  const isoOf = (day: number): string => begins.plus({ days: day }).toISODate() ?? '';
  return {
    /** The day of the week on which the term begins, 0 for Monday. */
    first,
    /** The last day there can be something of: today, or the end of the term. */
    last: Math.min(days - 1, Math.max(0, today)),
    weekOf: (day: number): number => Math.floor((day + first) / 7),
    weekdayOf: (day: number): number => weekdayOf(day, first),
    isoOf,
    dateOf: (day: number): string => writeDate(begins.plus({ days: day }).toMillis(), 'utc', true).replace(/ \d{4}$/, ''),
  };
}
