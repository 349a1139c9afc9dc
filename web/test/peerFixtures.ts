import type { BoardLine, BoardReview, OwnPeer, PeerBoard, PeerSetting, PeerWork, ReceivedReview } from '@rosemary/api';
import { PEER_BEGINS, type WorkingLine } from '@rosemary/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { useCourse } from '../src/stores/courseStore.ts';
import { makeTestRouter, show } from './mounting.ts';

/** A peer review as its screens read it, and a way to open one of them. */
export const HEAD = {
  id: 'c',
  title: 'Watches',
  role: 'instructor',
  timeZone: 'UTC',
  now: '2026-11-18T10:00:00Z',
  sections: [],
  groups: [],
};
export async function open(
  component: Parameters<typeof show>[0],
  props: object = {},
  path = '/courses/c/items/i',
  head: object = HEAD,
): Promise<VueWrapper> {
  const router = makeTestRouter();
  await router.push(path);
  const shown = await show(component, props, router, () => {
    (useCourse() as { head: unknown }).head = head;
  });
  await flushPromises();
  return shown;
}
export const button = (shown: VueWrapper, words: string) => {
  const found = shown.findAll('button').find((b) => b.text().includes(words));
  if (found === undefined)
    throw new Error(
      `no button “${words}” among: ${shown
        .findAll('button')
        .map((b) => b.text())
        .join(' | ')}`,
    );
  return found;
};

export const form = {
  version: 1,
  criteria: [
    {
      id: 'c1',
      title: 'Evidence',
      form: 'levels' as const,
      levels: [0, 5, 10].map((p, n) => ({
        id: `l${n}`,
        title: ['Not yet', 'Good', 'Excellent'][n] ?? '',
        descriptor: `level ${n}`,
        points: p * 1000,
      })),
    },
    { id: 'c2', title: 'One change', form: 'comment' as const, levels: [] },
  ],
};
export const doc = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Read it whole first.' }] }] };
export const line = (n: number, more: Partial<BoardLine> = {}): BoardLine => ({
  ...{
    enrolmentId: `e${n}`,
    personId: `p${n}`,
    name: `Name ${n}`,
    sectionId: n < 2 ? 'm' : 'e',
    isLate: false,
    workId: `w${n}`,
    isMissing: false,
    owes: 2,
    practised: 0,
  },
  ...{ work: 30_000, reviewing: 9400, bias: 12_000, biasWithin: 30_000, weight: 1100 },
  ...more,
});
export const review = (id: string, by: number, of: number, more: Partial<BoardReview> = {}): BoardReview => ({
  ...{
    id,
    reviewerId: `e${by}`,
    workId: `w${of}`,
    role: 'peer',
    state: 'given',
    isByHand: false,
    total: 5000,
    signs: [],
    keepsCredit: true,
    reportedWhy: '',
  },
  ...more,
});
export const FAR = [{ sign: 'far from the rest' as const, text: '40 % of full marks lower than the others' }];
export const board = (more: Partial<PeerBoard> = {}): PeerBoard => ({
  item: { id: 'i', title: 'Restoration plan', isGroupWork: false, reviewed: 'works' },
  words: 'read by 2 others each · names hidden',
  dates: {
    worksDueAt: '2026-11-12T18:00:00Z',
    reviewsOpenAt: null,
    reviewsDueAt: '2026-11-20T18:00:00Z',
    drawAt: null,
    resultsAt: '2026-11-23T08:00:00Z',
    revisionDueAt: null,
  },
  faults: [],
  samples: 0,
  closing: { version: 1, document: null },
  ...{
    drawnAt: '2026-11-12T18:00:00Z',
    resultsOutAt: null,
    lastDrawId: 'd',
    formMost: 10_000,
    workPossible: 40_000,
    reviewingPossible: 10_000,
  },
  ...{ workFrom: 'consensus', reviewingFrom: 'nearness' },
  lines: [line(0), line(1), line(2), line(3, { workId: null, isMissing: true, work: null, reviewing: null, owes: 0 })],
  works: [0, 1, 2].map((n) => ({
    id: `w${n}`,
    authors: [`e${n}`],
    wanted: 2,
    isOpenBecause: n === 2 ? '1 review too few: only 1 student may review it' : null,
    value: 6000,
    mean: 5000,
    isShown: false,
    isRevised: false,
  })),
  reviews: [
    review('r1', 1, 0),
    review('r2', 2, 0, { total: 0, signs: FAR }),
    review('r3', 0, 1, { state: 'set aside' }),
    review('r4', 2, 1, { state: 'to give', total: null }),
    review('r5', 0, 2, { reportedWhy: 'not of mine' }),
  ],
  agreement: {
    ...{ kappa: 0.61, pairs: 12, icc: { value: 0.5, low: -0.1, high: 0.8 }, works: 9 },
    working: [
      {
        ...{ rule: 'Weighted kappa: the mean over the criteria, each by its pairs', value: '0.61', look: 'sum', itemId: null },
        lines: [{ rule: 'The reason, 12 pairs: 1 − 0.39 ÷ 1.00', value: '0.61', look: 'plain', itemId: null, lines: [] }],
      },
    ],
  },
  outdated: 0,
  ...more,
});
export const working: WorkingLine = { rule: 'Result of the work', value: '30 of 40', look: 'sum', itemId: null, lines: [] };
export const NOTHING = { choices: {}, given: {}, comments: {}, words: '' };
export const detail = (more: Partial<PeerWork> = {}): PeerWork => ({
  ...{ id: 'w0', authors: ['Name 0'], leadId: 'e0', form, own: null, working },
  ...{ leave: { toClass: 'no', toLater: false }, showing: null, revised: null },
  criteria: [{ id: 'c1', title: 'Evidence', most: 10_000, result: 6000 }],
  reviews: [
    {
      ...NOTHING,
      id: 'r1',
      by: 'Name 1',
      role: 'peer',
      state: 'given',
      points: { c1: 5000 },
      total: 5000,
      seconds: 300,
      wordCount: 30,
      signs: [],
      notes: [],
      answered: [],
      setAsideWhy: '',
      keepsCredit: true,
      answer: 'I see.',
      isThanked: true,
      reportedWhy: '',
    },
    {
      ...NOTHING,
      id: 'r2',
      by: 'Name 2',
      role: 'peer',
      state: 'given',
      points: { c1: 0 },
      total: 0,
      seconds: 40,
      wordCount: 2,
      signs: FAR,
      notes: [],
      answered: [],
      setAsideWhy: '',
      keepsCredit: true,
      answer: '',
      isThanked: false,
      reportedWhy: '',
    },
  ],
  ...more,
});

export const setting = (more: object = {}, isOn = true): PeerSetting => ({
  item: { id: 'i', title: 'Restoration plan', possible: 40_000, dueAt: '2026-11-12T18:00:00Z', isDraft: false, reviewed: 'works' },
  setting: {
    ...PEER_BEGINS,
    ...{ version: isOn ? 1 : 0, isOn, prompt: doc, groupSetId: null, reviewing: { possible: 10_000, categoryId: null } },
    ...{ reviewsOpenAt: null, reviewsDueAt: null, drawAt: null, resultsAt: null, revisionDueAt: null, otherDates: [] },
  },
  form,
  ...{
    faults: [],
    drawnAt: null,
    resultsOutAt: null,
    given: 0,
    students: 20,
    works: 0,
    samples: [],
    groupSets: [{ id: 'g', title: 'Pairs' }],
    categories: [],
  },
  ...more,
});
export const received = (more: Partial<ReceivedReview> = {}): ReceivedReview => ({
  ...{
    id: 'q',
    by: 'Reviewer 1',
    isOwn: false,
    isTeacher: false,
    form,
    total: 5000,
    notes: [],
    answered: [],
    answer: '',
    isThanked: false,
    reportedWhy: '',
    answerVersion: 1,
  },
  ...NOTHING,
  ...{ choices: { c1: 'l1' }, words: 'Clear and well ordered.' },
  ...more,
});
export const peer = (more: Partial<OwnPeer> = {}): OwnPeer => ({
  ...{ prompt: doc, worksDueAt: null, reviewsOpenAt: null, reviewsDueAt: '2026-11-20T18:00:00Z', resultsAt: null, owes: 2, waits: null },
  owed: [
    { id: 'r', role: 'peer', title: 'First work', state: 'to give', door: { isOpen: true, isLate: false } },
    {
      id: 's',
      role: 'peer',
      title: 'Second work',
      state: 'to give',
      door: { isOpen: false, why: 'not yet', opensAt: Date.parse('2026-11-19T08:00:00Z') },
    },
  ],
  ...{ showsAuthors: false, showsReviewers: false, received: null, work: null, reviewing: null },
  ...{ samples: [], samplesWhen: 'any time', leave: null, shown: [], closing: null, revisionDueAt: null },
  ...more,
});
