/**
 * The views of a course, for those who teach and those who study: first those of every day, which stand in the row under the
 * term line, then the others, which are found in the place menu and by letters.
 */
export const STAFF_VIEWS = [
  ['plan', 'Plan'],
  ['marking', 'Marking'],
  ['gradebook', 'Gradebook'],
  ['progress', 'Progress'],
  ['roster', 'Roster'],
  ['bank', 'Bank'],
  ['announcements', 'Announcements'],
  ['messages', 'Messages'],
  ['calendar', 'Calendar'],
  ['files', 'Files'],
  ['groups', 'Groups'],
  ['objectives', 'Objectives'],
  ['settings', 'Settings'],
] as const;
export const STUDENT_VIEWS = [
  ['own-week', 'This week'],
  ['study', 'Course'],
  ['grades', 'Grades'],
  ['messages', 'Messages'],
  ['announcements', 'Announcements'],
  ['calendar', 'Calendar'],
] as const;
const IN_ROW = { staff: 6, student: 4 } as const;

/** The words of the row: the views of every day, and the one where one is. */
export function rowOf(current: string, isStudent: boolean): readonly (readonly [name: string, word: string])[] {
  return isStudent
    ? STUDENT_VIEWS.filter(([name], n) => n < IN_ROW.student || name === current)
    : STAFF_VIEWS.filter(([name], n) => n < IN_ROW.staff || name === current);
}

/** Pages that belong to a view. */
const PARENT: Readonly<Record<string, string>> = {
  item: 'plan',
  check: 'plan',
  carry: 'plan',
  time: 'plan',
  exchange: 'settings',
  work: 'marking',
  stack: 'marking',
  policy: 'gradebook',
  'study-item': 'study',
  paper: 'study',
  quiz: 'plan',
  'quiz-preview': 'plan',
  'quiz-results': 'plan',
  'quiz-attempt': 'plan',
  'quiz-marking': 'plan',
  'quiz-figures': 'plan',
  'quiz-on-paper': 'plan',
};

/** The view a page stands in; the programme stands with the Plan for some, with the course for others. */
export function viewOf(routeName: string, isStudent: boolean): string {
  if (routeName === 'programme') return isStudent ? 'study' : 'plan';
  return PARENT[routeName] ?? routeName;
}
