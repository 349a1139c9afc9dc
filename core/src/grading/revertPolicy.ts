/** Something with named parts that can be told apart: a policy, a category. */
type Fields = Readonly<Record<string, unknown>>;
const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

interface WithId {
  readonly id: string | null;
}
/** The parts a change added, took away or altered go back to what they were; every other part stays as it is now. */
function revertList<T extends WithId & object>(now: readonly T[], before: readonly T[], after: readonly T[]): T[] {
  const was = new Map(before.map((one) => [one.id, one]));
  const became = new Map(after.map((one) => [one.id, one]));
  const kept = now.flatMap((one): T[] => {
    const [old, next] = [was.get(one.id), became.get(one.id)];
    if (old === undefined) return next === undefined ? [one] : [];
    return next === undefined ? [one] : [revertFields(one as Fields, old as Fields, next as Fields) as unknown as T];
  });
  const gone = before.filter((one) => !became.has(one.id) && !now.some((present) => present.id === one.id));
  return [...kept, ...gone];
}

function revertFields(now: Fields, before: Fields, after: Fields): Fields {
  return Object.fromEntries(Object.entries(now).map(([key, value]) => [key, isSame(before[key], after[key]) ? value : before[key]]));
}

/**
 * A policy with one of its past changes taken back: what that change altered goes back to what it was, what was changed by others since or
 * before stays. Categories are met by their identifier; letters go back as a whole. `now`, `before` and `after` are policies in one shape.
 * Worked example: the first change set a weight from 20 to 30, the second the late penalty from 5 to 10 %. Taking back the first gives a
 * weight of 20 and a penalty of 10 %.
 */
export function revertPolicy<P extends { readonly version: number; readonly categories: readonly (WithId & object)[] }>(
  now: P,
  before: P,
  after: P,
): P {
  const fields = revertFields(now as unknown as Fields, before as unknown as Fields, after as unknown as Fields) as unknown as P;
  return { ...fields, version: now.version, categories: revertList(now.categories, before.categories, after.categories) };
}

const WORDS: Readonly<Record<string, string>> = {
  total: 'how the total is made',
  wholeDropLowest: 'how many are left out',
  wholeKeepBest: 'how many are left out',
  wholeDropHighest: 'how many are left out',
  wholeIsCapped: 'the cap at 100 %',
  passPercent: 'pass mark',
  periods: 'grading periods',
  moves: 'where columns count',
  isRenormalised: 'categories without a mark',
  isMissingZero: 'missing work',
  decimals: 'decimals',
  showsFloorAndReach: 'floor and reach for students',
  levels: 'letters',
};

/** What a change of policy changed, in a few words: categories by name, the rest by what it is about. Example: `“Papers” added, late work`. */
export function policyChangeWords(
  before: { readonly categories: readonly (WithId & { readonly title: string })[] } & object,
  after: typeof before,
): string {
  const [was, is] = [before as unknown as Fields, after as unknown as Fields];
  const had = new Map(before.categories.map((c) => [c.id, c]));
  const has = new Set(after.categories.map((c) => c.id));
  const parts = [
    ...after.categories.flatMap((c) => {
      const old = had.get(c.id);
      return old === undefined ? [`“${c.title}” added`] : isSame(old, c) ? [] : [`“${c.title}” changed`];
    }),
    ...before.categories.flatMap((c) => (has.has(c.id) ? [] : [`“${c.title}” removed`])),
    ...Object.keys(is).flatMap((key) => {
      if (key === 'version' || key === 'categories' || isSame(was[key], is[key])) return [];
      return [key.startsWith('late') ? 'late work' : (WORDS[key] ?? key)];
    }),
  ];
  return [...new Set(parts)].join(', ');
}
