/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { Me } from '@rosemary/api';
import { flushPromises } from '@vue/test-utils';
import { setHooks } from '../src/platform/http.ts';
import FindField from '../src/shell/FindField.vue';
import { PLACES } from '../src/shell/views.ts';
import { useSession } from '../src/stores/sessionStore.ts';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { fakeServer, quietHooks } from './server.ts';

beforeEach(() => {
  setHooks(quietHooks);
  beginMounting();
});
afterEach(() => {
  endMounting();
  window.history.replaceState(null, '', '/');
});

const courses = ['first', 'second'].map((id) => ({ id, code: id, run: 'a', shortTitle: id, title: id, role: 'instructor' as const }));
const BARE = { template: '<div />' };
/** A router that knows every page of a course by its name. */
const makeRouter = (): ReturnType<typeof makeTestRouter> => {
  const router = makeTestRouter();
  for (const name of Object.keys(PLACES)) router.addRoute({ name, path: `/courses/:courseId/${name}`, component: BARE });
  return router;
};
const signedIn = (): void => {
  useSession().me = { courses } as unknown as Me;
};

describe('Find', () => {
  it('puts the views of the course one stands in first', async () => {
    const router = makeRouter();
    await router.push('/courses/second/plan');
    const field = await show(FindField, {}, router, signedIn);
    fakeServer().on('GET /find?q=gradebook', () => []);
    await field.find('input').setValue('gradebook');
    await field.find('input').trigger('keydown', { key: 'Enter' });
    await flushPromises();
    expect(router.currentRoute.value.path).toBe('/courses/second/gradebook');
  });

  it('goes by the address while the first page is not there yet', async () => {
    window.history.replaceState(null, '', '/courses/second/plan');
    const router = makeRouter();
    // Nobody is let through, so no page is ever there.
    const pushed: string[] = [];
    router.beforeEach((to) => {
      pushed.push(to.path);
      return false;
    });
    const field = await show(FindField, {}, router, signedIn);
    fakeServer().on('GET /find?q=gradebook', () => []);
    await field.find('input').setValue('gradebook');
    await field.find('input').trigger('keydown', { key: 'Enter' });
    await flushPromises();
    expect(pushed.at(-1)).toBe('/courses/second/gradebook');
  });
});
