import type { PolicyCategory, PolicyChange, PolicyPast } from '@rosemary/api';
import { revertPolicy } from '@rosemary/core';
import { makeSchool, type TestSchool } from './school.ts';

/** Every change of policy can be taken back, also one that took a category away. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('policy_history');
}, 60_000);
afterAll(() => school.close());
const path = (): string => `/api/courses/${school.courseId}/policy`;
const read = async (): Promise<PolicyChange> => {
  const { weightsSum, totals, columns, ...policy } = (await school.agents.instructor.get(path()).expect(200)).body;
  void [weightsSum, totals, columns];
  return policy as PolicyChange;
};
const put = (change: PolicyChange) => school.agents.instructor.put(path()).send(change);
const category: PolicyCategory = {
  id: null,
  title: 'Bonus',
  weightPercent: 5000,
  method: 'points',
  dropLowest: 0,
  keepBest: 0,
  dropHighest: 0,
  isExtraCredit: true,
  isCapped: false,
  declaredItems: 0,
  declaredPoints: 0,
  declaredIn: [],
  late: null,
};

describe('a change of policy', () => {
  it('that took a category away is undone, and the category is itself again', async () => {
    const first = await read();
    await put({ ...first, categories: [...first.categories, category] }).expect(200);
    const added = await read();
    const without = await put({ ...added, categories: added.categories.filter((c) => c.title !== 'Bonus') }).expect(200);
    const { before, after } = without.body as { before: PolicyChange; after: PolicyChange };
    await put({ ...before, version: after.version }).expect(200);
    expect((await read()).categories).toEqual(added.categories);
    const history = ((await school.agents.instructor.get(`${path()}/history`).expect(200)).body as { changes: PolicyPast[] }).changes;
    expect(history.map((c) => [c.before.categories.length, c.after.categories.length])).toEqual([
      [added.categories.length - 1, added.categories.length],
      [added.categories.length, added.categories.length - 1],
      [added.categories.length - 1, added.categories.length],
    ]);
    // The middle one is taken back from what stands now: nothing is left of it to take back.
    const now = await read();
    expect(revertPolicy(now, history[1]?.before ?? now, history[1]?.after ?? now)).toEqual(now);
    await school.agents.student.get(`${path()}/history`).expect(403);
  });
  it('refuses a category of another course', async () => {
    const now = await read();
    const refused = await put({
      ...now,
      categories: [...now.categories, { ...category, title: 'Other', id: '00000000-0000-4000-8000-000000000001' }],
    });
    expect([refused.status, refused.body.detail]).toEqual([422, 'The category “Other” is no longer here.']);
  });
  it('does not offer to leave out the highest where a better mark could lower a total', async () => {
    const now = await read();
    const [one] = now.categories;
    const refused = await put({
      ...now,
      categories: now.categories.map((c) => (c === one ? { ...c, method: 'points', dropHighest: 1 } : c)),
    });
    expect([refused.status, refused.body.detail]).toEqual([422, expect.stringContaining('cannot leave out the highest')]);
  });
});
