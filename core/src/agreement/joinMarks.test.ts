import { joinMarks, plainText, type OneMark } from '../index.ts';

const words = (text: string) => ({ type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text }] }] });
const level = (id: string, title: string, points: number) => ({ id, title, points, descriptor: '', least: null, upTo: null });
const criteria = [
  { id: 'x', title: 'Measures', form: 'levels', levels: [level('x1', 'Good', 30_000), level('x2', 'Fair', 15_000)] },
  { id: 'y', title: 'Words', form: 'levels', levels: [level('y1', 'Clear', 22_000), level('y2', 'Poor', 20_000)] },
] as never;
const mark = (more: Partial<OneMark>): OneMark => ({ choices: {}, given: {}, comments: {}, feedback: null, total: null, ...more });

describe('the mean of two markers', () => {
  const joined = joinMarks(criteria, [
    mark({ choices: { x: 'x1', y: 'y1' }, comments: { x: 'All taken twice.' }, feedback: words('Well measured.'), total: 52_000 }),
    mark({ choices: { x: 'x2', y: 'y1' }, feedback: words('Some are missing.'), total: 35_000 }),
  ]);
  it('is the mean of their totals, and says so', () => {
    expect([joined.score, joined.scoreReason]).toEqual([43_500, 'the mean of two markers: 52 and 35']);
    expect(joinMarks(criteria, [mark({ total: 1 }), mark({ total: 2 })]).score).toBe(2);
  });
  it('keeps the levels they agree on, and says what each gave where they do not', () => {
    expect(joined.choices).toEqual({ x: 'x1', y: 'y1' });
    expect(joined.comments).toEqual({ x: 'First marker: Good, 30. All taken twice. Second marker: Fair, 15' });
  });
  it('keeps the words of both', () => {
    const text = plainText(joined.feedback);
    expect(text).toMatch(/First marker:\s*Well measured\.\s*Second marker:\s*Some are missing\./);
    expect(joinMarks(criteria, [mark({}), mark({})]).feedback).toBeNull();
  });
});
