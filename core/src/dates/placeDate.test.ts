import fc from 'fast-check';
import { DateTime } from 'luxon';
import { type DateMove, placeDate, prepareMove, type Term } from '../index.ts';

const ZONE = 'Europe/Lisbon';
/** Week 8, from Mon 9 Nov, is a holiday; the clocks go back on 25 Oct. */
const term: Term = {
  ...{ title: 'Autumn', startsOn: '2026-09-21', endsOn: '2027-01-03', meetingDays: [2, 4] },
  holidays: [
    { title: 'break', startsOn: '2026-11-09', endsOn: '2026-11-15' },
    { title: 'a saint', startsOn: '2026-12-08', endsOn: '2026-12-08' },
  ],
};
const at = (text: string): number => DateTime.fromISO(text, { zone: ZONE }).toMillis();
const MOVE: DateMove = { how: 'weeks', by: 0, weekdays: {}, isOffHolidays: true };
const place = (text: string, move: Partial<DateMove>, others: readonly string[] = []) => {
  const mover = prepareMove(term, ZONE, { ...MOVE, ...move }, [text, ...others].map(at));
  const placed = placeDate(mover, at(text));
  const { note, isOutside, isOnHoliday } = placed;
  return [DateTime.fromMillis(placed.at, { zone: ZONE }).toFormat("yyyy-MM-dd'T'HH:mm"), note, isOutside, isOnHoliday];
};

describe('a date that is moved with others', () => {
  it('goes by teaching weeks, over a week that has none, and back again', () => {
    expect(place('2026-11-06T18:00', { by: 1 })).toEqual(['2026-11-20T18:00', '', false, false]);
    expect(place('2026-11-20T18:00', { by: -1 })).toEqual(['2026-11-06T18:00', '', false, false]);
    expect(place('2026-10-23T18:00', { by: 1 })).toEqual(['2026-10-30T18:00', '', false, false]);
  });
  it('goes to any other weekday, of a week without teaching too', () => {
    expect(place('2026-11-06T18:00', { weekdays: { 5: 4 } })).toEqual(['2026-11-05T18:00', '', false, false]);
    expect(place('2026-11-07T18:00', { weekdays: { 5: 4 } })[0]).toBe('2026-11-07T18:00');
    expect(place('2026-11-06T18:00', { by: 1, weekdays: { 5: 1 } })[0]).toBe('2026-11-16T18:00');
  });
  it('goes by days of the calendar, at the same time of the clock', () => {
    expect(place('2026-10-23T18:00', { how: 'days', by: 3 })[0]).toBe('2026-10-26T18:00');
    expect(place('2026-10-26T18:00', { how: 'days', by: -3 })[0]).toBe('2026-10-23T18:00');
  });
  it('is moved off a holiday to the next meeting day, or left there and says so', () => {
    expect(place('2026-12-01T18:00', { by: 1 })).toEqual(['2026-12-10T18:00', 'moved from Tue 8 Dec, a holiday (a saint)', false, false]);
    expect(place('2026-12-01T18:00', { by: 1, isOffHolidays: false })).toEqual(['2026-12-08T18:00', 'on a holiday (a saint)', false, true]);
  });
  it('comes from another term by the week in which the earliest of them lies', () => {
    const old = ['2025-02-10T09:00', '2025-02-21T18:00', '2025-04-04T18:00'];
    expect(old.map((one) => place(one, { how: 'from week', by: 1 }, old)[0])).toEqual([
      '2026-09-21T09:00',
      '2026-10-02T18:00',
      // Seven weeks on: teaching week 8, which is the ninth of the calendar.
      '2026-11-20T18:00',
    ]);
    expect(place('2025-02-21T18:00', { how: 'from week', by: 2 }, old)[0]).toBe('2026-10-09T18:00');
  });
  it('says where it falls outside the term', () => {
    expect(place('2026-12-30T18:00', { by: 2 })).toEqual(['2027-01-13T18:00', 'after the term ends', true, false]);
    expect(place('2026-09-22T18:00', { by: -1 })).toEqual(['2026-09-15T18:00', 'before the term begins', true, false]);
    expect(place('2025-09-22T18:00', { how: 'from week', by: 30 })[2]).toBe(true);
    expect(place('2025-09-22T18:00', { how: 'from week', by: -2 })[0]).toBe('2026-08-31T18:00');
  });
  it('comes out of a week without teaching into the next week that has some, as the week before it does', () => {
    expect(place('2026-11-09T00:00', { by: 1, isOffHolidays: false })[0]).toBe('2026-11-16T00:00');
    expect(place('2026-11-02T01:00', { by: 1, isOffHolidays: false })[0]).toBe('2026-11-16T01:00');
  });
  it('keeps the time of the clock and the order of weeks whatever the number of weeks', () => {
    const hours = fc.integer({ min: 0, max: 24 * 100 });
    fc.assert(
      fc.property(hours, hours, fc.integer({ min: -20, max: 20 }), (a, b, by) => {
        const [first, second] = [Math.min(a, b), Math.max(a, b)].map((hour) => at('2026-09-21T00:00') + hour * 3_600_000) as [
          number,
          number,
        ];
        const mover = prepareMove(term, ZONE, { ...MOVE, by, isOffHolidays: false }, [first, second]);
        const placed = [first, second].map((one) => placeDate(mover, one).at) as [number, number];
        const [week, later] = placed.map((one) => DateTime.fromMillis(one, { zone: ZONE }).startOf('week').toMillis()) as [number, number];
        expect(week).toBeLessThanOrEqual(later);
        for (const [n, was] of [first, second].entries()) {
          const [old, now] = [was, placed[n]!].map((one) => DateTime.fromMillis(one, { zone: ZONE }));
          expect([now!.weekday, now!.minute]).toEqual([old!.weekday, old!.minute]);
        }
      }),
      { numRuns: 200 },
    );
  });
});
