import fc from 'fast-check';
import { formatPoints } from '../exact/points.ts';
import { readCellText, wishInWords } from './readCellText.ts';

const read = (text: string, possible = 60_000) => {
  const found = readCellText(text, possible);
  return found.ok ? found.wish : found.reason;
};

describe('what is typed into a cell', () => {
  it.each(['twelve', '12 points', '-3', '1e3', '12;5', '12.3456', '10001', '1000 %', 'constructor', '__proto__'])(
    'refuses %s and says what can be typed',
    (text) => {
      expect(read(text)).toMatch(/Or: a percentage such as 80 %, exempt, missing, unfinished\.$/);
    },
  );
  it('reads a score with a point or a comma', () => {
    expect(read('37,5')).toEqual({ state: 'scored', raw: 37_500 });
    expect(read(' 37.5 ')).toEqual({ state: 'scored', raw: 37_500 });
  });
  it('reads a percentage of the points, rounded to a thousandth', () => {
    expect(read('80 %')).toEqual({ state: 'scored', raw: 48_000 });
    expect(read('33,333%', 7_000)).toEqual({ state: 'scored', raw: 2_333 });
  });
  it('reads states by word or letter, whatever their case', () => {
    expect(['E', 'exempt', '(–)', 'm', 'Missing', 'u', '['].map((text) => read(text))).toMatchObject(
      ['exempt', 'exempt', 'exempt', 'missing', 'missing', 'unfinished', 'unfinished'].map((state) => ({ state, raw: null })),
    );
  });
  it('empties the cell where nothing is typed', () => {
    expect(read('  ')).toEqual({ state: null, raw: null });
  });
  it('reads back every score as it is written', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10_000_000 }), (raw) => {
        expect(read(formatPoints(raw))).toEqual({ state: 'scored', raw });
        expect(wishInWords({ state: 'scored', raw })).toBe(formatPoints(raw));
      }),
    );
  });
  it('says a state by its word, and nothing as empty', () => {
    expect(wishInWords({ state: 'exempt', raw: null })).toBe('exempt');
    expect(wishInWords({ state: null, raw: null })).toBe('empty');
  });
});
