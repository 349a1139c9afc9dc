import type { CourseEvent } from '@rosemary/api';
import { quietHooks } from './server.ts';
import { jest } from '@jest/globals';
import { effectScope, nextTick, ref, type Ref } from 'vue';
import { setHooks, TAB } from '../src/platform/http.ts';
import { useEvents, useFresh } from '../src/platform/useEvents.ts';
import { until } from './server.ts';

/** A browser's event streams, opened and closed by hand. */
class FakeSource {
  static readonly all: FakeSource[] = [];
  readonly url: string;
  isClosed = false;
  onopen: (() => void) | null = null;
  onerror: (() => void) | null = null;
  onmessage: ((message: { data: string }) => void) | null = null;

  constructor(url: string) {
    this.url = url;
    FakeSource.all.push(this);
  }
  close(): void {
    this.isClosed = true;
  }
  say(event: Partial<CourseEvent>): void {
    this.onmessage?.({ data: JSON.stringify({ topic: 'plan', itemId: null, enrolmentId: null, tab: null, by: 'Ines', ...event }) });
  }
}
const page = { hidden: false, listeners: new Set<() => void>() };
const turn = (isHidden: boolean): void => {
  page.hidden = isHidden;
  for (const listener of page.listeners) listener();
};
const open = (): FakeSource[] => FakeSource.all.filter((s) => !s.isClosed);
let seenAs: { courseId: string; enrolmentId: string; on: null } | null = null;
let courseId: Ref<string>;
let scope: ReturnType<typeof effectScope>;
beforeEach(() => {
  FakeSource.all.length = 0;
  page.hidden = false;
  page.listeners.clear();
  seenAs = null;
  courseId = ref('c');
  scope = effectScope();
  jest.spyOn(console, 'warn').mockImplementation(() => undefined);
  setHooks({ ...quietHooks, seeAs: () => seenAs });
  Object.assign(globalThis, {
    EventSource: FakeSource,
    document: {
      get hidden() {
        return page.hidden;
      },
      addEventListener: (_: string, listener: () => void) => page.listeners.add(listener),
      removeEventListener: (_: string, listener: () => void) => page.listeners.delete(listener),
    },
  });
});
afterEach(async () => {
  // Leaving a course lets its connection go, also where no page is unmounted.
  courseId.value = '';
  await nextTick();
  scope.stop();
});
const listen = (on: (event: CourseEvent) => void): void => {
  scope.run(() => {
    useEvents(courseId, on);
  });
};

describe('hearing what others change', () => {
  it('opens one connection however many listen, and moves it with the course', async () => {
    listen(() => undefined);
    listen(() => undefined);
    expect(open().map((s) => s.url)).toEqual(['/api/courses/c/events']);
    courseId.value = 'd';
    await nextTick();
    expect(open().map((s) => s.url)).toEqual(['/api/courses/d/events']);
  });

  it('tells what others did, and not what this tab did itself', () => {
    const heard: string[] = [];
    listen((e) => heard.push(`${e.topic} ${e.by}`));
    open()[0]!.say({ tab: TAB });
    open()[0]!.say({ tab: 'another' });
    expect(heard).toEqual(['plan Ines']);
  });

  it('lets go while the page is hidden, and reads afresh when it is back', () => {
    const heard: string[] = [];
    listen((e) => heard.push(e.topic));
    turn(true);
    expect(open()).toEqual([]);
    turn(false);
    expect(open()).toHaveLength(1);
    open()[0]!.onopen?.();
    expect(heard).toEqual(['again']);
    open()[0]!.onopen?.();
    expect(heard).toEqual(['again']);
  });

  it('reads afresh after a lost connection, but not at the first one', () => {
    const heard: string[] = [];
    listen((e) => heard.push(e.topic));
    open()[0]!.onopen?.();
    expect(heard).toEqual([]);
    open()[0]!.onerror?.();
    open()[0]!.onopen?.();
    expect(heard).toEqual(['again']);
  });

  it('hears nothing while looking through a student’s eyes', () => {
    seenAs = { courseId: 'c', enrolmentId: 'e', on: null };
    listen(() => undefined);
    expect(open()).toEqual([]);
  });
});

describe('reading afresh', () => {
  it('reads for its own topics only, one at a time, and once more for what came meanwhile', async () => {
    let reads = 0;
    let go: () => void = () => undefined;
    scope.run(() => {
      useFresh(courseId, ['grades'], () => {
        reads += 1;
        return new Promise<void>((done) => {
          go = done;
        });
      });
    });
    open()[0]!.say({ topic: 'plan' });
    expect(reads).toBe(0);
    for (let n = 0; n < 5; n += 1) open()[0]!.say({ topic: 'grades' });
    expect(reads).toBe(1);
    go();
    await until(() => reads === 2);
    go();
    await nextTick();
    expect(reads).toBe(2);
  });

  it('goes on after a reading that failed', async () => {
    let reads = 0;
    scope.run(() => {
      useFresh(courseId, ['plan'], () => {
        reads += 1;
        return reads === 1 ? Promise.reject(new Error('away')) : Promise.resolve();
      });
    });
    open()[0]!.say({});
    await nextTick();
    await nextTick();
    open()[0]!.say({});
    await until(() => reads === 2);
  });
});
