import fc from 'fast-check';
import { DateTime } from 'luxon';
import { weekPosition } from './term.ts';
import { weekNumber } from './weekNumber.ts';

const at = (text: string, zone: string): number => DateTime.fromISO(text, { zone }).toMillis();

describe('the number of a week', () => {
  it('counts calendar weeks from the one the term starts in', () => {
    const term = { startsOn: '2026-09-21' };
    expect(weekNumber(term, at('2026-11-18T09:00', 'Europe/Lisbon'), 'Europe/Lisbon')).toBe(9);
    expect(weekNumber(term, at('2026-09-27T23:59', 'Europe/Lisbon'), 'Europe/Lisbon')).toBe(1);
    expect(weekNumber(term, at('2026-09-28T00:00', 'Europe/Lisbon'), 'Europe/Lisbon')).toBe(2);
    expect(weekNumber(term, at('2026-09-20T23:59', 'Europe/Lisbon'), 'Europe/Lisbon')).toBe(0);
  });
  it('begins with the Monday before, where a term starts within a week', () => {
    expect(weekNumber({ startsOn: '2026-09-24' }, at('2026-09-28T08:00', 'UTC'), 'UTC')).toBe(2);
  });
  it('reads the wall clock of the zone, not that of the machine', () => {
    const sunday = at('2026-09-27T23:30', 'America/New_York');
    expect(weekNumber({ startsOn: '2026-09-21' }, sunday, 'America/New_York')).toBe(1);
    expect(weekNumber({ startsOn: '2026-09-21' }, sunday, 'Asia/Tokyo')).toBe(2);
  });
  it('refuses a zone that is none', () => {
    expect(() => weekNumber({ startsOn: '2026-09-21' }, 0, 'Nowhere/Land')).toThrow();
  });
  it('agrees with a library of dates, in any year and zone', () => {
    const zones = fc.constantFrom('Europe/Lisbon', 'America/New_York', 'Asia/Kolkata', 'Pacific/Auckland', 'UTC');
    const days = fc.integer({ min: 0, max: 30_000 });
    fc.assert(
      fc.property(zones, days, fc.integer({ min: 0, max: 2_600_000_000 }), (zone, day, second) => {
        const startsOn = DateTime.fromMillis(day * 86_400_000, { zone: 'UTC' }).toISODate() as string;
        expect(weekNumber({ startsOn }, second * 1000, zone)).toBe(Math.floor(weekPosition({ startsOn }, second * 1000, zone)) + 1);
      }),
    );
  });
});
