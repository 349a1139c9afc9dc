import { DateTime } from 'luxon';

/** A date with its weekday and time in a zone: `Tue 17 Nov 18:00`; the year only where it is not the current one. */
export function dayAndTime(at: number, zone: string, now: number): string {
  const day = DateTime.fromMillis(at, { zone }).setLocale('en-GB');
  const isThisYear = day.year === DateTime.fromMillis(now, { zone }).year;
  return day.toFormat(isThisYear ? 'ccc d LLL HH:mm' : 'ccc d LLL yyyy HH:mm');
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
