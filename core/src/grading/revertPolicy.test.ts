import { policyChangeWords, revertPolicy } from '../index.ts';

const policy = (weight: number, late: number, more: readonly { id: string; title: string; weightPercent: number }[] = []) => ({
  version: 1,
  lateRatePercent: late,
  categories: [{ id: 'a', title: 'Papers', weightPercent: weight }, ...more],
});
const bonus = { id: 'b', title: 'Bonus', weightPercent: 5 };

describe('a past change of a policy taken back', () => {
  it('undoes what it changed and leaves what was changed since', () => {
    const [first, second, now] = [policy(20, 5), policy(30, 5), { ...policy(30, 10), version: 7 }];
    expect(revertPolicy(now, first, second)).toEqual({ ...policy(20, 10), version: 7 });
  });
  it('brings back a category that it took away, and removes one that it added', () => {
    expect(revertPolicy(policy(20, 5), policy(20, 5, [bonus]), policy(20, 5)).categories).toContainEqual(bonus);
    expect(revertPolicy(policy(20, 5, [bonus]), policy(20, 5), policy(20, 5, [bonus])).categories).not.toContainEqual(bonus);
  });
  it('is the policy before where nothing else was changed', () => {
    const [before, after] = [policy(20, 5, [bonus]), policy(40, 8)];
    expect(revertPolicy(after, before, after)).toEqual(before);
  });
  it('is told in words', () => {
    expect(policyChangeWords(policy(20, 5), policy(30, 5, [bonus]))).toBe('“Papers” changed, “Bonus” added');
    expect(policyChangeWords(policy(20, 5, [bonus]), policy(20, 10))).toBe('“Bonus” removed, late work');
  });
});
