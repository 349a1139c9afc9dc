import fc from 'fast-check';
import { answerOrder, assemblePaper, drawFaults, seeded, type PaperPart, type PaperSection } from '../index.ts';

const fixed = (questionId: string): PaperPart => ({ kind: 'fixed', questionId, points: 1000 });
const draw = (id: string, pool: readonly string[], count: number): PaperPart => ({
  kind: 'draw',
  id,
  words: `those tagged ${id}`,
  pool,
  count,
  points: 2000,
});
const section = (id: string, parts: PaperPart[], isShuffled = false): PaperSection => ({ id, title: `Part ${id}`, parts, isShuffled });
const ids = (paper: ReturnType<typeof assemblePaper>): string[] => paper.flatMap((s) => s.questions.map((q) => q.questionId));

describe('numbers from a seed', () => {
  it('are the same each time, spread evenly, and others for other words', () => {
    const many = (words: string): number[] => {
      const next = seeded(words);
      return Array.from({ length: 4000 }, () => next());
    };
    const first = many('attempt 1');
    expect(many('attempt 1')).toEqual(first);
    expect(many('attempt 2').some((x, n) => x === first[n])).toBe(false);
    const tenths = Array.from({ length: 10 }, (_, n) => first.filter((x) => Math.floor(10 * x) === n).length);
    // Chi squared with nine degrees of freedom: 27.9 is passed once in a thousand.
    expect(tenths.reduce((s, x) => s + (x - 400) ** 2 / 400, 0)).toBeLessThan(27.9);
    expect(first.every((x) => x >= 0 && x < 1)).toBe(true);
  });
});

describe('the paper of an attempt', () => {
  const pool = ['a', 'b', 'c', 'd', 'e'];
  it('keeps what is fixed in its place, and draws the same for the same seed', () => {
    const sections = [section('1', [fixed('x'), draw('t', pool, 2)]), section('2', [fixed('y')])];
    const paper = assemblePaper(sections, 'a');
    expect(paper.map((s) => [s.id, s.questions.length])).toEqual([
      ['1', 3],
      ['2', 1],
    ]);
    expect(ids(paper)[0]).toBe('x');
    expect(paper[0]?.questions.map((q) => q.points)).toEqual([1000, 2000, 2000]);
    expect(assemblePaper(sections, 'a')).toEqual(paper);
    expect(new Set(Array.from({ length: 40 }, (_, n) => ids(assemblePaper(sections, String(n))).join(''))).size).toBeGreaterThan(10);
  });
  it('draws every question about as often as any other', () => {
    const counts = new Map<string, number>();
    for (let n = 0; n < 2000; n += 1)
      for (const id of ids(assemblePaper([section('1', [draw('t', pool, 2)])], `seed ${n}`))) counts.set(id, (counts.get(id) ?? 0) + 1);
    for (const id of pool) expect(Math.abs((counts.get(id) ?? 0) - 800)).toBeLessThan(100);
  });
  it('never holds a question twice, and fills every draw that can be filled, also where pools overlap', () => {
    const name = fc.constantFrom(...'abcdefgh');
    const part = fc.oneof(
      name.map((q) => fixed(q)),
      fc
        .tuple(fc.uuid(), fc.array(name, { maxLength: 8 }), fc.integer({ min: 1, max: 3 }))
        .map(([id, from, count]) => draw(id, from, count)),
    );
    fc.assert(
      fc.property(fc.array(part, { maxLength: 6 }), fc.string(), (parts, seed) => {
        const seen = new Set<string>();
        // One that is fixed twice would be there twice: that is for the editor to refuse.
        const single = parts.filter((p) => p.kind === 'draw' || (!seen.has(p.questionId) && seen.add(p.questionId)));
        const sections = [section('1', single)];
        const drawn = ids(assemblePaper(sections, seed));
        expect(new Set(drawn).size).toBe(drawn.length);
        const wanted = single.reduce((n, p) => n + (p.kind === 'fixed' ? 1 : p.count), 0);
        const short = drawFaults(sections).reduce((n, f) => n + f.wanted - f.found, 0);
        expect(drawn.length).toBe(wanted - short);
      }),
    );
  });
  it('takes a question from one draw for another that has no other', () => {
    // The first would take `a` by itself, which is all the second has.
    for (let n = 0; n < 20; n += 1)
      expect(ids(assemblePaper([section('1', [draw('t', ['a', 'b'], 1), draw('u', ['a'], 1)])], String(n)))).toEqual(['b', 'a']);
  });
  it('says of a draw that cannot be filled how many it would find', () => {
    expect(drawFaults([section('1', [draw('t', ['a', 'b', 'c'], 2)]), section('2', [draw('u', ['a', 'b', 'c'], 2)])])).toMatchObject([
      { drawId: 'u', wanted: 2, found: 1, text: expect.stringContaining('“Part 2” draws 2 of those tagged u, and one is left for it.') },
    ]);
    expect(drawFaults([section('1', [fixed('a'), draw('t', ['a'], 1)])])[0]?.text).toContain('none is left');
    expect(drawFaults([section('1', [draw('t', pool, 5)])])).toEqual([]);
  });
  it('shuffles sections, questions and answers where that is wished, and keeps the pinned answer last', () => {
    const sections = ['1', '2', '3', '4'].map((id) =>
      section(
        id,
        ['a', 'b', 'c'].map((q) => fixed(`${id}${q}`)),
        true,
      ),
    );
    const orders = new Set(
      Array.from({ length: 30 }, (_, n) =>
        assemblePaper(sections, String(n), true)
          .map((s) => s.id)
          .join(''),
      ),
    );
    expect(orders.size).toBeGreaterThan(8);
    expect(assemblePaper(sections, 'x').map((s) => s.id)).toEqual(['1', '2', '3', '4']);
    const answers = (seed: string): readonly string[] => answerOrder(['p', 'q', 'r', 'none'], new Set(['none']), seed, 'one');
    expect(answers('s')).toEqual(answers('s'));
    expect(new Set(Array.from({ length: 40 }, (_, n) => answers(String(n)).join())).size).toBe(6);
    expect(answers('s').at(-1)).toBe('none');
  });
});
