import { dayNumber, dayNumberAt } from './dayNumber.ts';

/** 1 March of the year 0 was a Wednesday: 2 days after a Monday. */
const daysAfterMonday = (number: number): number => (((number + 2) % 7) + 7) % 7;

/**
 * The number of the week an instant falls in, counted from 1; 0 or less before the term.
 *
 * Convention: calendar weeks, Monday first, counted from the one the term starts in, by the wall clock of the zone. `startsOn` is a
 * calendar date `YYYY-MM-DD`, `at` an instant in milliseconds since 1970. An unknown zone throws. No library of dates is needed, so that
 * a page which only asks for weeks need not load one. Days are counted by the Gregorian calendar.
 * Worked example: of a term from Mon 21 September 2026, 18 November 09:00 in Lisbon lies in week 9.
 */
export function weekNumber(term: { readonly startsOn: string }, at: number, zone: string): number {
  const start = dayNumber(term.startsOn);
  const monday = start - daysAfterMonday(start);
  return Math.floor((dayNumberAt(at, zone) - monday) / 7) + 1;
}
