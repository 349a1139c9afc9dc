/** @jest-environment ../scripts/jsdomForJest.mjs */
import 'fake-indexeddb/auto';
import type { OwnPeer, OwnSample, PeerSample, SampleSource, ThisWeek } from '@rosemary/api';
import { flushPromises } from '@vue/test-utils';
import DifferenceView from '../src/parts/DifferenceView.vue';
import DocumentEditor from '../src/parts/DocumentEditor.vue';
import ClosingPart from '../src/peer/ClosingPart.vue';
import OwnPeerPart from '../src/peer/OwnPeerPart.vue';
import PeerInspector from '../src/peer/PeerInspector.vue';
import PeerSamplePage from '../src/peer/PeerSamplePage.vue';
import PracticeCompared from '../src/peer/PracticeCompared.vue';
import SamplePage from '../src/peer/SamplePage.vue';
import SamplesPart from '../src/peer/SamplesPart.vue';
import ShownWorkPage from '../src/peer/ShownWorkPage.vue';
import ShowPart from '../src/peer/ShowPart.vue';
import TakeWorkDialog from '../src/peer/TakeWorkDialog.vue';
import { setHooks } from '../src/platform/http.ts';
import { keepFor } from '../src/platform/kept.ts';
import { useNotices } from '../src/stores/noticeStore.ts';
import ThisWeekPage from '../src/student/ThisWeekPage.vue';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { board, button, detail, doc, form, HEAD, NOTHING, open, peer, received, setting } from './peerFixtures.ts';
import { boardLines } from '../src/peer/boardLines.ts';
import { fakeServer, quietHooks, Refusal, until } from './server.ts';

/** What surrounds the reviews in the interface: sample works, leave, works that are shown, a closing word, a revision. */
let server: ReturnType<typeof fakeServer>;
let readers = 0;
beforeEach(() => {
  beginMounting();
  localStorage.clear();
  keepFor(`practising reader ${(readers += 1)}`);
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);

const AT = '/courses/c/items/i/peer';
const BASE = { courseId: 'c', itemId: 'i' };
const STUDENT = { ...HEAD, role: 'student' };

describe('sample works in the setting', () => {
  const samples = [
    { id: 's1', title: 'A good one', wordCount: 210, unjudged: [], practised: 3 },
    { id: 's2', title: 'A short one', wordCount: 12, unjudged: ['Evidence'], practised: 0 },
  ];
  const part = (more: object = {}) =>
    open(SamplesPart, { found: setting({ samples }), base: BASE, canEdit: true, set: () => Promise.resolve(true), ...more });

  it('say what students see of them, and when they are practised', async () => {
    const asked: object[] = [];
    const shown = await part({ set: (change: object) => Promise.resolve(asked.push(change) > 0) });
    expect(shown.text()).toContain('assessed; 3 students have practised on it');
    expect(shown.text()).toContain('students do not see it yet: you have not judged Evidence');
    await shown.find('select').setValue('before');
    expect(asked).toEqual([{ samples: 'before' }]);
  });

  it('are written, and deleted with a way back', async () => {
    const shown = await part();
    server.on(`POST ${AT}/samples`, () => ({ id: 's3' }));
    await button(shown, 'Write a sample work').trigger('click');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toEqual({ from: null });
    server.on(`PUT ${AT}/samples/s1/removed`, () => setting({ samples: [] }));
    await shown.find('[aria-label="Delete “A good one”"]').trigger('click');
    await flushPromises();
    expect(useNotices().notice?.text).toBe('“A good one” deleted.');
    await useNotices().notice?.undo?.();
    expect(server.sent.filter((s) => s.path.endsWith('/removed')).map((s) => s.body)).toEqual([{ isRemoved: true }, { isRemoved: false }]);
  });

  it('are looked at by whoever may not change them', async () => {
    const shown = await part({ canEdit: false });
    expect(shown.findAll('button')).toHaveLength(0);
    expect(shown.text()).toContain('A good one');
  });
});

describe('a work of another course', () => {
  const source = (more: Partial<SampleSource> = {}): SampleSource => ({
    ...{ submissionId: 'w', course: 'HOR-110 spring', itemTitle: 'Strip-down log', author: 'Aino Lind' },
    ...{ result: 58_500, possible: 60_000, wordCount: 112, files: 1, hasLeave: true },
    ...more,
  });
  const dialog = async (sources: readonly SampleSource[]) => {
    server.on(`GET ${AT}/sample-sources`, () => ({ sources }));
    const shown = await open(TakeWorkDialog, { base: BASE });
    await flushPromises();
    return shown;
  };

  it('is taken by its authors’ leave', async () => {
    const shown = await dialog([source()]);
    expect(shown.text()).toContain('58.5 of 60 · 112 words · 1 file');
    expect(shown.text()).toContain('Choose a work.');
    await button(shown, 'Strip-down log').trigger('click');
    server.on(`POST ${AT}/samples`, () => ({ id: 'made' }));
    await button(shown, 'Take it').trigger('click');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toEqual({ from: { submissionId: 'w', saysLeave: false } });
    expect(shown.emitted('taken')).toEqual([['made']]);
  });

  it('without leave is taken only once the teacher says that it was given, and the reason stands beside', async () => {
    const shown = await dialog([source({ hasLeave: false })]);
    await button(shown, 'Strip-down log').trigger('click');
    expect(button(shown, 'Take it').attributes('disabled')).toBeDefined();
    expect(shown.text()).toContain('It needs its author’s leave.');
    await shown.find('input[type=checkbox]').setValue(true);
    server.on(`POST ${AT}/samples`, () => new Refusal(409, 'not-now', { detail: '“log.pdf” cannot be read.' }));
    await button(shown, 'Take it').trigger('click');
    await flushPromises();
    expect(shown.find('[role=alert]').text()).toContain('“log.pdf” cannot be read.');
    expect(shown.emitted('taken')).toBeUndefined();
  });

  it('is not found by other words, or there is none', async () => {
    expect((await dialog([])).text()).toContain('No work of another course of yours has its result out yet.');
  });
});

describe('a sample work as the teacher assesses it', () => {
  const sample = (more: Partial<PeerSample> = {}): PeerSample => ({
    ...{ id: 's', itemTitle: 'Restoration plan', title: 'A short plan', document: doc, origin: 'written here', form },
    ...{ unjudged: ['Evidence'], practised: 0, version: 1 },
    ...NOTHING,
    ...more,
  });
  const page = async (more: Partial<PeerSample> = {}) => {
    server.on(`GET ${AT}/samples/s`, () => sample(more));
    const router = makeTestRouter();
    await router.push('/courses/c/items/i/peer/samples/s');
    return open(PeerSamplePage, {}, '/courses/c/items/i/peer/samples/s');
  };

  it('is saved as it is judged, and says until when students do not see it', async () => {
    const shown = await page();
    expect(shown.text()).toContain('Students do not see it yet. Still to judge: Evidence.');
    server.on(`PUT ${AT}/samples/s`, (sent) => sample({ ...(sent.body as object), version: 2, unjudged: [] }));
    await button(shown, 'Excellent').trigger('click');
    await until(() => server.sent.some((s) => s.method === 'PUT'));
    expect(server.sent.find((s) => s.method === 'PUT')?.body).toMatchObject({ version: 1, title: 'A short plan', choices: { c1: 'l2' } });
    expect(shown.text()).toContain('It is assessed: students can practise on it');
  });

  it('that was taken is to be read for names', async () => {
    expect((await page({ origin: 'taken from “Strip-down log, HOR-110 spring”' })).text()).toContain('Read the text itself for names');
  });

  it('cannot be opened where it is deleted', async () => {
    server.on(`GET ${AT}/samples/s`, () => new Refusal(404, 'not-found', { detail: 'It is not here.' }));
    expect((await open(PeerSamplePage, {}, '/courses/c/items/i/peer/samples/s')).text()).toContain('This sample work cannot be opened');
  });
});

describe('practice', () => {
  const OWN = '/courses/c/items/i/own-samples/s';
  const own = (more: Partial<OwnSample> = {}): OwnSample => ({
    ...{ id: 's', itemTitle: 'Restoration plan', title: 'A short plan', door: { isOpen: true, isLate: false }, prompt: doc, form },
    ...{ document: doc, wordCount: 4, savedAt: null, handedInAt: null, version: 0, teacher: null },
    ...NOTHING,
    ...more,
  });
  const page = async (more: Partial<OwnSample> = {}) => {
    server.on(`GET ${OWN}`, () => own(more));
    return open(SamplePage, {}, '/courses/c/study/i/samples/s', STUDENT);
  };

  it('is saved as it is typed, and compared once every criterion is judged', async () => {
    const shown = await page();
    expect(shown.text()).toContain('It counts nothing.');
    expect(button(shown, 'Compare with').attributes('disabled')).toBeDefined();
    server.on(`PUT ${OWN}`, () => ({ version: 1, savedAt: '2026-11-18T10:00:00Z' }));
    await button(shown, 'Excellent').trigger('click');
    const teacher = { ...NOTHING, choices: { c1: 'l0' }, comments: { c2: 'Say why.' }, words: 'Not much yet.' };
    server.on(`POST ${OWN}/compare`, () =>
      own({
        choices: { c1: 'l2' },
        version: 2,
        handedInAt: '2026-11-18T10:01:00Z',
        teacher,
        door: { isOpen: false, why: 'past', opensAt: null },
      }),
    );
    await button(shown, 'Compare with').trigger('click');
    await until(() => shown.text().includes('You and the teacher'));
    expect(server.sent.at(-1)?.body).toEqual({ version: 1 });
    for (const words of ['You: 2 levels higher than the teacher', '0 of 1 criteria as the teacher', 'Say why.', 'Not much yet.'])
      expect(shown.text()).toContain(words);
  });

  it('is refused with its reason, and nothing typed is lost', async () => {
    const shown = await page({ choices: { c1: 'l1' } });
    server.on(`PUT ${OWN}`, () => ({ version: 1, savedAt: '2026-11-18T10:00:00Z' }));
    server.on(`POST ${OWN}/compare`, () => new Refusal(409, 'not-now', { detail: 'Review the works of the others first.' }));
    await shown.find('textarea[maxlength="20000"]').setValue('Mine');
    await button(shown, 'Compare with').trigger('click');
    await until(() => shown.findAll('[role=alert]').some((a) => a.text().includes('Review the works of the others first.')));
    expect((shown.find('textarea[maxlength="20000"]').element as HTMLTextAreaElement).value).toBe('Mine');
  });

  it('leaves out of the comparison what only one of the two judged', async () => {
    const shown = await open(PracticeCompared, { form, mine: NOTHING, teacher: { ...NOTHING, choices: { c1: 'l1' } } });
    expect(shown.text()).toContain('0 of 0 criteria as the teacher');
    expect(shown.text()).not.toContain('You');
  });
});

describe('the author of a work', () => {
  const part = async (more: Partial<OwnPeer> = {}, isLooking = false) => {
    server.on('GET /courses/c/items/i/own-reviews', () => peer(more));
    const router = makeTestRouter();
    const shown = await show(OwnPeerPart, { base: BASE, isLooking }, router);
    await flushPromises();
    return shown;
  };

  it('says who may read it, and takes that back', async () => {
    const leave = { version: 0, toClass: 'no' as const, toLater: false };
    const shown = await part({ leave });
    server.on('PUT /courses/c/items/i/own-leave', (sent) => peer({ leave: { ...leave, ...(sent.body as object), version: 1 } }));
    await shown.find('.own-leave select').setValue('without name');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toEqual({ version: 0, toClass: 'without name', toLater: false });
    await useNotices().notice?.undo?.();
    expect(server.sent.at(-1)?.body).toEqual({ version: 1, toClass: 'no', toLater: false });
  });

  it('practises, reads the closing word and the works that are shown', async () => {
    const shown = await part({
      samples: [
        { id: 's', role: 'sample', title: 'A short plan', state: 'to give', door: { isOpen: true, isLate: false } },
        { id: 't', role: 'sample', title: 'Another', state: 'given', door: { isOpen: false, why: 'past', opensAt: null } },
      ],
      ...{ samplesWhen: 'before', received: [], closing: doc },
      shown: [{ workId: 'w', by: 'A work of your class', isOwn: false, words: 'Look at the order.' }],
    });
    const links = shown.findAll('a').map((a) => [a.text(), a.attributes('href')]);
    expect(links).toContainEqual(['A short plan', '/courses/c/study/i/samples/s']);
    expect(links).toContainEqual(['A work of your class', '/courses/c/study/i/shown/w']);
    for (const words of [
      'These come first',
      'to practise on',
      'compared with the teacher’s',
      'What your teacher says to everybody',
      'Look at the order.',
    ])
      expect(shown.text()).toContain(words);
  });

  it('says which points of a review were taken up, where the work can be revised', async () => {
    const note = {
      id: 'n',
      attemptId: 'a',
      fileId: null,
      anchor: { kind: 'text' as const, from: 1, to: 4 },
      quote: 'wheel',
      body: 'Which?',
      version: 1,
    };
    const one = received({ comments: { c2: 'Say why.' }, notes: [note] });
    const shown = await part({ received: [one], revisionDueAt: '2126-12-01T10:00:00Z' });
    expect(shown.text()).toContain('hand it in once more until');
    server.on('PUT /courses/c/items/i/received-reviews/q/points', () =>
      peer({ received: [{ ...one, answered: ['n'] }], revisionDueAt: '2026-12-01T10:00:00Z' }),
    );
    const ticks = shown.findAll('.review-shown input[type=checkbox]');
    expect(ticks).toHaveLength(2);
    await ticks[1]?.setValue(true);
    await flushPromises();
    expect(server.sent.at(-1)?.body).toEqual({ point: { noteId: 'n' }, isAnswered: true });
    // Without a date for a revision nothing is asked.
    expect((await part({ received: [one] })).findAll('.review-shown input[type=checkbox]')).toHaveLength(0);
  });

  it('reads a work that is shown, or learns that it is shown no more', async () => {
    const work = { attemptId: 'a', document: doc, wordCount: 4, link: '', files: [] };
    server.on('GET /courses/c/items/i/shown-works/w', () => ({
      workId: 'w',
      by: 'Aino Lind',
      isOwn: false,
      words: 'Look.',
      itemTitle: 'Plan',
      work,
    }));
    const shown = await open(ShownWorkPage, {}, '/courses/c/study/i/shown/w', STUDENT);
    for (const words of ['Aino Lind', 'Look.', 'Read it whole first.']) expect(shown.text()).toContain(words);
    server.on('GET /courses/c/items/i/shown-works/w', () => new Refusal(404, 'not-found', { detail: 'It is not here.' }));
    expect((await open(ShownWorkPage, {}, '/courses/c/study/i/shown/w', STUDENT)).text()).toContain('This work is not shown');
  });
});

describe('the teacher at a work', () => {
  const part = (more: object = {}) => open(ShowPart, { work: detail(more), base: BASE });

  it('shows it to the class only with leave, and hides it again', async () => {
    const shown = await part();
    expect(shown.text()).toContain('Its author has not said that it may be shown.');
    await button(shown, 'Show to the class').trigger('click');
    expect(button(shown, 'Show it').attributes('disabled')).toBeDefined();
    const ticks = shown.findAll('input[type=checkbox]');
    await ticks[1]?.setValue(true);
    await shown.find('textarea').setValue('Look at the order.');
    server.on(`PUT ${AT}/works/w0/shown`, () => detail());
    await shown.find('form').trigger('submit');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toEqual({ isShown: true, isNamed: false, saysLeave: true, words: 'Look at the order.' });
    await useNotices().notice?.undo?.();
    expect(server.sent.at(-1)?.body).toMatchObject({ isShown: false });
    const showing = { isShown: true, isNamed: true, saysLeave: false, words: '', version: 1 };
    const hidden = await part({ leave: { toClass: 'with name', toLater: false }, showing });
    expect(hidden.text()).toContain('Shown to the class with the name.');
    await button(hidden, 'Hide it').trigger('click');
    await flushPromises();
    expect(server.sent.at(-1)?.body).toMatchObject({ isShown: false, isNamed: true });
  });

  it('sees what was revised and which points were taken up', async () => {
    const after = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Read it whole first, twice.' }] }] };
    const [first] = detail().reviews;
    server.on(`GET ${AT}/works/w0`, () =>
      detail({
        revised: { before: doc, after, number: 1 },
        reviews: first === undefined ? [] : [{ ...first, comments: { c2: 'Say why.' }, answered: ['c2'] }],
      }),
    );
    server.on(`GET ${AT}/reviewers/e0`, () => ({ working: null, reviews: 0, traits: [] }));
    const [shown] = boardLines(board());
    const inspector = await open(PeerInspector, { board: board(), shown, base: BASE, canEdit: true });
    await flushPromises();
    for (const words of ['Revised after the reviews', 'Paragraphs that differ from attempt 1: 1 replaced.', 'taken up', 'As PDF'])
      expect(inspector.text()).toContain(words);
  });

  it('says a closing word that is saved as it is typed', async () => {
    const shown = await open(ClosingPart, { closing: { version: 1, document: doc }, base: BASE, isOut: false, canEdit: true });
    expect(shown.text()).toContain('students read it once results are out');
    const out = await open(ClosingPart, { closing: { version: 1, document: doc }, base: BASE, isOut: true, canEdit: true });
    expect(out.text()).toContain('students read it with their reviews');
  });

  it('keeps a closing word through a reload, and asks which of two windows holds', async () => {
    const mine = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Well read, all of you.' }] }] };
    const theirs = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Read slower.' }] }] };
    const props = { closing: { version: 1, document: null }, base: BASE, isOut: true, canEdit: true };
    server.on(`PUT ${AT}/closing`, () => new Refusal(409, 'conflict'));
    server.on(`GET ${AT}/board`, () => board({ closing: { version: 2, document: theirs } }));
    const shown = await open(ClosingPart, props);
    shown.findComponent(DocumentEditor).vm.$emit('change', mine);
    await until(() => shown.text().includes('Another window saved this closing word too.'));
    expect(shown.text()).toContain('Read slower.');
    // Reloaded before it is settled, what was typed is there and is saved.
    const again = await open(ClosingPart, props);
    await until(() => JSON.stringify(again.findComponent(DocumentEditor).vm.$props).includes('Well read, all of you.'));
    server.on(`PUT ${AT}/closing`, () => ({ closing: { version: 3, document: mine } }));
    await button(shown, 'Keep this one').trigger('click');
    await until(() => server.sent.some((s) => s.method === 'PUT' && (s.body as { version: number }).version === 2));
    await until(() => shown.text().includes('Saved'));
  });
});

describe('what changed between two attempts', () => {
  const text = (...lines: string[]) => ({
    type: 'doc',
    content: lines.map((t) => ({ type: 'paragraph', content: [{ type: 'text', text: t }] })),
  });
  it('is said by kind, and a moved paragraph is not shown as new', async () => {
    const shown = await open(DifferenceView, {
      before: text('One', 'Two', 'Three', 'Four'),
      after: text('Three', 'Four', 'One', 'Five'),
      since: 'attempt 2',
    });
    expect(shown.text()).toContain('Paragraphs that differ from attempt 2: 1 added, 1 deleted, 1 moved.');
    expect(shown.find('p.moved').text()).toContain('moved here');
    expect(shown.find('p.moved ins').exists()).toBe(false);
  });
});

describe('this week', () => {
  it('names the reviews a student is to give', async () => {
    const week: ThisWeek = {
      ...{ heading: 'Wednesday', due: [], overdue: [], back: [], next: [], timeZone: 'UTC', now: '2026-11-18T10:00:00Z' },
      reviews: [
        { itemId: 'i', courseId: 'c', course: 'Watches', title: 'Plan', dueAt: '2026-11-20T18:00:00Z', given: 1, all: 3, isPast: false },
        { itemId: 'k', courseId: 'c', course: 'Watches', title: 'Report', dueAt: '2026-11-16T18:00:00Z', given: 0, all: 2, isPast: true },
      ],
    };
    server.on('GET /this-week', () => week);
    const router = makeTestRouter();
    const shown = await show(ThisWeekPage, {}, router);
    await flushPromises();
    const lines = shown.findAll('li.review').map((l) => l.text().replace(/\s+/g, ' '));
    expect(lines[0]).toContain('Watches · due Fri 20 Nov 18:00');
    expect(lines[0]).toContain('1 of 3 reviews given');
    expect(lines[1]).toContain('were due Mon 16 Nov 18:00');
  });
});
