/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { AnswerSave, GivenAnswer, HeldView, Taking } from '@rosemary/api';
import { setHooks } from '../src/platform/http.ts';
import { useAnswers } from '../src/quiz/useAnswers.ts';
import { beginMounting, endMounting, inPage } from './mounting.ts';
import { fakeServer, quietHooks, Refusal, Silence, until } from './server.ts';

/** No answer that was acknowledged is lost, and none that was given is forgotten, whatever happens to the line. */
let server: ReturnType<typeof fakeServer>;
let attempt = '';
let n = 0;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  attempt = `attempt-${(n += 1)}`;
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);

const text = (words: string): GivenAnswer => ({ kind: 'text', text: words }) as unknown as GivenAnswer;
const at = (question: string): string => `PUT /courses/c/own/quizzes/i/attempts/${attempt}/answers/${question}`;
const held = (words: string, version: number): HeldView => ({
  answer: text(words),
  isFlagged: false,
  version,
  savedAt: '2026-11-18T10:20:30Z',
});
const sent = (question: string) => server.bodies(at(question)) as AnswerSave[];
/** A server that counts versions, as ours does. */
function takes(question: string, from = 0): void {
  let version = from;
  server.on(at(question), () => ({ version: (version += 1), savedAt: '2026-11-18T10:20:31Z' }));
}
async function open(answers: Taking['answers'] = {}) {
  const own = await inPage(() =>
    useAnswers(
      () => ({ courseId: 'c', itemId: 'i', attemptId: attempt }) as never,
      () => attempt,
    ),
  );
  await own.begin({ attemptId: attempt, sections: [{ questions: [{ id: 'q' }, { id: 'r' }] }], answers } as unknown as Taking);
  return own;
}

describe('the answers of an attempt', () => {
  it('begin with what the server has, and say when that was saved', async () => {
    const own = await open({ q: held('from before', 3) });
    expect(own.answers.q).toMatchObject({ answer: text('from before'), version: 3 });
    expect(own.answers.r).toMatchObject({ answer: null, version: 0 });
    expect(own.words.value).toMatch(/^Saved \d\d:20:30$/);
  });

  it('go out at once when chosen, over the version that was seen, and say so when they are there', async () => {
    const own = await open({ q: held('old', 3) });
    takes('q', 3);
    own.choose('q', text('new'));
    expect(own.words.value).toBe('Saving…');
    await own.flush();
    expect(sent('q')).toMatchObject([{ answer: text('new'), seen: 3 }]);
    own.choose('q', text('newer'));
    await own.flush();
    expect(sent('q')[1]).toMatchObject({ answer: text('newer'), seen: 4 });
    expect([own.waiting.size, own.words.value.startsWith('Saved ')]).toEqual([0, true]);
  });

  it('are sent once with the latest where several were typed before the first went out', async () => {
    const own = await open();
    takes('q');
    for (const words of ['a', 'ab', 'abc']) own.type('q', text(words));
    await own.flush();
    expect(sent('q').map((s) => s.answer)).toEqual([text('abc')]);
  });

  it('stay in the browser while nobody answers, say so, and arrive when the line is back', async () => {
    const own = await open();
    server.on(at('q'), () => new Silence());
    server.on(at('r'), () => new Silence());
    own.choose('q', text('one'));
    own.choose('r', text('two'));
    await own.flush();
    expect(own.words.value).toBe('No connection. 2 answers are kept here and sent when it returns.');
    takes('q');
    takes('r');
    window.dispatchEvent(new Event('online'));
    await until(() => own.waiting.size === 0, 'the answers');
    expect([sent('q').at(-1)?.answer, sent('r').at(-1)?.answer]).toEqual([text('one'), text('two')]);
  });

  it('are found after a crash, shown, and sent', async () => {
    const before = await open();
    server.on(at('q'), () => new Silence());
    before.choose('q', text('typed in a tunnel'));
    await before.flush();
    endMounting();
    beginMounting();
    takes('q');
    const after = await open({ q: held('older', 2) });
    expect(after.answers.q?.answer).toEqual(text('typed in a tunnel'));
    await until(() => after.waiting.size === 0, 'the answer');
    expect(sent('q').at(-1)?.answer).toEqual(text('typed in a tunnel'));
  });

  it('of another attempt are left where they are', async () => {
    const before = await open();
    server.on(at('q'), () => new Silence());
    before.choose('q', text('of the first'));
    await before.flush();
    endMounting();
    beginMounting();
    attempt = `attempt-${(n += 1)}`;
    expect((await open()).answers.q?.answer).toBeNull();
  });

  it('that stand otherwise in another window show both, and mine goes over theirs only when told', async () => {
    const own = await open();
    server.on(at('q'), ({ body }) =>
      (body as AnswerSave).seen === 7
        ? { version: 8, savedAt: '2026-11-18T10:21:00Z' }
        : new Refusal(409, 'conflict', { current: held('theirs', 7) }),
    );
    own.choose('q', text('mine'));
    await own.flush();
    expect(own.conflicts.get('q')).toMatchObject({ answer: text('theirs'), mine: text('mine') });
    expect(sent('q')).toHaveLength(1);
    own.settle('q', true);
    await own.flush();
    expect(sent('q')[1]).toMatchObject({ answer: text('mine'), seen: 7 });
    expect(own.conflicts.size).toBe(0);
  });

  it('are taken from the other window where that is chosen, and nothing is sent', async () => {
    const own = await open();
    server.on(at('q'), () => new Refusal(409, 'conflict', { current: held('theirs', 7) }));
    own.choose('q', text('mine'));
    await own.flush();
    own.settle('q', false);
    await own.flush();
    expect(own.answers.q).toMatchObject({ answer: text('theirs'), version: 7 });
    expect(sent('q')).toHaveLength(1);
  });

  it('that came too late are told of, and are not sent again', async () => {
    const own = await open();
    server.on(at('q'), () => ({ late: true }));
    own.choose('q', text('too late'));
    await own.flush();
    await own.flush();
    expect([own.late.has('q'), sent('q').length]).toEqual([true, 1]);
  });

  it('that are refused say why, keep what was typed, and hold up no other', async () => {
    const own = await open();
    server.on(at('q'), () => new Refusal(422, 'invalid'));
    takes('r');
    own.choose('q', text('x'.repeat(20)));
    own.choose('r', text('two'));
    await own.flush();
    expect(own.refused.get('q')).toBe('refused: invalid');
    expect(own.answers.q?.answer).toEqual(text('x'.repeat(20)));
    expect(sent('r')).toHaveLength(1);
    takes('q');
    own.choose('q', text('short'));
    await own.flush();
    expect(own.refused.size).toBe(0);
  });

  it('carry a flag to come back to', async () => {
    const own = await open({ q: held('kept', 1) });
    takes('q', 1);
    own.flag('q', true);
    await own.flush();
    expect(sent('q')).toMatchObject([{ answer: text('kept'), isFlagged: true }]);
  });

  it('of questions that are not in the paper are no answers', async () => {
    const own = await open();
    own.choose('elsewhere', text('x'));
    await own.flush();
    expect(own.waiting.size).toBe(0);
  });
});
