import type { BookCell, Gradebook } from '@rosemary/api';

/** A cell with a result that was released. */
export const cell = (text: string, eventId: string): BookCell => ['marked', text, 1, 0, eventId, 0, Number(text) * 1000];
/** A student in the gradebook. */
export const row = (
  id: string,
  familyName: string,
  sectionId: string,
  cells: Gradebook['rows'][number]['cells'],
  soFar: string | null,
) => ({
  enrolmentId: id,
  givenName: 'G',
  familyName,
  sectionId,
  cells,
  subtotals: [soFar],
  periods: [],
  totals: { soFar, floor: soFar ?? '0', reach: '100', letter: null },
});
const made = {
  madeAt: '2026-10-01T08:00:00Z',
  order: 1,
  isAlone: false,
  isExtraCredit: false,
  multiplier: 1000,
  periodId: null,
  hasCurve: false,
  takesLetters: false,
  ownLevels: null,
};
/** A gradebook of three columns and three students. */
export const book = (): Gradebook => ({
  columns: [
    {
      id: 'late',
      itemId: 'i-late',
      role: 'work',
      kind: 'assignment',
      title: 'Later',
      categoryId: 'k',
      possible: 20_000,
      isDraft: false,
      counts: true,
      dueAt: '2026-11-20T10:00:00Z',
      ...made,
    },
    {
      id: 'soon',
      itemId: 'i-soon',
      role: 'work',
      kind: 'assignment',
      title: 'Sooner',
      categoryId: 'k',
      possible: 10_000,
      isDraft: false,
      counts: true,
      dueAt: '2026-11-02T10:00:00Z',
      ...made,
    },
    {
      id: 'none',
      itemId: 'i-none',
      role: 'work',
      kind: 'activity',
      title: 'Aside',
      categoryId: null,
      possible: 5000,
      isDraft: false,
      counts: false,
      dueAt: null,
      ...made,
    },
  ],
  categories: [{ id: 'k', title: 'Bench work', weightPercent: 100_000 }],
  parts: [{ categoryId: 'k', periodId: null, title: 'Bench work', weightPercent: 100_000 }],
  periods: [],
  rows: [
    row('1', 'Zola', 's', [cell('15', '10'), cell('9', '11'), 0], '80.0'),
    row('2', 'Abara', 't', [0, cell('10', '12'), 0], null),
    row('3', 'Moss', 's', [cell('2', '13'), 0, 0], '9.5'),
  ],
  total: 'weights',
  weightsSum: 100_000,
  shares: [[], [], []],
  levels: [],
  passPercent: null,
  asOf: null,
});
