import { DateTime } from 'luxon';
import { LOCALE } from '../exact/locale.ts';

/** Dates are calendar dates `YYYY-MM-DD`; weekdays 1 (Monday) to 7. */
export interface Holiday {
  readonly title: string;
  readonly startsOn: string;
  readonly endsOn: string;
}
export interface Term {
  readonly title: string;
  readonly startsOn: string;
  readonly endsOn: string;
  readonly meetingDays: readonly number[];
  readonly holidays: readonly Holiday[];
}

export interface TermWeek {
  /** Counted from 1, calendar weeks with Monday first. */
  readonly number: number;
  readonly startsOn: string;
  readonly isTeaching: boolean;
  readonly holiday: string | null;
}

export function isHoliday(term: Term, day: string): boolean {
  return term.holidays.some((h) => h.startsOn <= day && day <= h.endsOn);
}

/**
 * The weeks of a term: calendar weeks, Monday first, counted from the one the term starts in. A week in which every
 * meeting day is a holiday is not a teaching week. A term with no meeting days takes Monday to Friday.
 * Worked example: a term from Mon 21 Sep to Fri 1 Jan has 15 weeks.
 */
export function termWeeks(term: Term): readonly TermWeek[] {
  const end = DateTime.fromISO(term.endsOn, { zone: 'utc' });
  const days = term.meetingDays.length > 0 ? term.meetingDays : [1, 2, 3, 4, 5];
  const weeks: TermWeek[] = [];
  for (let monday = DateTime.fromISO(term.startsOn, { zone: 'utc' }).startOf('week'); monday <= end; monday = monday.plus({ weeks: 1 })) {
    const meetings = days.map((day) => monday.plus({ days: day - 1 }).toISODate() as string);
    const isTeaching = !meetings.every((day) => isHoliday(term, day));
    const holiday = isTeaching
      ? null
      : term.holidays.find((h) => h.startsOn <= (meetings[0] as string) && (meetings[0] as string) <= h.endsOn);
    weeks.push({ number: weeks.length + 1, startsOn: monday.toISODate() as string, isTeaching, holiday: holiday?.title ?? null });
  }
  return weeks;
}

/** The instant at which the term's last day ends in the zone. */
export function termEnd(term: Pick<Term, 'endsOn'>, zone: string): number {
  return DateTime.fromISO(term.endsOn, { zone }).endOf('day').toMillis();
}

/** Weeks since the term's first Monday, as a real number: 8.36 is Wednesday morning of week 9. For drawing only. */
export function weekPosition(term: Pick<Term, 'startsOn'>, at: number, zone: string): number {
  const start = DateTime.fromISO(term.startsOn, { zone }).startOf('week');
  return DateTime.fromMillis(at, { zone }).diff(start, 'weeks').weeks;
}

const inWords = (day: string): string => DateTime.fromISO(day, { zone: 'utc' }).setLocale(LOCALE).toFormat('ccc d LLL yyyy');

/** Says how a due date sits badly in its term, or null. Warnings, never refusals. */
export function dueWarning(term: Term, dueAt: number, zone: string): string | null {
  const day = DateTime.fromMillis(dueAt, { zone }).toISODate() as string;
  if (day < term.startsOn || day > term.endsOn)
    return `This is outside the term, which runs from ${inWords(term.startsOn)} to ${inWords(term.endsOn)}.`;
  const holiday = term.holidays.find((h) => h.startsOn <= day && day <= h.endsOn);
  return holiday === undefined ? null : `This is a holiday (${holiday.title}).`;
}
