import { allocate, consensus, type ReviewScores, seeded } from '@rosemary/core';

/** Who reviews whom for 2,000 works of 5 reviews each, what the class makes of 10,000 reviews, and how near that is to the truth. */
const [STUDENTS, EACH, CRITERIA] = [2000, 5, 6];
const ids = (many: number): string[] => Array.from({ length: many }, (_, n) => `s${String(n).padStart(4, '0')}`);
const timed = <T>(work: () => T): { readonly ms: number; readonly value: T } => {
  const at = performance.now();
  const value = work();
  return { ms: performance.now() - at, value };
};
const drawn = (many: number, each: number, seed: string, mayReview: (r: string, w: string) => boolean = () => true) =>
  allocate({
    reviewers: ids(many).map((id) => ({ id, most: each })),
    works: ids(many).map((id) => ({ id, wanted: each, authors: [id] })),
    mayReview: (r, w) => mayReview(r, w.id),
    standing: [],
    seed,
  });
const place = (id: string): number => Number(id.slice(1));
/** The floor: every pair that could be is looked at once. */
const floor = timed(() => {
  let many = 0;
  for (const a of ids(STUDENTS)) for (const b of ids(STUDENTS)) if (a !== b) many += 1;
  return many;
});
for (const [words, may] of [
  ['anybody’s', () => true],
  ['of one’s section of 30', (r: string, w: string) => place(r) % 66 === place(w) % 66],
  ['not of one’s group of 5', (r: string, w: string) => place(r) % 400 !== place(w) % 400],
] as const) {
  const { ms, value } = timed(() => drawn(STUDENTS, EACH, 'bench', may));
  const loads = new Map<string, number>();
  for (const p of value.drawn) loads.set(p.reviewerId, (loads.get(p.reviewerId) ?? 0) + 1);
  const pairs = new Set(value.drawn.map((p) => `${p.reviewerId} ${p.workId}`));
  const mutual = value.drawn.filter((p) => pairs.has(`${p.workId} ${p.reviewerId}`)).length / 2;
  process.stdout.write(
    `peer: ${STUDENTS} works × ${EACH} reviews, works ${words}: ${ms.toFixed(0)} ms (${(ms / floor.ms).toFixed(1)} × looking at every pair once); ${value.drawn.length} pairs, ${value.open.length} works with too few, loads ${Math.min(...loads.values())} to ${Math.max(...loads.values())}, ${mutual} pairs review each other\n`,
  );
}

const random = seeded('bench reviews');
const form = Array.from({ length: CRITERIA }, (_, n) => ({ id: `c${n}`, most: 10_000 }));
const many = drawn(STUDENTS, EACH, 'bench').drawn.map((p, n): ReviewScores => ({
  ...p,
  id: `r${String(n).padStart(6, '0')}`,
  points: Object.fromEntries(form.map((c) => [c.id, Math.round(random() * 4) * 2500])),
}));
const sums = timed(() => many.reduce((sum, r) => sum + Object.values(r.points).reduce((a, b) => a + b, 0), 0));
const found = timed(() => consensus(many, form));
process.stdout.write(
  `peer: consensus of ${many.length} reviews × ${CRITERIA} criteria: ${found.ms.toFixed(0)} ms in ${found.value.iterations} rounds, ${found.value.isSettled ? 'settled' : 'not settled'} (${(found.ms / sums.ms).toFixed(0)} × adding them up once)\n`,
);

/** How a share of the reviewers goes about it. */
const HABITS = {
  'all careful, none harsher than another': () => null,
  'careful, each with a bias of their own': () => null,
  'a fifth give nearly everything': () => 0.9,
  'a fifth are harsher by a quarter': (seen: number) => seen - 0.25,
  'a fifth choose at random': (_: number, chance: () => number) => chance(),
  'a fifth give nearly nothing': () => 0.1,
} as const satisfies { readonly [words: string]: (seen: number, chance: () => number) => number | null };
const bell = (chance: () => number): number => Array.from({ length: 12 }, chance).reduce((a, b) => a + b, -6);
const four = form.slice(0, 4);
const within = (x: number): number => Math.min(1, Math.max(0, x));
/** The mean distance from the truth, in percent of full marks, of the plain mean and of the consensus, over 20 classes of 48. */
function distances(words: keyof typeof HABITS, each: number): { readonly mean: number; readonly ours: number } {
  let [mean, ours, works] = [0, 0, 0];
  for (let round = 0; round < 20; round += 1) {
    const chance = seeded(`${words} ${each} ${round}`);
    const truth = new Map(ids(48).map((id) => [id, four.map(() => within(0.7 + 0.13 * bell(chance)))]));
    const own = words.includes('bias of their own');
    const bias = new Map(ids(48).map((id) => [id, own ? bell(chance) * 0.08 : 0]));
    const reviews = drawn(48, each, `${round}`).drawn.map((p, n): ReviewScores => {
      const seen = (c: number): number => {
        const careful = (truth.get(p.workId)?.[c] ?? 0) + (bias.get(p.reviewerId) ?? 0) + 0.08 * bell(chance);
        return (place(p.reviewerId) % 5 === 0 ? HABITS[words](careful, chance) : null) ?? careful;
      };
      return {
        ...p,
        id: `r${String(n).padStart(4, '0')}`,
        points: Object.fromEntries(four.map((c, k) => [c.id, Math.round(within(seen(k)) * 4) * 2500])),
      };
    });
    for (const w of consensus(reviews, four).works.values()) {
      const is = (truth.get(w.workId) ?? []).reduce((a, b) => a + b * 10_000, 0);
      mean += Math.abs(Number(w.mean.valueOf()) - is) / 400;
      ours += Math.abs(w.total - is) / 400;
      works += 1;
    }
  }
  return { mean: mean / works, ours: ours / works };
}
for (const words of Object.keys(HABITS) as (keyof typeof HABITS)[])
  for (const each of [3, 5]) {
    const { mean, ours } = distances(words, each);
    process.stdout.write(
      `peer: ${words}, ${each} reviews a work: plain mean ${mean.toFixed(2)} % of full marks from the truth, consensus ${ours.toFixed(2)} % (${(mean / ours).toFixed(2)} × as near${ours > mean ? ': the plain mean wins' : ''})\n`,
    );
  }
