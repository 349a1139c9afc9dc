/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import { jest } from '@jest/globals';
import { HttpProblem } from '../src/platform/http.ts';
import { placeOf } from '../src/platform/kept.ts';
import { useSaving } from '../src/platform/useSaving.ts';
import { until } from './server.ts';

const problem = (code: string, status: number): HttpProblem =>
  new HttpProblem({ type: `urn:rosemary:${code}`, title: code, status, detail: `refused: ${code}` });
let key = '';
let n = 0;
beforeEach(() => {
  localStorage.clear();
  key = `text ${(n += 1)}`;
  // Outside a component there is nothing to be unmounted; Vue says so, and that is right.
  jest.spyOn(console, 'warn').mockImplementation(() => undefined);
});
const keptNear = (): unknown => JSON.parse(localStorage.getItem(placeOf(key)) ?? 'null');

describe('saving as one types', () => {
  it('keeps what is typed in the browser at once, before anything is sent', () => {
    const saving = useSaving<string>(
      () => key,
      () => new Promise(() => undefined),
    );
    saving.push('half a wor');
    expect(keptNear()).toBe('half a wor');
    expect([saving.state.value, saving.words.value]).toEqual(['waiting', 'Saving…']);
  });

  it('forgets the copy only when the server has it', async () => {
    let accept: (at: string) => void = () => undefined;
    const saving = useSaving<string>(
      () => key,
      () =>
        new Promise((done) => {
          accept = done;
        }),
    );
    saving.push('a word');
    const flushed = saving.flush();
    await until(() => saving.state.value === 'saving');
    expect(keptNear()).toBe('a word');
    accept('2026-11-18T10:20:30Z');
    await flushed;
    expect(saving.state.value).toBe('saved');
    expect(saving.words.value).toMatch(/^Saved \d\d:\d\d:\d\d$/);
    expect(keptNear()).toBeNull();
    expect(await saving.findKept()).toBeNull();
  });

  it('sends one save at a time, and then the latest, never an older one after it', async () => {
    const seen: string[] = [];
    const waiting: (() => void)[] = [];
    const saving = useSaving<string>(
      () => key,
      (value) =>
        new Promise((done) => {
          seen.push(value);
          waiting.push(() => {
            done(null);
          });
        }),
    );
    saving.push('a');
    void saving.flush();
    await until(() => seen.length === 1);
    saving.push('ab');
    saving.push('abc');
    expect(seen).toEqual(['a']);
    waiting[0]!();
    await until(() => seen.length === 2);
    expect(seen).toEqual(['a', 'abc']);
    waiting[1]!();
    await until(() => saving.state.value === 'saved');
  });

  it('finds after a reload what never reached the server', async () => {
    const before = useSaving<{ text: string }>(
      () => key,
      () => Promise.reject(problem('away', 0)),
    );
    before.push({ text: 'typed in a tunnel' });
    await before.flush();
    expect([before.state.value, before.words.value]).toEqual([
      'away',
      'Not saved yet: no connection. It is kept here, and saved when the connection is back.',
    ]);
    const after = useSaving<{ text: string }>(
      () => key,
      () => Promise.resolve(null),
    );
    const kept = await after.findKept();
    expect(kept).toEqual({ text: 'typed in a tunnel' });
    await before.forget();
  });

  it('finds it even when the small store is full', async () => {
    const full = jest.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    const saving = useSaving<string>(
      () => key,
      () => Promise.reject(problem('away', 0)),
    );
    saving.push('a very long text');
    await saving.flush();
    expect(keptNear()).toBeNull();
    expect(await saving.findKept()).toBe('a very long text');
    full.mockRestore();
    await saving.forget();
    expect(await saving.findKept()).toBeNull();
  });

  it.each([
    ['conflict', 409, 'conflict'],
    ['invalid', 422, 'refused'],
    ['database-away', 503, 'away'],
  ])('says what a %s means, and keeps what was typed', async (code, status, state) => {
    const saving = useSaving<string>(
      () => key,
      () => Promise.reject(problem(code, status)),
    );
    saving.push('mine');
    await saving.flush();
    expect(saving.state.value).toBe(state);
    expect(keptNear()).toBe('mine');
    await saving.forget();
  });

  it('sends again by itself once the way is free', async () => {
    jest.useFakeTimers({ doNotFake: ['setImmediate', 'queueMicrotask', 'nextTick'] });
    let isAway = true;
    const saving = useSaving<string>(
      () => key,
      () => (isAway ? Promise.reject(problem('away', 0)) : Promise.resolve(null)),
    );
    saving.push('patient');
    await saving.flush();
    isAway = false;
    jest.advanceTimersByTime(3000);
    jest.useRealTimers();
    await until(() => saving.state.value === 'saved');
    expect(keptNear()).toBeNull();
  });
});
