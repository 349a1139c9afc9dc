/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { Groups, ListedGroups } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import GroupsPage from '../src/groups/GroupsPage.vue';
import { setHooks } from '../src/platform/http.ts';
import { useCourse } from '../src/stores/courseStore.ts';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { fakeServer, quietEvents, quietHooks, Refusal } from './server.ts';

let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  server = fakeServer();
  setHooks({ ...quietHooks });
  quietEvents();
});
afterEach(endMounting);

const GROUPS = { sets: [], students: [{ enrolmentId: 'e', name: 'Lund, Ada', sectionId: 's' }], canEdit: true } as unknown as Groups;
async function open(): Promise<VueWrapper> {
  server.on('GET /courses/c/group-sets', () => GROUPS);
  server.on('GET /courses/c', () => ({
    ...{ id: 'c', timeZone: 'UTC', line: { weeks: [] }, sections: [], role: 'instructor', isOpen: true },
    now: '2026-11-18T10:00:00Z',
  }));
  const router = makeTestRouter();
  await router.push('/courses/c/groups');
  const shown = await show(GroupsPage, {}, router, () => void useCourse().load('c'));
  await flushPromises();
  return shown;
}
const choose = async (shown: VueWrapper, text: string): Promise<void> => {
  const input = shown.find('input[type=file]');
  // The browser of these tests cannot read a file as text by itself.
  const file = Object.assign(new File([text], 'teams.csv', { type: 'text/csv' }), { text: () => Promise.resolve(text) });
  Object.defineProperty(input.element, 'files', { value: [file], configurable: true });
  await input.trigger('change');
  await flushPromises();
  await flushPromises();
};

describe('groups from a list', () => {
  it('whose columns are named otherwise asks which is which, and reads it so', async () => {
    const listed: ListedGroups = {
      groups: [{ title: 'Bench 1', enrolmentIds: ['e'], names: ['Lund, Ada'] }],
      refused: ['Bench 2'],
      faults: [{ line: 3, text: '“nobody” is no student of this course.' }],
    };
    let isNamed = false;
    server.on('POST /courses/c/group-sets/read', () => {
      if (isNamed) return listed;
      isNamed = true;
      return new Refusal(422, 'invalid', { detail: '“teams.csv” has no column “group”. It needs group and student.' });
    });
    const shown = await open();
    await shown.find('select').setValue('listed');
    await flushPromises();
    await choose(shown, 'Team,Email\nBench 1,ada@example.org\nBench 2,nobody\n');
    expect(shown.text()).toContain('Which column is which?');
    const given = shown.findAll('form.names select').map((select) => (select.element as HTMLSelectElement).value);
    expect(given).toEqual(['0', '1']);
    await shown.find('form.names').trigger('submit');
    await flushPromises();
    expect(shown.text()).toContain('Bench 1 (Lund, Ada)');
    expect(shown.text()).toContain('Not made, since none of its lines could be taken: “Bench 2”.');
    expect(shown.text()).toContain('line 3: “nobody” is no student');
  });
});
