import { ratio, ZERO } from '../../../exact/ratio.ts';
import type { KeyOf } from '../../question.ts';
import { given, nothingNear, type KindOfQuestion, type QuestionScore } from '../kindOfQuestion.ts';
import { mixed } from '../mixed.ts';
import { fail, quoted, rulesOf, unquoted } from '../tableCells.ts';

function ofPairs(key: KeyOf<'matching'>, pairs: Readonly<Record<string, string>>): QuestionScore {
  // A right side without a left one only distracts: there is nothing to put it beside.
  const asked = key.pairs.filter((p) => p.left !== '');
  const right = asked.filter((p) => pairs[p.left] === p.right).length;
  return asked.length === 0
    ? given(ZERO, 'There is no pair to find.')
    : given(ratio(right, asked.length), `${right} of ${asked.length} pairs are right.`);
}

function pair(line: string): { left: string; right: string } {
  const found = /^("(?:[^"\\]|\\.)*"|(?!")[^=]*?)\s*=\s*("(?:[^"\\]|\\.)*"|(?!")[^=]*)$/.exec(line);
  if (found === null) return fail('answers', line, 'is no pair, such as “lever = locks the train”.');
  return { left: unquoted((found[1] ?? '').trim(), line), right: unquoted((found[2] ?? '').trim(), line) };
}

export const matching: KindOfQuestion<KeyOf<'matching'>> = {
  takes: 'pairs',
  begin: () => ({
    kind: 'matching',
    pairs: [
      { left: '', right: '' },
      { left: '', right: '' },
    ],
  }),
  asked: ({ pairs }, { seed, questionId }) => ({
    lefts: pairs.flatMap((p) => (p.left === '' ? [] : [p.left])),
    rights: mixed(
      pairs.map((p) => p.right),
      seed,
      questionId,
    ),
  }),
  faults: ({ pairs }) => {
    const lefts = pairs.map((p) => p.left).filter((l) => l !== '');
    return [
      ...(lefts.length < 2 ? ['There are fewer than two pairs. Give another.'] : []),
      ...(pairs.some((p) => p.right.trim() === '') ? ['A pair has no right side. Type it, or take the pair away.'] : []),
      ...(new Set(lefts).size < lefts.length ? ['Two pairs have the same left side.'] : []),
    ];
  },
  inWords: ({ pairs }) => pairs.filter((p) => p.left !== '').map((p) => `${p.left} – ${p.right}`),
  score: (key, answer) => (answer.kind === 'pairs' ? ofPairs(key, answer.pairs) : null),
  guessing: ({ pairs }) => {
    const rights = new Set(pairs.map((p) => p.right)).size;
    return rights === 0 ? null : ratio(1, rights);
  },
  near: nothingNear,
  cells: ({ pairs }) => ({ answers: pairs.map((p) => `${quoted(p.left)} = ${quoted(p.right)}`), rules: [] }),
  read: (reading) => {
    rulesOf(reading, {});
    return { key: { kind: 'matching', pairs: reading.lines.map(pair) } };
  },
};
