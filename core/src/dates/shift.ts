import { DateTime } from 'luxon';
import { instantOfWall } from './wallTime.ts';
import { isHoliday, termWeeks, type Term } from './term.ts';
import { LOCALE } from '../exact/locale.ts';

export interface ShiftSettings {
  readonly from: Term;
  readonly to: Term;
  readonly fromZone: string;
  readonly toZone: string;
  /** Where the timetable moved: weekday of the old term to weekday of the new one; others stay. */
  readonly weekdays: { readonly [weekday: number]: number };
}
export type Shifted =
  { readonly ok: true; readonly at: number; readonly moved: string | null } | { readonly ok: false; readonly reason: string };

/** What shifting needs of two terms, worked out once for all dates of a course. */
export interface Shift {
  readonly settings: ShiftSettings;
  readonly oldWeeks: readonly { readonly startsOn: string; readonly teaching: number | null }[];
  readonly newMondays: readonly string[];
  /** Days already looked at: the dates of a course lie on few days, and calendar arithmetic is slow. */
  readonly known: Map<string, NewDay>;
}
type NewDay = { readonly day: DateTime; readonly moved: string | null } | { readonly reason: string };

/** Counts the teaching weeks of both terms. */
export function prepareShift(settings: ShiftSettings): Shift {
  let teaching = 0;
  const oldWeeks = termWeeks(settings.from).map((week) => {
    if (week.isTeaching) teaching += 1;
    return { startsOn: week.startsOn, teaching: week.isTeaching ? teaching : null };
  });
  const newMondays = termWeeks(settings.to)
    .filter((week) => week.isTeaching)
    .map((week) => week.startsOn);
  return { settings, oldWeeks, newMondays, known: new Map() };
}

/** The next meeting day from a day on that is no holiday, or null where the term has none left. */
function nextMeetingDay(term: Term, day: DateTime): DateTime | null {
  const meets = term.meetingDays.length > 0 ? term.meetingDays : [1, 2, 3, 4, 5];
  for (let next = day; (next.toISODate() as string) <= term.endsOn; next = next.plus({ days: 1 })) {
    if (meets.includes(next.weekday) && !isHoliday(term, next.toISODate() as string)) return next;
  }
  return null;
}
/** The holiday a day falls on, the meeting day to which what stood there moves, and how that is said; null where it is none. */
export function offHoliday(term: Term, day: DateTime): { title: string; next: DateTime | null; moved: string } | null {
  const iso = day.toISODate() as string;
  const holiday = term.holidays.find((h) => h.startsOn <= iso && iso <= h.endsOn);
  if (holiday === undefined) return null;
  const moved = `moved from ${day.setLocale(LOCALE).toFormat('ccc d LLL')}, a holiday (${holiday.title})`;
  return { title: holiday.title, next: nextMeetingDay(term, day), moved };
}

/** The Monday in the new term that stands for the week an old day lies in. */
function newMonday(shift: Shift, oldDay: DateTime): { monday: DateTime } | { reason: string } {
  const { from, to } = shift.settings;
  const firstOld = DateTime.fromISO(from.startsOn, { zone: 'utc' }).startOf('week');
  const week = Math.floor(oldDay.diff(firstOld, 'days').days / 7);
  // Before the term there are no teaching weeks to count: the same number of calendar weeks before the new one.
  if (week < 0) return { monday: DateTime.fromISO(to.startsOn, { zone: 'utc' }).startOf('week').plus({ weeks: week }) };
  const old = shift.oldWeeks[week];
  if (old === undefined) return { reason: 'it stood after the end of the old term' };
  if (old.teaching === null) return { reason: `it stood in week ${week + 1} of the old term, which had no teaching` };
  const monday = shift.newMondays[old.teaching - 1];
  if (monday === undefined) return { reason: `teaching week ${old.teaching} is beyond the end of the new term` };
  return { monday: DateTime.fromISO(monday, { zone: 'utc' }) };
}

/**
 * A date of the old term in the new one: the same teaching week and weekday, after weekday changes, at the same wall-clock time.
 *
 * Weeks are calendar weeks, Monday first; those without teaching are not counted. A day that falls on a holiday moves to the
 * next meeting day that is no holiday, and says so; a weekend day that is no holiday stays where it is. Weeks beyond the new
 * term, and days of a week without teaching, are not placed: the reason says why. A time in a daylight-saving gap moves
 * forward by the gap, an ambiguous one is the earlier of its two instants, whatever today's date is.
 * Worked example: Friday 18:00 of teaching week 3 stays Friday 18:00 of teaching week 3, whatever holidays lie between.
 */
export function shiftDate(shift: Shift, at: number): Shifted {
  const wall = DateTime.fromMillis(at, { zone: shift.settings.fromZone });
  const key = `${wall.year}-${wall.month}-${wall.day}`;
  const known = shift.known.get(key) ?? newDay(shift, DateTime.utc(wall.year, wall.month, wall.day));
  shift.known.set(key, known);
  if ('reason' in known) return { ok: false, reason: known.reason };
  const { day, moved } = known;
  const { hour, minute, second, millisecond } = wall;
  const placedAt = instantOfWall(
    { year: day.year, month: day.month, day: day.day, hour, minute, second, millisecond },
    shift.settings.toZone,
  );
  return { ok: true, at: placedAt, moved };
}

/** The day of the new term that stands for one of the old. */
function newDay(shift: Shift, oldDay: DateTime): NewDay {
  const { settings } = shift;
  const found = newMonday(shift, oldDay);
  if ('reason' in found) return found;
  const weekday = settings.weekdays[oldDay.weekday] ?? oldDay.weekday;
  const day = found.monday.plus({ days: weekday - 1 });
  const holiday = offHoliday(settings.to, day);
  if (holiday === null) return { day, moved: null };
  return holiday.next === null
    ? { reason: `it falls on a holiday (${holiday.title}) and no meeting day is left after it` }
    : { day: holiday.next, moved: holiday.moved };
}
