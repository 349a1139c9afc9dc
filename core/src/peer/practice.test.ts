import fc from 'fast-check';
import { ratio } from '../exact/ratio.ts';
import type { RubricCriterion } from '../grading/rubric.ts';
import { allowsClass, leaveOfAll, SHOWN_HOW, type Leave } from './leave.ts';
import { awayInWords, comparePractice, judgedByPlace, judgedOnForm, unjudgedCriteria } from './practice.ts';

const level = (id: string, points: number): RubricCriterion['levels'][number] => ({ id, title: id, descriptor: id, points });
const criterion = (id: string, points: readonly number[]): RubricCriterion => ({
  id,
  title: id,
  form: 'levels',
  levels: points.map((p, n) => level(`${id}${n}`, p)),
});
const form: readonly RubricCriterion[] = [
  criterion('a', [0, 4000, 7000, 10_000]),
  { id: 'r', title: 'r', form: 'range', levels: [level('r0', 4000), { ...level('r1', 10_000), least: 4000 }] },
  { id: 'w', title: 'w', form: 'comment', levels: [] },
];
const judged = (choices: Record<string, string>, given: Record<string, number> = {}) => ({ choices, given, comments: {} });

describe('a sample work that is practised on', () => {
  it('is compared criterion by criterion, in levels above or below the teacher', () => {
    const lines = comparePractice(form, judged({ a: 'a3', r: 'r1' }, { r: 7000 }), judged({ a: 'a1', r: 'r1' }));
    expect(lines.map((l) => [l.criterionId, l.mine, l.theirs, awayInWords(l.away)])).toEqual([
      ['a', 10_000, 4000, '2 levels higher than the teacher'],
      ['r', 7000, 10_000, 'less than a level lower than the teacher'],
    ]);
    expect(comparePractice(form, judged({ a: 'a1' }), judged({ a: 'a1' }))[0]?.away.equals(0)).toBe(true);
  });

  it('leaves out what one of the two did not judge: a form grew since', () => {
    expect(comparePractice(form, judged({ a: 'a3', r: 'r1' }), judged({ a: 'a1' })).map((l) => l.criterionId)).toEqual(['a']);
    expect(comparePractice(form, judged({}), judged({ a: 'a1' }))).toEqual([]);
  });

  it.each([
    [ratio(0), 'as the teacher'],
    [ratio(1), '1 level higher than the teacher'],
    [ratio(-2), '2 levels lower than the teacher'],
    [ratio(1, 2), 'less than a level higher than the teacher'],
    [ratio(-3, 2), 'more than a level lower than the teacher'],
    [ratio(5, 2), 'more than 2 levels higher than the teacher'],
  ])('%s is said in words', (away, words) => {
    expect(awayInWords(away)).toBe(words);
  });

  it('can be practised on once every criterion with points is judged', () => {
    expect(unjudgedCriteria(form, judged({ a: 'a1' })).map((c) => c.id)).toEqual(['r']);
    expect(unjudgedCriteria(form, judged({ a: 'a1', r: 'r0' }))).toEqual([]);
    expect(unjudgedCriteria([], judged({}))).toEqual([]);
  });

  it('says the same on a copy of its form as on its own', () => {
    const copy = form.map((c) => ({ ...c, id: `copy ${c.id}`, levels: c.levels.map((l) => ({ ...l, id: `copy ${l.id}` })) }));
    const some = fc.record({
      a: fc.option(fc.constantFrom('a0', 'a1', 'a2', 'a3'), { nil: undefined }),
      r: fc.option(fc.constantFrom('r0', 'r1'), { nil: undefined }),
      points: fc.option(fc.integer({ min: 4000, max: 10_000 }), { nil: undefined }),
      words: fc.string(),
    });
    fc.assert(
      fc.property(some, ({ a, r, points, words }) => {
        const own: Parameters<typeof judgedByPlace>[1] = {
          choices: { ...(a === undefined ? {} : { a }), ...(r === undefined ? {} : { r }) },
          given: points === undefined ? {} : { r: points },
          comments: words === '' ? {} : { w: words },
        };
        const there = judgedOnForm(copy, judgedByPlace(form, own));
        expect(judgedOnForm(form, judgedByPlace(copy, there))).toEqual(own);
        expect(Object.keys(there.choices).every((id) => id.startsWith('copy '))).toBe(true);
      }),
    );
    // A form with fewer criteria takes what it has a place for.
    expect(judgedOnForm(copy.slice(0, 1), judgedByPlace(form, judged({ a: 'a2', r: 'r1' }))).choices).toEqual({ 'copy a': 'copy a2' });
  });
});

describe('leave to show a work', () => {
  const leave = (toClass: Leave['toClass'], toLater = false): Leave => ({ toClass, toLater });
  it('is what all of its authors allow; whoever said nothing allows nothing', () => {
    expect(leaveOfAll([leave('with name', true), leave('without name', true)])).toEqual(leave('without name', true));
    expect(leaveOfAll([leave('with name', true), null])).toEqual(leave('no'));
    expect(leaveOfAll([leave('with name', true), leave('with name')])).toEqual(leave('with name'));
    expect(leaveOfAll([])).toEqual(leave('no'));
  });

  it('lets it be shown with the name only where that was said', () => {
    expect(SHOWN_HOW.map((how) => [allowsClass(leave(how), false), allowsClass(leave(how), true)])).toEqual([
      [false, false],
      [true, false],
      [true, true],
    ]);
  });
});
