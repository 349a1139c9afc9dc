/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { CarryPreview, CarryWish } from '@rosemary/api';
import { jest } from '@jest/globals';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import CarryPage from '../src/plan/CarryPage.vue';
import { setHooks } from '../src/platform/http.ts';
import { useSession } from '../src/stores/sessionStore.ts';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { fakeServer, quietEvents, quietHooks } from './server.ts';

let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  jest.useFakeTimers({ doNotFake: ['setImmediate', 'queueMicrotask', 'nextTick'] });
  beginMounting();
  server = fakeServer();
  setHooks({ ...quietHooks });
  quietEvents();
});
afterEach(() => {
  endMounting();
  jest.useRealTimers();
});

const TERM = { title: 'Spring', startsOn: '2026-02-02', endsOn: '2026-05-31', meetingDays: [2], holidays: [] };
const line = (id: string) => ({ id, kind: 'page' as const, title: `Page ${id}`, dates: [], mentions: [], nextNote: '', existing: null });
const preview = (name: string): CarryPreview => ({
  from: { id: name, title: `Course ${name}`, run: 'spring', term: TERM },
  to: { ...TERM, title: 'Autumn' },
  policy: { from: ['Work counts 100 %'], here: [], refused: null, isUnused: true },
  units: [{ id: `${name}u`, title: 'The train', isStanding: false, items: [line(`${name}1`), line(`${name}2`)] }],
});
const course = (id: string) => ({
  ...{ id, code: id, run: 'spring', title: `Course ${id}`, term: 'Spring', role: 'instructor' as const },
});
const go = (shown: VueWrapper): string => shown.find('.act-bar button').text();

async function open(query: string): Promise<VueWrapper> {
  const router = makeTestRouter();
  await router.push(`/courses/c/carry${query}`);
  return show(CarryPage, {}, router, () => {
    useSession().me = { courses: [course('a'), course('b'), course('c')] } as never;
  });
}

describe('items of another course', () => {
  it('are all chosen with the policy, however slow the first answer is', async () => {
    const wishes: CarryWish[] = [];
    let late: (answer: CarryPreview) => void = () => undefined;
    server.on('POST /courses/c/carry/preview', ({ body }) => {
      wishes.push(body as CarryWish);
      // Only the first answer is slow, and what is looked up meanwhile comes before it.
      return wishes.length === 1 ? new Promise<CarryPreview>((resolve) => (late = resolve)) : preview('a');
    });
    const shown = await open('?from=a');
    await jest.advanceTimersByTimeAsync(400);
    late(preview('a'));
    await jest.advanceTimersByTimeAsync(400);
    await flushPromises();
    expect(go(shown)).toBe('Copy 2 items and the policy');
    expect(wishes.at(-1)?.itemIds).toEqual(['a1', 'a2']);
  });

  it('are chosen anew for each course, also for one that is come back to before the other has answered', async () => {
    let isHeld = false;
    server.on('POST /courses/c/carry/preview', ({ body }) => {
      const { fromCourseId } = body as CarryWish;
      return isHeld && fromCourseId === 'b' ? new Promise(() => undefined) : preview(fromCourseId);
    });
    const shown = await open('?from=a');
    await jest.advanceTimersByTimeAsync(400);
    await shown.findAll('tbody input')[1]!.setValue(false);
    expect(go(shown)).toBe('Copy 1 item and the policy');
    isHeld = true;
    await shown.find('select').setValue('b');
    await shown.find('select').setValue('a');
    await jest.advanceTimersByTimeAsync(400);
    expect(go(shown)).toBe('Copy 2 items and the policy');
  });

  it('are only those that were chosen in the Plan, where it leads here with some', async () => {
    server.on('POST /courses/c/carry/preview', () => preview('a'));
    const shown = await open('?from=a&items=a2,gone');
    await jest.advanceTimersByTimeAsync(400);
    expect(go(shown)).toBe('Copy 1 item');
    await shown.findAll('.act-bar button').at(-1)!.trigger('click');
    expect(go(shown)).toBe('Copy 0 items');
    expect(shown.find('.act-bar button').attributes('disabled')).toBeDefined();
  });
});
