/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { AnnouncementView, Correspondent, PolicyView, QuestionView, RubricView } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import PolicyPage from '../src/gradebook/PolicyPage.vue';
import RubricEditor from '../src/rubric/RubricEditor.vue';
import { setHooks } from '../src/platform/http.ts';
import { keepFor, readKept } from '../src/platform/kept.ts';
import QuestionEdit from '../src/questions/QuestionEdit.vue';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import AnnouncementForm from '../src/talk/AnnouncementForm.vue';
import MessageForm from '../src/talk/MessageForm.vue';
import { beginMounting, endMounting, makeTestRouter, show, words } from './mounting.ts';
import { fakeServer, quietHooks, Refusal, until } from './server.ts';

/** What is written and sent by a press outlives leaving the page; what two wrote is shown side by side. */
let server: ReturnType<typeof fakeServer>;
let turn = 0;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  keepFor(`person ${(turn += 1)}`);
  server = fakeServer();
});
afterEach(endMounting);
const head = { id: 'c', role: 'instructor', timeZone: 'Europe/Lisbon', now: '2026-11-18T10:00:00Z', line: { weeks: [] }, sections: [] };
const before = (): void => {
  setHooks(quietHooks);
  useCourse().head = head as never;
};
async function at(path: string): Promise<ReturnType<typeof makeTestRouter>> {
  const router = makeTestRouter();
  router.addRoute({ path: '/courses/:courseId/gradebook', name: 'gradebook', component: { template: '<div />' } });
  router.addRoute({ path: '/courses/:courseId/:rest', component: { template: '<div />' } });
  await router.push(path);
  return router;
}
async function press(shown: VueWrapper, text: string): Promise<void> {
  const button = shown.findAll('button').find((b) => b.text().startsWith(text));
  if (button === undefined) throw new Error(`no button “${text}” in ${shown.text()}`);
  await button.trigger('click');
  await flushPromises();
}
const submit = async (shown: VueWrapper): Promise<void> => {
  await shown.find('form').trigger('submit');
  await flushPromises();
};
const field = (shown: VueWrapper, label: string): HTMLInputElement =>
  shown
    .findAll('label')
    .find((l) => l.text().startsWith(label))!
    .find('input, textarea').element as HTMLInputElement;
async function type(shown: VueWrapper, label: string, text: string): Promise<void> {
  await shown
    .findAll('label')
    .find((l) => l.text().startsWith(label))!
    .find('input, textarea')
    .setValue(text);
}

describe('a message', () => {
  const people: Correspondent[] = [
    { personId: 'a', name: 'Ada Lund', role: 'student', sectionId: 's' },
    { personId: 'b', name: 'Béla Ódor', role: 'student', sectionId: 's' },
    { personId: 'i', name: 'Ines Okafor-Lind', role: 'instructor', sectionId: null },
  ] as Correspondent[];
  const open = (more: object = {}) =>
    show(MessageForm, { base: { courseId: 'c' }, people, ...more }, makeTestRouter(), () => {
      before();
      useCourse().head = { ...head, sections: [{ id: 's', title: 'Morning', students: 2 }] } as never;
    });

  it('is there again after it was left, with whom it is for', async () => {
    const first = await open();
    await type(first, 'Subject', 'Bench keys');
    await press(first, 'Morning, all 2');
    await type(first, 'Message', 'They hang at');
    first.unmount();
    const again = await open();
    expect([field(again, 'Subject').value, field(again, 'Message').value]).toEqual(['Bench keys', 'They hang at']);
    expect(again.text()).toContain('To: 2 of 3');
    expect(again.text()).toContain('Send to 2');
  });

  it('keeps its words where others are chosen elsewhere, and takes the subject of that place where it has none', async () => {
    const first = await open();
    await type(first, 'Message', 'Half written');
    first.unmount();
    const again = await open({ chosen: { personIds: ['b', 'gone'], about: 'Condition report' } });
    expect([field(again, 'Subject').value, field(again, 'Message').value]).toEqual(['Condition report', 'Half written']);
    expect(again.text()).toContain('To: 1 of 3');
  });

  it('is forgotten once it is sent, and says beside the field why it is not', async () => {
    const shown = await open();
    await type(shown, 'Message', 'Text');
    server.on(
      'POST /courses/c/messages',
      () => new Refusal(422, 'invalid', { pointers: [{ field: 'personIds', text: 'Choose somebody to write to.' }] }),
    );
    await submit(shown);
    expect(shown.find('.fault').text()).toBe('Choose somebody to write to.');
    expect(readKept('draft message c')).toMatchObject({ body: 'Text' });
    server.on('POST /courses/c/messages', () => ({ rows: [], messages: {} }));
    await submit(shown);
    expect(shown.emitted('sent')).toHaveLength(1);
    expect(readKept('draft message c')).toBeNull();
  });

  it('is sent with one key however often it is pressed, so that it arrives once', async () => {
    const shown = await open();
    server.on('POST /courses/c/messages', () => new Refusal(503, 'busy'));
    await type(shown, 'Message', 'Text');
    await submit(shown);
    await submit(shown);
    const keys = server.bodies('POST /courses/c/messages').map((b) => (b as { key: string }).key);
    expect(keys).toHaveLength(2);
    expect(new Set(keys).size).toBe(1);
  });

  it('is given up by leaving it', async () => {
    const shown = await open();
    await type(shown, 'Message', 'No.');
    await press(shown, 'leave it');
    expect(readKept('draft message c')).toBeNull();
    expect(shown.emitted('leave')).toHaveLength(1);
  });
});

describe('an announcement', () => {
  const news: AnnouncementView = {
    ...{ id: 'n', title: 'Room', document: words('As it was.'), author: 'Ines', publishAt: '2026-11-17T08:00:00Z', isScheduled: false },
    ...{ sections: [], tells: true, isRead: true, readers: null, version: 3 },
  };
  const open = async (announcement: AnnouncementView | null) =>
    show(AnnouncementForm, { base: { courseId: 'c' }, announcement }, await at('/courses/c/announcements'), before);

  it('is there again after it was left, and is forgotten once it is published', async () => {
    const first = await open(null);
    await type(first, 'Title', 'Keys');
    await first.find('textarea').setValue('At the door.');
    first.unmount();
    const again = await open(null);
    expect([field(again, 'Title').value, again.find('textarea').element.value]).toEqual(['Keys', 'At the door.']);
    server.on('POST /courses/c/announcements', () => ({ announcements: [], canWrite: true, id: 'new' }));
    await submit(again);
    expect(again.emitted('saved')?.[0]?.[1]).toBe('“Keys” is published.');
    expect(readKept('draft announcement c new')).toBeNull();
  });

  it('that somebody else changed shows both, and is published over theirs only after that', async () => {
    const shown = await open(news);
    await type(shown, 'Title', 'Room moved');
    const theirs = { ...news, title: 'Room closed', document: words('Theirs.'), version: 4 };
    server.on('PUT /courses/c/announcements/n', ({ body }) =>
      (body as { version: number }).version === 4
        ? { announcements: [], canWrite: true }
        : new Refusal(409, 'conflict', { current: theirs }),
    );
    await submit(shown);
    await until(() => shown.find('.two-versions').exists(), 'both versions');
    expect(shown.find('.two-versions').text()).toContain('Room closed');
    await press(shown, 'Keep yours');
    await submit(shown);
    expect(server.bodies('PUT /courses/c/announcements/n').at(-1)).toMatchObject({ title: 'Room moved', version: 4 });
  });

  it('takes theirs where that is chosen, and nothing goes out by itself', async () => {
    const shown = await open(news);
    const theirs = { ...news, title: 'Room closed', document: words('Theirs.'), version: 4 };
    server.on('PUT /courses/c/announcements/n', () => new Refusal(409, 'conflict', { current: theirs }));
    await submit(shown);
    await until(() => shown.find('.two-versions').exists(), 'both versions');
    await press(shown, 'Take theirs');
    expect(field(shown, 'Title').value).toBe('Room closed');
    expect(server.bodies('PUT /courses/c/announcements/n')).toHaveLength(1);
  });
});

describe('a rubric', () => {
  const level = (id: string, points: number, descriptor: string) => ({ id, title: id, descriptor, points, least: null, upTo: null });
  const rubric = {
    id: 'r',
    version: 2,
    criteria: [{ id: 'k', title: 'Structure', form: 'levels', levels: [level('l0', 0, 'none'), level('l1', 10_000, 'clear')] }],
  } as unknown as RubricView;
  const open = async (held: RubricView | null = rubric) => {
    server.on('GET /kept-rubrics', () => []);
    const props = { base: { courseId: 'c', itemId: 'i' }, title: 'Report', rubric: held, possible: 10_000, canEdit: true };
    return show(RubricEditor, props, await at('/courses/c/items/i'), before);
  };
  const criterion = (shown: VueWrapper): HTMLInputElement => shown.find('input[aria-label="Criterion 1"]').element as HTMLInputElement;

  it('is open again with what was typed, where it was left before it was saved, and says so', async () => {
    const first = await open();
    await press(first, 'Change');
    await first.find('input[aria-label="Criterion 1"]').setValue('Build');
    first.unmount();
    const again = await open();
    expect(criterion(again).value).toBe('Build');
    expect(again.find('[role=status]').text()).toBe('You left these changes before they were saved. They are only in this browser yet.');
    await press(again, 'Discard changes');
    expect(readKept('draft rubric i')).toBeNull();
    expect(again.text()).toContain('Structure');
  });

  it('is forgotten here once it is saved', async () => {
    const shown = await open();
    await press(shown, 'Change');
    await shown.find('input[aria-label="Criterion 1"]').setValue('Build');
    server.on('PUT /courses/c/items/i/rubric', () => ({ rubric: { ...rubric, version: 3 }, followed: 0, kept: 0 }));
    await submit(shown);
    expect(server.bodies('PUT /courses/c/items/i/rubric').at(-1)).toMatchObject({ version: 2, criteria: [{ id: 'k', title: 'Build' }] });
    expect(readKept('draft rubric i')).toBeNull();
    expect(useNotices().notice?.text).toBe('The rubric is saved.');
  });

  it('that was changed meanwhile takes criteria which are gone as new ones', async () => {
    const first = await open();
    await press(first, 'Change');
    await first.find('input[aria-label="Criterion 1"]').setValue('Build');
    first.unmount();
    const again = await open({ ...rubric, version: 5, criteria: [{ ...rubric.criteria[0]!, id: 'other' }] } as RubricView);
    server.on('PUT /courses/c/items/i/rubric', () => ({ rubric, followed: 0, kept: 0 }));
    await submit(again);
    expect(server.bodies('PUT /courses/c/items/i/rubric').at(-1)).toMatchObject({ version: 5, criteria: [{ id: null, title: 'Build' }] });
  });
});

describe('the policy', () => {
  const policy: PolicyView = {
    ...{
      version: 7,
      total: 'weights',
      wholeDropLowest: 0,
      isRenormalised: true,
      isMissingZero: true,
      decimals: 1,
      showsFloorAndReach: true,
    },
    ...{ lateRatePercent: 5000, lateStepMinutes: 1440, lateBase: 'earned', lateCapPercent: 0, lateFloorPercent: 0, lateGraceMinutes: 0 },
    categories: [
      {
        ...{ id: 'k', title: 'Papers', weightPercent: 100_000, method: 'points', dropLowest: 0, keepBest: 0, dropHighest: 0 },
        ...{ isExtraCredit: false, isCapped: false, declaredItems: 0, declaredPoints: 0, declaredIn: [], late: null },
      },
    ],
    wholeKeepBest: 0,
    wholeDropHighest: 0,
    wholeIsCapped: false,
    passPercent: null,
    periods: [],
    moves: [],
    columns: [],
    levels: [{ label: 'A', cutPoint: 90_000, value: null }],
    weightsSum: 100_000,
    totals: [],
  };
  const noRipple = { rows: [], rise: 0, fall: 0, cross: 0, same: 0, levels: [] };
  const open = async () => {
    server.on('GET /courses/c/policy', () => policy);
    server.on('GET /courses/c/policy/history', () => ({ changes: [] }));
    const shown = await show(PolicyPage, {}, await at('/courses/c/policy'), before);
    await flushPromises();
    return shown;
  };
  const decimals = (shown: VueWrapper) => shown.find('select[aria-label="Decimals"]');

  it('is changed in a draft that outlives leaving the page, and is discarded when told', async () => {
    server.on('PUT /courses/c/policy', () => noRipple);
    const first = await open();
    await decimals(first).setValue('2');
    await flushPromises();
    expect(readKept('draft policy c')).toMatchObject({ decimals: 2 });
    first.unmount();
    const again = await open();
    expect((decimals(again).element as HTMLSelectElement).value).toContain('2');
    expect(again.text()).toContain('You left these changes before they were applied. They are only in this browser yet.');
    await press(again, 'Leave it');
    expect(readKept('draft policy c')).toBeNull();
    expect(again.text()).not.toContain('You left these changes');
  });

  it('keeps no draft of what is as it was again', async () => {
    server.on('PUT /courses/c/policy', () => noRipple);
    const shown = await open();
    await decimals(shown).setValue('2');
    await flushPromises();
    await decimals(shown).setValue('1');
    await flushPromises();
    expect(readKept('draft policy c')).toBeNull();
  });
});

describe('a question that two people write', () => {
  const question = {
    ...{ id: 'q', number: 1, newest: 1, version: 2, title: 'Which part?', canEdit: true, isFixed: false, stimulus: null, level: null },
    ...{
      words: words('Which part locks the wheel?'),
      feedback: { right: null, wrong: null, general: null },
      picture: null,
      tags: [],
      objectives: [],
    },
    key: {
      kind: 'short',
      rules: { accepted: [{ text: 'pallet', isPattern: false, share: 100_000 }], caseMatters: false, spaceMatters: false },
    },
  } as unknown as QuestionView;
  const theirs = { ...question, version: 9, words: words('Which piece locks the wheel?') };
  const ADDRESS = 'PUT /courses/c/bank/questions/q';
  const open = async () => {
    server.on(ADDRESS, ({ body }) =>
      (body as { version: number }).version === 9
        ? { version: 10, question: { ...question, version: 10 } }
        : new Refusal(409, 'conflict', { current: theirs }),
    );
    const shown = await show(QuestionEdit, { question, courseId: 'c' }, await at('/courses/c/bank'), before);
    await shown.find('textarea[aria-label="Question"]').setValue('Which part holds the wheel?');
    await (shown.vm as unknown as { flush: () => Promise<void> }).flush();
    await until(() => shown.find('.two-versions').exists(), 'both versions');
    return shown;
  };

  it('shows both, and keeps mine over theirs when told', async () => {
    const shown = await open();
    expect(shown.find('.two-versions').text()).toContain('Which piece locks the wheel?');
    expect(shown.findAll('.two-versions mark').map((m) => m.text())).toEqual(expect.arrayContaining(['piece', 'part']));
    await press(shown, 'Keep yours');
    await (shown.vm as unknown as { flush: () => Promise<void> }).flush();
    expect(server.bodies(ADDRESS).at(-1)).toMatchObject({ version: 9, words: words('Which part holds the wheel?') });
    expect(shown.find('.two-versions').exists()).toBe(false);
  });

  it('takes theirs, and writes nothing', async () => {
    const shown = await open();
    await press(shown, 'Take theirs');
    await until(() => shown.emitted('saved') !== undefined, 'theirs');
    expect(shown.emitted('saved')).toEqual([[theirs]]);
    expect(server.bodies(ADDRESS)).toHaveLength(1);
    expect(readKept('question q')).toBeNull();
  });
});
