import { Gone } from './arrival.ts';

/** Whoever waits for a place; that they went away is told once. */
interface Waits {
  readonly destroyed: boolean;
  once: (event: 'close', then: () => void) => unknown;
  off: (event: 'close', then: () => void) => unknown;
}

export type Gate = <T>(who: string, waits: Waits, work: () => Promise<T>) => Promise<T>;

/**
 * Lets at most `most` pieces of work go on at once, and of one person at most `each`. The next place is for whoever has the fewest going
 * on, and among those for who came first; whoever went away while they waited leaves the queue.
 */
export function makeGate(most: number, each: number): Gate {
  let all = 0;
  const going = new Map<string, number>();
  const waiting: { readonly who: string; readonly go: () => void }[] = [];
  const of = (who: string): number => going.get(who) ?? 0;
  const take = (who: string): void => {
    all += 1;
    going.set(who, of(who) + 1);
  };
  const letIn = (): void => {
    while (all < most) {
      const next = waiting.filter((w) => of(w.who) < each).sort((a, b) => of(a.who) - of(b.who))[0];
      if (next === undefined) return;
      waiting.splice(waiting.indexOf(next), 1);
      take(next.who);
      next.go();
    }
  };
  const free = (who: string): void => {
    all -= 1;
    if (of(who) === 1) going.delete(who);
    else going.set(who, of(who) - 1);
    letIn();
  };
  return async (who, waits, work) => {
    if (waits.destroyed) throw new Gone();
    await new Promise<void>((go, fail) => {
      const leave = (): void => {
        waiting.splice(waiting.indexOf(entry), 1);
        fail(new Gone());
      };
      const entry = {
        who,
        go: () => {
          waits.off('close', leave);
          go();
        },
      };
      waits.once('close', leave);
      waiting.push(entry);
      letIn();
    });
    try {
      return await work();
    } finally {
      free(who);
    }
  };
}
