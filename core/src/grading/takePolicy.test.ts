import { formatPoints } from '../exact/points.ts';
import { READY_SCHEMES } from './readySchemes.ts';
import { schemeFault } from './scheme.ts';
import { takePolicy } from './takePolicy.ts';

const category = (id: string | null, title: string, weightPercent: number) => ({
  id,
  title,
  weightPercent,
  declaredIn: [] as { readonly periodId: string; readonly items: number }[],
});
const period = (id: string | null, title: string, startsOn: string | null, endsOn: string | null) => ({ id, title, startsOn, endsOn });

describe('the policy of another course', () => {
  const theirs = {
    version: 9,
    isMissingZero: false,
    categories: [category('t1', 'quizzes ', 40), category('t2', 'Papers', 60)],
    periods: [period('tp', 'First half', '2025-09-01', '2025-10-31')],
  };
  const here = {
    version: 3,
    isMissingZero: true,
    categories: [category('h1', 'Quizzes', 50), category('h2', 'Talks', 30), category('h3', 'Empty', 20)],
    periods: [period('hp', 'first half', '2026-09-07', '2026-10-30')],
  };

  it('meets categories by their titles, keeps those that hold columns without weight, and lets the others go', () => {
    const taken = takePolicy(theirs, here, [{ categoryId: 'h2' }, { categoryId: 'h1' }, { categoryId: null }]);
    expect(taken.categories).toEqual([category('h1', 'quizzes ', 40), category(null, 'Papers', 60), category('h2', 'Talks', 0)]);
    expect([taken.version, taken.isMissingZero]).toEqual([3, false]);
  });

  it('brings what is declared for a period that is here too, and leaves out what is for another', () => {
    const declaring = {
      ...theirs,
      categories: [
        {
          ...category('t1', 'Quizzes', 40),
          declaredIn: [
            { periodId: 'tp', items: 4 },
            { periodId: 'gone', items: 2 },
          ],
        },
      ],
    };
    expect(takePolicy(declaring, here, []).categories[0]?.declaredIn).toEqual([{ periodId: 'hp', items: 4 }]);
    expect(takePolicy(declaring, { ...here, periods: [] }, []).categories[0]?.declaredIn).toEqual([]);
  });

  it('keeps the days of this course, and brings none of another term', () => {
    expect(takePolicy(theirs, here, []).periods).toEqual([period('hp', 'First half', '2026-09-07', '2026-10-30')]);
    expect(takePolicy(theirs, { ...here, periods: [] }, []).periods).toEqual([period(null, 'First half', null, null)]);
  });
});

describe('a scheme that is ready to be taken', () => {
  it.each(READY_SCHEMES.map((s) => [s.title, s] as const))('%s falls strictly to 0, with values in its order', (_, scheme) => {
    expect(schemeFault(scheme.levels.map((l) => ({ label: l.label, cutPoint: formatPoints(l.cutPoint) })))).toBeNull();
    const values = scheme.levels.flatMap((l) => (l.value === null ? [] : [l.value]));
    expect(values).toEqual([...values].sort((a, b) => b - a));
    expect(new Set(scheme.levels.map((l) => l.label)).size).toBe(scheme.levels.length);
    expect(scheme.levels.some((l) => l.cutPoint === scheme.passPercent)).toBe(true);
  });
});
