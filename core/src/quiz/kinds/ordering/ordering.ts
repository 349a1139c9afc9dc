import { ONE, ratio, ZERO } from '../../../exact/ratio.ts';
import type { KeyOf } from '../../question.ts';
import { given, nothingNear, type KindOfQuestion, type QuestionScore } from '../kindOfQuestion.ts';
import { mixed } from '../mixed.ts';
import { quoted, rulesOf, unquoted } from '../tableCells.ts';

/** Pairs that stand in the other order than in the key: Kendall's distance. What is not placed stands after everything that is. */
export function kendallDistance(order: readonly string[], key: readonly string[]): number {
  const placed = new Map(order.map((id, n) => [id, n]));
  const at = (id: string): number => placed.get(id) ?? order.length;
  let distance = 0;
  for (let a = 0; a < key.length; a += 1)
    for (let b = a + 1; b < key.length; b += 1) if (at(key[a] as string) >= at(key[b] as string)) distance += 1;
  return distance;
}

function ofOrder(key: KeyOf<'ordering'>, order: readonly string[]): QuestionScore {
  const most = (key.order.length * (key.order.length - 1)) / 2;
  const distance = kendallDistance(order, key.order);
  if (most === 0) return given(ONE, 'One thing is in order by itself.');
  if (key.isAllOrNothing)
    return given(distance === 0 ? ONE : ZERO, distance === 0 ? 'The right order.' : 'Not the right order; all or nothing.');
  return given(ratio(most - distance, most), `${most - distance} of ${most} pairs stand in the right order.`);
}

export const ordering: KindOfQuestion<KeyOf<'ordering'>> = {
  takes: 'order',
  begin: ({ held }) => ({ kind: 'ordering', order: held === null ? ['', ''] : held.map((_, n) => `${n + 1}`), isAllOrNothing: false }),
  asked: (key, { seed, questionId }) => ({ things: mixed(key.order, seed, questionId) }),
  faults: ({ order }) => [
    ...(order.length < 2 ? ['There are fewer than two things to put in order. Give another.'] : []),
    ...(order.some((t) => t.trim() === '') || new Set(order).size < order.length
      ? ['A thing to put in order is empty, or there twice.']
      : []),
  ],
  inWords: (key) => key.order.map((thing, n) => `${n + 1}. ${thing}`),
  score: (key, answer) => (answer.kind === 'order' ? ofOrder(key, answer.order) : null),
  guessing: ({ order, isAllOrNothing }) => {
    if (order.length < 2) return null;
    // Half of the pairs, on the whole; all of them in one order of n! only.
    const orders = order.reduce((product, _, n) => product * BigInt(n + 1), 1n);
    return isAllOrNothing ? ratio(1n, orders) : ratio(1, 2);
  },
  near: nothingNear,
  cells: (key) => ({ answers: key.order.map(quoted), rules: key.isAllOrNothing ? ['all or nothing'] : [] }),
  read: (reading) => {
    let isAllOrNothing = false;
    rulesOf(reading, { 'all or nothing': () => (isAllOrNothing = true) });
    return { key: { kind: 'ordering', order: reading.lines.map((line) => unquoted(line, line)), isAllOrNothing } };
  },
};
