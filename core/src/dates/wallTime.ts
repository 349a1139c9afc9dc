import { DateTime, IANAZone } from 'luxon';

/** A time as it stands on a wall clock. */
export interface WallTime {
  readonly year: number;
  readonly month: number;
  readonly day: number;
  readonly hour: number;
  readonly minute: number;
  readonly second?: number;
  readonly millisecond?: number;
}

const MINUTE = 60_000;
const DAY = 86_400_000;

/**
 * The instant at which a wall clock of a zone shows a time, in milliseconds since 1970.
 *
 * Where the clocks go back and show it twice it is the earlier of the two instants; where they go forward and never show it, the time moves
 * forward by the gap. Neither depends on today's date or on the machine's clock. An unknown zone throws.
 * Worked example: 25 October 2026 01:30 in Lisbon is shown twice and is 00:30Z, the first time; 29 March 2026 01:30 is never shown
 * and is 01:30Z, when the clock shows 02:30.
 */
export function instantOfWall(wall: WallTime, zone: string): number {
  if (!IANAZone.isValidZone(zone) && zone.toLowerCase() !== 'utc') throw new RangeError(`“${zone}” is no time zone.`);
  const read = DateTime.utc(wall.year, wall.month, wall.day, wall.hour, wall.minute, wall.second ?? 0, wall.millisecond ?? 0).toMillis();
  const offsetAt = (instant: number): number => DateTime.fromMillis(instant, { zone }).offset * MINUTE;
  // A zone changes its offset at most once within so short a time: one of the two around it holds, or both.
  const [before, after] = [offsetAt(read - DAY), offsetAt(read + DAY)];
  const shown = [before, after].map((offset) => read - offset).filter((instant) => offsetAt(instant) === read - instant);
  return shown.length > 0 ? Math.min(...shown) : read - before;
}

/** What the wall clock of a zone shows at an instant. */
export function wallOf(instant: number, zone: string): WallTime {
  const { year, month, day, hour, minute, second, millisecond } = DateTime.fromMillis(instant, { zone });
  return { year, month, day, hour, minute, second, millisecond };
}

/**
 * So many days later at the same time on the wall clock of a zone; negative is earlier.
 * Worked example: 18:00 in Lisbon stays 18:00 over a change of clocks, 23 or 25 hours on.
 */
export function plusDays(instant: number, days: number, zone: string): number {
  const wall = wallOf(instant, zone);
  const { year, month, day } = DateTime.utc(wall.year, wall.month, wall.day).plus({ days });
  return instantOfWall({ ...wall, year, month, day }, zone);
}

/**
 * The instant at which the clock of another zone shows what that of the first showed.
 * Worked example: 18:00 in Lisbon becomes 18:00 in Helsinki, two hours earlier.
 */
export const sameWallTime = (instant: number, from: string, to: string): number => instantOfWall(wallOf(instant, from), to);

/** A time of a calendar day, given as `2026-11-17`, in a zone. */
export function instantOfDay(isoDay: string, hour: number, minute: number, zone: string): number {
  const { year, month, day } = DateTime.fromISO(isoDay, { zone: 'utc' });
  return instantOfWall({ year, month, day, hour, minute }, zone);
}
