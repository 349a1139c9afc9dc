import fc from 'fast-check';
import {
  applyLate,
  OUTSIDE,
  prepare,
  threeTotals,
  workingOfTotal,
  type Category,
  type GradedCell,
  type GradedColumn,
  type Policy,
  type WorkingLine,
} from '../index.ts';

/** Every printed line of a working can be worked out again from what is printed, and from nothing else. */
const DAY = 86_400_000;
const number = (text: string): number => Number(text.replace('−', '-').replace('…', '').replaceAll(' ', ''));
const isNear = (a: number, b: number): boolean => Math.abs(a - b) <= 2e-5 * Math.max(1, Math.abs(a), Math.abs(b));
const noteOf = (line: WorkingLine, pattern: RegExp): RegExpExecArray | null =>
  line.lines.map((l) => pattern.exec(`${l.rule} | ${l.value}`)).find((m) => m !== null) ?? null;

interface Read {
  readonly earned: number;
  readonly possible: number;
  readonly times: number;
  readonly isExtra: boolean;
  readonly isOut: boolean;
}
/** An item’s line: its result from its raw score and the penalty printed below it, and what it weighs. */
function readItem(line: WorkingLine): Read {
  const match = /^(?:(\S+) → )?(\S+) \/ (\S+?)(?: = (\S+) %)?$/.exec(line.value);
  if (match === null) throw new Error(`“${line.value}” cannot be read.`);
  const [, raw, earned = '', possible = '', share] = match;
  if (raw !== undefined) {
    const penalty = number(noteOf(line, /\| − (\S+)$/)?.[1] ?? '');
    expect(isNear(number(raw) - penalty, number(earned))).toBe(true);
    const rule = noteOf(line, /: (?:(\d+) × )?(\S+) % of the (\S+) (?:earned|possible)(.*?) \|/);
    const taken = (number(rule?.[1] ?? '1') * number(rule?.[2] ?? '') * number(rule?.[3] ?? '')) / 100;
    const least = /never below (\S+) % of the (\S+) possible/.exec(rule?.[4] ?? '');
    const floor = least === null ? -Infinity : (number(least[1] ?? '') * number(least[2] ?? '')) / 100;
    expect(isNear(Math.min(number(raw), Math.max(number(raw) - taken, floor)), number(earned))).toBe(true);
    expect(noteOf(line, /handed in \d+, due \d+/)).not.toBeNull();
  }
  if (share !== undefined) expect(isNear((number(earned) / number(possible)) * 100, number(share))).toBe(true);
  return {
    earned: number(earned),
    possible: number(possible),
    times: number(noteOf(line, /multiplier \| × (\S+)/)?.[1] ?? '1'),
    isExtra: noteOf(line, /extra credit/) !== null,
    isOut: line.look === 'out',
  };
}

/** The lines of a category add up to the share they end in. Gives that share, in percent. */
function addCategory(lines: readonly WorkingLine[]): number | null {
  const sum = lines.find((l) => l.look === 'sum');
  if (sum === undefined || sum.value === '') return null;
  const kept = lines
    .slice(0, lines.indexOf(sum))
    .map(readItem)
    .filter((i) => !i.isOut);
  const byPoints = /^(\S+) of (\S+) points$/.exec(sum.rule);
  const byShare = /^shares add to (\S+), of (\S+) pieces?$/.exec(sum.rule);
  const top = kept.reduce((t, i) => t + i.times * (byPoints === null ? i.earned / i.possible : i.earned), 0);
  const bottom = kept.reduce((t, i) => t + (i.isExtra ? 0 : i.times * (byPoints === null ? 1 : i.possible)), 0);
  const said = byPoints ?? byShare;
  expect(isNear(top, number(said?.[1] ?? ''))).toBe(true);
  expect(isNear(bottom, number(said?.[2] ?? ''))).toBe(true);
  const isCapped = lines.some((l) => l.rule === 'capped at 100 %');
  const share = isCapped ? 100 : (top / bottom) * 100;
  expect(isNear(share, number(sum.value.replace(' %', '')))).toBe(true);
  return share;
}

/** The categories, by their weights, add up to the total they end in. */
function addPeriod(lines: readonly WorkingLine[]): number {
  const weights = number(/Weights counted: (\S+) of 100/.exec(lines.map((l) => l.rule).join('\n'))?.[1] ?? '');
  let total = 0;
  for (const line of lines) {
    const match = /, weight (\S+?)(, on top)?$/.exec(line.rule);
    if (match === null) continue;
    const share = addCategory(line.lines);
    if (share === null) continue;
    const value = /^(\S+) % → (\S+)$/.exec(line.value);
    const part = (share * number(match[1] ?? '')) / (match[2] === undefined ? weights : 100);
    expect(isNear(share, number(value?.[1] ?? ''))).toBe(true);
    expect(isNear(part, number(value?.[2] ?? ''))).toBe(true);
    total += part;
  }
  return total;
}

const points = fc.integer({ min: 1, max: 100_000 });
const arbitraryCategory = (id: string) =>
  fc
    .record({
      method: fc.constantFrom('points' as const, 'share' as const),
      dropLowest: fc.integer({ min: 0, max: 2 }),
      keepBest: fc.constantFrom(0, 0, 2),
      dropHighest: fc.constantFrom(0, 1),
      isExtraCredit: fc.constant(id === 'c'),
      isCapped: fc.boolean(),
      declaredItems: fc.constantFrom(0, 6),
      declaredPoints: fc.constantFrom(0, 300_000),
      weightPercent: fc.integer({ min: 1000, max: 60_000 }),
    })
    .map((c): Category => ({ ...c, id, title: `Category ${id}`, late: null }));
const arbitraryItem = fc.record({
  categoryId: fc.constantFrom('a', 'b', 'c'),
  possible: fc.oneof(points, fc.constant(0)),
  multiplier: fc.constantFrom(1000, 1000, 500, 2000),
  isExtraCredit: fc.constantFrom(false, false, false, true),
  score: fc.option(fc.integer({ min: 0, max: 110_000 })),
  daysLate: fc.integer({ min: 0, max: 9 }),
});
const late = fc.record({
  ratePercent: fc.constantFrom(5000, 3333),
  stepMinutes: fc.constant(1440),
  base: fc.constantFrom('earned' as const, 'possible' as const),
  capPercent: fc.constantFrom(50_000, 20_000),
  floorPercent: fc.constantFrom(0, 30_000),
  graceMinutes: fc.constant(0),
});

describe('a working', () => {
  it('can be added again, line by line, from its text alone', () => {
    fc.assert(
      fc.property(
        fc.tuple(arbitraryCategory('a'), arbitraryCategory('b'), arbitraryCategory('c')),
        fc.array(arbitraryItem, { minLength: 1, maxLength: 12 }),
        late,
        fc.boolean(),
        (categories, list, lateRule, isRenormalised) => {
          const policy: Policy = {
            total: 'weights',
            whole: { dropLowest: 0, keepBest: 0, dropHighest: 0, isCapped: false },
            isRenormalised,
            isMissingZero: true,
            decimals: 1,
            categories,
            periods: [],
            levels: [],
          };
          const columns = list.map((i, n): GradedColumn => ({
            ...i,
            id: `i${n}`,
            itemId: `i${n}`,
            title: `Item ${n}`,
            periodId: null,
            dueAt: n * DAY,
            order: n,
          }));
          const cells = list.map((i, n): GradedCell => {
            if (i.score === null) return { ...OUTSIDE, state: 'none', mostPossible: i.possible };
            const dueAt = n * DAY;
            const { result, late: account } = applyLate({
              earned: i.score,
              possible: i.possible,
              handedInAt: dueAt + i.daysLate * DAY,
              dueAt,
              policy: lateRule,
            });
            return { state: 'marked', raw: i.score, result, late: account, mostPossible: result, isReleased: true };
          });
          const totals = threeTotals(prepare(policy, columns), cells);
          for (const total of [totals.soFar, totals.floor, totals.reach]) {
            const lines = workingOfTotal(total, policy, String);
            if (total.ratio === null) continue;
            const said = lines.find((l) => l.rule === `Total ${total.kind}`)?.value.replace(' %', '') ?? '';
            expect(isNear(addPeriod(lines), number(said))).toBe(true);
          }
        },
      ),
      { numRuns: 150 },
    );
  });
});
