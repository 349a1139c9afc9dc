import type { Gradebook } from '@rosemary/api';

/** The words of what can be chosen in the grid. */
export const COLUMN_ORDERS = {
  category: 'by category',
  plan: 'as in the Plan',
  due: 'by due date',
  made: 'by when they were made',
  own: 'in my own order',
} as const;

export const ROW_STATES = {
  missing: 'have something missing',
  waiting: 'have work that waits for a mark',
  unreleased: 'have a result not yet released',
  late: 'handed something in late',
  exempt: 'are exempt somewhere',
  failing: 'stand below the pass mark',
} as const;

export const HIGHLIGHTS = { late: 'late', missing: 'missing', failing: 'below the pass mark', changed: 'changed since' } as const;

/** What of a choice leaves something out. */
interface Narrowing {
  readonly categoryId: string | null;
  readonly periodId: string | null;
  readonly state: keyof typeof ROW_STATES | null;
}

/** What a choice leaves out, in words, so that nobody takes a part for the whole; empty where everybody and everything is shown. */
export function choiceWords(choice: Narrowing, book: Pick<Gradebook, 'categories' | 'periods'>, groupTitle: string | null): string {
  const category = book.categories.find((c) => c.id === choice.categoryId)?.title;
  const period = book.periods.find((p) => p.id === choice.periodId)?.title;
  return [
    ...(category === undefined ? [] : [`only ${category}`]),
    ...(period === undefined ? [] : [`only ${period}`]),
    ...(groupTitle === null ? [] : [`only ${groupTitle}`]),
    ...(choice.state === null ? [] : [`only those who ${ROW_STATES[choice.state]}`]),
  ].join(' · ');
}
