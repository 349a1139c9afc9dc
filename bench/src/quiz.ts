import { itemStatistics, reliability, seeded, type StatisticAttempt } from '@rosemary/core';

/** Statistics of 5,000 attempts at 60 questions, beside one pass over the same numbers. */
const PEOPLE = 5000;
const ITEMS = 60;
const random = seeded('bench');
const items = Array.from({ length: ITEMS }, (_, n) => ({
  id: String(n),
  points: 1,
  options: ['a', 'b', 'c', 'd'].map((id) => ({ id, isRight: id === 'a' })),
}));
const attempts = Array.from({ length: PEOPLE }, (): StatisticAttempt => {
  const able = random() * 4 - 2;
  const picked = items.map((_, n) => [
    random() < 1 / (1 + Math.exp(n / 15 - 2 - able)) ? 'a' : (['b', 'c', 'd'][Math.floor(random() * 3)] ?? 'b'),
  ]);
  return { earned: picked.map(([id]) => (id === 'a' ? 1 : 0)), picked };
});
const timed = (work: () => unknown): number => {
  const runs = Array.from({ length: 5 }, () => {
    const at = performance.now();
    work();
    return performance.now() - at;
  });
  return runs.sort((a, b) => a - b)[2] ?? 0;
};
let seen = 0;
const floor = timed(() => {
  for (const { earned } of attempts) for (const x of earned) seen += x ?? 0;
});
const figures = timed(() => itemStatistics(items, attempts));
const whole = timed(() =>
  reliability(
    attempts.map((a) => a.earned),
    items.map((i) => i.points),
  ),
);
process.stdout.write(
  `statistics of ${PEOPLE} attempts × ${ITEMS} questions (median of 5): every question with its answers by thirds ${figures.toFixed(0)} ms, ${(figures / floor).toFixed(0)} × one pass over the same numbers (${floor.toFixed(1)} ms); reliability ${whole.toFixed(0)} ms, ${(whole / floor).toFixed(0)} ×\n`,
);
if (seen === 0) throw new Error('Nothing was earned.');
