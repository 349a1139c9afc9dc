/** A small seeded generator (mulberry32), so that the same seed gives the same school. */
export interface Random {
  readonly next: () => number;
  readonly normal: () => number;
  readonly pick: <T>(list: readonly T[]) => T;
  readonly whole: (min: number, max: number) => number;
  readonly chance: (p: number) => boolean;
}

export function seeded(seed: number): Random {
  let state = seed >>> 0;
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
  return {
    next,
    chance: (p) => next() < p,
    whole: (min, max) => min + Math.floor(next() * (max - min + 1)),
    normal: () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
    pick: (list) => list[Math.floor(next() * list.length)] as never,
  };
}
