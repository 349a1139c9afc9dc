import { DateTime } from 'luxon';
import { offHoliday } from './shift.ts';
import { isHoliday, type Term, termWeeks } from './term.ts';
import { instantOfWall, wallOf } from './wallTime.ts';

/** How the dates of a course are moved together. */
export interface DateMove {
  /**
   * `weeks`: by so many teaching weeks, weeks without teaching not counted. `days`: by so many days of the calendar. `from week`: so that the
   * earliest of them falls into this teaching week of the term, as for dates that come from another term.
   */
  readonly how: 'weeks' | 'days' | 'from week';
  readonly by: number;
  /** From weekday to weekday, 1 is Monday; the others stay. */
  readonly weekdays: { readonly [weekday: number]: number };
  /** What then falls on a holiday moves to the next meeting day. */
  readonly isOffHolidays: boolean;
}
export interface PlacedDate {
  readonly at: number;
  /** What is to be known of the new day, in words; empty where nothing is. */
  readonly note: string;
  /** Before the first or after the last day of the term. */
  readonly isOutside: boolean;
  /** On a holiday, and left there. */
  readonly isOnHoliday: boolean;
}
/** A move made ready for many dates: the weeks of the term are counted once. */
export interface DateMover {
  readonly term: Term;
  readonly zone: string;
  readonly move: DateMove;
  readonly teaching: readonly string[];
  readonly idle: ReadonlySet<string>;
  /** The Monday of the earliest date. */
  readonly earliest: DateTime;
}

const MOST_STEPS = 600;
const iso = (day: DateTime): string => day.toISODate() as string;
const mondayOf = (at: number, zone: string): DateTime => {
  const { year, month, day } = wallOf(at, zone);
  return DateTime.utc(year, month, day).startOf('week');
};

/**
 * Counts the weeks of a term for a move.
 *
 * @param dates - every date that is moved, instants in milliseconds: the earliest says what “from week” counts from
 * @returns what `placeDate` needs
 * @example prepareMove(term, 'Europe/Lisbon', { how: 'weeks', by: 1, weekdays: {}, isOffHolidays: true }, [due])
 */
export function prepareMove(term: Term, zone: string, move: DateMove, dates: readonly number[]): DateMover {
  const weeks = termWeeks(term);
  return {
    ...{ term, zone, move },
    teaching: weeks.filter((week) => week.isTeaching).map((week) => week.startsOn),
    idle: new Set(weeks.filter((week) => !week.isTeaching).map((week) => week.startsOn)),
    earliest: mondayOf(Math.min(...(dates.length === 0 ? [0] : dates)), zone),
  };
}

/** So many weeks on, or back, that are not without teaching; weeks outside the term count as any other. */
function stepWeeks({ idle }: DateMover, monday: DateTime, by: number): DateTime {
  const step = Math.sign(by);
  let [left, at] = [Math.min(MOST_STEPS, Math.abs(by)), monday];
  while (left > 0) {
    at = at.plus({ weeks: step });
    if (!idle.has(iso(at))) left -= 1;
  }
  return at;
}
function newMonday(mover: DateMover, monday: DateTime): DateTime {
  const { move, teaching, earliest } = mover;
  if (move.how === 'days') return monday;
  if (move.how === 'weeks') return stepWeeks(mover, monday, move.by);
  const number = move.by + Math.round(monday.diff(earliest, 'weeks').weeks);
  const known = teaching[number - 1];
  if (known !== undefined) return DateTime.fromISO(known, { zone: 'utc' });
  // Beyond the term the weeks go on as the calendar has them.
  const edge = number < 1 ? teaching[0] : teaching.at(-1);
  return DateTime.fromISO(edge ?? mover.term.startsOn, { zone: 'utc' })
    .startOf('week')
    .plus({ weeks: number < 1 ? number - 1 : number - teaching.length });
}

/**
 * Where a date goes when the dates of a course are moved together: at the same time of the wall clock.
 *
 * Convention: first by weeks or days, then to another weekday of the same week, then off a holiday. A date outside the term is placed all the
 * same and says so. Clocks that change in between do not move the time.
 * Worked example: Friday 18:00 of week 7, one teaching week on where week 8 is a holiday, Fridays become Thursdays: Thursday 18:00 of week 9.
 */
export function placeDate(mover: DateMover, at: number): PlacedDate {
  const { term, zone, move } = mover;
  const wall = wallOf(at, zone);
  const old = DateTime.utc(wall.year, wall.month, wall.day).plus({ days: move.how === 'days' ? move.by : 0 });
  const weekday = move.weekdays[old.weekday] ?? old.weekday;
  let day = newMonday(mover, old.startOf('week')).plus({ days: weekday - 1 });
  const holiday = offHoliday(term, day);
  const next = move.isOffHolidays ? (holiday?.next ?? null) : null;
  let note = holiday === null ? '' : next === null ? `on a holiday (${holiday.title})` : holiday.moved;
  day = next ?? day;
  const isOutside = iso(day) < term.startsOn || iso(day) > term.endsOn;
  if (isOutside)
    note = [note, iso(day) < term.startsOn ? 'before the term begins' : 'after the term ends'].filter((one) => one !== '').join(', ');
  return {
    at: instantOfWall({ ...wall, year: day.year, month: day.month, day: day.day }, zone),
    note,
    isOutside,
    isOnHoliday: isHoliday(term, iso(day)),
  };
}
