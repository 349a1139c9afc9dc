import fc from 'fast-check';
import { DateTime } from 'luxon';
import { prepareShift, shiftDate, type ShiftSettings, type Term } from '../index.ts';

const ZONE = 'Europe/Lisbon';
const SPRING: Term = {
  title: 'Spring',
  startsOn: '2026-02-23',
  endsOn: '2026-06-07',
  meetingDays: [1, 3],
  holidays: [{ title: 'Easter', startsOn: '2026-03-30', endsOn: '2026-04-05' }],
};
const AUTUMN: Term = {
  title: 'Autumn',
  startsOn: '2026-09-21',
  endsOn: '2027-01-03',
  meetingDays: [2, 4],
  holidays: [
    { title: 'break', startsOn: '2026-11-09', endsOn: '2026-11-15' },
    { title: 'Founders’ day', startsOn: '2026-10-06', endsOn: '2026-10-06' },
  ],
};
const settings = (more: Partial<ShiftSettings> = {}): ShiftSettings => ({
  from: SPRING,
  to: AUTUMN,
  fromZone: ZONE,
  toZone: ZONE,
  weekdays: {},
  ...more,
});
const at = (text: string, zone = ZONE): number => DateTime.fromISO(text, { zone }).toMillis();
const read = (text: string, more: Partial<ShiftSettings> = {}): string => {
  const found = shiftDate(prepareShift(settings(more)), at(text));
  return found.ok
    ? `${DateTime.fromMillis(found.at, { zone: more.toZone ?? ZONE }).toFormat('ccc yyyy-LL-dd HH:mm')}${found.moved === null ? '' : `, ${found.moved}`}`
    : found.reason;
};

describe('a date carried into another term', () => {
  it('keeps its teaching week, weekday and wall-clock time', () => {
    expect(read('2026-02-23T18:00')).toBe('Mon 2026-09-21 18:00');
    expect(read('2026-03-13T23:59')).toBe('Fri 2026-10-09 23:59');
  });

  it('does not count weeks without teaching, in either term', () => {
    // Week 7 of spring is teaching week 6, since Easter is left out.
    expect(read('2026-04-08T12:00')).toBe('Wed 2026-10-28 12:00');
    // Teaching week 8 stands in calendar week 9 of autumn, after its break.
    expect(read('2026-04-22T12:00')).toBe('Wed 2026-11-18 12:00');
  });

  it('follows the timetable where its days moved', () => {
    expect(read('2026-02-23T18:00', { weekdays: { 1: 2, 3: 4 } })).toBe('Tue 2026-09-22 18:00');
    expect(read('2026-02-27T18:00', { weekdays: { 1: 2, 3: 4 } })).toBe('Fri 2026-09-25 18:00');
  });

  it('moves from a holiday to the next meeting day, and says so', () => {
    expect(read('2026-03-10T18:00')).toBe('Thu 2026-10-08 18:00, moved from Tue 6 Oct, a holiday (Founders’ day)');
  });

  it('leaves a Sunday where it is, though nobody meets on it', () => {
    expect(read('2026-03-01T23:59')).toBe('Sun 2026-09-27 23:59');
  });

  it('places what stood before the term as many weeks before the new one', () => {
    expect(read('2026-02-16T08:00')).toBe('Mon 2026-09-14 08:00');
  });

  it('does not place what has no place, and says why', () => {
    expect(read('2026-04-01T12:00')).toBe('it stood in week 6 of the old term, which had no teaching');
    expect(read('2026-06-20T12:00')).toBe('it stood after the end of the old term');
    const short = { to: { ...AUTUMN, endsOn: '2026-10-11' } };
    expect(read('2026-04-22T12:00', short)).toBe('teaching week 8 is beyond the end of the new term');
    const last = { to: { ...AUTUMN, endsOn: '2026-10-06', meetingDays: [1, 2] } };
    expect(read('2026-03-10T18:00', last)).toContain('no meeting day is left after it');
  });

  it('holds the wall-clock time over a change of clocks and into another zone', () => {
    expect(read('2026-03-27T18:00')).toMatch(/18:00$/);
    expect(read('2026-03-30T18:00', { from: { ...SPRING, holidays: [] } })).toMatch(/18:00$/);
    expect(read('2026-02-23T18:00', { toZone: 'America/New_York' })).toBe('Mon 2026-09-21 18:00');
    // 01:30 does not exist on the night the clocks go forward.
    const spring = { to: { ...SPRING, holidays: [], startsOn: '2027-03-22', endsOn: '2027-06-27' } };
    expect(read('2026-03-01T01:30', spring)).toBe('Sun 2027-03-28 02:30');
  });

  const anyInstant = fc.integer({ min: at('2026-02-23T00:00'), max: at('2026-06-07T23:00') });
  it('keeps hour and minute whatever happens to the day', () => {
    fc.assert(
      fc.property(anyInstant, (instant) => {
        const found = shiftDate(prepareShift(settings()), instant);
        if (!found.ok) return;
        const [was, is] = [instant, found.at].map((ms) => DateTime.fromMillis(ms, { zone: ZONE }));
        expect(is!.toFormat('HH:mm')).toBe(was!.toFormat('HH:mm'));
      }),
    );
  });

  it('keeps the order of dates where neither weekday nor holiday moves one', () => {
    const plain = { from: { ...SPRING, holidays: [] }, to: { ...AUTUMN, holidays: [] } };
    const shift = prepareShift(settings(plain));
    fc.assert(
      fc.property(anyInstant, anyInstant, (a, b) => {
        const [x, y] = [shiftDate(shift, Math.min(a, b)), shiftDate(shift, Math.max(a, b))];
        if (x.ok && y.ok) expect(x.at).toBeLessThanOrEqual(y.at);
      }),
    );
  });

  it('never lands outside the new term without saying so', () => {
    const term = fc.record({ weeks: fc.integer({ min: 1, max: 20 }), days: fc.subarray([1, 2, 3, 4, 5], { minLength: 1 }) });
    fc.assert(
      fc.property(
        anyInstant,
        term,
        fc.dictionary(fc.constantFrom('1', '3', '5'), fc.integer({ min: 1, max: 7 })),
        (instant, { weeks, days }, weekdays) => {
          const endsOn = DateTime.fromISO('2026-09-21').plus({ weeks }).minus({ days: 1 }).toISODate() as string;
          const to = { ...AUTUMN, endsOn, meetingDays: days };
          const found = shiftDate(prepareShift(settings({ to, weekdays: weekdays as Record<number, number> })), instant);
          if (!found.ok) {
            expect(found.reason.length).toBeGreaterThan(10);
            return;
          }
          const day = DateTime.fromMillis(found.at, { zone: ZONE }).toISODate() as string;
          expect(day >= to.startsOn && day <= to.endsOn).toBe(true);
          if (to.holidays.some((h) => h.startsOn <= day && day <= h.endsOn)) throw new Error(`${day} is a holiday`);
        },
      ),
    );
  });

  it('comes back by the same road', () => {
    const [there, back] = [
      prepareShift(settings({ from: { ...SPRING, holidays: [] }, to: { ...AUTUMN, holidays: [] } })),
      prepareShift(settings({ from: { ...AUTUMN, holidays: [] }, to: { ...SPRING, holidays: [] } })),
    ];
    fc.assert(
      fc.property(anyInstant, (instant) => {
        const whole = instant - (instant % 60_000);
        const found = shiftDate(there, whole);
        if (!found.ok) return;
        const again = shiftDate(back, found.at);
        const show = (ms: number): string => DateTime.fromMillis(ms, { zone: ZONE }).toFormat('yyyy-LL-dd HH:mm');
        // A time in the hour that the clocks leap over comes back an hour later.
        if (again.ok && DateTime.fromMillis(whole, { zone: ZONE }).hour > 2) expect(show(again.at)).toBe(show(whole));
      }),
    );
  });
});
