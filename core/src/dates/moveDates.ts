import { DateTime } from 'luxon';
import { plusDays } from './wallTime.ts';

/** The dates of an item as they travel: instants as ISO text, or null where nothing is said. */
export interface WrittenDates {
  readonly announcedAt: string | null;
  readonly opensAt: string | null;
  readonly dueAt: string | null;
  readonly closesAt: string | null;
}

/**
 * All dates of an item moved by whole days on the wall clock of a zone, so that 18:00 stays 18:00 over a change of clocks.
 * A date that is not set stays so. Worked example: due 2026-10-23T17:00Z in Lisbon (18:00), moved by 7 days: 2026-10-30T18:00Z (18:00).
 */
export function moveDates(dates: WrittenDates, days: number, zone: string): WrittenDates {
  const moved = (at: string | null): string | null =>
    at === null ? null : DateTime.fromMillis(plusDays(DateTime.fromISO(at).toMillis(), days, zone), { zone: 'utc' }).toISO();
  return {
    announcedAt: moved(dates.announcedAt),
    opensAt: moved(dates.opensAt),
    dueAt: moved(dates.dueAt),
    closesAt: moved(dates.closesAt),
  };
}
