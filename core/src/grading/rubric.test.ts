import fc from 'fast-check';
import { criterionPoints, levelOfCount, rubricScore, type RubricCriterion } from './rubric.ts';

const level = (id: string, points: number, more: { least?: number; upTo?: number | null } = {}) => ({
  id,
  title: id,
  descriptor: '',
  points,
  ...more,
});
const cause: RubricCriterion = { id: 'cause', title: 'Cause', levels: [level('c0', 0), level('c1', 15_000), level('c2', 20_000)] };
const clean: RubricCriterion = { id: 'clean', title: 'Clean', form: 'check', levels: [level('no', 0), level('yes', 5000)] };
const range: RubricCriterion = {
  id: 'range',
  title: 'Range',
  form: 'range',
  levels: [level('low', 9000, { least: 0 }), level('high', 20_000, { least: 10_000 })],
};
const count: RubricCriterion = {
  id: 'count',
  title: 'Errors',
  form: 'count',
  levels: [level('many', 0, { upTo: null }), level('none', 10_000, { upTo: 0 }), level('few', 6000, { upTo: 3 })],
};
const words: RubricCriterion = { id: 'words', title: 'Style', form: 'comment', levels: [] };

describe('points by criterion', () => {
  it.each([
    ['a level', cause, { choices: { cause: 'c1' }, given: {} }, 15_000],
    ['nothing chosen', cause, { choices: {}, given: {} }, null],
    ['a level of another criterion', cause, { choices: { cause: 'yes' }, given: {} }, null],
    ['a tick', clean, { choices: { clean: 'yes' }, given: {} }, 5000],
    ['no tick, said so', clean, { choices: { clean: 'no' }, given: {} }, 0],
    ['a range without a number: its most', range, { choices: { range: 'high' }, given: {} }, 20_000],
    ['a number within the range', range, { choices: { range: 'high' }, given: { range: 12_500 } }, 12_500],
    ['a number below the range', range, { choices: { range: 'high' }, given: { range: 2000 } }, 10_000],
    ['a number above the range', range, { choices: { range: 'low' }, given: { range: 12_000 } }, 9000],
    ['no errors', count, { choices: {}, given: { count: 0 } }, 10_000],
    ['three errors', count, { choices: {}, given: { count: 3 } }, 6000],
    ['nine errors', count, { choices: {}, given: { count: 9 } }, 0],
    ['nothing counted', count, { choices: { count: 'none' }, given: {} }, null],
  ] as const)('of %s', (_what, criterion, chosen, points) => expect(criterionPoints(criterion, chosen)).toBe(points));

  it('a count beyond every bound reaches no level', () => {
    expect(levelOfCount([level('a', 1, { upTo: 2 })], 3)).toBeNull();
  });
});

describe('the score of a rubric', () => {
  const all = [cause, clean, range, count, words];
  it('is the sum, and complete once everything that gives points is judged', () => {
    expect(rubricScore(all, { cause: 'c2', clean: 'yes', range: 'high' }, { count: 2 })).toEqual({
      score: 51_000,
      possible: 55_000,
      isComplete: true,
    });
    expect(rubricScore(all, { cause: 'c2', clean: 'yes' }, { count: 2 }).isComplete).toBe(false);
  });
  it('as in the worked example: two of four criteria judged', () => {
    const four = [cause, { ...clean, levels: [level('no', 0), level('yes', 15_000)] }, range, count];
    expect(rubricScore(four, { cause: 'c1', clean: 'yes' })).toMatchObject({ score: 30_000, isComplete: false });
  });
  it('of words alone is 0 and never complete', () => {
    expect(rubricScore([words], {})).toEqual({ score: 0, possible: 0, isComplete: false });
  });
  it('lies between nothing and what is possible', () => {
    fc.assert(
      fc.property(
        fc.record({
          cause: fc.constantFrom('c0', 'c1', 'c2', 'x'),
          clean: fc.constantFrom('no', 'yes'),
          range: fc.constantFrom('low', 'high'),
        }),
        fc.record({ range: fc.integer({ min: -5000, max: 40_000 }), count: fc.nat(20) }),
        (choices, given) => {
          const { score, possible } = rubricScore(all, choices, given);
          expect(score).toBeGreaterThanOrEqual(0);
          expect(score).toBeLessThanOrEqual(possible);
        },
      ),
    );
  });
});
