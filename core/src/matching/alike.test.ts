import fc from 'fast-check';
import { editDistance, groupAlike, isNear, normalAnswer } from './alike.ts';

const groups = (...texts: string[]) => groupAlike(texts.map((text, n) => ({ id: String(n), text }))).map((g) => [g.text, g.same, g.near]);

describe('short answers', () => {
  it.each([
    ['  The Roller-Jewel. ', 'the roller-jewel'],
    ['Él’s  answer!', 'el s answer'],
    ['0,04 mm.', '0,04 mm'],
    ['', ''],
  ])('%j is compared as %j', (text, normal) => expect(normalAnswer(text)).toBe(normal));

  it.each([
    ['the roller jewel is lose', 'the roller jewel is loose', true],
    ['0.04 mm', '0.05 mm', false],
    ['the pivot is bent', 'the pivot is not bent', false],
    ['the stone isnt worn at its entry face', 'the stone is worn at its entry face', false],
    ['bent', 'best', false],
    ['the entry stone is worn at the face', 'the entry stone is worn at face the', true],
    ['barrel', 'balance', false],
  ])('%j and %j', (a, b, near) => expect(isNear(a, b)).toBe(near));

  it('that are the same or near are one group, the largest first', () => {
    expect(groups('Balance', 'roller jewel.', 'Roller jewel', 'roller jewl')).toEqual([
      ['roller jewel.', ['1', '2'], ['3']],
      ['Balance', ['0'], []],
    ]);
  });
  it('that are empty are a group of their own', () => {
    expect(groups('', ' ', 'x')).toEqual([
      ['', ['0', '1'], []],
      ['x', ['2'], []],
    ]);
  });
  it('lose nobody and count nobody twice', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('a b c d e', 'a b c d f', 'loose jewel', 'lose jewel', '', '1 mm', '2 mm'), { maxLength: 20 }),
        (texts) => {
          const ids = groupAlike(texts.map((text, n) => ({ id: String(n), text }))).flatMap((g) => [...g.same, ...g.near]);
          expect([...ids].sort()).toEqual(texts.map((_, n) => String(n)).sort());
        },
      ),
    );
  });
});

describe('the distance of two words', () => {
  it.each([
    ['', '', 3, 0],
    ['jewel', 'jewl', 3, 1],
    ['kitten', 'sitting', 3, 3],
    ['kitten', 'sitting', 2, 3],
    ['a', 'abcdef', 2, 3],
  ])('%j and %j, up to %d: %d', (a, b, most, distance) => expect(editDistance(a, b, most)).toBe(distance));
});
