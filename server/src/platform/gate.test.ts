import { EventEmitter } from 'node:events';
import { Gone } from './arrival.ts';
import { makeGate } from './gate.ts';

class Waits extends EventEmitter {
  destroyed = false;

  leave(): void {
    this.destroyed = true;
    this.emit('close');
  }
}

/** Work at a gate that is begun and ended by hand. */
function atGate(most: number, each: number) {
  const gate = makeGate(most, each);
  const begun: string[] = [];
  const ends = new Map<string, (fails?: boolean) => void>();
  return {
    begun,
    end: (name: string, fails = false) => ends.get(name)?.(fails),
    come: (who: string, name: string, waits = new Waits()): Promise<string> =>
      gate(who, waits, async () => {
        begun.push(name);
        const fails = await new Promise<boolean>((end) => {
          ends.set(name, (isFault = false) => {
            end(isFault);
          });
        });
        if (fails) throw new Error('fell over');
        return name;
      }).catch((error: unknown) => (error instanceof Gone ? 'gone' : String(error))),
  };
}

/** Lets everything that was promised come about. */
const settle = (): Promise<void> => new Promise((done) => setImmediate(done));

describe('a gate', () => {
  it('lets so many in at once, the others in the order they came, and goes on after a failure', async () => {
    const at = atGate(2, 2);
    const all = ['a', 'b', 'c', 'd'].map((name) => at.come(name, name));
    await settle();
    expect(at.begun).toEqual(['a', 'b']);
    at.end('b', true);
    expect(await all[1]).toBe('Error: fell over');
    await settle();
    expect(at.begun).toEqual(['a', 'b', 'c']);
    at.end('a');
    await settle();
    expect(at.begun).toEqual(['a', 'b', 'c', 'd']);
    at.end('c');
    at.end('d');
    expect(await Promise.all([all[0], all[2], all[3]])).toEqual(['a', 'c', 'd']);
  });

  it('gives nobody more places than their share, and the next one to whoever has the fewest', async () => {
    const at = atGate(3, 2);
    const flood = ['f1', 'f2', 'f3', 'f4', 'f5'].map((name) => at.come('flooder', name));
    await settle();
    expect(at.begun).toEqual(['f1', 'f2']);
    const other = at.come('other', 'o1');
    const more = at.come('other', 'o2');
    await settle();
    expect(at.begun).toEqual(['f1', 'f2', 'o1']);
    at.end('f1');
    await settle();
    // The flooder waits longest, but so has as many going on as the other: it is their turn by the order they came.
    expect(at.begun).toEqual(['f1', 'f2', 'o1', 'f3']);
    at.end('o1');
    await settle();
    expect(at.begun).toEqual(['f1', 'f2', 'o1', 'f3', 'o2']);
    for (const name of ['f2', 'f3', 'o2', 'f4', 'f5']) {
      at.end(name);
      await settle();
    }
    expect(await Promise.all([...flood, other, more])).toEqual(['f1', 'f2', 'f3', 'f4', 'f5', 'o1', 'o2']);
  });

  it('drops whoever goes away while they wait, and lets nobody in who is gone already', async () => {
    const at = atGate(1, 1);
    const first = at.come('a', 'a');
    const leaver = new Waits();
    const left = at.come('b', 'b', leaver);
    const last = at.come('c', 'c');
    await settle();
    leaver.leave();
    expect(await left).toBe('gone');
    expect(await at.come('d', 'd', leaver)).toBe('gone');
    at.end('a');
    await settle();
    expect(at.begun).toEqual(['a', 'c']);
    at.end('c');
    expect(await Promise.all([first, last])).toEqual(['a', 'c']);
  });
});
