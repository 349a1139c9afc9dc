import { makeGate } from './gate.ts';

describe('a gate', () => {
  it('lets so many in at once, the others in the order they came, and goes on after a failure', async () => {
    const gate = makeGate(2);
    const ends: (() => void)[] = [];
    const begun: number[] = [];
    const piece = (n: number): Promise<number> =>
      gate(async () => {
        begun.push(n);
        await new Promise<void>((end) => {
          ends[n] = end;
        });
        if (n === 1) throw new Error('fell over');
        return n;
      });
    const all = [0, 1, 2, 3].map((n) => piece(n));
    const faults = all.map((p) => p.catch((error: unknown) => String(error)));
    await Promise.resolve();
    expect(begun).toEqual([0, 1]);
    ends[1]?.();
    expect(await faults[1]).toBe('Error: fell over');
    expect(begun).toEqual([0, 1, 2]);
    ends[0]?.();
    expect(await all[0]).toBe(0);
    expect(begun).toEqual([0, 1, 2, 3]);
    ends[2]?.();
    ends[3]?.();
    expect(await Promise.all([all[2], all[3]])).toEqual([2, 3]);
  });
});
