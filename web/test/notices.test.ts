import { jest } from '@jest/globals';
import { createPinia, setActivePinia } from 'pinia';
import { HttpProblem } from '../src/platform/http.ts';
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

describe('what was taken back', () => {
  const open = () => {
    const done: string[] = [];
    const n = useNotices();
    const act = (text: string): void => {
      done.push(text);
      n.say(
        text,
        () => {
          done.push(`not ${text}`);
          return Promise.resolve();
        },
        () => {
          act(text);
          return Promise.resolve();
        },
      );
    };
    return { n, act, done };
  };

  it('is done again, the latest first, and can be taken back once more', async () => {
    const { n, act, done } = open();
    act('a');
    act('b');
    await n.takeBack();
    await n.takeBack();
    await n.doAgain();
    await n.doAgain();
    expect(done).toEqual(['a', 'b', 'not b', 'not a', 'a', 'b']);
    expect([n.past.map((one) => one.text), n.future]).toEqual([['a', 'b'], []]);
    await n.takeBack();
    expect(done.at(-1)).toBe('not b');
    await n.doAgain();
    expect(done.at(-1)).toBe('b');
  });

  it('by the button of its sentence too', async () => {
    const { n, act, done } = open();
    act('a');
    await n.notice?.undo?.();
    await n.doAgain();
    expect(done).toEqual(['a', 'not a', 'a']);
  });

  it('is done again no more once something else was done, or another view is open', async () => {
    const { n, act, done } = open();
    act('a');
    await n.takeBack();
    act('b');
    await n.doAgain();
    expect(done).toEqual(['a', 'not a', 'b']);
    await n.takeBack();
    n.forget();
    await n.doAgain();
    expect(done).toEqual(['a', 'not a', 'b', 'not b']);
  });

  it('says why where it cannot be done again', async () => {
    const { n } = open();
    n.say(
      'a',
      () => Promise.resolve(),
      () => Promise.reject(new HttpProblem({ type: 'urn:rosemary:conflict', title: '', status: 409, detail: 'Changed meanwhile.' })),
    );
    await n.takeBack();
    await n.doAgain();
    expect(n.notice).toMatchObject({ isFault: true, text: 'Changed meanwhile.' });
  });
});
