import { ratio } from '../exact/ratio.ts';
import { classStatistics } from './classStatistics.ts';

describe('how a class did', () => {
  it('of five results, as in the worked example', () => {
    expect(classStatistics([48_000, 40_000, 46_000, 42_000, 44_000])).toEqual({ number: 5, mean: '44.0', median: '44.0', spread: '3.2' });
  });
  it('is told of no fewer than five', () => {
    expect(classStatistics([1000, 2000, 3000, 4000])).toBeNull();
    expect(classStatistics([])).toBeNull();
  });
  it('takes the mean of the middle two, and exact results as they are', () => {
    expect(classStatistics([10_000, 20_000, ratio(100_000, 3), 40_000, 50_000, 60_000])).toMatchObject({
      number: 6,
      median: '36.7',
      mean: '35.6',
    });
  });
  it('has no spread where all are alike', () => {
    expect(classStatistics([7000, 7000, 7000, 7000, 7000])?.spread).toBe('0.0');
  });
});
