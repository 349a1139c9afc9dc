import fc from 'fast-check';
import { DateTime } from 'luxon';
import { moveDates } from '../index.ts';

const ZONE = 'Europe/Lisbon';
const due = (at: string | null) => ({ announcedAt: null, opensAt: null, dueAt: at, closesAt: at });

describe('dates moved by days', () => {
  it('keep the wall-clock time over a change of clocks, and leave what is not set', () => {
    expect(moveDates(due('2026-10-23T17:00:00.000Z'), 7, ZONE)).toEqual(due('2026-10-30T18:00:00.000Z'));
    expect(moveDates(due(null), 7, ZONE)).toEqual(due(null));
  });

  it('keep weekday and time by whole weeks, whichever way', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: Date.parse('2026-01-01'), max: Date.parse('2027-12-31') }),
        fc.integer({ min: -30, max: 30 }),
        (millis, weeks) => {
          const at = DateTime.fromMillis(millis - (millis % 60_000), { zone: ZONE });
          const moved = DateTime.fromISO(moveDates(due(at.toUTC().toISO()), weeks * 7, ZONE).dueAt ?? '', { zone: ZONE });
          expect(moved.weekday).toBe(at.weekday);
          // The one hour a year that the clocks leap over moves forward with them.
          if (at.hour > 2) expect(moved.toFormat('HH:mm')).toBe(at.toFormat('HH:mm'));
        },
      ),
    );
  });
});
