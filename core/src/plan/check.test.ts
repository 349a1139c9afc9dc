import { checkCourse, NO_OPENING, type CheckedCourse, type CheckedItem, type DocumentNode, type Finding } from '../index.ts';

const COURSE = '7b1c1a34-7a34-4c7e-9a51-2d6a4f2f9a10';
const OTHER = '11111111-7a34-4c7e-9a51-2d6a4f2f9a10';
const PAGE = '22222222-7a34-4c7e-9a51-2d6a4f2f9a10';
const TASK = '33333333-7a34-4c7e-9a51-2d6a4f2f9a10';
const doc = (...content: DocumentNode[]): DocumentNode => ({ type: 'doc', content });
const words = (text: string, href?: string): DocumentNode => ({
  type: 'paragraph',
  content: [{ type: 'text', text, ...(href === undefined ? {} : { marks: [{ type: 'link', attrs: { href } }] }) }],
});
const at = (text: string): number => Date.parse(text);
const page = (more: Partial<CheckedItem> = {}): CheckedItem => ({
  id: PAGE,
  unitId: 'u',
  kind: 'page',
  title: 'Reading',
  isDraft: false,
  isStaffOnly: false,
  opening: NO_OPENING,
  doneRule: 'handed in',
  counts: true,
  isExtraCredit: false,
  possible: 0,
  categoryId: null,
  periodId: null,
  dates: { announced: null, opens: null, due: null, closes: null },
  others: [],
  document: doc(words('Read this.')),
  takesWork: true,
  isReviewed: false,
  rubricPoints: null,
  ...more,
});
const task = (more: Partial<CheckedItem> = {}): CheckedItem =>
  page({
    id: TASK,
    kind: 'assignment',
    title: 'Report',
    possible: 60_000,
    categoryId: 'k',
    dates: { announced: null, opens: null, due: at('2026-10-06T18:00:00Z'), closes: null },
    ...more,
  });
const course = (items: readonly CheckedItem[], more: Partial<CheckedCourse> = {}): CheckedCourse => ({
  id: COURSE,
  term: {
    title: 'Autumn',
    startsOn: '2026-09-21',
    endsOn: '2027-01-03',
    meetingDays: [2, 4],
    holidays: [{ title: 'break', startsOn: '2026-11-09', endsOn: '2026-11-15' }],
  },
  isSelfPaced: false,
  zone: 'Europe/Lisbon',
  units: [{ id: 'u', title: 'Bench' }],
  items,
  total: 'weights',
  categories: [{ id: 'k', title: 'Assignments', weightPercent: 100_000, isExtraCredit: false }],
  periods: [],
  loads: [],
  sections: [{ title: 'Morning', students: 3 }],
  ...more,
});
const texts = (items: readonly CheckedItem[], more: Partial<CheckedCourse> = {}): string[] =>
  checkCourse(course(items, more)).map((f) => f.text);
const only = (items: readonly CheckedItem[], more: Partial<CheckedCourse> = {}): Finding => {
  const found = checkCourse(course(items, more));
  expect(found).toHaveLength(1);
  return found[0]!;
};

describe('a check before opening', () => {
  it('finds nothing in a course that is ready', () => {
    expect(texts([page(), task()])).toEqual([]);
  });

  it('names what counts in every grading period because it is due in none', () => {
    const month = (id: string, from: string, to: string) => ({ id, title: id, weightPercent: 50_000, startsAt: at(from), endsAt: at(to) });
    const periods = [
      month('first', '2026-09-21T00:00:00Z', '2026-10-06T18:00:00Z'),
      month('second', '2026-10-12T00:00:00Z', '2026-11-01T00:00:00Z'),
    ];
    const due = (text: string): CheckedItem => task({ dates: { announced: null, opens: null, due: at(text), closes: null } });
    const said = '“Report” is due in no grading period, so it counts in each of them.';
    // An end is no longer within, so the last millisecond decides; what has a period of its own needs no date.
    expect(texts([due('2026-10-06T17:59:59Z')], { periods })).toEqual([]);
    expect(only([task()], { periods })).toEqual({ weight: 'look', text: said, place: { kind: 'field', itemId: TASK, field: 'dueAt' } });
    expect(texts([task({ periodId: 'second' })], { periods })).toEqual([]);
    expect(texts([task({ periodId: 'one that was removed' })], { periods })).toEqual([said]);
    expect(texts([task({ counts: false })], { periods, total: 'points' })).toEqual([]);
  });

  it.each([
    [
      'a page without words',
      page({ document: doc({ type: 'paragraph' }) }),
      'The page “Reading” is empty.',
      { kind: 'text', itemId: PAGE },
    ],
    [
      'a picture without an alternative',
      page({ document: doc(words('See'), { type: 'picture', attrs: { alt: ' ' } }) }),
      '“Reading” has a picture with no text alternative.',
      { kind: 'text', itemId: PAGE },
    ],
    [
      'an assignment that takes nothing',
      task({ takesWork: false }),
      '“Report” takes neither text nor files, so nothing can be handed in.',
      { kind: 'setting', itemId: TASK },
    ],
    [
      'no points',
      task({ possible: 0 }),
      '“Report” counts toward the grade but is worth 0 points.',
      { kind: 'field', itemId: TASK, field: 'possible' },
    ],
    [
      'a rubric that adds up to something else',
      task({ rubricPoints: 50_000 }),
      '“Report” is worth 60 points; its rubric adds up to 50.',
      { kind: 'rubric', itemId: TASK },
    ],
    [
      'dates that contradict',
      task({ dates: { announced: null, opens: at('2026-10-07T08:00:00Z'), due: at('2026-10-06T18:00:00Z'), closes: null } }),
      '“Report”: It is due before it opens. Set a later due time or an earlier opening.',
      { kind: 'field', itemId: TASK, field: 'dueAt' },
    ],
  ])('must mend %s', (_, item, text, place) => {
    const found = only([...(item.kind === 'page' ? [task()] : []), item]);
    expect(found).toEqual({ weight: 'mend', text, place });
  });

  it('must mend a counted item in a category of no weight, and leads to the policy', () => {
    const categories = [
      { id: 'k', title: 'Assignments', weightPercent: 100_000, isExtraCredit: false },
      { id: 'n', title: 'Brought along', weightPercent: 0, isExtraCredit: false },
    ];
    expect(only([task(), task({ id: 'x', title: 'Log', categoryId: 'n' })], { categories })).toEqual({
      weight: 'mend',
      text: '“Log” counts in “Brought along”, which weighs 0 %, so it changes nobody’s grade.',
      place: { kind: 'policy' },
    });
    expect(texts([task(), task({ id: 'x', categoryId: 'n', counts: false, possible: 0 })], { categories })).toEqual([]);
    expect(texts([task(), task({ id: 'x', categoryId: 'n' })], { categories, total: 'points' })).toEqual([]);
  });

  it('must mend a counted item in no category, where categories make the total', () => {
    expect(texts([task({ categoryId: null }), task({ id: 'x', title: 'Other' })])).toEqual([
      '“Report” counts, but is in no category, so it is in no total.',
    ]);
    expect(texts([task({ categoryId: null })], { total: 'points' })).toEqual([]);
    expect(texts([task(), task({ id: 'x', categoryId: null, counts: false, possible: 0 })])).toEqual([]);
  });

  it.each([
    ['to an item that is gone', `/courses/${COURSE}/items/${OTHER}`, 'leads to an item that is no longer here'],
    ['into another course', `/courses/${OTHER}/study/${TASK}`, 'leads into another course, which these students may not reach'],
    ['without a host', 'https://', 'is no whole address'],
    ['to half an address', 'www.example.org/page', 'is no whole address'],
    ['to no mail address', 'mailto:nobody', 'is no whole address'],
  ])('must mend a link %s', (_, href, fault) => {
    expect(only([task(), page({ document: doc(words('see here', href)) })]).text).toBe(`In “Reading” the link “see here” ${fault}.`);
  });

  it('must mend an answer that is handed in in a page to an assignment that is gone', () => {
    const attrs = { href: `/courses/${COURSE}/items/${OTHER}`, title: 'Your answer' };
    expect(only([task(), page({ document: { type: 'doc', content: [{ type: 'response', attrs }] } })]).text).toBe(
      'In “Reading” the link “Your answer” leads to an item that is no longer here.',
    );
  });

  it('takes links that lead somewhere, and says when that is a draft', () => {
    const linked = (href: string): CheckedItem => page({ document: doc(words('see here', href)) });
    for (const href of [`/courses/${COURSE}/items/${TASK}`, 'https://example.org/a', 'mailto:a@example.org', '#top', '/this-week'])
      expect(texts([task(), linked(href)])).toEqual([]);
    expect(texts([task({ isDraft: true }), linked(`/courses/${COURSE}/items/${TASK}`)])).toEqual([
      'In “Reading” the link “see here” leads to “Report”, which is still a draft.',
    ]);
  });

  it('asks to look at dates outside the term and on holidays, those of a section too', () => {
    expect(texts([task({ dates: { announced: null, opens: null, due: at('2027-02-01T18:00:00Z'), closes: null } })])).toEqual([
      '“Report” is due Mon 1 Feb 2027 18:00. This is outside the term, which runs from Mon 21 Sept 2026 to Sun 3 Jan 2027.',
    ]);
    const found = only([task({ others: [{ name: 'Distance', due: at('2026-11-10T18:00:00Z') }] })]);
    expect(found).toMatchObject({ weight: 'look', text: '“Report” is due Tue 10 Nov 2026 18:00 for Distance. This is a holiday (break).' });
  });

  it('asks to look at assignments without a date, unless every section has its own', () => {
    const none = { announced: null, opens: null, due: null, closes: null };
    expect(texts([task({ dates: none })])).toEqual(['“Report” has no due date.']);
    expect(texts([task({ dates: none, others: [{ name: 'Morning', due: at('2026-10-06T18:00:00Z') }] })])).toEqual([]);
  });

  it('asks to look at what is empty: a unit, a category with weight, a section, instructions', () => {
    const categories = [
      { id: 'k', title: 'Assignments', weightPercent: 60_000, isExtraCredit: false },
      { id: 'q', title: 'Quizzes', weightPercent: 40_000, isExtraCredit: false },
    ];
    expect(
      texts([task({ document: null })], {
        categories,
        units: [
          { id: 'u', title: 'Bench' },
          { id: 'v', title: 'Later' },
        ],
        sections: [{ title: 'Evening', students: 0 }],
      }),
    ).toEqual([
      'The category “Quizzes” has 40 % and no item.',
      'The unit “Later” is empty.',
      'The section “Evening” has no student yet.',
      '“Report” has no instructions.',
    ]);
  });

  it('says what the weights add to, leaving extra credit out, and leads to the policy', () => {
    const categories = [
      { id: 'k', title: 'Assignments', weightPercent: 90_000, isExtraCredit: false },
      { id: 'e', title: 'Club', weightPercent: 10_000, isExtraCredit: true },
    ];
    expect(only([task()], { categories })).toEqual({
      weight: 'mend',
      text: 'The weights add to 90 %, not 100 %.',
      place: { kind: 'policy' },
    });
    expect(texts([task()], { categories, total: 'points' })).toEqual([]);
  });

  it('names what must be mended first', () => {
    const found = checkCourse(course([task({ document: null }), page({ document: null })]));
    expect(found.map((f) => f.weight)).toEqual(['mend', 'look']);
  });
});
