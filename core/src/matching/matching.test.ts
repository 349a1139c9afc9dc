import fc from 'fast-check';
import { foldedWords } from './foldedWords.ts';
import { countedMatches, coverageOf, findMatches, PrintIndex, prepareText } from './matchTexts.ts';
import { runHashes, USUAL_NET, winnow, type Net } from './winnowing.ts';

const NET: Net = { k: 3, w: 3 };
const found = (text: string, ...sources: string[]) => {
  const index = new PrintIndex();
  sources.forEach((source, n) => index.add(prepareText(`s${n}`, source, NET)));
  return findMatches(prepareText('text', text, NET), index, NET);
};

describe('words as they are compared', () => {
  it('as in the worked example', () => {
    expect(foldedWords('Él said “No.”').map((w) => [w.word, w.isQuoted])).toEqual([
      ['el', false],
      ['said', false],
      ['no', true],
    ]);
  });
  it('know where they stand in the text', () => {
    const text = 'L’écrou, 0.04 mm!';
    expect(foldedWords(text).map((w) => [w.word, text.slice(w.from, w.to)])).toEqual([
      ['lecrou', 'L’écrou'],
      ['0', '0'],
      ['04', '04'],
      ['mm', 'mm'],
    ]);
  });
  it.each([
    ['"one two" three', [true, true, false]],
    ['«un deux» trois', [true, true, false]],
    ['„eins zwei“ drei', [true, true, false]],
    ['a “never closed', [false, false, false]],
    ['“a” b “c”', [true, false, true]],
  ])('%j', (text, quoted) => expect(foldedWords(text).map((w) => w.isQuoted)).toEqual(quoted));
});

describe('winnowing', () => {
  it('keeps what its authors keep in their example', () => {
    const hashes = Uint32Array.from([77, 74, 42, 17, 98, 50, 17, 98, 8, 88, 67, 39, 77, 74, 42, 17, 98]);
    expect(winnow(hashes, 4)).toEqual([
      { hash: 17, at: 3 },
      { hash: 17, at: 6 },
      { hash: 8, at: 8 },
      { hash: 39, at: 11 },
      { hash: 17, at: 15 },
    ]);
  });
  it('of nothing keeps nothing, and of less than a window one', () => {
    expect(winnow(new Uint32Array(0), 4)).toEqual([]);
    expect(winnow(Uint32Array.from([5, 3]), 4)).toEqual([{ hash: 3, at: 1 }]);
    expect(runHashes(['a', 'b'], 5)).toHaveLength(0);
  });
  it('hashes a run alike wherever it stands', () => {
    const [a, b] = [runHashes('x the wheel turns the pinion'.split(' '), 5), runHashes('the wheel turns the pinion'.split(' '), 5)];
    expect(a[1]).toBe(b[0]);
  });
  it('finds every run of w + k − 1 words, wherever it stands in both', () => {
    const word = fc.constantFrom(...'abcdefghijklmnopqrstuvwxyz'.split('').map((c) => c.repeat(3)));
    const text = fc.array(word, { maxLength: 40 });
    const run = fc.array(word, { minLength: NET.w + NET.k - 1, maxLength: 20 });
    fc.assert(
      fc.property(text, text, text, text, run, (before, after, otherBefore, otherAfter, shared) => {
        const [mine, theirs] = [
          [...before, ...shared, ...after],
          [...otherBefore, ...shared, ...otherAfter],
        ];
        const runs = found(mine.join(' '), theirs.join(' ')).flatMap((m) => m.runs);
        // All of the planted words are in runs, though perhaps in longer ones.
        expect(runs.some((r) => r.from <= before.length && r.to >= before.length + shared.length)).toBe(true);
        for (const r of runs) expect(mine.slice(r.from, r.to)).toEqual(theirs.slice(r.sourceFrom, r.sourceFrom + r.to - r.from));
      }),
    );
  });
});

describe('what a text shares with others', () => {
  it('as in the worked example', () => {
    expect(found('the wheel turns the pinion slowly', 'so the wheel turns the pinion again')[0]?.runs).toEqual([
      { from: 0, to: 5, sourceFrom: 1 },
    ]);
  });
  it('is nothing with itself, nor with what only looks alike', () => {
    const index = new PrintIndex();
    const text = prepareText('text', 'one two three four five six seven eight nine ten', NET);
    index.add(text);
    expect(findMatches(text, index, NET)).toEqual([]);
    expect(found('one two three four five', 'five four three two one')).toEqual([]);
  });
  it('names the source of most words first', () => {
    const long = 'every tooth of the escape wheel meets the stone and slides along its face';
    expect(found(`${long} and more`, 'the escape wheel meets the stone here', long).map((m) => [m.sourceId, m.words])).toEqual([
      ['s1', 14],
      ['s0', 6],
    ]);
  });
});

describe('how much of a text stands elsewhere', () => {
  const words = (name: string, many: number): string => Array.from({ length: many }, (_, n) => `${name}${n}`).join(' ');
  it('leaves out quotations and the task’s own words, as in the worked example', () => {
    const [task, copied] = [words('task', 20), words('copied', 35)];
    const text = `${task} “${words('quoted', 10)}” ${copied} ${words('own', 35)}`;
    const prepared = prepareText('text', text, NET);
    const of = (source: string) => {
      const index = new PrintIndex();
      index.add(prepareText('s', source, NET));
      return findMatches(prepared, index, NET);
    };
    expect(coverageOf(prepared, of(`${copied} “${words('quoted', 10)}”`), of(task), true)).toEqual({
      counted: 70,
      matched: 35,
      quoted: 10,
      ofTask: 20,
    });
    expect(coverageOf(prepared, of(`${copied} “${words('quoted', 10)}”`), of(task), false)).toMatchObject({ counted: 80, matched: 45 });
  });
  it('takes no evidence from what stands around the task’s words', () => {
    const task = words('task', 12);
    const text = prepareText('text', `I say ${task} and so on ${words('own', 9)}`, NET);
    const of = (source: string) => {
      const index = new PrintIndex();
      index.add(prepareText('s', source, NET));
      return findMatches(text, index, NET);
    };
    const classmate = of(`I say ${task} and so on`);
    expect(classmate[0]?.words).toBe(17);
    expect(countedMatches(text, classmate, of(task), true, NET)).toEqual([{ ...classmate[0] }]);
    expect(countedMatches(text, of(`I say ${task}`), of(task), true, NET)).toEqual([]);
  });
  it('of an empty text is nothing of nothing', () => {
    expect(coverageOf(prepareText('e', '', NET), [], [], true)).toEqual({ counted: 0, matched: 0, quoted: 0, ofTask: 0 });
  });
});

/** Texts with overlaps that are known: how many of the copied words are found, and how many of those found were copied. */
describe('a set of texts with known overlaps', () => {
  it('is found with a recall of 1 for long passages and a precision of almost 1', () => {
    let state = 7;
    // Mulberry32: the same numbers each time.
    const chance = (): number => {
      state = (state + 0x6d2b79f5) | 0;
      let t = Math.imul(state ^ (state >>> 15), 1 | state);
      t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
      return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
    };
    // A vocabulary as unequal as that of a language: few words are most of the text.
    const word = (): string => `w${Math.floor(400 * chance() ** 3)}`;
    const sources = Array.from({ length: 40 }, () => Array.from({ length: 600 }, word));
    const index = new PrintIndex();
    sources.forEach((source, n) => index.add(prepareText(`s${n}`, source.join(' '), USUAL_NET)));
    let [copied, hit, said, right] = [0, 0, 0, 0];
    for (let n = 0; n < 40; n += 1) {
      const length = 11 + Math.floor(chance() * 60);
      const [from, source] = [Math.floor(chance() * 500), Math.floor(chance() * 40)];
      const passage = (sources[source] as string[]).slice(from, from + length);
      const own = Array.from({ length: 300 }, word);
      const text = [...own.slice(0, 120), ...passage, ...own.slice(120)];
      const matches = findMatches(prepareText('t', text.join(' '), USUAL_NET), index, USUAL_NET);
      const covered = new Set(matches.flatMap((m) => m.runs).flatMap((r) => Array.from({ length: r.to - r.from }, (_, i) => r.from + i)));
      const isCopied = (place: number): boolean => place >= 120 && place < 120 + passage.length;
      copied += passage.length;
      hit += [...covered].filter(isCopied).length;
      said += covered.size;
      right += [...covered].filter(isCopied).length;
    }
    expect(hit / copied).toBe(1);
    expect(right / said).toBeGreaterThan(0.99);
  });
});
