import { jest } from '@jest/globals';
import { createPinia, setActivePinia } from 'pinia';
import { useNotices } from '../src/stores/noticeStore.ts';

beforeEach(() => {
  setActivePinia(createPinia());
});
const done: string[] = [];
beforeEach(() => {
  done.length = 0;
});
const undo = (what: string) => () => {
  done.push(what);
  return Promise.resolve();
};

describe('what was done on a view', () => {
  it('can be taken back one after the other, the latest first, after its sentence is gone', async () => {
    const n = useNotices();
    n.say('First.', undo('first'));
    n.say('No way back from this.');
    n.say('Second.', undo('second'));
    n.clear();
    await n.takeBack();
    expect(n.notice?.text).toBe('Undone: Second.');
    await n.takeBack();
    await n.takeBack();
    expect(done).toEqual(['second', 'first']);
    expect(n.past).toEqual([]);
  });

  it('can be chosen out of turn, and is taken back once', async () => {
    const n = useNotices();
    n.say('First.', undo('first'));
    const first = n.notice?.undo;
    n.say('Second.', undo('second'));
    await n.takeBack(n.past[0]);
    await first?.();
    expect(done).toEqual(['first']);
    expect(n.past.map((one) => one.text)).toEqual(['Second.']);
  });

  it('says what its way back says itself, and why one is closed', async () => {
    const n = useNotices();
    n.say('Moved.', () => {
      n.say('It is back where it was.');
      return Promise.resolve();
    });
    await n.takeBack();
    expect(n.notice?.text).toBe('It is back where it was.');
    const error = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    n.say('Deleted.', () => Promise.reject(new Error('gone')));
    await n.takeBack();
    expect(n.notice?.isFault).toBe(true);
    expect(n.past).toEqual([]);
    error.mockRestore();
  });

  it('stays with its view: another one keeps only the way back that is on the screen', async () => {
    const n = useNotices();
    n.say('First.', undo('first'));
    n.say('Second.', undo('second'));
    n.forget();
    expect(n.past.map((one) => one.text)).toEqual(['Second.']);
    await n.notice?.undo?.();
    expect(done).toEqual(['second']);
    n.say('Third.', undo('third'));
    n.clear();
    n.forget();
    await n.takeBack();
    expect(done).toEqual(['second']);
  });

  it('is kept up to thirty steps', () => {
    const n = useNotices();
    for (let i = 1; i <= 40; i += 1) n.say(String(i), undo(String(i)));
    expect([n.past.length, n.past[0]?.text, n.past.at(-1)?.text]).toEqual([30, '11', '40']);
  });
});
