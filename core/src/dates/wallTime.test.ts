import { Settings } from 'luxon';
import { instantOfWall, moveDates, plusDays, prepareShift, readDate, sameWallTime, shiftDate, type Term } from '../index.ts';

/** Lisbon puts its clocks back at 02:00 on 25 October 2026, and forward at 01:00 on 29 March 2026. */
const ZONE = 'Europe/Lisbon';
const iso = (at: number): string => new Date(at).toISOString();
const wall = (day: number, hour: number, minute: number, month = 10) => ({ year: 2026, month, day, hour, minute });
const DAYS = ['2026-01-15T12:00:00Z', '2026-07-15T12:00:00Z', '2026-10-25T01:30:00Z'];

/** What is worked out must be the same on every day it is worked out on. */
const onEveryDay = (work: () => number): string[] => {
  const { now } = Settings;
  try {
    return [
      ...new Set(
        DAYS.map((day) => {
          Settings.now = () => Date.parse(day);
          return iso(work());
        }),
      ),
    ];
  } finally {
    Settings.now = now;
  }
};

describe('a time that the clock shows twice', () => {
  it('is the earlier of the two instants, whatever today is', () => {
    expect(onEveryDay(() => instantOfWall(wall(25, 1, 30), ZONE))).toEqual(['2026-10-25T00:30:00.000Z']);
    expect(onEveryDay(() => instantOfWall(wall(25, 2, 0), ZONE))).toEqual(['2026-10-25T02:00:00.000Z']);
  });
  it('is so where a date is moved, from either side', () => {
    for (const [from, days] of [
      ['2026-10-18T00:30:00Z', 7],
      ['2026-11-01T01:30:00Z', -7],
    ] as const) {
      expect(onEveryDay(() => plusDays(Date.parse(from), days, ZONE))).toEqual(['2026-10-25T00:30:00.000Z']);
      const dates = { announcedAt: null, opensAt: null, dueAt: from, closesAt: null };
      expect(onEveryDay(() => Date.parse(moveDates(dates, days, ZONE).dueAt ?? ''))).toEqual(['2026-10-25T00:30:00.000Z']);
    }
  });
  it('is so where a date is carried into another term', () => {
    const term = (startsOn: string, endsOn: string): Term => ({ title: '', startsOn, endsOn, meetingDays: [7], holidays: [] });
    const shift = () =>
      prepareShift({
        from: term('2025-09-22', '2025-12-20'),
        to: term('2026-09-21', '2026-12-19'),
        fromZone: ZONE,
        toZone: ZONE,
        weekdays: {},
      });
    const carried = (): number => {
      const found = shiftDate(shift(), Date.parse('2025-10-26T01:30:00Z'));
      if (!found.ok) throw new Error(found.reason);
      return found.at;
    };
    expect(onEveryDay(carried)).toEqual(['2026-10-25T00:30:00.000Z']);
  });
  it('is so where it is typed', () => {
    const typed = (): number => {
      const found = readDate('25 Oct 2026 1:30', { zone: ZONE, now: Date.parse('2026-10-01T12:00:00Z'), time: '23:59' });
      if (!found.ok) throw new Error(found.reason);
      return found.at;
    };
    expect(onEveryDay(typed)).toEqual(['2026-10-25T00:30:00.000Z']);
  });
});

describe('a time that the clock never shows', () => {
  it('moves forward by the gap', () => {
    expect(onEveryDay(() => instantOfWall(wall(29, 1, 30, 3), ZONE))).toEqual(['2026-03-29T01:30:00.000Z']);
    expect(onEveryDay(() => plusDays(Date.parse('2026-03-22T01:30:00Z'), 7, ZONE))).toEqual(['2026-03-29T01:30:00.000Z']);
    expect(onEveryDay(() => plusDays(Date.parse('2026-04-05T00:30:00Z'), -7, ZONE))).toEqual(['2026-03-29T01:30:00.000Z']);
  });
});

describe('the same time of day elsewhere', () => {
  it('is kept', () => {
    expect(iso(sameWallTime(Date.parse('2026-09-25T17:00:00Z'), ZONE, 'UTC'))).toBe('2026-09-25T18:00:00.000Z');
    expect(iso(sameWallTime(Date.parse('2026-09-25T17:00:00Z'), ZONE, 'Europe/Helsinki'))).toBe('2026-09-25T15:00:00.000Z');
  });
  it('needs zones that there are', () => {
    expect(() => instantOfWall(wall(1, 1, 1), 'Nowhere/Town')).toThrow('is no time zone');
  });
});
