import type { SchemeLevel } from './policy.ts';
import { readResult } from './readResult.ts';
import { ratio } from '../exact/ratio.ts';

const scheme = {
  decimals: 1,
  levels: [
    { label: 'A', cutPoint: 87_000 },
    { label: 'B', cutPoint: 70_000 },
    { label: 'F', cutPoint: 0 },
  ],
};

const worth = (possible: number, ownLevels: readonly SchemeLevel[] | null = null) => ({ possible, ownLevels });

describe('one result as it is read', () => {
  it('is its points, its share or its letter', () => {
    expect(readResult('points', 43_500, worth(50_000), scheme)).toBe('43.5 of 50');
    expect(readResult('percent', 43_500, worth(50_000), scheme)).toBe('87.0 %');
    expect(readResult('letter', 43_500, worth(50_000), scheme)).toBe('A');
  });
  it('has the letter of the rounded share, so that the two never disagree', () => {
    // 86.95 % is read as 87.0 %, which is an A.
    expect(readResult('percent', 43_475, worth(50_000), scheme)).toBe('87.0 %');
    expect(readResult('letter', 43_475, worth(50_000), scheme)).toBe('A');
    expect(readResult('letter', 43_474, worth(50_000), scheme)).toBe('B');
  });
  it('is exact where a result is no whole thousandth', () => {
    expect(readResult('percent', ratio(100_000, 3), worth(50_000), scheme)).toBe('66.7 %');
  });
  it('stays points where there is no share, or no scheme', () => {
    const own = [
      { label: 'secure', cutPoint: 80_000 },
      { label: 'beginning', cutPoint: 0 },
    ];
    expect(readResult('letter', 43_500, worth(50_000, own), scheme)).toBe('secure');
    expect(readResult('letter', 39_900, worth(50_000, own), scheme)).toBe('beginning');
    expect(readResult('percent', 2000, worth(0), scheme)).toBe('2 of 0');
    expect(readResult('letter', 2000, worth(4000), { decimals: 0, levels: [] })).toBe('2 of 4');
  });
});
