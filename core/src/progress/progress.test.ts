import fc from 'fast-check';
import { ratio } from '../exact/ratio.ts';
import { DOINGS } from '../items/doing.ts';
import { howFar } from './howFar.ts';
import { alignedShares, type AlignedPart, attainmentOf, howCounted } from './objectiveSpread.ts';
import { activityOf, classDays, type DayOfActivity, doingsOfBits, hoursOfBits, rhythmWords, weekdayOf, weekHours } from './rhythm.ts';
import { shareOfSteps, stepAt, stepOf, STEP_WORDS } from './steps.ts';
import { changesOf, placedShares, spreadOf } from './workSpread.ts';

describe('a step', () => {
  const standing = { isFor: true, isRequired: true, isDue: true, isDone: true };
  it.each([
    [standing, '1'],
    [{ ...standing, isDone: false }, '0'],
    [{ ...standing, isDue: false }, '.'],
    [{ ...standing, isFor: false }, '-'],
    [{ ...standing, isRequired: false }, 'd'],
    [{ ...standing, isRequired: false, isDone: false }, 'n'],
    // What is done before it is open to them counts once it is.
    [{ ...standing, isDue: false, isRequired: false }, '.'],
  ])('of %j is %s', (given, sign) => {
    expect(stepOf(given)).toBe(sign);
    expect(STEP_WORDS[stepOf(given)]).not.toBe('');
  });
  it('beyond the end of the signs is for nobody', () => {
    expect([stepAt('1', 1), stepAt('1', -1), stepAt('?', 0)]).toEqual(['-', '-', '-']);
  });
});

describe('a share of steps', () => {
  it('counts what is required and open, by items or by minutes', () => {
    expect(shareOfSteps('110.', [0, 1, 2, 3], [10, 10, 40, 10], 'items')).toEqual(ratio(2, 3));
    expect(shareOfSteps('110.', [0, 1, 2, 3], [10, 10, 40, 10], 'minutes')).toEqual(ratio(1, 3));
  });
  it('is none where nothing is open, and leaves out what is not required or not for them', () => {
    expect(shareOfSteps('.-nd', [0, 1, 2, 3], [1, 1, 1, 1], 'items')).toBeNull();
    expect(shareOfSteps('', [], [], 'items')).toBeNull();
  });
  it('lies between 0 and 1, whatever the signs', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('-', '.', '0', '1', 'n', 'd'), { maxLength: 40 }), (signs) => {
        const share = shareOfSteps(
          signs.join(''),
          signs.map((_, n) => n),
          signs.map((_, n) => n + 1),
          'minutes',
        );
        const open = signs.filter((s) => s === '0' || s === '1').length;
        expect(share === null).toBe(open === 0);
        if (share !== null) expect(share.compare(0) >= 0 && share.compare(1) <= 0).toBe(true);
      }),
    );
  });
});

describe('how far a class is', () => {
  const people = [{ steps: '11' }, { steps: '10' }, { steps: '..' }];
  const far = howFar(people, [0, 1], [{ id: 'second', places: [1] }], [5, 5], 'items');
  it('is the mean over those who have something open, in all and by part', () => {
    expect(far.class.all).toEqual(ratio(3, 4));
    expect(far.class.parts).toEqual([ratio(1, 2)]);
    expect([far.counted, far.people.map((p) => p.all)]).toEqual([2, [ratio(1), ratio(1, 2), null]]);
  });
  it('names everybody who is furthest, and nobody before anything is done', () => {
    expect(far.furthest).toEqual([0]);
    expect(howFar([{ steps: '1' }, { steps: '1' }], [0], [], [1], 'items').furthest).toEqual([0, 1]);
    expect(howFar([{ steps: '0' }, { steps: '.' }], [0], [], [1], 'items').furthest).toEqual([]);
  });
  it('of nobody is nothing', () => {
    expect(howFar([], [0], [], [1], 'items')).toEqual({ people: [], class: { all: null, parts: [] }, furthest: [], counted: 0 });
  });
});

describe('results of a piece of work', () => {
  it('are the shares of those who have a number, at their places', () => {
    expect(placedShares([5000, 'exempt', 10_000, null, 'missing', 'outside'], 10_000)).toEqual([
      { place: 0, share: 0.5 },
      { place: 2, share: 1 },
    ]);
  });
  it('may lie below nothing and above everything; without points there is no share', () => {
    expect(placedShares([-1000, 12_000], 10_000).map((r) => r.share)).toEqual([-0.1, 1.2]);
    expect(placedShares([1000], 0)).toEqual([]);
  });
  it('are a box from five on, and say who lies outside by their place', () => {
    const results = [0.8, 0.8, 0.82, 0.79, 0.81, 0.1].map((share, n) => ({ place: 10 + n, share }));
    const { plot } = spreadOf(results);
    expect(plot.kind === 'box' && plot.outliers.map((at) => results[at]?.place)).toEqual([15]);
    expect(spreadOf(results.slice(0, 4)).plot.kind).toBe('points');
  });
  it('stay fast with thousands', () => {
    const many = Array.from({ length: 3000 }, (_, place) => ({ place, share: (place % 101) / 100 }));
    expect(spreadOf(many).plot).toMatchObject({ kind: 'box', number: 3000, lowWhisker: 0, highWhisker: 1 });
  });
  it('are compared for those who have both', () => {
    const { changes, paired } = changesOf(
      [
        { place: 0, share: 0.5 },
        { place: 1, share: 0.6 },
      ],
      [
        { place: 1, share: 0.7 },
        { place: 2, share: 1 },
      ],
    );
    expect(changes).toEqual([{ place: 1, before: 0.6, after: 0.7 }]);
    expect([paired.number, paired.rose, paired.interval]).toEqual([1, 1, null]);
    expect(changesOf([], []).paired.mean).toBeNull();
  });
});

describe('what is aligned to an objective', () => {
  const parts: AlignedPart[] = [
    { itemId: 'quiz', how: 'questions', pieces: 7, results: [[0, 3, 4]] },
    {
      itemId: 'report',
      how: 'criteria',
      pieces: 1,
      results: [
        [0, 1, 4],
        [1, 4, 4],
      ],
    },
  ];
  it('is counted by points, over what each student has results in', () => {
    expect(alignedShares(parts, 3)).toEqual([0.5, 1, null]);
  });
  it('leaves out who could earn nothing, and who is not in the class', () => {
    expect(alignedShares([{ ...parts[0]!, results: [[0, 0, 0]] }], 1)).toEqual([null]);
    expect(alignedShares([{ ...parts[0]!, results: [[9, 1, 1]] }], 1)).toEqual([null]);
  });
  it('says how it is counted', () => {
    expect(howCounted(parts)).toBe('share of the points of 7 questions and 1 criterion, from 2 pieces of work');
    expect(howCounted([{ itemId: 'a', how: 'whole', pieces: 1, results: [] }])).toBe(
      'share of the points of 1 whole piece of work, from 1 piece of work',
    );
    expect(howCounted([])).toBe('nothing with results is aligned to it');
  });
  it.each([
    [0.59, 'not yet'],
    [0.6, 'reached'],
    [0.7, 'reached'],
    [0.85, 'with merit'],
  ])('is at %s %s', (share, word) => {
    expect(attainmentOf(share, 0.6, 0.85)).toBe(word);
  });
});

describe('rhythm', () => {
  const day = (at: number, hours: number, minutes = 0, longest = 0, doings = 1): DayOfActivity => [at, hours, minutes, longest, doings];
  it('reads hours and doings from their bits', () => {
    expect(hoursOfBits(5)).toEqual([0, 2]);
    expect(hoursOfBits(1 << 23)).toEqual([23]);
    expect(doingsOfBits(3)).toEqual(['reading', 'writing']);
    expect(doingsOfBits((1 << DOINGS.length) - 1)).toEqual(DOINGS);
  });
  it.each([
    [0, 0, 0],
    [-1, 0, 6],
    [7, 2, 2],
    [5, 3, 1],
  ])('day %i of a term that begins on weekday %i is weekday %i', (at, first, weekday) => {
    expect(weekdayOf(at, first)).toBe(weekday);
  });
  it('counts each student once for each hour of each day', () => {
    const hours = weekHours([[day(0, 5), day(7, 1)], [day(0, 1)]], 0);
    expect([hours[0]?.[0], hours[0]?.[1], hours[0]?.[2], hours[1]?.[0]]).toEqual([3, 0, 1, 0]);
  });
  it('sums the days of a class, with the empty ones', () => {
    expect(classDays([[day(3, 1, 10)], [day(3, 1, 20), day(9, 1, 5)]], 2, 4)).toEqual([
      { day: 2, students: 0, minutes: 0 },
      { day: 3, students: 2, minutes: 30 },
      { day: 4, students: 0, minutes: 0 },
    ]);
    expect(classDays([], 5, 4)).toEqual([]);
  });
  it('sums what one student did', () => {
    expect(activityOf([day(1, 1, 10, 8, 1), day(4, 1, 20, 20, 4)])).toEqual({
      ...{ days: 2, minutes: 30, longest: 20, lastDay: 4 },
      doings: ['reading', 'answering'],
    });
    expect(activityOf([])).toEqual({ days: 0, minutes: 0, longest: 0, lastDay: null, doings: [] });
  });
  it('says the busiest day and hours, and nothing where there is nothing', () => {
    const sundays = weekHours([[day(6, (1 << 19) | (1 << 20))]], 0);
    expect(rhythmWords(sundays)).toBe('Most is done on Sundays, and over all days most of all from 19:00 to 21:00.');
    expect(rhythmWords(weekHours([], 0))).toBeNull();
  });
});
