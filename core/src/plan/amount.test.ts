import fc from 'fast-check';
import { type Asked, amountInWords, amountOf } from './amount.ts';

const item = (id: string, minutes: number, points: number, isOff = false): Asked => ({ id, minutes, points: points * 1000, isOff });

describe('what items ask', () => {
  it.each([
    [[], '0 min'],
    [[item('a', 260, 80)], '4 h 20 · 80 points'],
    [[item('a', 190, 60), item('b', 70, 20, true)], '3 h 10 of 4 h 20 · 60 of 80 points'],
    [[item('a', 25, 0), item('b', 10, 0, true)], '25 min of 35 min'],
    [[item('a', 60, 20), item('b', 0, 10, true)], '1 h · 20 of 30 points'],
    [[item('a', 60, 20, true)], '0 min of 1 h · 0 of 20 points'],
  ])('is read with what is off left aside: %#', (items, words) => {
    expect(amountInWords(amountOf(items))).toBe(words);
  });

  it('counts an item that stands in two places once, and as on where one of them is', () => {
    const twice = [item('a', 60, 20, true), item('a', 60, 20), item('a', 60, 20, true)];
    expect(amountOf(twice)).toEqual({ on: { minutes: 60, points: 20_000 }, all: { minutes: 60, points: 20_000 } });
  });

  it('never asks for more than there is, and for all of it exactly where nothing is off', () => {
    const some = fc.array(fc.record({ id: fc.uuid(), minutes: fc.nat(600), points: fc.nat(100_000), isOff: fc.boolean() }), {
      maxLength: 30,
    });
    fc.assert(
      fc.property(some, (items) => {
        const { on, all } = amountOf(items);
        expect(on.minutes).toBeLessThanOrEqual(all.minutes);
        expect(on.points).toBeLessThanOrEqual(all.points);
        expect(amountOf(items.map((i) => ({ ...i, isOff: false }))).on).toEqual(all);
      }),
    );
  });
});
