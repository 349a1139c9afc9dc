import {
  expectedOf,
  itemStatistics,
  reliability,
  workingOfExpected,
  workingOfItem,
  workingOfReliability,
  type PlannedQuestion,
} from '../index.ts';

/** The working of a figure leads to the figure: what stands in its lines is worked out again here. */
const matrix = [
  [1, 1, 1, 2],
  [1, 1, 0, 2],
  [1, 0, 1, 1],
  [0, 0, 0, 1],
  [1, 0, 0, 0],
  [0, 1, 0, 0],
];
const scale = [1, 1, 1, 2];
const numbers = (text: string): number[] => (text.replaceAll('−', '-').match(/-?\d+(?:\.\d+)?/g) ?? []).map(Number);
const valueOf = (lines: readonly { rule: string; value: string }[], start: string): { rule: string; value: number } => {
  const line = lines.find((l) => l.rule.startsWith(start));
  return { rule: line?.rule ?? '', value: Number(line?.value.replace('−', '-')) };
};

describe('the working', () => {
  it('of reliability leads to alpha, its interval and the error of a score', () => {
    const found = reliability(matrix, scale);
    if (found === null) throw new Error('none');
    const lines = workingOfReliability(found);
    const [items, total] = [valueOf(lines, 'Variances of the questions').value, valueOf(lines, 'Variance of the totals').value];
    const alpha = (4 / 3) * (1 - items / total);
    expect(alpha).toBeCloseTo(found.alpha, 2);
    expect(valueOf(lines, 'alpha = ').value).toBeCloseTo(found.alpha, 2);
    const [, , , f = 0] = numbers(valueOf(lines, '95 % from').rule);
    expect(1 - (1 - found.alpha) * f).toBeCloseTo(found.low ?? NaN, 2);
    expect(Math.sqrt(total * (1 - alpha))).toBeCloseTo(found.sem, 2);
    expect(lines.some((l) => l.rule.startsWith('KR-20 does not apply'))).toBe(true);
    const plain = reliability(
      matrix.map((row) => row.slice(0, 3)),
      [1, 1, 1],
    );
    expect(plain === null ? [] : workingOfReliability(plain).map((l) => l.rule)).toContain('KR-20, the same with variances by n');
  });

  it('of one question leads to its share correct, its item–rest correlation and its upper–lower index', () => {
    const [, , , last] = itemStatistics(
      scale.map((points, n) => ({ id: String(n), points })),
      matrix.map((earned) => ({ earned })),
    );
    if (last === undefined) throw new Error('none');
    const lines = workingOfItem(last);
    const [earned = 0, attempts = 0, points = 0] = numbers(valueOf(lines, 'Share correct').rule);
    expect(earned / (attempts * points)).toBeCloseTo(last.shareRight ?? NaN, 2);
    const [covariance = 0, own = 0, rest = 0] = numbers(valueOf(lines, 'Item–rest =').rule.replace('–', ' '));
    expect(covariance / (own * rest)).toBeCloseTo(last.itemRest ?? NaN, 2);
    const [upper = 0, lower = 0, of = 1] = numbers(valueOf(lines, 'Upper–lower =').rule.replace('Upper–lower', '').replace(' − ', ' '));
    expect((upper - lower) / of).toBeCloseTo(last.upperLower ?? NaN, 2);
  });

  it('says why there is no figure where there is none', () => {
    const [flat] = itemStatistics([{ id: 'a', points: 1 }], [{ earned: [1] }, { earned: [1] }]);
    const rules = flat === undefined ? [] : workingOfItem(flat).map((l) => l.rule);
    expect(rules).toContain('Item–rest: one of the two does not vary, so there is none');
    expect(rules).toContain('Upper–lower: too few attempts to tell two groups apart');
  });

  it('of what is expected names what is known and what is usual, and leads to it', () => {
    const plan = (kind: PlannedQuestion['kind'], shareRight: number | null): PlannedQuestion => ({
      ...{ kind, level: null, objectives: [], points: 1000, shareRight, itemRest: shareRight === null ? null : 0.3 },
    });
    const expected = expectedOf([plan('single', 0.6), plan('single', null), plan('essay', null), plan('short', 0.8)]);
    const lines = workingOfExpected(expected);
    expect(lines[0]).toMatchObject({ rule: expect.stringMatching(/^2 × single choice/) });
    expect(valueOf(lines, 'with a share correct').value).toBe(2);
    const variances = valueOf(lines, 'Variances p(1').value;
    const total = valueOf(lines, 'Variance of the total').value;
    expect((4 / 3) * (1 - variances / total)).toBeCloseTo(expected.reliability ?? NaN, 2);
    expect(workingOfExpected(expectedOf([plan('essay', null)])).map((l) => l.look)).toEqual(['plain', 'sum']);
  });
});
