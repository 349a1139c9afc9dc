import { DateTime } from 'luxon';
import { instantOfWall } from './wallTime.ts';
import { LOCALE } from '../exact/locale.ts';

export interface ReadDateSettings {
  readonly zone: string;
  readonly now: number;
  /** The wall-clock time taken where none is typed: `23:59` for what is due, `08:00` for what opens. */
  readonly time: string;
}
export type ReadDate = { readonly ok: true; readonly at: number } | { readonly ok: false; readonly reason: string };

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const WEEKDAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];
const EXAMPLE = 'Type a day such as 17 Nov, 17.11.2026 or 2026-11-17, and a time such as 18:00.';

interface Parts {
  day: number | null;
  month: number | null;
  year: number | null;
  weekday: number | null;
  /** Days from today, for today and tomorrow. */
  shift: number | null;
  hour: number | null;
  minute: number;
}

function readTime(word: string, parts: Parts): boolean {
  const found = /^(\d{1,2})(?:[:h](\d{2}))?(am|pm)?$/.exec(word);
  if (found === null || (found[2] === undefined && found[3] === undefined)) return false;
  const hour = Number(found[1]);
  const minute = Number(found[2] ?? 0);
  if (minute > 59 || (found[3] === undefined ? hour > 23 : hour < 1 || hour > 12)) return false;
  parts.hour = found[3] === undefined ? hour : (hour % 12) + (found[3] === 'pm' ? 12 : 0);
  parts.minute = minute;
  return true;
}

function readFigures(word: string, parts: Parts): boolean {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(word);
  if (iso !== null) {
    [parts.year, parts.month, parts.day] = [Number(iso[1]), Number(iso[2]), Number(iso[3])];
    return true;
  }
  const european = /^(\d{1,2})[./](\d{1,2})(?:[./](\d{4})?)?$/.exec(word);
  if (european === null) return false;
  [parts.day, parts.month, parts.year] = [Number(european[1]), Number(european[2]), european[3] === undefined ? null : Number(european[3])];
  return true;
}

function readWord(word: string, parts: Parts): boolean {
  if (word === 'today' || word === 'tomorrow') {
    parts.shift = word === 'today' ? 0 : 1;
    return true;
  }
  const start = word.slice(0, 3);
  if (/^[a-z]{3,9}$/.test(word) && MONTHS.includes(start)) {
    parts.month = MONTHS.indexOf(start) + 1;
    return true;
  }
  if (/^[a-z]{3,9}$/.test(word) && WEEKDAYS.includes(start)) {
    parts.weekday = WEEKDAYS.indexOf(start) + 1;
    return true;
  }
  if (/^\d{4}$/.test(word)) {
    parts.year = Number(word);
    return true;
  }
  if (/^\d{1,2}(st|nd|rd|th)?$/.test(word) && parts.day === null) {
    parts.day = Number.parseInt(word, 10);
    return true;
  }
  return readFigures(word, parts) || readTime(word, parts);
}

/** The day meant: without a year the one nearest to today, a bare weekday the next one from today on. */
function dayOf(parts: Parts, today: DateTime): DateTime | null {
  if (parts.shift !== null) return today.plus({ days: parts.shift });
  if (parts.day === null || parts.month === null) {
    if (parts.weekday === null || parts.day !== null || parts.month !== null) return null;
    return today.plus({ days: (parts.weekday - today.weekday + 7) % 7 });
  }
  const { day, month } = parts;
  const of = (year: number): DateTime => DateTime.fromObject({ year, month, day }, { zone: today.zone });
  if (parts.year !== null) return of(parts.year);
  const near = [today.year - 1, today.year, today.year + 1].map(of).filter((d) => d.isValid);
  near.sort((a, b) => Math.abs(a.toMillis() - today.toMillis()) - Math.abs(b.toMillis() - today.toMillis()));
  return near[0] ?? of(today.year);
}

/**
 * Reads a date as people type it, on the wall clock of a zone.
 *
 * Conventions: the day stands before the month (17.11. or 17/11), or the whole is ISO (2026-11-17); months and weekdays in
 * English, whole or by their first three letters; a weekday beside a date must agree with it. Without a year: the nearest
 * such day. A time in a daylight-saving gap moves forward by the gap, an ambiguous one is the earlier of its two instants.
 * Errors are values: the reason is a sentence for the person who typed.
 * Worked example: on Wed 18 Nov 2026 in Lisbon, `fri 18:00` is 2026-11-20T18:00Z, and `17 Nov` is 2026-11-17T23:59Z where the
 * time is `23:59`.
 */
export function readDate(text: string, { zone, now, time }: ReadDateSettings): ReadDate {
  const parts: Parts = { day: null, month: null, year: null, weekday: null, shift: null, hour: null, minute: 0 };
  const clean = text
    .toLowerCase()
    .replace(/(\d)\s+(am|pm)\b/g, '$1$2')
    .replace(/(\d)t(\d)/, '$1 $2');
  const words = clean.split(/[\s,]+/).filter((word) => word !== '' && word !== 'at');
  if (words.length === 0) return { ok: false, reason: EXAMPLE };
  for (const word of words)
    if (!readWord(word, parts)) return { ok: false, reason: `“${word}” in “${text.trim()}” is no part of a date. ${EXAMPLE}` };
  const today = DateTime.fromMillis(now, { zone }).startOf('day');
  const day = dayOf(parts, today);
  if (day === null) return { ok: false, reason: `“${text.trim()}” names no day. ${EXAMPLE}` };
  if (!day.isValid || day.year < 1970 || day.year > 2200)
    return { ok: false, reason: `“${text.trim()}” is no day of the calendar. ${EXAMPLE}` };
  if (parts.weekday !== null && parts.day !== null && day.weekday !== parts.weekday) {
    return {
      ok: false,
      reason: `${day.setLocale(LOCALE).toFormat('d LLLL yyyy')} is a ${day.setLocale(LOCALE).toFormat('cccc')}. Mend the day or the weekday.`,
    };
  }
  const [hour = 23, minute = 59] = time.split(':').map(Number);
  const clock = parts.hour === null ? { hour, minute } : { hour: parts.hour, minute: parts.minute };
  return { ok: true, at: instantOfWall({ year: day.year, month: day.month, day: day.day, ...clock }, zone) };
}

/** A date as a field shows it, and as `readDate` reads it back: `Tue 17 Nov 2026 18:00`; the day alone for a calendar day. */
export function writeDate(at: number, zone: string, isDay = false): string {
  return DateTime.fromMillis(at, { zone })
    .setLocale(LOCALE)
    .toFormat(isDay ? 'ccc d LLL yyyy' : 'ccc d LLL yyyy HH:mm');
}
