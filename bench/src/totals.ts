import {
  prepare,
  threeTotals,
  workingOfTotal,
  type Category,
  type GradedCell,
  type GradedColumn,
  type Policy,
  type Total,
} from '@rosemary/core';

/** Totals of a large course, against the same sums in a bare loop of plain numbers. */
const STUDENTS = 2000;
const COLUMNS = 150;
const category = (id: string, weight: number, dropLowest: number, method: 'points' | 'share'): Category => ({
  id,
  title: id,
  weightPercent: weight * 1000,
  method,
  dropLowest,
  keepBest: 0,
  dropHighest: 0,
  isExtraCredit: false,
  isCapped: false,
  declaredItems: 0,
  declaredPoints: 0,
  late: null,
});
const policy: Policy = {
  total: 'weights',
  whole: { dropLowest: 0, keepBest: 0, dropHighest: 0, isCapped: false },
  isRenormalised: true,
  isMissingZero: true,
  decimals: 1,
  categories: [category('a', 20, 1, 'share'), category('b', 50, 1, 'points'), category('c', 30, 0, 'points')],
  periods: [],
  levels: [
    { label: 'A', cutPoint: 80_000 },
    { label: 'F', cutPoint: 0 },
  ],
};
const columns: GradedColumn[] = Array.from({ length: COLUMNS }, (_, n) => ({
  id: `i${n}`,
  itemId: `i${n}`,
  title: `Item ${n}`,
  categoryId: ['a', 'b', 'c'][n % 3] ?? 'a',
  periodId: null,
  possible: [20_000, 40_000, 60_000][n % 3] ?? 20_000,
  multiplier: 1000,
  isExtraCredit: false,
  dueAt: n,
  order: n,
}));
const cells: GradedCell[][] = Array.from({ length: STUDENTS }, (_, s) =>
  columns.map((column, n) => {
    const raw = Math.floor((((s * 7919 + n * 104_729) % 1000) / 1000) * (column.possible / 500)) * 500;
    return { state: 'marked', raw, result: raw, late: null, mostPossible: raw, isReleased: true };
  }),
);
const prepared = prepare(policy, columns);
/** The same class in the middle of its term: the last third of the items has no mark yet, so that the three totals differ. */
const midTerm = cells.map((row) =>
  row.map((cell, n): GradedCell => (n < 100 ? cell : { ...cell, state: 'none', raw: null, result: null })),
);

function time(work: () => void): number {
  work();
  const runs = Array.from({ length: 5 }, () => {
    const at = performance.now();
    work();
    return performance.now() - at;
  }).sort((a, b) => a - b);
  return runs[2] ?? 0;
}
let sink = 0;
const bare = time(() => {
  for (const row of cells)
    for (let kind = 0; kind < 3; kind += 1) for (let n = 0; n < COLUMNS; n += 1) sink += (row[n]?.raw ?? 0) * (columns[n]?.multiplier ?? 0);
});
const linesOf = (total: Total): number => {
  let n = 0;
  for (const period of total.periods) for (const { total: category } of period.categories) n += category.lines.length;
  return n;
};
const numbersOf = (rows: readonly (readonly GradedCell[])[]): number =>
  time(() => {
    for (const row of rows) {
      const totals = threeTotals(prepared, row);
      sink += Number(totals.soFar.ratio?.d ?? 0n) + Number(totals.floor.ratio?.d ?? 0n) + Number(totals.reach.ratio?.d ?? 0n);
    }
  });
const numbers = numbersOf(midTerm);
const settled = numbersOf(cells);
const structural = time(() => {
  for (const row of midTerm) {
    const totals = threeTotals(prepared, row);
    sink += linesOf(totals.soFar) + linesOf(totals.floor) + linesOf(totals.reach);
  }
});
const withText = time(() => {
  for (const row of midTerm) {
    const totals = threeTotals(prepared, row);
    sink +=
      workingOfTotal(totals.soFar, policy, String).length +
      workingOfTotal(totals.floor, policy, String).length +
      workingOfTotal(totals.reach, policy, String).length;
  }
});
const show = (name: string, ms: number): void => {
  process.stdout.write(
    `core totals, ${name}: ${ms.toFixed(0)} ms for ${STUDENTS} students × ${COLUMNS} items × 3 totals; ${(ms / bare).toFixed(1)} × the bare summing loop (${bare.toFixed(1)} ms)\n`,
  );
};
show('the exact numbers alone, mid-term', numbers);
show('the exact numbers alone, everything marked', settled);
show('numbers with their structural derivation', structural);
show('with every working written out as text', withText);
if (sink === 0) process.stdout.write('');
