/** @jest-environment ../scripts/jsdomForJest.mjs */
import type { AnnouncementView, DatesChange, Plan } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { dateRows, toChange } from '../src/plan/dateRows.ts';
import DatesPage from '../src/plan/DatesPage.vue';
import { setHooks } from '../src/platform/http.ts';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { planItem } from './planItem.ts';
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

const variant = {
  sectionId: 's',
  enrolmentId: null,
  groupId: null,
  name: 'Evening',
  opensAt: null,
  dueAt: '2026-10-26T18:00:00.000Z',
  closesAt: null,
};
const PLAN: Plan = {
  units: [
    {
      ...{ id: 'u', title: 'The train', announcedAt: null, opensAt: '2026-09-21T07:00:00.000Z', closesAt: null },
      ...{ isStaffOnly: false, isStanding: false, audience: [], version: 3 },
      items: [
        planItem('assignment', { id: 'a', title: 'Report', dueAt: '2026-10-23T17:00:00.000Z', variants: [variant], version: 5 }),
        planItem('quiz', { id: 'b', title: 'Check', dueAt: '2026-11-06T18:00:00.000Z', version: 7 }),
      ],
    },
  ],
  categories: [],
  arrangements: 0,
  term: {
    ...{ title: 'Autumn', startsOn: '2026-09-21', endsOn: '2027-01-03', meetingDays: [2, 4] },
    holidays: [{ title: 'break', startsOn: '2026-11-09', endsOn: '2026-11-15' }],
  },
};
const announcement = (id: string, isScheduled: boolean): AnnouncementView => ({
  ...{ id, title: `Word ${id}`, document: { type: 'doc' }, author: '', publishAt: '2026-11-20T09:00:00.000Z', isScheduled },
  ...{ sections: [], tells: false, isRead: false, readers: null, version: 2 },
});
const WORDS = [announcement('n', true), announcement('old', false)];

describe('the rows of the sheet', () => {
  const rows = dateRows(PLAN, WORDS);
  it('are every date there is, of sections too, and of announcements still to come', () => {
    expect(rows.map((r) => `${r.title} ${r.field} ${r.whose}`.trim())).toEqual([
      'The train opensAt',
      'Report dueAt',
      'Report dueAt Evening',
      'Check dueAt',
      'Word n publishAt',
    ]);
  });
  it('become what is sent: only what changes, with all the other dates of an item where one of them does', () => {
    const next = new Map([
      ['a 0 dueAt', Date.parse('2026-11-02T18:00:00.000Z')],
      ['b dueAt', null],
      ['n publishAt', Date.parse('2026-11-27T09:00:00.000Z')],
    ]);
    expect(toChange(PLAN, WORDS, rows, next)).toEqual({
      items: [
        {
          ...{ id: 'a', version: 5 },
          variants: [
            { sectionId: 's', enrolmentId: null, groupId: null, opensAt: null, dueAt: '2026-11-02T18:00:00.000Z', closesAt: null },
          ],
        },
        { id: 'b', version: 7, dueAt: null },
      ],
      units: [],
      announcements: [{ id: 'n', version: 2, publishAt: '2026-11-27T09:00:00.000Z' }],
    });
  });
});

describe('the sheet of dates', () => {
  const open = async (isOpen = false): Promise<VueWrapper> => {
    server.on('GET /courses/c/plan', () => PLAN);
    server.on('GET /courses/c/announcements', () => ({ announcements: WORDS, canWrite: true }));
    server.on('GET /courses/c', () => ({
      ...{ id: 'c', timeZone: 'Europe/Lisbon', line: { weeks: [] }, sections: [], isOpen, role: 'instructor', isSelfPaced: false },
      now: '2026-11-02T10:00:00Z',
    }));
    const router = makeTestRouter();
    await router.push('/courses/c/dates');
    const shown = await show(DatesPage, {}, router, () => void useCourse().load('c'));
    await flushPromises();
    return shown;
  };
  const by = (shown: VueWrapper) => shown.find('.by input');
  const lines = (shown: VueWrapper): string[] =>
    shown.findAll('tbody tr').map((row) =>
      row
        .findAll('td')
        .map((cell) => cell.text())
        .join(' | '),
    );
  const go = (shown: VueWrapper) => shown.find('.act-bar button');

  it('shows each date old and new, and says what has a holiday in its way', async () => {
    const shown = await open();
    expect(go(shown).attributes('disabled')).toBeDefined();
    expect(shown.text()).toContain('nothing moves yet');
    await by(shown).setValue('1');
    expect(lines(shown)[3]).toContain('Fri 6 Nov');
    expect(lines(shown)[3]).toContain('Fri 20 Nov');
    expect(go(shown).text()).toBe('Move 5 dates');
    await by(shown).setValue('many');
    expect(shown.find('[role=alert]').text()).toContain('“many” is no whole number');
    expect(go(shown).attributes('disabled')).toBeDefined();
    await by(shown).setValue('20');
    expect(shown.find('[role=status]').text()).toContain('5 on a holiday or outside the term');
  });

  it('leaves out what is unticked, sends the rest in one act, and takes it back in one', async () => {
    const sent: DatesChange[] = [];
    server.on('PUT /courses/c/dates', ({ body }) => {
      sent.push(body as DatesChange);
      return { undo: { items: [], units: [], announcements: [{ id: 'n', version: 3, publishAt: '2026-11-20T09:00:00.000Z' }] } };
    });
    const shown = await open();
    await by(shown).setValue('1');
    for (const n of [0, 1, 2, 4]) await shown.findAll('tbody tr')[n]!.find('input').setValue(false);
    await flushPromises();
    expect(go(shown).text()).toBe('Move 1 date');
    await go(shown).trigger('click');
    await flushPromises();
    expect(sent[0]).toEqual({ items: [{ id: 'b', version: 7, dueAt: '2026-11-20T18:00:00.000Z' }], units: [], announcements: [] });
    await useNotices().takeBack();
    await flushPromises();
    expect(sent[1]?.announcements).toHaveLength(1);
  });

  it('leaves what is over in a running course where it was, unless it is asked for', async () => {
    const shown = await open(true);
    expect(lines(shown).map((l) => l.split(' | ')[0])).toEqual(['QuizCheck', 'Word nannouncement']);
  });
});
