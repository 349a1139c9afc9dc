import fc from 'fast-check';
import { DateTime } from 'luxon';
import {
  cellOf,
  dateFaults,
  datesInForce,
  daysAfterStart,
  dayAndTime,
  dueWarning,
  isMissing,
  itemState,
  lateBy,
  minutesInWords,
  ownReason,
  spanInWords,
  startDayInWords,
  termEnd,
  termWeeks,
  UNBOUND,
  visibilityFor,
  weekLoads,
  weekNumber,
  type CellFacts,
  type DateVariant,
  type ItemDates,
  type Term,
} from '../index.ts';

const zone = 'Europe/Lisbon';
const at = (text: string): number => DateTime.fromISO(text, { zone }).toMillis();
const none: ItemDates = { announced: null, opens: null, due: null, closes: null };
const variant = (level: DateVariant['level'], name: string, dates: Partial<ItemDates>): DateVariant => ({ ...none, ...dates, level, name });
const term: Term = {
  title: 'Autumn',
  startsOn: '2026-09-21',
  endsOn: '2027-01-01',
  meetingDays: [2, 4],
  holidays: [{ title: 'break', startsOn: '2026-11-09', endsOn: '2026-11-15' }],
};

describe('the date in force', () => {
  const item = { ...none, due: at('2026-11-17T18:00') };

  it('is the item’s own where nothing else is said', () => {
    expect(datesInForce(item, [], [], zone, null).due).toEqual({ at: item.due, reason: 'as for everyone' });
  });

  it('is the end of the term for closing where there is none', () => {
    expect(datesInForce(item, [], [], zone, termEnd(term, zone)).closes.reason).toContain('end of the term');
  });

  it('is the student’s own before the group’s before the section’s', () => {
    const section = variant('section', 'Distance', { due: at('2026-11-19T23:59') });
    const group = variant('group', 'Bench 2', { due: at('2026-11-18T12:00') });
    const person = variant('person', 'Dvorsky', { due: at('2026-11-17T20:00') });
    expect(datesInForce(item, [section], [], zone, null).due).toEqual({ at: section.due, reason: 'set for Distance' });
    expect(datesInForce(item, [section, group], [], zone, null).due.at).toBe(group.due);
    expect(datesInForce(item, [section, group, person], [], zone, null).due).toEqual({ at: person.due, reason: 'set for this student' });
  });

  it('takes the most generous of several, by each date alone', () => {
    const one = variant('group', 'One', { due: at('2026-11-18T12:00'), opens: at('2026-11-02T08:00') });
    const two = variant('group', 'Two', { due: at('2026-11-20T12:00'), opens: at('2026-11-04T08:00') });
    const dates = datesInForce(item, [one, two], [], zone, null);
    expect(dates.due.at).toBe(two.due);
    expect(dates.opens.at).toBe(one.opens);
  });

  it('adds arrangements on top, keeping the wall clock over daylight saving', () => {
    const before = { ...none, due: at('2026-10-24T18:00') };
    const dates = datesInForce(before, [], [{ extraDays: 2, timeMultiplier: 1, reason: '' }], zone, null);
    expect(dates.due.at).toBe(at('2026-10-26T18:00'));
    expect(dates.due.reason).toBe('as for everyone, and 2 days by arrangement');
  });

  it('never closes before a due date that an arrangement has moved', () => {
    const both = { ...none, due: at('2026-11-17T18:00'), closes: at('2026-11-17T18:00') };
    const person = variant('person', 'x', { due: at('2026-11-25T18:00') });
    expect(datesInForce(both, [person], [], zone, null).closes.at).toBe(person.due);
  });

  it('never grows less generous through an arrangement', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 60 }), (extraDays) => {
        const dates = datesInForce(item, [], [{ extraDays, timeMultiplier: 1, reason: '' }], zone, null);
        expect(dates.due.at!).toBeGreaterThanOrEqual(item.due);
      }),
    );
  });
});

describe('an item’s life', () => {
  it('goes from draft over scheduled and open to closed', () => {
    expect(itemState(true, 1, 2, 9)).toBe('draft');
    expect([0, 1, 2].map((now) => itemState(false, 1, 2, now))).toEqual(['scheduled', 'open', 'closed']);
  });

  it('hides what is not yet announced', () => {
    const dates = datesInForce({ announced: 5, opens: 10, due: null, closes: 20 }, [], [], zone, null);
    expect([1, 6, 12, 30].map((now) => visibilityFor(false, dates, now))).toEqual(['hidden', 'announced', 'open', 'closed']);
    expect(visibilityFor(true, dates, 12)).toBe('hidden');
  });

  it('names dates that contradict one another', () => {
    expect(dateFaults({ announced: 9, opens: 5, due: 4, closes: 3 }).map((f) => f.field)).toEqual(['closes', 'due', 'closes', 'announced']);
    expect(dateFaults({ announced: null, opens: 1, due: 2, closes: 3 })).toEqual([]);
  });
});

describe('a term', () => {
  it('has calendar weeks, and a week whose meetings are all holidays is no teaching week', () => {
    const weeks = termWeeks(term);
    expect(weeks).toHaveLength(15);
    expect(weeks[7]).toMatchObject({ number: 8, startsOn: '2026-11-09', isTeaching: false, holiday: 'break' });
    expect(weekNumber(term, at('2026-11-18T09:00'), zone)).toBe(9);
  });

  it('warns of dates outside it and on holidays', () => {
    expect(dueWarning(term, at('2027-02-01T12:00'), zone)).toContain('outside the term');
    expect(dueWarning(term, at('2026-11-10T12:00'), zone)).toContain('break');
    expect(dueWarning(term, at('2026-11-18T12:00'), zone)).toBeNull();
  });

  it('adds the load of each week', () => {
    const loads = weekLoads(
      [
        { dueAt: 1, week: 2, studentMinutes: 180, markingMinutes: 8, students: 48 },
        { dueAt: null, week: null, studentMinutes: 9, markingMinutes: 9, students: 9 },
      ],
      3,
    );
    expect(loads[1]).toEqual({ week: 2, studentMinutes: 180, markingMinutes: 384 });
    expect(loads[0]?.studentMinutes).toBe(0);
  });
});

describe('words for time', () => {
  it('say what a library for dates says, at every hour of every zone', () => {
    for (const place of ['Europe/Lisbon', 'America/St_Johns', 'Asia/Kathmandu', 'Pacific/Kiritimati', 'UTC'])
      for (let hour = 0; hour < 24 * 420; hour += 7) {
        const instant = Date.parse('2026-06-01T00:30:00Z') + hour * 3_600_000;
        const day = DateTime.fromMillis(instant, { zone: place }).setLocale('en-GB');
        const isThisYear = day.year === DateTime.fromMillis(Date.parse('2026-11-18T09:00:00Z'), { zone: place }).year;
        const words = day.toFormat(isThisYear ? 'ccc d LLL HH:mm' : 'ccc d LLL yyyy HH:mm');
        expect(dayAndTime(instant, place, Date.parse('2026-11-18T09:00:00Z'))).toBe(words);
      }
    expect(() => dayAndTime(0, 'Nowhere/At_All', 0)).toThrow(RangeError);
  });

  it('name the weekday, and the year only when it differs', () => {
    expect(dayAndTime(at('2026-11-17T18:00'), zone, at('2026-11-18T09:00'))).toBe('Tue 17 Nov 18:00');
    expect(dayAndTime(at('2027-01-05T18:00'), zone, at('2026-11-18T09:00'))).toBe('Tue 5 Jan 2027 18:00');
    expect([25, 60, 150].map(minutesInWords)).toEqual(['25 min', '1 h', '2 h 30']);
    expect([90_000, 3_600_000, 3 * 86_400_000].map(spanInWords)).toEqual(['1 min', '1 hour', '3 days']);
  });
});

describe('a cell of the gradebook', () => {
  const dates = datesInForce({ ...none, due: 1000, closes: 100_000_000 }, [], [], zone, null);
  const facts: CellFacts = {
    isForStudent: true,
    expectsHandIn: true,
    possible: 60_000,
    dates,
    handedInAt: null,
    grade: null,
    late: null,
    now: 2000,
    releasedOnly: false,
  };

  it('is missing only where something was to come', () => {
    expect(cellOf(facts).state).toBe('missing');
    expect(cellOf({ ...facts, expectsHandIn: false }).state).toBe('none');
    expect(isMissing({ ...facts, handedInAt: 1500 })).toBe(false);
  });

  it('keeps an unreleased mark from the student’s view', () => {
    const grade = { state: 'scored' as const, raw: 43_000, isReleased: false };
    expect(cellOf({ ...facts, grade, handedInAt: 900 }).result).toBe(43_000);
    expect(cellOf({ ...facts, grade, handedInAt: 900, releasedOnly: true })).toMatchObject({ state: 'none', raw: null, result: null });
  });

  it('can bring nothing once closed, and full marks where nothing is handed in', () => {
    expect(cellOf({ ...facts, now: 100_000_001 }).mostPossible).toBe(0);
    expect(cellOf({ ...facts, expectsHandIn: false, now: 100_000_001 }).mostPossible).toBe(60_000);
    expect(cellOf({ ...facts, isForStudent: false }).state).toBe('outside');
  });

  it('says by how much a hand-in was late', () => {
    expect(lateBy(1500, 1000, 0)).toBe(500);
    expect(lateBy(1500, 1000, 1)).toBeNull();
  });

  it.each(['exempt', 'unfinished', 'missing'] as const)('shows %s as its teacher said', (state) => {
    expect(cellOf({ ...facts, handedInAt: 1, grade: { state, raw: null, isReleased: true } }).state).toBe(state);
  });
});

describe('a course counted from each student’s start', () => {
  const item = {
    announced: at('2026-09-21T08:00'),
    opens: at('2026-09-22T08:00'),
    due: at('2026-10-06T18:00'),
    closes: at('2026-10-09T18:00'),
  };
  const startsOn = term.startsOn;

  it('counts whole days from the first of the term, by the calendar of the zone', () => {
    expect(daysAfterStart(startsOn, at('2026-10-05T09:00'), zone)).toBe(14);
    expect(daysAfterStart(startsOn, at('2026-10-05T23:59'), zone)).toBe(14);
    expect(daysAfterStart(startsOn, at('2026-09-18T09:00'), zone)).toBe(-3);
    // Clocks go back on 25 October: the days are whole all the same.
    expect(daysAfterStart(startsOn, at('2026-10-26T00:00'), zone)).toBe(35);
    expect(startDayInWords(startsOn, at('2026-09-25T23:59'), zone)).toBe('day 5, 23:59');
  });
  it('moves every date by them, and keeps the hour over the change of clocks', () => {
    const dates = datesInForce(item, [], [], zone, null, UNBOUND, 28);
    expect(dates.due).toEqual({ at: at('2026-11-03T18:00'), reason: 'as for everyone, counted from this student’s start' });
    expect([dates.announced.at, dates.opens.at, dates.closes.at]).toEqual([
      at('2026-10-19T08:00'),
      at('2026-10-20T08:00'),
      at('2026-11-06T18:00'),
    ]);
  });
  it('moves a section’s dates and a unit’s with them, and leaves what is set for this student alone', () => {
    const section = variant('section', 'Distance', { due: at('2026-10-08T18:00') });
    const person = variant('person', 'Dvorsky', { due: at('2026-10-07T18:00') });
    const bounds = { units: [{ title: 'Tools', announced: null, opens: at('2026-09-29T08:00'), closes: null }], openUntil: null };
    const dates = datesInForce(item, [section], [], zone, null, bounds, 7);
    expect(dates.due.at).toBe(at('2026-10-15T18:00'));
    expect(dates.opens).toEqual({ at: at('2026-10-06T08:00'), reason: 'with the unit “Tools”' });
    expect(datesInForce(item, [section, person], [], zone, null, bounds, 7).due).toEqual({
      at: person.due,
      reason: 'set for this student',
    });
  });
  it('adds the days of an arrangement on top, and says nothing of a start where there is no date', () => {
    const arranged = [{ extraDays: 2, timeMultiplier: 1, reason: '' }];
    expect(datesInForce(item, [], arranged, zone, null, UNBOUND, 7).due).toEqual({
      at: at('2026-10-15T18:00'),
      reason: 'as for everyone, counted from this student’s start, and 2 days by arrangement',
    });
    expect(datesInForce(none, [], [], zone, null, UNBOUND, 7).due).toEqual({ at: null, reason: 'no date' });
  });
  it('keeps the order of an item’s dates for everyone, whenever they start', () => {
    fc.assert(
      fc.property(fc.integer({ min: -40, max: 400 }), (days) => {
        const dates = datesInForce(item, [], [], zone, null, UNBOUND, days);
        expect((dates.opens.at ?? 0) < (dates.due.at ?? 0) && (dates.due.at ?? 0) <= (dates.closes.at ?? 0)).toBe(true);
      }),
    );
  });
});

describe('what a student is told of their own date', () => {
  it.each([
    ['as for everyone', ''],
    ['as for everyone, and 2 days by arrangement', '2 days more by arrangement'],
    ['as for everyone, and 1 day by arrangement', '1 day more by arrangement'],
    ['as for everyone, counted from this student’s start', 'counted from your start'],
    [
      'as for everyone, counted from this student’s start, and 2 days by arrangement',
      'counted from your start, and 2 days more by arrangement',
    ],
    ['set for Evening bench', 'set for Evening bench'],
    ['set for Evening bench, and 3 days by arrangement', 'set for Evening bench, and 3 days more by arrangement'],
  ])('of “%s” is “%s”', (reason, told) => {
    expect(ownReason(reason)).toBe(told);
  });
});
