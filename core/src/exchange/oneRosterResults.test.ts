import { writeOneRosterResults, type RosterLine, type RosterResult } from './oneRosterResults.ts';

const line = (more: Partial<RosterLine> = {}): RosterLine => ({
  key: 'chain:a',
  title: 'Food chain',
  classKey: 'class-a',
  categoryKey: 'bench',
  assignedOn: '2026-09-14',
  dueOn: '2026-09-21',
  possible: 60_000,
  ...more,
});
const result = (more: Partial<RosterResult> = {}): RosterResult => ({
  lineKey: 'chain:a',
  studentKey: 's1',
  classKey: 'class-a',
  state: 'marked',
  score: '45.5',
  text: '',
  isLate: false,
  day: '2026-09-25',
  comment: '',
  ...more,
});
const write = (lines: readonly RosterLine[], results: readonly RosterResult[]) =>
  writeOneRosterResults({ name: 'Rosemary', code: 'HOR-110' }, [{ key: 'bench', title: 'Bench', weightPercent: 50_000 }], lines, results);
/** A line of a file by the names of its columns. */
const named = (files: ReturnType<typeof write>, file: string, n = 1): Record<string, string> => {
  const [head = [], ...rest] = files.get(file) ?? [];
  return Object.fromEntries(head.map((name, at) => [name, rest[n - 1]?.[at] ?? '']));
};

describe('results for a school’s records', () => {
  it('name their files in the manifest, and say of the others that they are absent', () => {
    const manifest = new Map((write([], []).get('manifest.csv') ?? []).map(([name, value]) => [name, value]));
    expect([manifest.get('oneroster.version'), manifest.get('file.results'), manifest.get('file.users')]).toEqual([
      '1.2',
      'bulk',
      'absent',
    ]);
    expect([...manifest.values()].filter((v) => v === 'bulk')).toHaveLength(3);
  });

  it('give each column its points, its days and its category', () => {
    const files = write([line(), line({ key: 'gift:a', categoryKey: null, dueOn: '' })], []);
    expect(named(files, 'categories.csv')).toMatchObject({ sourcedId: 'bench', title: 'Bench', weight: '50' });
    expect(named(files, 'lineItems.csv')).toMatchObject({
      ...{ sourcedId: 'chain:a', status: '', assignDate: '2026-09-14', dueDate: '2026-09-21' },
      ...{ classSourcedId: 'class-a', categorySourcedId: 'bench', resultValueMin: '0', resultValueMax: '60' },
    });
    expect(named(files, 'lineItems.csv', 2)).toMatchObject({ categorySourcedId: '', dueDate: '' });
  });

  it.each([
    ['marked', { scoreStatus: 'fully graded', score: '45.5', incomplete: 'false', missing: 'false', inProgress: 'false' }],
    ['missing', { scoreStatus: 'not submitted', missing: 'true' }],
    ['exempt', { scoreStatus: 'exempt', missing: 'false' }],
    ['unfinished', { scoreStatus: 'partially graded', incomplete: 'true' }],
    ['waits', { scoreStatus: 'submitted', inProgress: 'true' }],
  ] as const)('say of what is %s what it is', (state, want) => {
    expect(named(write([line()], [result({ state })]), 'results.csv')).toMatchObject({ sourcedId: 'chain:a:s1', ...want });
  });

  it('carry lateness, letters and comments, each line as wide as its head', () => {
    const files = write([line()], [result({ isLate: true, text: 'B', comment: 'well, done' })]);
    expect(named(files, 'results.csv')).toMatchObject({ late: 'true', textScore: 'B', comment: 'well, done', scoreDate: '2026-09-25' });
    for (const table of files.values()) expect(new Set(table.map((row) => row.length)).size).toBe(1);
  });

  it('are refused where a column is in a category that is not written', () => {
    expect(() => write([line({ categoryKey: 'gone' })], [])).toThrow('“Food chain” is in a category that is not written.');
  });
});
