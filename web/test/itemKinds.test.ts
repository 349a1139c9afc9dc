/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { AssignmentSetting, ItemDetail, PlanItem, StudentItem } from '@rosemary/api';
import { type DocumentNode, ITEM_KINDS, kindOfItem, type ItemKind } from '@rosemary/core';
import { flushPromises } from '@vue/test-utils';
import PageStudy from '../src/kinds/page/PageStudy.vue';
import { SHOWN_KINDS } from '../src/kinds/kinds.ts';
import { ADDABLE, KIND_LOOKS, kindTitle } from '../src/parts/kinds.ts';
import ItemGlyph from '../src/parts/ItemGlyph.vue';
import ItemInspector from '../src/plan/ItemInspector.vue';
import ItemPage from '../src/plan/ItemPage.vue';
import { HttpProblem, setHooks } from '../src/platform/http.ts';
import { useCourse } from '../src/stores/courseStore.ts';
import { keep } from '../src/platform/kept.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import StudyItemPage from '../src/student/StudyItemPage.vue';
import { beginMounting, endMounting, makeTestRouter, show, words } from './mounting.ts';
import { planItem as plan } from './planItem.ts';
import { fakeServer, quietHooks, Refusal, until } from './server.ts';

let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  server = fakeServer();
  setHooks(quietHooks);
});
afterEach(endMounting);

const COURSE = '/courses/c';
const SETTING: AssignmentSetting = {
  ...{
    version: 3,
    instructions: words('Draw the chain.'),
    acceptsText: true,
    acceptsFiles: false,
    acceptsLink: false,
    acceptsRecording: false,
  },
  ...{
    onPaper: false,
    judged: 'points',
    fileTypes: [],
    mostFiles: 1,
    mostBytes: 1000,
    attemptsAllowed: null,
    counted: 'latest',
    groupSetId: null,
  },
  ...{ allowsWithdrawal: true, anonymous: 'none', anonymousUntil: null, markers: 1 },
};
const NONE = { page: null, link: null, file: null, assignment: null, rubric: null, hasPeers: false, text: null };
/** A text that no student reads yet. */
const unread = (document: DocumentNode) => ({ text: { document, isRead: false, working: null } });
const INSIDE: { readonly [kind in ItemKind]: Partial<ItemDetail> } = {
  page: { page: { document: words('A page of words.'), version: 3 }, ...unread(words('A page of words.')) },
  assignment: { assignment: SETTING, ...unread(SETTING.instructions) },
  quiz: {},
  discussion: unread(words('What broke?')),
  file: { file: { file: null, note: 'The drawing.', version: 1 } },
  link: { link: { address: 'https://clocks.invalid/', note: 'A museum.', version: 1 } },
  activity: {},
};
const talk = {
  title: 'Fusee chains',
  document: words('What broke?'),
  version: 5,
  isPostFirst: false,
  isClosed: false,
  threads: [],
  mustPostFirst: false,
  whyNot: null,
  hasPeers: false,
  canModerate: true,
  possible: 0,
  people: [],
};

function serve(kind: ItemKind): void {
  server.on('GET /courses/c/items/i', () => ({ item: plan(kind), ...NONE, ...INSIDE[kind] }));
  server.on('GET /courses/c/discussions/i', () => talk);
  server.on('POST /courses/c/discussions/i/read', () => ({}));
  server.on('GET /courses/c/items/i/versions', () => ({ versions: [] }));
  server.on('GET /page-templates', () => ({ templates: [] }));
  server.on('GET /courses/c/groups', () => ({ sets: [] }));
  server.on('GET /courses/c/objectives', () => ({ objectives: [] }));
  server.on('GET /rubrics', () => ({ rubrics: [] }));
  server.on('GET /courses/c/items/i/matching', () => new Refusal(404, 'not-found'));
}
async function open(kind: ItemKind, role: 'instructor' | 'assistant' = 'instructor') {
  serve(kind);
  const router = makeTestRouter();
  await router.push(`${COURSE}/items/i`);
  const head = { id: 'c', role, timeZone: 'UTC', now: '2026-11-18T10:00:00Z', sections: [], groups: [], line: { weeks: [] } };
  server.on('GET /courses/c', () => head);
  const shown = await show(ItemPage, {}, router);
  (useCourse() as { head: unknown }).head = head;
  await flushPromises();
  return { shown, router };
}

describe('the marks of the kinds', () => {
  it('are all different, but for what is read in another place', () => {
    const looks = ITEM_KINDS.map((kind) => `${KIND_LOOKS[kind].path} ${KIND_LOOKS[kind].isHollow}`);
    expect(new Set(looks).size).toBe(ITEM_KINDS.length - 1);
    expect(KIND_LOOKS.file).toEqual(KIND_LOOKS.link);
  });

  it.each(ITEM_KINDS)('of the kind %s is drawn and named for those who hear it', async (kind) => {
    const mark = await show(ItemGlyph, { kind });
    expect(mark.attributes('aria-label')).toBe(kindTitle(kind));
    expect(mark.find('path').attributes('d')).toBe(KIND_LOOKS[kind].path);
    expect(ADDABLE.map(([one]) => one)).toContain(kind);
  });
});

describe('the page of an item', () => {
  /** What stands on it for whoever teaches. */
  const SHOWS: { readonly [kind in ItemKind]: string | null } = {
    page: 'Page',
    assignment: 'Instructions',
    quiz: null,
    discussion: 'What is discussed',
    file: 'The drawing.',
    link: 'https://clocks.invalid/',
    activity: 'A class activity takes place in class: nothing is handed in. Its scores are typed in the gradebook.',
  };

  it.each(ITEM_KINDS.filter((kind) => SHOWS[kind] !== null))('of the kind %s shows its title and what is written into it', async (kind) => {
    const { shown } = await open(kind);
    await until(
      () =>
        shown.html().includes(SHOWS[kind] ?? '') ||
        shown.findAll('input').some((i) => (i.element as HTMLInputElement).value === SHOWS[kind]),
      kind,
    );
    expect(shown.find('h1').text()).toBe('Fusee chains');
  });

  it('of a quiz is the quiz', async () => {
    const { router } = await open('quiz');
    await until(() => router.currentRoute.value.name === 'quiz', 'the quiz');
    expect('route' in SHOWN_KINDS.quiz.editor).toBe(true);
  });

  it('says why it cannot be opened', async () => {
    server.on('GET /courses/c/items/i', () => new Refusal(404, 'not-found'));
    const router = makeTestRouter();
    await router.push(`${COURSE}/items/i`);
    const shown = await show(ItemPage, {}, router);
    expect(shown.text()).toContain('This item cannot be opened');
    expect(shown.text()).toContain('refused: not-found');
  });

  it.each([
    ['page', 'PUT /courses/c/items/i/page', 'document'],
    ['assignment', 'PUT /courses/c/items/i/instructions', 'instructions'],
    ['discussion', 'PUT /courses/c/discussions/i', 'document'],
  ] as const)(
    'of the kind %s saves its words as they are typed, each save with the version of the one before',
    async (kind, address, name) => {
      let version = kind === 'discussion' ? 5 : 3;
      server.on(address, () => ({ version: (version += 1), isWorking: false }));
      const { shown } = await open(kind);
      await until(() => shown.find('textarea').exists(), 'the editor');
      await shown.find('textarea').setValue('First.');
      await until(() => server.bodies(address).length === 1, 'the first save');
      await until(() => shown.text().includes('Saved'), 'the word of it');
      await shown.find('textarea').setValue('Second.');
      await until(() => server.bodies(address).length === 2, 'the second save');
      expect(server.bodies(address)).toEqual([
        { [name]: words('First.'), version: version - 2 },
        { [name]: words('Second.'), version: version - 1 },
      ]);
    },
    20_000,
  );

  it('shows what somebody else saved meanwhile, and takes it', async () => {
    const theirs = { version: 9, document: words('Theirs.') };
    server.on('PUT /courses/c/items/i/page', () => new Refusal(409, 'conflict', { current: theirs }));
    const { shown } = await open('page');
    await until(() => shown.find('textarea').exists(), 'the editor');
    await shown.find('textarea').setValue('Mine.');
    await until(() => shown.find('.two-versions').exists(), 'the conflict');
    expect(shown.find('.two-versions').text()).toContain('Somebody else saved this text after you opened it.');
    expect(shown.find('.two-versions').text()).toContain('Theirs.');
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Take theirs')!
      .trigger('click');
    await until(() => !shown.find('.two-versions').exists(), 'the end of the conflict');
    expect(server.bodies('PUT /courses/c/items/i/page')).toEqual([{ document: words('Mine.'), version: 3 }]);
  }, 20_000);

  it('keeps mine over it with the version that was theirs', async () => {
    const theirs = { version: 9, instructions: words('Theirs.') };
    server.on('PUT /courses/c/items/i/instructions', (one) =>
      (one.body as { version: number }).version === 9 ? { version: 10 } : new Refusal(409, 'conflict', { current: theirs }),
    );
    const { shown } = await open('assignment');
    await until(() => shown.find('textarea').exists(), 'the editor');
    await shown.find('textarea').setValue('Mine.');
    await until(() => shown.find('.two-versions').exists(), 'the conflict');
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Keep yours')!
      .trigger('click');
    await until(() => server.bodies('PUT /courses/c/items/i/instructions').length === 2, 'the save over it');
    expect(server.bodies('PUT /courses/c/items/i/instructions')[1]).toEqual({ instructions: words('Mine.'), version: 9 });
  }, 20_000);

  it('brings words back that were typed and did not arrive', async () => {
    keep('text i', words('Typed on the train.'));
    server.on('PUT /courses/c/items/i/page', () => ({ version: 4, isWorking: false }));
    const { shown } = await open('page');
    await until(() => shown.find('textarea').exists(), 'the editor');
    expect((shown.find('textarea').element as HTMLTextAreaElement).value).toBe('Typed on the train.');
    await until(() => server.bodies('PUT /courses/c/items/i/page').length === 1, 'the save');
    expect(useNotices().notice).toBeNull();
  }, 20_000);

  it('is read and not written by those who assist', async () => {
    const { shown } = await open('page', 'assistant');
    await until(() => shown.text().includes('A page of words.'), 'the words');
    expect(shown.find('textarea').exists()).toBe(false);
  });
});

describe('the inspector of the Plan', () => {
  const CATEGORIES = [{ id: 'w', title: 'Bench work' }];
  async function inspect(item: PlanItem, change: (wish: object) => Promise<boolean> = () => Promise.resolve(true), canEdit = true) {
    server.on('GET /courses/c/objectives', () => ({ objectives: [] }));
    const router = makeTestRouter();
    await router.push('/courses/c/plan');
    const props = { item, categories: CATEGORIES, canEdit, arrangements: 0, others: [], change, reload: () => Promise.resolve() };
    return show(ItemInspector, props, router, () => {
      const head = {
        id: 'c',
        role: 'instructor',
        timeZone: 'UTC',
        now: '2026-11-18T10:00:00Z',
        sections: [],
        groups: [],
        line: { weeks: [] },
      };
      (useCourse() as { head: unknown }).head = head;
    });
  }
  const labels = (shown: Awaited<ReturnType<typeof inspect>>): string[] =>
    shown.findAll('.field > .label, label > .label').map((l) => l.text());

  it.each(ITEM_KINDS)('shows of the kind %s what the kind has, and no more', async (kind) => {
    const shown = await inspect(plan(kind));
    const { isWork, marking, hasOwnPoints, doneRules } = kindOfItem(kind);
    expect(shown.find('.top .label').text()).toBe(`${kindTitle(kind)} · draft`);
    const has = (label: string): boolean => labels(shown).includes(label);
    for (const label of ['Points', 'Category', 'Minutes to mark', 'Marks are released', 'Students read it as'])
      expect({ kind, label, has: has(label) }).toEqual({ kind, label, has: isWork });
    expect(has('Late work')).toBe(marking === 'work');
    expect(has('Minutes for a student')).toBe(true);
    if (isWork) {
      const points = shown.find('[data-field="possible"] input');
      expect((points.element as HTMLInputElement).disabled).toBe(!hasOwnPoints);
      expect(points.attributes('title')).toBe(hasOwnPoints ? undefined : 'the points of its questions');
    }
    // Rules of reviews are offered where students review each other, or where one was chosen before.
    const plain = doneRules.filter((rule) => !rule.includes('reviewed'));
    expect(rulesIn(shown, plain)).toEqual(plain);
    expect(rulesIn(await inspect({ ...plan(kind), isReviewed: true }), doneRules)).toEqual(doneRules);
  });
  const rulesIn = (shown: Awaited<ReturnType<typeof inspect>>, rules: readonly string[]): (string | undefined)[] | undefined =>
    shown
      .findAll('select')
      .find((one) => (one.element as HTMLSelectElement).value === rules[0] && one.findAll('option').length === rules.length)
      ?.findAll('option')
      .map((o) => o.attributes('value'));

  it('leads to the marking of what is marked work by work, once it is no draft', async () => {
    const links = async (kind: ItemKind, isDraft: boolean): Promise<string[]> =>
      (await inspect(plan(kind, { isDraft })))
        .findAll('.foot a')
        .map((a) => a.text())
        .filter((text) => text !== 'Give to classes');
    expect(await links('assignment', false)).toEqual(['Open', 'Mark']);
    expect(await links('assignment', true)).toEqual(['Open']);
    expect(await links('quiz', false)).toEqual(['Open']);
    expect(await links('page', false)).toEqual(['Open']);
  });

  it('saves each field as it is left, and says so', async () => {
    const wishes: object[] = [];
    const shown = await inspect(plan('assignment'), (wish) => {
      wishes.push(wish);
      return Promise.resolve(true);
    });
    await shown.find('[data-field="categoryId"] select').setValue('w');
    await shown.find('[data-field="possible"] input').setValue('12.5');
    await flushPromises();
    expect(wishes).toEqual([{ categoryId: 'w' }, { possible: 12_500 }]);
    expect(shown.find('[aria-live="polite"]').text()).toMatch(/^Saved \d\d:\d\d:\d\d$/);
  });

  it('says that a change was left as it was where its ripple was left', async () => {
    const shown = await inspect(plan('assignment'), () => Promise.resolve(false));
    await shown.find('[data-field="categoryId"] select').setValue('w');
    await flushPromises();
    expect(shown.find('[aria-live="polite"]').text()).toBe('Left as it was');
    expect((shown.find('[data-field="categoryId"] select').element as HTMLSelectElement).value).toBe('');
  });

  it('says beside the field why a change is refused, and shows what somebody else made of the item', async () => {
    const refused = await inspect(plan('assignment'), () =>
      Promise.reject(
        new HttpProblem({
          type: 'urn:rosemary:invalid',
          title: 'invalid',
          status: 422,
          detail: 'No such category.',
          pointers: [{ field: 'categoryId', text: 'No such category.' }],
        } as never),
      ),
    );
    await refused.find('[data-field="categoryId"] select').setValue('w');
    await flushPromises();
    expect(refused.find('.fault').text()).toBe('No such category.');
    const theirs = plan('assignment', { title: 'Fusee chains, again', version: 2 });
    const other = await inspect(plan('assignment'), () =>
      Promise.reject(
        new HttpProblem({ type: 'urn:rosemary:conflict', title: 'conflict', status: 409, detail: 'Changed.', current: theirs } as never),
      ),
    );
    await other.find('[data-field="categoryId"] select').setValue('w');
    await flushPromises();
    await until(() => other.find('.two-versions').exists(), 'both versions');
    expect(other.find('.two-versions').text()).toContain('Somebody else changed this after you opened it.');
    expect(other.findAll('.two-versions section .pair > div').map((side) => side.text())).toEqual(['none', 'w']);
    await other.find('.two-versions button').trigger('click');
    expect(other.emitted('saved')).toEqual([[theirs]]);
  });

  it('is read and not changed by those who assist', async () => {
    const shown = await inspect(plan('assignment'), () => Promise.resolve(true), false);
    expect((shown.find('fieldset').element as HTMLFieldSetElement).disabled).toBe(true);
    expect(shown.findAll('.foot button')).toHaveLength(0);
  });
});

describe('an item as its student has it', () => {
  const OFF = { at: null, reason: 'as for everyone' };
  const student = (kind: ItemKind, more: Partial<StudentItem>): StudentItem => ({
    ...{ id: 'i', kind, title: 'Fusee chains', visibility: 'open', dates: { opens: OFF, due: OFF, closes: OFF }, waitsFor: '' },
    ...{
      doneWhen: 'done when opened',
      possible: 0,
      category: null,
      isDone: false,
      doneRule: kindOfItem(kind).doneRules[0],
      estimatedMinutes: 30,
    },
    ...{ page: null, link: null, file: null, assignment: null, rubric: null, draft: null, canHandIn: false, whyNot: null, attempts: [] },
    ...{
      quiz: null,
      group: null,
      showsMatches: false,
      takenBack: [],
      canWithdraw: false,
      returned: null,
      revision: null,
      words: [],
      hasPeers: false,
    },
    ...more,
  });
  const { version: _, ...setting } = SETTING;
  const HAS: { readonly [kind in ItemKind]: readonly [Partial<StudentItem>, string] } = {
    page: [{ page: words('A page of words.') }, 'A page of words.'],
    assignment: [{ assignment: setting, whyNot: 'It closed on Monday.' }, 'Draw the chain.'],
    quiz: [{}, 'Fusee chains'],
    discussion: [{}, 'What broke?'],
    file: [{ file: { file: null, note: 'The drawing.' } }, 'There is no file here yet. Ask your instructor.'],
    link: [{ link: { address: '', note: 'A museum.' } }, 'Its address is not set yet. Ask your instructor.'],
    activity: [{}, 'Fusee chains'],
  };
  const study = async (kind: ItemKind, more: Partial<StudentItem> = {}) => {
    server.on('GET /courses/c/own/items/i', () => student(kind, { ...HAS[kind][0], ...more }));
    server.on('GET /courses/c/discussions/i', () => ({ ...talk, canModerate: false }));
    server.on('POST /courses/c/own/items/i/visits', () => ({}));
    server.on('GET /courses/c', () => ({ id: 'c', role: 'student', timeZone: 'UTC', now: '2026-11-18T10:00:00Z', line: { weeks: [] } }));
    const router = makeTestRouter();
    await router.push(`${COURSE}/items/i`);
    return show(StudyItemPage, {}, router);
  };

  it.each(ITEM_KINDS)('of the kind %s shows what is in it', async (kind) => {
    const shown = await study(kind);
    await until(() => shown.text().includes(HAS[kind][1]), kind);
    expect(shown.find('h1').text()).toBe('Fusee chains');
    expect(shown.find('svg.glyph').attributes('aria-label')).toBe(kindTitle(kind));
  });

  it('shows nothing of what is inside before it opens, and what it waits for', async () => {
    const shown = await study('discussion', { visibility: 'announced', waitsFor: 'opens on Friday' });
    expect(shown.text()).toContain('Not open yet: it opens on Friday.');
    expect(shown.text()).not.toContain('What broke?');
    expect(server.sent.some((s) => s.path.includes('/discussions/'))).toBe(false);
  });

  const ITEM = '11111111-7a34-4c7e-9a51-2d6a4f2f9a10';
  const HERE = { href: `/courses/${ITEM}/items/${ITEM}`, title: 'Your answer' };
  const inPage = async (role: string, answer: () => unknown) => {
    server.on(`GET /courses/${ITEM}/own/items/${ITEM}`, answer);
    return show(
      PageStudy,
      {
        base: { courseId: 'c', itemId: 'i' },
        item: student('page', { page: { type: 'doc', content: [{ type: 'response', attrs: HERE }] } }),
        isLooking: false,
      },
      makeTestRouter(),
      () => {
        (useCourse() as { head: unknown }).head = { id: ITEM, role, timeZone: 'UTC', now: '2026-11-18T10:00:00Z' };
      },
    );
  };
  it('is handed in inside a page too, and says there what keeps it from that', async () => {
    const closes = { at: '2026-11-23T12:00:00Z', reason: 'as for everyone' };
    const whole = student('assignment', { ...HAS.assignment[0], possible: 10_000, dates: { opens: OFF, due: closes, closes } });
    const shown = await inPage('student', () => whole);
    await until(() => shown.text().includes('It closed on Monday.'), 'the assignment in the page');
    expect(shown.text()).toContain('due Mon 23 Nov 12:00 · 10 points');
    expect(shown.text()).toContain('Draw the chain.');
    const shut = await inPage('student', () => new Refusal(404, 'not-found'));
    await until(() => shut.text().includes('It is not open to you yet.'), 'not open');
    const other = await inPage('student', () => student('page', {}));
    await until(() => other.text().includes('There is nothing to hand in here any more.'), 'no assignment');
  });

  it('inside a page is a link for those who teach', async () => {
    const shown = await inPage('instructor', () => new Refusal(404, 'not-found'));
    await until(() => shown.text().includes('Students hand in here: Your answer'), 'the link');
    expect(shown.find('a').attributes('href')).toBe(HERE.href);
    expect(server.sent).toEqual([]);
  });

  it('says why nothing can be handed in, and when it closes', async () => {
    const closes = { at: '2026-11-23T12:00:00Z', reason: 'as for everyone' };
    const shown = await study('assignment', { dates: { opens: OFF, due: OFF, closes } });
    await until(() => shown.text().includes('It closed on Monday.'), 'the reason');
    expect(shown.find('.label').text()).toContain('closes');
  });
});
