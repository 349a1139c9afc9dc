import { category, policy } from './smallCourse.ts';
import { policyInWords, type LatePolicy } from '../index.ts';

const late: LatePolicy = { ratePercent: 5000, stepMinutes: 1440, base: 'earned', capPercent: 50_000, floorPercent: 0, graceMinutes: 5 };

describe('a policy in words', () => {
  it('says how each category counts, and what happens to missing and late work', () => {
    const p = policy([
      category('Exercises', 20, { method: 'share', dropLowest: 1, late: { ...late, ratePercent: 10_000, capPercent: 100_000 } }),
      category('Bench work', 80, { late }),
      category('Club', 5, { isExtraCredit: true, late }),
    ]);
    expect(policyInWords(p, late)).toEqual([
      'Exercises count 20 %, by equal share, leaving out the lowest one.',
      'Bench work count 80 %, by points.',
      'Club add up to 5 % on top, by points.',
      'A category with nothing marked yet is left aside.',
      'Missing work counts as zero once it is due.',
      'Late work loses 5 % of what it earned for each day, at most 50 %, after 5 minutes of grace.',
      'Late work in Exercises loses 10 % of what it earned for each day, at most 100 %, after 5 minutes of grace.',
      'The total is read to one decimal, half up: A from 87, B from 73, C from 61, F from 0.',
    ]);
  });

  it('says the other ways as well', () => {
    const whole = policy([], {
      total: 'share',
      isMissingZero: false,
      decimals: 0,
      whole: { dropLowest: 2, keepBest: 0, dropHighest: 0, isCapped: false },
    });
    expect(policyInWords(whole, null)).toEqual([
      'The grade is made of all items together, by equal share, leaving out the lowest 2.',
      'Missing work is left out of the total so far.',
      'Late work loses nothing.',
      'The total is read to whole percent, half up: A from 87, B from 73, C from 61, F from 0.',
    ]);
    const hour: LatePolicy = { ...late, stepMinutes: 60, base: 'possible', graceMinutes: 0 };
    const hourly = policyInWords(policy([category('a', 100, { late: hour })], { isRenormalised: false, levels: [] }), hour);
    expect(hourly).toContain('A category with nothing marked counts as zero.');
    expect(hourly.at(-1)).toBe('Late work loses 5 % of the points possible for each hour, at most 50 %.');
  });
});
