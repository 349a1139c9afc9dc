import fc from 'fast-check';
import { DateTime } from 'luxon';
import { readDate, writeDate } from '../index.ts';

const ZONE = 'Europe/Lisbon';
/** A Wednesday. */
const NOW = Date.parse('2026-11-18T10:20:00Z');
const read = (text: string, time = '23:59') => readDate(text, { zone: ZONE, now: NOW, time });
const wall = (text: string, time?: string): string => {
  const found = read(text, time);
  return found.ok ? DateTime.fromMillis(found.at, { zone: ZONE }).toFormat('yyyy-LL-dd HH:mm') : found.reason;
};

describe('a date as it is typed', () => {
  it.each([
    ['2026-11-17', '2026-11-17 23:59'],
    ['2026-11-17T18:00', '2026-11-17 18:00'],
    ['2026-11-17 18:00', '2026-11-17 18:00'],
    ['17 Nov', '2026-11-17 23:59'],
    ['17 november 2026, 9:05', '2026-11-17 09:05'],
    ['Nov 17', '2026-11-17 23:59'],
    ['Tue 17 Nov 18:00', '2026-11-17 18:00'],
    ['Tuesday, 17th November 2026 at 6 pm', '2026-11-17 18:00'],
    ['17.11.', '2026-11-17 23:59'],
    ['17/11/2026 6:30pm', '2026-11-17 18:30'],
    ['3.4.', '2027-04-03 23:59'],
    ['12am 1 dec', '2026-12-01 00:00'],
    ['12pm 1 dec', '2026-12-01 12:00'],
    ['today 17h30', '2026-11-18 17:30'],
    ['tomorrow', '2026-11-19 23:59'],
    ['fri 18:00', '2026-11-20 18:00'],
    ['wed', '2026-11-18 23:59'],
    ['tue', '2026-11-24 23:59'],
  ])('reads %p', (text, expected) => {
    expect(wall(text)).toBe(expected);
  });

  it('takes the time of the field where none is typed', () => {
    expect(wall('17 Nov', '08:00')).toBe('2026-11-17 08:00');
    expect(wall('17 Nov 0:15', '08:00')).toBe('2026-11-17 00:15');
  });

  it('without a year takes the nearest such day, in either direction', () => {
    expect(wall('20 Sep')).toBe('2026-09-20 23:59');
    expect(wall('20 Jan')).toBe('2027-01-20 23:59');
    expect(wall('29 Feb')).toBe(
      '“29 Feb” is no day of the calendar. Type a day such as 17 Nov, 17.11.2026 or 2026-11-17, and a time such as 18:00.',
    );
    expect(wall('29 Feb 2028')).toBe('2028-02-29 23:59');
  });

  it.each([
    ['', 'Type a day such as'],
    ['soon', '“soon” in “soon” is no part of a date'],
    ['31.2.2026', 'is no day of the calendar'],
    ['17 Nov 25:00', '“25:00”'],
    ['17 Nov 18:75', '“18:75”'],
    ['18:00', 'names no day'],
    ['November', 'names no day'],
    ['17 Nov 3000', 'is no day of the calendar'],
    ['Mon 17 Nov', '17 November 2026 is a Tuesday'],
    ['13pm 1 Dec', '“13pm”'],
  ])('refuses %p with a reason', (text, reason) => {
    const found = read(text);
    expect(found.ok).toBe(false);
    if (!found.ok) expect(found.reason).toContain(reason);
  });

  it('moves a time that the clock leaps over forward, and takes the earlier of two', () => {
    expect(wall('28 Mar 2027 01:30')).toBe('2027-03-28 02:30');
    const twice = read('25 Oct 2026 01:30');
    expect(twice.ok && new Date(twice.at).toISOString()).toBe('2026-10-25T00:30:00.000Z');
  });

  it('reads back what it writes, to the minute, in any zone', () => {
    const zones = fc.constantFrom('Europe/Lisbon', 'America/New_York', 'Asia/Kolkata', 'UTC', 'Pacific/Auckland');
    fc.assert(
      fc.property(fc.integer({ min: Date.parse('2020-01-01'), max: Date.parse('2035-01-01') }), zones, (millis, zone) => {
        const at = millis - (millis % 60_000);
        const back = readDate(writeDate(at, zone), { zone, now: NOW, time: '00:00' });
        // The hour that the clock shows twice reads as its first showing.
        const isSame = back.ok && (back.at === at || writeDate(back.at, zone) === writeDate(at, zone));
        expect(isSame).toBe(true);
      }),
    );
  });

  it('writes a calendar day without a time', () => {
    expect(writeDate(NOW, ZONE, true)).toBe('Wed 18 Nov 2026');
  });
});
