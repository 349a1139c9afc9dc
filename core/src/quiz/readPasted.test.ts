import fc from 'fast-check';
import { readPasted } from '../index.ts';

const one = (text: string) => {
  const found = readPasted(text);
  expect(found).toHaveLength(1);
  return found[0]!;
};

describe('a list of questions as it is typed', () => {
  it('is parted by its numbers, whatever empty lines stand in it', () => {
    const found = readPasted(
      'Escapements\n\n1. Which part locks the wheel? (2 points)\na) the pallet *\n\nb) the roller\n2) Why is there draw?\n',
    );
    expect(found.map((q) => [q.line, q.words, q.points, q.key.kind, q.faults])).toEqual([
      [3, 'Which part locks the wheel?', 2000, 'single', []],
      [7, 'Why is there draw?', null, 'essay', []],
    ]);
    expect(found[0]?.key).toMatchObject({
      choices: [
        { words: 'the pallet', isRight: true },
        { words: 'the roller', isRight: false },
      ],
    });
  });
  it('without numbers is parted by empty lines', () => {
    expect(readPasted('First?\n- yes ✓\n- no\n\nSecond?\n→ lock').map((q) => [q.line, q.key.kind])).toEqual([
      [1, 'single'],
      [5, 'short'],
    ]);
  });
  it('knows several choices, and true and false, by what is marked', () => {
    expect(one('1. Which are jewels?\na) ✓ ruby\nb) sapphire (right)\nc) glass').key).toEqual({
      kind: 'several',
      choices: [
        { words: 'ruby', isRight: true },
        { words: 'sapphire', isRight: true },
        { words: 'glass', isRight: false },
      ],
    });
    expect(one('1. The lever is locked by the draw.\na) True *\nb) False').key.kind).toBe('truth');
  });
  it('says what is missing, and drops nothing', () => {
    expect(one('1. Which?\na) this\nb) that').faults).toEqual(['No answer is marked as right. Put a * or ✓ before or after it.']);
    expect(one('1. Which?\na) this *').faults[0]).toContain('one answer to choose from');
    expect(one('1. Match.\nlever ↔ locks').faults[0]).toContain('Give another');
    expect(one('1. Look at this:\na table of beats\nand say why.').words).toBe('Look at this:\na table of beats\nand say why.');
    expect(readPasted('  \n\n')).toEqual([]);
  });
  it.each([
    ['→ 28800', { kind: 'numeric', value: '28800', tolerance: { kind: 'absolute', amount: '0' }, unit: null }],
    ['-> 28 800 ± 5 %', { kind: 'numeric', value: '28 800', tolerance: { kind: 'relative', percent: '5' }, unit: null }],
    ['→ 2,5 ± 0.05 mm', { kind: 'numeric', value: '2,5', tolerance: { kind: 'absolute', amount: '0.05' }, unit: 'mm' }],
    ['→ 4 Hz', { kind: 'numeric', value: '4', tolerance: { kind: 'absolute', amount: '0' }, unit: 'Hz' }],
    ['→ −1.2e-4', { kind: 'numeric', value: '−1.2e-4', tolerance: { kind: 'absolute', amount: '0' }, unit: null }],
    ['→ lock; total lock', { kind: 'short', accepted: ['lock', 'total lock'] }],
  ])('an answer below it is a number or a text: %s', (line, key) => {
    expect(one(`1. How much?\n${line}`).key).toEqual(key);
  });
  it('makes pairs, and blanks of what stands in brackets', () => {
    expect(one('1. Match.\nlever ↔ locks the train\nbalance <-> keeps time').key).toEqual({
      kind: 'matching',
      pairs: [
        { left: 'lever', right: 'locks the train' },
        { left: 'balance', right: 'keeps time' },
      ],
    });
    expect(one('1. After [lock] comes [drop].').key).toEqual({
      kind: 'blanks',
      parts: ['After ', { answer: 'lock' }, ' comes ', { answer: 'drop' }, '.'],
    });
  });
  it('takes anything at all, at once', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) => {
        expect(readPasted(text).every((q) => q.line >= 1)).toBe(true);
      }),
    );
    expect(readPasted(`1. ${'[a '.repeat(20_000)}`)).toHaveLength(1);
    expect(readPasted(`1. a\n${'a ↔'.repeat(5000)}`)).toHaveLength(1);
  });
});
