import { DOINGS, type Doing } from '../items/doing.ts';

/**
 * What one student did on one day: days from the first of the term, the hours as bits (bit 0 is the hour after midnight), minutes in all and in one go
 * at most, and what was done, as bits in the order of `DOINGS`.
 */
export type DayOfActivity = readonly [day: number, hours: number, minutes: number, longest: number, doings: number];

/** How much there was in each hour of each day of the week: seven rows from Monday, each of 24 numbers. */
export type WeekHours = readonly (readonly number[])[];

const DAYS = ['Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays'] as const;

/** Hours of the day from the bits in which they are kept. Example: 5 is the hours 0 and 2. */
export const hoursOfBits = (bits: number): readonly number[] =>
  Array.from({ length: 24 }, (_, hour) => hour).filter((hour) => (bits & (1 << hour)) !== 0);

/** What was done, from its bits. Example: 3 is reading and writing. */
export const doingsOfBits = (bits: number): readonly Doing[] => DOINGS.filter((_, n) => (bits & (1 << n)) !== 0);

/** The day of the week, 0 for Monday, of a day counted from one whose day of the week is `first`. Example: the day −1 from a Monday is 6. */
export const weekdayOf = (day: number, first: number): number => (((day + first) % 7) + 7) % 7;

/**
 * In how many hours somebody was active, by day of the week and hour of the day: each student counts once for each hour of each day.
 * `first` is the day of the week of day 0, 0 for Monday.
 * Worked example: one student on day 0, a Monday, in the hours of the bits 5: one at 0 and one at 2 of Monday.
 */
export function weekHours(people: readonly (readonly DayOfActivity[])[], first: number): WeekHours {
  const rows = DAYS.map(() => Array.from({ length: 24 }, () => 0));
  // Of a large class these are hundreds of thousands of days: nothing is made for each.
  for (const days of people) {
    for (const [day, hours] of days) {
      const row = rows[weekdayOf(day, first)];
      if (row === undefined) continue;
      for (let hour = 0, bits = hours; bits !== 0; hour += 1, bits >>>= 1) if ((bits & 1) === 1) row[hour] = (row[hour] ?? 0) + 1;
    }
  }
  return rows;
}

export interface DayOfClass {
  readonly day: number;
  readonly students: number;
  readonly minutes: number;
}
/**
 * The days from `from` to `until` with how many students were active and for how long in all.
 * Worked example: two students on day 3 for 10 and 20 minutes: 2 students, 30 minutes.
 */
export function classDays(people: readonly (readonly DayOfActivity[])[], from: number, until: number): readonly DayOfClass[] {
  const days = Array.from({ length: Math.max(0, until - from + 1) }, (_, n) => ({ day: from + n, students: 0, minutes: 0 }));
  for (const own of people) {
    for (const [day, , minutes] of own) {
      const held = days[day - from];
      if (held === undefined) continue;
      held.students += 1;
      held.minutes += minutes;
    }
  }
  return days;
}

export interface ActivityOfOne {
  readonly days: number;
  readonly minutes: number;
  /** The longest in one go, in minutes. */
  readonly longest: number;
  /** The latest day; null where there was none. */
  readonly lastDay: number | null;
  readonly doings: readonly Doing[];
}
/** The activity of one student in few numbers. Example: two days of 10 and 20 minutes are 2 days, 30 minutes. */
export function activityOf(days: readonly DayOfActivity[]): ActivityOfOne {
  return {
    days: days.length,
    minutes: days.reduce((sum, [, , minutes]) => sum + minutes, 0),
    longest: days.reduce((most, [, , , longest]) => Math.max(most, longest), 0),
    lastDay: days.length === 0 ? null : Math.max(...days.map(([day]) => day)),
    doings: doingsOfBits(days.reduce((bits, [, , , , doings]) => bits | doings, 0)),
  };
}

/**
 * The busiest day of the week and the busiest two hours, in words; null where nothing was recorded. Where two are alike the earlier one is named.
 * Worked example: nothing but Sundays from 19:00 to 21:00:
 * `Most is done on Sundays, and over all days most of all from 19:00 to 21:00.`
 */
export function rhythmWords(hours: WeekHours): string | null {
  const days = hours.map((row) => row.reduce((sum, n) => sum + n, 0));
  const most = Math.max(0, ...days);
  if (most === 0) return null;
  const byHour = Array.from({ length: 24 }, (_, hour) => hours.reduce((sum, row) => sum + (row[hour] ?? 0), 0));
  const pairs = byHour.slice(0, -1).map((n, hour) => n + (byHour[hour + 1] ?? 0));
  const from = pairs.indexOf(Math.max(...pairs));
  const clock = (hour: number): string => `${String(hour).padStart(2, '0')}:00`;
  return `Most is done on ${DAYS[days.indexOf(most)] ?? ''}, and over all days most of all from ${clock(from)} to ${clock(from + 2)}.`;
}
