/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { CalendarEntry } from '@rosemary/api';
import { flushPromises } from '@vue/test-utils';
import { setHooks } from '../src/platform/http.ts';
import { useCourse } from '../src/stores/courseStore.ts';
import CalendarPage from '../src/talk/CalendarPage.vue';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { fakeServer, quietEvents, quietHooks } from './server.ts';

let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  server = fakeServer();
  setHooks({ ...quietHooks });
  quietEvents();
});
afterEach(endMounting);

const due = (id: string, title: string, sectionIds: readonly string[] | null): CalendarEntry => ({
  ...{ id, courseId: 'c', course: 'Clocks', kind: 'due', title, at: '2026-11-20T18:00:00.000Z' },
  ...{ until: null, path: '/courses/c/items/i', reason: '', sectionIds },
});

describe('the calendar of a course', () => {
  it('follows the section that is chosen at its head', async () => {
    server.on('GET /courses/c/calendar', () => ({
      entries: [due('a', 'Report', ['morning']), due('b', 'Report of the evening', ['evening']), due('d', 'Check', null)],
      ...{ timeZone: 'UTC', now: '2026-11-18T10:00:00Z' },
    }));
    server.on('GET /calendar-feed', () => ({ secret: 's' }));
    const router = makeTestRouter();
    router.addRoute({ path: '/courses/:courseId/calendar', name: 'calendar', component: { template: '<div />' } });
    await router.push('/courses/c/calendar');
    const shown = await show(CalendarPage, {}, router);
    await flushPromises();
    const seen = (): string[] => ['Report of the evening', 'Check'].filter((title) => shown.text().includes(title));
    expect(seen()).toEqual(['Report of the evening', 'Check']);
    useCourse().sectionId = 'morning';
    await flushPromises();
    expect(seen()).toEqual(['Check']);
    expect(shown.text()).toContain('Report');
    useCourse().sectionId = 'evening';
    await flushPromises();
    expect(seen()).toEqual(['Report of the evening', 'Check']);
  });
});
