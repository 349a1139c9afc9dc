import { PEER_BEGINS, PEER_FORM, peerFaults, type LookedAtPeer } from './setting.ts';
import { reviewDoor, reviewsOpenFor, reviewState, type Standing } from './reviewTimes.ts';
import { pointsByCriterion, scoredCriteria, sumOfReview } from './reviewScores.ts';

const DAY = 86_400_000;
const looked = (more: Partial<LookedAtPeer> = {}): LookedAtPeer => ({
  ...PEER_BEGINS,
  ...{ worksDueAt: 10 * DAY, reviewsOpenAt: null, reviewsDueAt: 17 * DAY, resultsAt: 20 * DAY, drawAt: null, isDraft: false },
  ...{
    criteria: 4,
    scoredCriteria: 3,
    takesWork: true,
    reviewed: 'works' as const,
    isInPoints: true,
    hasGroupSet: false,
    isGroupWork: false,
    students: 24,
    works: 0,
  },
  ...{ sampleWorks: 0, areSamplesAssessed: true },
  ...more,
});
const fields = (more: Partial<LookedAtPeer>): string[] => peerFaults(looked(more)).map((f) => `${f.weight} ${f.field}`);

describe('what keeps a peer review from running', () => {
  it('is nothing where it has its dates, its form and its people', () => {
    expect(peerFaults(looked())).toEqual([]);
  });

  it('names each thing that is missing or out of order, with the field that mends it', () => {
    expect(fields({ worksDueAt: null })).toEqual(['mend worksDueAt']);
    expect(fields({ reviewsDueAt: null })).toEqual(['mend reviewsDueAt']);
    expect(fields({ reviewsDueAt: 9 * DAY })).toContain('mend reviewsDueAt');
    expect(fields({ resultsAt: 12 * DAY })).toEqual(['mend resultsAt']);
    expect(fields({ resultsAt: null })).toEqual(['look resultsAt']);
    expect(fields({ reviewsOpen: 'time' })).toEqual(['mend reviewsOpenAt']);
    expect(fields({ reviewsOpen: 'time', reviewsOpenAt: 18 * DAY })).toEqual(['mend reviewsOpenAt']);
    expect(fields({ drawing: 'time' })).toEqual(['mend drawAt']);
    expect(fields({ takesWork: false })).toEqual(['mend work']);
    expect(fields({ isInPoints: false })).toEqual(['mend work']);
    expect(fields({ isInPoints: false, workFrom: 'teacher' })).toEqual([]);
    expect(fields({ among: 'outside group' })).toEqual(['mend among']);
    expect(fields({ isDraft: true })).toEqual(['look isDraft']);
  });

  it('says so where there are too few people for it', () => {
    expect(fields({ students: 1 })).toEqual(['mend reviewsPerWork']);
    expect(peerFaults(looked({ students: 2 })).map((f) => f.text)).toEqual([
      'Each work is to get 3 reviews, but there is only 1 other. Each work gets 1.',
    ]);
    expect(fields({ reviewsPerStudent: 2 })).toEqual(['look reviewsPerWork']);
    expect(fields({ students: 1, ownWork: 'alone' })).toEqual([]);
  });

  it('looks at the form: no criteria, or words alone where points are wanted', () => {
    expect(fields({ criteria: 0, scoredCriteria: 0 })).toEqual(['mend form']);
    expect(fields({ scoredCriteria: 0 })).toEqual(['mend form']);
    expect(fields({ scoredCriteria: 0, workFrom: 'teacher' })).toEqual(['mend form']);
    expect(fields({ scoredCriteria: 0, workFrom: 'teacher', reviewingFrom: 'done' })).toEqual([]);
  });

  it('wants sample works that are to be practised first, each assessed', () => {
    expect(fields({ samples: 'before' })).toEqual(['mend samples']);
    expect(fields({ sampleWorks: 2, areSamplesAssessed: false })).toEqual(['mend samples']);
  });
});

describe('the form it begins with', () => {
  it('has three criteria of ten points and a closing word', () => {
    const criteria = PEER_FORM.criteria.map((c, n) => ({ id: `${n}`, ...c, levels: c.levels.map((l, m) => ({ id: `${n}${m}`, ...l })) }));
    expect(scoredCriteria(criteria)).toHaveLength(3);
    const points = pointsByCriterion(criteria, { 0: '03', 1: '12', 2: '99' }, {});
    expect(points).toEqual({ 0: 10_000, 1: 7000 });
    expect(sumOfReview({ points })).toBe(17_000);
  });
});

describe('whether a review can be given', () => {
  const dates = { worksDueAt: 10, reviewsOpenAt: 12, reviewsDueAt: 20 };
  const standing: Standing = { hasHandedIn: true, owed: 3, given: 0, ownIsAssessed: false, samples: 0, samplesAssessed: 0 };
  const door = (
    more: Partial<typeof PEER_BEGINS>,
    at: number,
    who: Partial<Standing> = {},
    role: 'peer' | 'self' | 'sample' = 'peer',
    hasGiven = false,
  ) => {
    const found = reviewDoor({ ...PEER_BEGINS, ...more }, dates, { ...standing, ...who }, role, hasGiven, at);
    return found.isOpen ? `open${found.isLate ? ', late' : ''}` : `${found.why} ${found.opensAt ?? ''}`.trim();
  };
  it('opens with the works’ due date, at a time, or at once', () => {
    expect(reviewsOpenFor({ reviewsOpen: 'own work' }, dates)).toBeNull();
    expect(door({}, 9)).toBe('not yet 10');
    expect(door({}, 10)).toBe('open');
    expect(door({ reviewsOpen: 'time' }, 11)).toBe('not yet 12');
    expect(door({ reviewsOpen: 'own work' }, 1)).toBe('open');
  });

  it('wants one’s own work in first, where that is asked for', () => {
    expect(door({}, 11, { hasHandedIn: false })).toBe('hand in first');
    expect(door({ needsOwnWork: false }, 11, { hasHandedIn: false })).toBe('open');
    expect(door({ needsOwnWork: false }, 11, { hasHandedIn: false }, 'self')).toBe('hand in first');
  });

  it('is late after the due date, or shut where late ones are not taken; one that was given stays as it is', () => {
    expect(door({}, 20)).toBe('open');
    expect(door({}, 21)).toBe('open, late');
    expect(door({ takesLateReviews: false }, 21)).toBe('past');
    expect(door({}, 21, {}, 'peer', true)).toBe('past');
  });

  it('keeps the order of sample works, one’s own and the others', () => {
    expect(door({ samples: 'before' }, 11, { samples: 2, samplesAssessed: 1 })).toBe('samples first');
    expect(door({ samples: 'before' }, 11, { samples: 2, samplesAssessed: 2 })).toBe('open');
    expect(door({ samples: 'after' }, 11, { samples: 2 }, 'sample')).toBe('others first');
    // After one’s reviews, or once they are due, for those who were given none.
    expect(door({ samples: 'after' }, 11, { owed: 3, given: 3 }, 'sample')).toBe('open');
    expect(door({ samples: 'after' }, 11, { owed: 0 }, 'sample')).toBe('others first');
    expect(door({ samples: 'after' }, 21, { owed: 0 }, 'sample')).toBe('open');
    expect(door({ samples: 'after', ownWork: 'alone' }, 11, { owed: 0, ownIsAssessed: true }, 'sample')).toBe('open');
    // What was compared with the teacher’s stays as it was.
    expect(door({}, 11, {}, 'sample', true)).toBe('past');
    expect(door({ ownWork: 'first' }, 11)).toBe('own work first');
    expect(door({ ownWork: 'last' }, 11, {}, 'self')).toBe('others first');
    expect(door({ ownWork: 'last' }, 11, { given: 3 }, 'self')).toBe('open');
  });

  it('has a state that is derived', () => {
    const at = (isGiven: boolean, isBegun: boolean, isSetAside: boolean, now: number) =>
      reviewState({ isGiven, isBegun, isSetAside }, 20, now);
    expect([
      at(false, false, false, 1),
      at(false, true, false, 1),
      at(true, true, false, 1),
      at(false, true, false, 21),
      at(true, true, true, 21),
    ]).toEqual(['to give', 'begun', 'given', 'missing', 'set aside']);
  });
});
