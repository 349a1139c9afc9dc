import { makeAsking } from '../src/stores/asking.ts';

describe('a question over the page', () => {
  it('stands until it is answered, and gives the answer to whoever asked', async () => {
    const { asked, ask, close } = makeAsking<string, boolean>(false);
    const answer = ask('Apply?');
    expect(asked.value).toBe('Apply?');
    close(true);
    expect(await answer).toBe(true);
    expect(asked.value).toBeNull();
  });

  it('leaves the one before where another is asked, so that nobody waits for ever', async () => {
    const { asked, ask, close } = makeAsking<string, string | null>(null);
    const first = ask('first');
    const second = ask('second');
    expect(await first).toBeNull();
    expect(asked.value).toBe('second');
    close('chosen');
    expect(await second).toBe('chosen');
  });

  it('may be closed where nothing is asked', () => {
    const { asked, close } = makeAsking<string, null>(null);
    close(null);
    expect(asked.value).toBeNull();
  });
});
