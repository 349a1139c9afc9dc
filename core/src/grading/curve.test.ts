import fc from 'fast-check';
import { exactPoints, ratio, toRatio } from '../exact/ratio.ts';
import { applyCurve, curveFault, curveInWords, curveOf, meanShift, type Curve } from './curve.ts';

const curve = (kind: Curve['kind'], points: number | null, more: Partial<Curve> = {}): Curve => ({
  kind,
  amount: points === null ? null : points * 1000,
  isCapped: false,
  shift: null,
  ...more,
});
const of = (c: Curve, raw: number, possible: number): string => exactPoints(applyCurve(c, raw * 1000, possible * 1000));

describe('a curve', () => {
  it('adds points, scales to full marks, takes the root and sets the mean', () => {
    expect(of(curve('add', 3), 15, 20)).toBe('18');
    expect(of(curve('scale', 16), 12, 20)).toBe('15');
    expect(of(curve('scale', 19), 18, 20)).toBe('18.947368…');
    expect(of(curve('root', null), 49, 100)).toBe('70');
    expect(of(curve('root', null), 10, 20)).toBe('14.142');
    expect(of(curve('mean', 15, { shift: { value: ratio(3500), marks: 2 } }), 10, 20)).toBe('13.5');
  });

  it('is capped at full marks where it is asked to, and takes nothing away that was above before', () => {
    expect(of(curve('add', 3, { isCapped: true }), 19, 20)).toBe('20');
    expect(of(curve('add', 3), 19, 20)).toBe('22');
    expect(of(curve('add', 3, { isCapped: true }), 21, 20)).toBe('21');
  });

  it('never goes below 0, and leaves a column without points alone but for adding', () => {
    expect(of(curve('mean', 1, { shift: { value: ratio(-5000), marks: 3 } }), 2, 20)).toBe('0');
    expect(of(curve('scale', 10), 5, 0)).toBe('5');
    expect(of(curve('root', null), 5, 0)).toBe('5');
    expect(of(curve('add', 2), 5, 0)).toBe('7');
  });

  it('never lowers a result by its root, and rounds it half up to a thousandth', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2_000_000 }), fc.integer({ min: 1, max: 1_000_000 }), (raw, possible) => {
        const made = applyCurve(curve('root', null), raw, possible);
        expect(typeof made).toBe('number');
        expect(Number(made)).toBeGreaterThanOrEqual(raw);
        if (raw <= possible) {
          const [k, square] = [BigInt(made as number), BigInt(raw) * BigInt(possible)];
          expect((2n * k - 1n) ** 2n <= 4n * square || k === 0n || k === BigInt(raw)).toBe(true);
          expect(4n * square < (2n * k + 1n) ** 2n).toBe(true);
        }
      }),
    );
  });

  it('keeps the order of the students, whatever it is', () => {
    const any = fc.oneof(
      fc.integer({ min: 0, max: 20 }).map((k) => curve('add', k)),
      fc.integer({ min: 1, max: 20 }).map((k) => curve('scale', k)),
      fc.constant(curve('root', null)),
      fc.integer({ min: -9000, max: 9000 }).map((k) => curve('mean', 10, { shift: { value: ratio(k, 7), marks: 7 } })),
    );
    fc.assert(
      fc.property(any, fc.boolean(), fc.nat(20_000), fc.nat(20_000), (c, isCapped, a, b) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)].map((raw) => toRatio(applyCurve({ ...c, isCapped }, raw, 20_000)));
        expect(low!.compare(high!)).toBeLessThanOrEqual(0);
      }),
    );
  });

  it('sets the mean exactly where nothing is capped', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 5000, max: 15_000 }), { minLength: 1, maxLength: 30 }), (marks) => {
        const value = meanShift(marks, 12_000)!;
        const sum = marks.map((raw) => toRatio(applyCurve(curve('mean', 12, { shift: { value, marks: marks.length } }), raw, 30_000)));
        expect(
          sum
            .reduce((a, b) => a.add(b), ratio(0))
            .div(marks.length)
            .toFraction(),
        ).toBe('12000');
      }),
    );
    expect(meanShift([], 5)).toBeNull();
  });

  it('is said in words, with what the mean needed', () => {
    expect(curveInWords(curve('add', 1), 20_000)).toBe('1 point added');
    expect(curveInWords(curve('scale', 19, { isCapped: true }), 20_000)).toBe('19 of 20 points are full marks, at most full marks');
    expect(curveInWords(curve('root', null), 20_000)).toBe('square root of the share of the points');
    expect(curveInWords(curve('mean', 15, { shift: { value: ratio(-3500), marks: 1 } }), 20_000)).toBe(
      '−3.5 points added, so that the mean of 1 mark became 15',
    );
    expect(curveInWords(curve('mean', 15), 20_000)).toBe('mean set to 15 points');
    expect(curveOf(null, 5, 10)).toEqual({ result: 5, account: null });
    expect(curveOf(curve('add', 1), 5000, 10_000).account).toEqual({ from: 5000, to: 6000, rule: 'curve: 1 point added' });
  });

  it.each([
    [curve('mean', 10), 20, 0, 'There is no mark yet'],
    [curve('mean', 21), 20, 5, 'cannot be above the 20 points'],
    [curve('scale', 0), 20, 5, 'Full marks cannot be 0'],
    [curve('add', null), 20, 5, 'Type a number'],
    [curve('root', null), 0, 5, 'worth 0 points'],
  ] as const)('that cannot be is refused with its mend', (c, possible, marks, words) => {
    expect(curveFault(c, possible * 1000, marks)).toContain(words);
  });
  it('that can be is not refused', () => {
    expect([curve('add', 2), curve('scale', 5), curve('root', null), curve('mean', 12)].map((c) => curveFault(c, 20_000, 3))).toEqual([
      null,
      null,
      null,
      null,
    ]);
  });
});
