import { LOCALE } from '../exact/locale.ts';
import { dayNumber, dayNumberAt } from './dayNumber.ts';

const formats = new Map<string, Intl.DateTimeFormat>();

/** The parts of an instant in a zone; a formatter is made once for each zone, since making one takes longer than a thousand uses. */
function partsAt(at: number, zone: string): Record<string, string> {
  let format = formats.get(zone);
  if (format === undefined) {
    format = new Intl.DateTimeFormat(LOCALE, {
      ...{ timeZone: zone, weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' },
      ...{ hour: '2-digit', minute: '2-digit', hourCycle: 'h23' },
    });
    formats.set(zone, format);
  }
  return Object.fromEntries(format.formatToParts(at).map((part) => [part.type, part.value]));
}

/**
 * A date with its weekday and time in a zone: `Tue 17 Nov 18:00`; the year only where it is not that of `now` there. Instants are in
 * milliseconds, the zone an IANA name; an unknown zone throws a RangeError. Every page that shows a date uses it, so it stands on what
 * browsers bring and loads no library.
 * Worked example: `dayAndTime(Date.parse('2026-11-17T18:00:00Z'), 'Europe/Lisbon', now)` in 2026 is `Tue 17 Nov 18:00`.
 */
export function dayAndTime(at: number, zone: string, now: number): string {
  const day = partsAt(at, zone);
  const year = day.year === partsAt(now, zone).year ? '' : ` ${day.year ?? ''}`;
  return `${day.weekday ?? ''} ${day.day ?? ''} ${day.month ?? ''}${year} ${day.hour ?? ''}:${day.minute ?? ''}`;
}

/**
 * A date in words where a course is counted from each student's start: the day, with the first of the term as day 1, and the time.
 * `termStartsOn` is a calendar date `YYYY-MM-DD`, `at` an instant in milliseconds since 1970; an unknown zone throws.
 * Worked example: in a term from 21 September, 25 September 23:59 is `day 5, 23:59`.
 */
export function startDayInWords(termStartsOn: string, at: number, zone: string): string {
  const { hour = '', minute = '' } = partsAt(at, zone);
  return `day ${dayNumberAt(at, zone) - dayNumber(termStartsOn) + 1}, ${hour}:${minute}`;
}

/** Minutes as people say them: `25 min`, `2 h`, `2 h 30`. */
export function minutesInWords(minutes: number): string {
  if (minutes < 60) return `${minutes} min`;
  const rest = minutes % 60;
  return rest === 0 ? `${minutes / 60} h` : `${Math.floor(minutes / 60)} h ${String(rest).padStart(2, '0')}`;
}

/** How long ago or by how much, in its largest whole unit: `3 days`, `1 hour`, `12 min`. */
export function spanInWords(milliseconds: number): string {
  const minutes = Math.max(0, Math.floor(milliseconds / 60_000));
  const unit = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;
  if (minutes >= 1440) return unit(Math.floor(minutes / 1440), 'day');
  return minutes >= 60 ? unit(Math.floor(minutes / 60), 'hour') : `${minutes} min`;
}

/** Why a date is the one in force where nothing was set for anybody in particular. */
export const FOR_EVERYONE = 'as for everyone';

/**
 * What a student is told of a date of their own beside it, in short; empty where it is everybody's. `reason` is that of a date in force.
 * Worked example: `ownReason('as for everyone, and 2 days by arrangement')` is `2 days more by arrangement`.
 */
export function ownReason(reason: string): string {
  const own = reason.startsWith(FOR_EVERYONE) ? reason.slice(FOR_EVERYONE.length).replace(/^, (and )?/, '') : reason;
  return own.replace('this student’s', 'your').replace(/(\d+ days?) by arrangement/, '$1 more by arrangement');
}
