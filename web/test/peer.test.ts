/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { FollowUps, OwnPeer, OwnReview, PeerBoard } from '@rosemary/api';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import FollowForm from '../src/followUp/FollowForm.vue';
import AsidePart from '../src/peer/AsidePart.vue';
import AssessPart from '../src/peer/AssessPart.vue';
import { boardLines, WANTED } from '../src/peer/boardLines.ts';
import OwnPeerPart from '../src/peer/OwnPeerPart.vue';
import PairsPart from '../src/peer/PairsPart.vue';
import PeerBoardPage from '../src/peer/PeerBoardPage.vue';
import DatesLine from '../src/parts/charts/DatesLine.vue';
import PeerSettingPage from '../src/peer/PeerSettingPage.vue';
import ReviewPage from '../src/peer/ReviewPage.vue';
import SpreadStrip from '../src/parts/charts/SpreadStrip.vue';
import { setHooks } from '../src/platform/http.ts';
import { keepFor } from '../src/platform/kept.ts';
import { useCourse } from '../src/stores/courseStore.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { board, button, detail, doc, form, HEAD, NOTHING, open, peer, received, setting, working } from './peerFixtures.ts';
import { fakeServer, quietHooks, Refusal, until } from './server.ts';

/** A peer review in the interface: how it is set, watched, given, and what comes of it. */
let server: ReturnType<typeof fakeServer>;
let readers = 0;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  keepFor(`peer reader ${(readers += 1)}`);
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);

const AT = '/courses/c/items/i/peer';
const OWN = '/courses/c/items/i/own-reviews';
describe('the lines of a board', () => {
  const lines = boardLines(board());
  it('have the reviews of the work and those that are given', () => {
    expect(lines.map((l) => [l.received.map((r) => r.id), l.gives.map((r) => r.id)])).toEqual([
      [
        ['r1', 'r2'],
        ['r3', 'r5'],
      ],
      [['r3', 'r4'], ['r1']],
      [['r5'], ['r2', 'r4']],
      [[], []],
    ]);
  });

  it('are found by what is worth a look', () => {
    const found = Object.fromEntries(Object.entries(WANTED).map(([key, w]) => [key, lines.filter(w.test).map((l) => l.line.enrolmentId)]));
    expect(found).toEqual({
      all: ['e0', 'e1', 'e2', 'e3'],
      missing: ['e3'],
      none: [],
      some: ['e2'],
      few: ['e2'],
      far: ['e0'],
      look: [],
      reported: ['e2'],
      aside: ['e1'],
    });
  });
});

const FOLLOW: FollowUps = { ...{ areReviews: true, possible: 40_000, rules: [], items: [], groups: [] } };

describe('the board', () => {
  const show_ = async (more: Partial<PeerBoard> = {}, path = '/courses/c/items/i/reviews'): Promise<VueWrapper> => {
    server.on(`GET ${AT}/board`, () => board(more));
    server.on(`GET ${AT}/works/w0`, () => detail());
    server.on(`GET ${AT}/reviewers/e0`, () => ({ working, reviews: 2, traits: [{ ...working, rule: 'Bias, 95 % within 3.0' }] }));
    server.on('GET /courses/c/items/i/follow-ups', () => FOLLOW);
    return open(PeerBoardPage, {}, path);
  };
  it('counts, filters, and says how far the class agrees', async () => {
    const shown = await show_();
    expect(shown.text()).toContain('3 of 4 works in');
    expect(shown.text()).toContain('4 of 5 reviews given');
    expect(shown.text()).toContain('agreement of the class 0.61');
    expect(shown.text()).toContain('95 % between −0.10 and 0.80');
    expect(shown.text()).not.toContain('1 − 0.39 ÷ 1.00');
    await button(shown, 'agreement of the class').trigger('click');
    expect(shown.find('.agreement').text()).toContain('The reason, 12 pairs: 1 − 0.39 ÷ 1.00');
    await shown.find('select[aria-label="Show"]').setValue('far');
    expect(shown.findAll('.peer-table tbody tr')).toHaveLength(1);
    await button(shown, 'Write to this student').trigger('click');
    await flushPromises();
    expect(shown.vm.$router.options.history.state).toMatchObject({ to: ['p0'], about: 'Restoration plan' });
    await shown.find('select[aria-label="Show"]').setValue('none');
    expect(shown.text()).toContain('Nobody here. Show all to see everybody.');
  });

  it('opens a student: the reviews by criterion, the working, what is worth a look', async () => {
    const shown = await show_();
    await button(shown, 'Name 0').trigger('click');
    await flushPromises();
    const side = shown.find('aside.peer').text();
    for (const words of [
      '30 of 40',
      '5 · 0',
      '6 / 10',
      '40 % of full marks lower than the others',
      'Result of the work',
      'each of their reviews weighs 1.10',
      'Bias, 95 % within 3.0',
    ])
      expect(side).toContain(words);
    server.on(`GET ${AT}/works/w1`, () => detail());
    server.on(`GET ${AT}/reviewers/e1`, () => ({ working: null, reviews: 2, traits: [] }));
    await shown.find('.peer-table').trigger('keydown', { key: 'ArrowDown' });
    await flushPromises();
    expect(shown.find('.peer-table tr.chosen').text()).toContain('Name 1');
  });

  it('has what follows: whoever has given all their reviews is written to', async () => {
    const shown = await show_();
    expect(shown.text()).toContain('Whoever reaches or misses a mark, or has given their reviews, can be written to');
    const base = { courseId: 'c', itemId: 'i' };
    const form = await open(FollowForm, { base, choices: FOLLOW });
    expect(form.find('input[aria-label="Points"]').exists()).toBe(true);
    await form.find('select').setValue('gave reviews');
    expect(form.find('input[aria-label="Points"]').exists()).toBe(false);
    expect(form.text()).toContain('only for those who give their last one from now on');
    await form.find('input[maxlength="160"]').setValue('Thank you');
    await form.find('textarea').setValue('All are in.');
    server.on('POST /courses/c/items/i/follow-ups', () => ({ id: 'f' }));
    await form.find('form').trigger('submit');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toMatchObject({ meets: 'gave reviews', action: 'message', title: 'Thank you' });
    const wordsAlone = await open(FollowForm, { base, choices: { ...FOLLOW, possible: null } });
    expect(wordsAlone.findAll('select option').map((o) => o.text())).not.toContain('has less than');
  });

  it('gives works out with the way back, and says what could not be filled', async () => {
    const shown = await show_({ drawnAt: null, reviews: [] });
    server.on(`POST ${AT}/draws`, () => board());
    server.on(`DELETE ${AT}/draws/d`, () => board({ drawnAt: null, reviews: [] }));
    await button(shown, 'Give the works out now').trigger('click');
    await flushPromises();
    const notices = useNotices();
    expect(notices.notice?.text).toBe('5 reviews given out; 1 work has too few.');
    await notices.notice?.undo?.();
    await flushPromises();
    expect(shown.text()).toContain('0 of 0 reviews given');
  });

  it('says where it cannot be read, and that an assignment has no reviews', async () => {
    server.on(`GET ${AT}/board`, () => new Refusal(404, 'not-found'));
    const shown = await open(PeerBoardPage, {}, '/courses/c/items/i/reviews');
    expect(shown.text()).toContain('This assignment is not reviewed by students.');
  });

  it('offers an assistant nothing that only instructors may do', async () => {
    server.on(`GET ${AT}/board`, () => board());
    const shown = await open(PeerBoardPage, {}, '/courses/c/items/i/reviews', { ...HEAD, role: 'assistant' });
    expect(shown.text()).not.toContain('By hand');
    expect(shown.text()).not.toContain('Give the results now');
  });

  it('draws what the reviews gave, in words too', async () => {
    const shown = await open(SpreadStrip, { reviews: board().reviews.filter((r) => r.workId === 'w0'), most: 10_000, value: 6000 });
    expect(shown.find('svg').attributes('aria-label')).toBe('5, 0 of 10; together 6');
    expect(shown.findAll('circle').map((c) => c.classes())).toEqual([
      ['dot', 'plain'],
      ['dot', 'far'],
    ]);
    const none = await open(SpreadStrip, { reviews: [], most: 10_000, value: null });
    expect(none.find('svg').attributes('aria-label')).toBe('no review yet');
  });

  it('has its dates on one line, with now', async () => {
    const shown = await open(DatesLine, { dates: board().dates, zone: 'UTC', now: Date.parse('2026-11-18T10:00:00Z') });
    expect(shown.find('svg').attributes('aria-label')).toBe(
      'works due Thu 12 Nov 18:00, reviews due Fri 20 Nov 18:00, results Mon 23 Nov 08:00',
    );
    expect(shown.text()).toContain('now');
  });
});

describe('who reviews whom, by hand', () => {
  it('is found by a name, given from those with the fewest, and taken with the way back', async () => {
    const shown = await open(PairsPart, { board: board(), base: { courseId: 'c', itemId: 'i' } });
    expect(shown.findAll('tbody tr')).toHaveLength(3);
    const options = shown
      .find('select')
      .findAll('option')
      .map((o) => o.text());
    expect(options).toEqual(['one more…', 'Name 3 (0)']);
    await shown.find('input').setValue('name 2');
    expect(shown.findAll('tbody tr').map((r) => r.find('th').text().slice(0, 6))).toEqual(['Name 0', 'Name 1', 'Name 2']);
    server.on(`POST ${AT}/pairs`, () => board());
    await shown.find('select').setValue('e3');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toEqual({ workId: 'w0', reviewerId: 'e3' });
    server.on(`DELETE ${AT}/pairs/r4`, () => board());
    await shown.find('button[aria-label="Name 2 does not review the work of Name 1"]').trigger('click');
    await flushPromises();
    expect(useNotices().notice?.text).toBe('Name 2 does not review it any more.');
  });
});

describe('setting a review aside', () => {
  it('wants a reason first, and has its undo', async () => {
    const [, far] = detail().reviews;
    const shown = await open(AsidePart, { review: far, base: { courseId: 'c', itemId: 'i' } });
    await button(shown, 'Set it aside…').trigger('click');
    expect(button(shown, 'Set it aside').attributes('disabled')).toBeDefined();
    expect(shown.text()).toContain('Say why first');
    await shown.find('textarea').setValue('Not read');
    server.on(`PUT ${AT}/reviews/r2/aside`, () => board());
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toEqual({ isAside: true, reason: 'Not read', keepsCredit: true });
    await useNotices().notice?.undo?.();
    expect(server.sent.at(-1)?.body).toEqual({ isAside: false, reason: '', keepsCredit: true });
  });
});

describe('the teacher’s own assessment', () => {
  it('counts once every criterion is judged, and is kept as a draft before', async () => {
    const shown = await open(AssessPart, { work: detail(), base: { courseId: 'c', itemId: 'i' } });
    expect(shown.text()).toContain('Still to judge: Evidence.');
    await button(shown, 'Excellent').trigger('click');
    server.on(`PUT ${AT}/works/w0/own`, () => detail({ own: { ...NOTHING, version: 1, handedInAt: null } }));
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toMatchObject({ version: 0, isGiven: true, choices: { c1: 'l2' } });
    expect(useNotices().notice?.text).toBe('Your assessment counts.');
  });
});

describe('how it is set', () => {
  it('begins with one press, with dates that follow the works’ due date', async () => {
    server.on(`GET ${AT}`, () => setting({}, false));
    const shown = await open(PeerSettingPage, {}, '/courses/c/items/i/peer');
    server.on(`PUT ${AT}`, () => setting());
    await button(shown, 'Let students review each other').trigger('click');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toMatchObject({
      isOn: true,
      reviewsDueAt: '2026-11-19T18:00:00.000Z',
      resultsAt: '2026-11-22T18:00:00.000Z',
    });
    expect(shown.text()).toContain('It runs by itself');
  });

  it('says what keeps it from running, saves each choice, and shows why one was refused', async () => {
    const faults = [{ field: 'reviewsDueAt', weight: 'mend', text: 'The reviews have no due date. Give them one.' }];
    server.on(`GET ${AT}`, () => setting({ faults, given: 0 }));
    const shown = await open(PeerSettingPage, {}, '/courses/c/items/i/peer');
    expect(shown.text()).toContain('To mend: The reviews have no due date.');
    server.on(`PUT ${AT}`, (sent) => setting({ setting: { ...setting().setting, ...(sent.body as object) } }));
    const selects = shown.findAll('.inspector select');
    await selects[0]?.setValue('outside group');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toMatchObject({ among: 'outside group', version: 1 });
    expect(shown.text()).toContain('choose a set');
    server.on(`PUT ${AT}`, () => new Refusal(422, 'invalid', { detail: 'This set of groups is no longer in the course.' }));
    await shown.findAll('.inspector select')[1]?.setValue('g');
    await flushPromises();
    expect(shown.find('[role="alert"]').text()).toContain('no longer in the course');
  });

  it('shows what each strictness would give where reviews are in', async () => {
    server.on(`GET ${AT}`, () => setting({ given: 6 }));
    server.on(`GET ${AT}/strictness`, () => ({
      effects: ['strict', 'fair'].map((strictness, n) => ({ strictness, words: '', mean: 7000 + n * 1000, least: 2000 })),
    }));
    const shown = await open(PeerSettingPage, {}, '/courses/c/items/i/peer');
    await flushPromises();
    expect(shown.text()).toContain('6 reviews are handed in already');
    expect(shown.find('.inspector table').text()).toContain('fair82');
  });
});

describe('giving a review', () => {
  const PATH = '/courses/c/study/i/reviews/r';
  const own = (more: Partial<OwnReview> = {}): OwnReview => ({
    ...{
      id: 'r',
      itemTitle: 'Restoration plan',
      title: 'First work',
      role: 'peer',
      state: 'to give',
      door: { isOpen: true, isLate: false },
    },
    ...{ dueAt: '2026-11-20T18:00:00Z', prompt: doc, form, leastWords: 0, notes: [], savedAt: null, handedInAt: null, version: 1 },
    work: { attemptId: 'a', document: doc, wordCount: 4, link: '', files: [] },
    ...NOTHING,
    ...more,
  });
  const router = async (more: Partial<OwnReview> = {}): Promise<VueWrapper> => {
    server.on(`GET ${OWN}/r`, () => own(more));
    const at = makeTestRouter();
    at.addRoute({ path: '/courses/:courseId/study/:itemId', name: 'study-item', component: { template: '<div />' } });
    await at.push(PATH);
    const shown = await show(ReviewPage, {}, at, () => {
      (useCourse() as { head: unknown }).head = { ...HEAD, role: 'student' };
    });
    await flushPromises();
    return shown;
  };
  it('goes by keys, saves as it goes, and is handed in once every criterion is judged', async () => {
    const shown = await router();
    expect(shown.text()).toContain('Still to judge: Evidence.');
    server.on(`PUT ${OWN}/r`, () => ({ version: 2, savedAt: '2026-11-18T10:00:00Z' }));
    document.dispatchEvent(new KeyboardEvent('keydown', { key: '3', bubbles: true }));
    await flushPromises();
    server.on(`POST ${OWN}/r/hand-in`, () =>
      own({ handedInAt: '2026-11-18T10:05:00Z', state: 'given', version: 3, choices: { c1: 'l2' } }),
    );
    await button(shown, 'Hand in the review').trigger('click');
    await until(() => shown.text().includes('Handed in'));
    expect(server.sent.find((s) => s.method === 'PUT')?.body).toMatchObject({ version: 1, choices: { c1: 'l2' } });
    expect(server.sent.at(-1)?.body).toEqual({ version: 2 });
    expect(shown.text()).toContain('Handed in Wed 18 Nov 10:05');
  });

  it('keeps what is typed where it cannot be saved, and finds it again', async () => {
    const shown = await router();
    server.on(`PUT ${OWN}/r`, () => new Refusal(500, 'broken'));
    await shown.find('aside textarea[maxlength="20000"]').setValue('Words that must not be lost');
    await flushPromises();
    shown.unmount();
    await flushPromises();
    const again = await router();
    await until(
      () => (again.find('aside textarea[maxlength="20000"]').element as HTMLTextAreaElement).value === 'Words that must not be lost',
    );
  });

  it('shows both where another window saved it too', async () => {
    const shown = await router();
    server.on(`PUT ${OWN}/r`, () => new Refusal(409, 'conflict'));
    server.on(`GET ${OWN}/r`, () => own({ version: 5, words: 'From the other window' }));
    await shown.find('aside textarea[maxlength="20000"]').setValue('From this one');
    await until(() => shown.text().includes('Another window saved this review too'));
    await button(shown, 'Take the other window').trigger('click');
    await until(() => (shown.find('aside textarea[maxlength="20000"]').element as HTMLTextAreaElement).value === 'From the other window');
  });

  it('is read only once it was due', async () => {
    const shown = await router({ door: { isOpen: false, why: 'past', opensAt: null }, handedInAt: '2026-11-17T10:00:00Z', state: 'given' });
    expect(shown.text()).toContain('It was due: what you gave stays as it is.');
    expect(shown.find('fieldset').attributes('disabled')).toBeDefined();
  });
});

describe('the reviews of a student', () => {
  const part = async (more: Partial<OwnPeer> = {}, isLooking = false): Promise<VueWrapper> => {
    server.on(`GET ${OWN}`, () => peer(more));
    const at = makeTestRouter();
    const shown = await show(OwnPeerPart, { base: { courseId: 'c', itemId: 'i' }, isLooking }, at, () => {
      (useCourse() as { head: unknown }).head = { ...HEAD, role: 'student' };
    });
    await flushPromises();
    return shown;
  };
  it('are listed with their state, and lead on where they are open', async () => {
    const shown = await part();
    expect(shown.findAll('li a').map((a) => a.text())).toEqual(['First work']);
    expect(shown.text()).toContain('opens Thu 19 Nov 08:00');
    expect(shown.text()).toContain('names are hidden both ways');
  });

  it('say why there is nothing yet', async () => {
    expect((await part({ owed: [], waits: 'Works are given out when they are due.' })).text()).toContain(
      'Works are given out when they are due.',
    );
  });

  it('are nothing where the assignment has none', async () => {
    server.on(`GET ${OWN}`, () => new Refusal(404, 'not-found'));
    const shown = await show(OwnPeerPart, { base: { courseId: 'c', itemId: 'i' }, isLooking: false });
    await flushPromises();
    expect(shown.text()).toBe('');
  });

  it('that came are read, thanked, answered and reported, with their working', async () => {
    const shown = await part({ received: [received(), received({ id: 't', by: 'Your teacher', isTeacher: true })], work: working });
    for (const words of ['What others saw', 'Reviewer 1', '5 of 10', 'Clear and well ordered.', 'Result of the work'])
      expect(shown.text()).toContain(words);
    const to = '/courses/c/items/i/received-reviews/q';
    server.on(`PUT ${to}`, (sent) => peer({ received: [received({ ...(sent.body as object), answerVersion: 2 })] }));
    await button(shown, 'Thank').trigger('click');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toEqual({ version: 1, answer: '', isThanked: true, reportedWhy: '' });
    await button(shown, 'Report to the teacher').trigger('click');
    expect(shown.text()).toContain('Whoever wrote the review does not.');
    await shown.find('textarea').setValue('It is of another work');
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toMatchObject({ version: 2, reportedWhy: 'It is of another work' });
    expect(shown.text()).toContain('You reported it: It is of another work');
  });

  it('are looked at and not answered by whoever looks as a student', async () => {
    const shown = await part({ received: [received()] }, true);
    expect(shown.findAll('article button')).toHaveLength(0);
  });
});
