/** The views of a course, in the order of the work, for those who teach and those who study. */
export const STAFF_VIEWS = [
  ['plan', 'Plan'],
  ['files', 'Files'],
  ['announcements', 'Announcements'],
  ['messages', 'Messages'],
  ['calendar', 'Calendar'],
  ['marking', 'Marking'],
  ['gradebook', 'Gradebook'],
  ['progress', 'Progress'],
  ['roster', 'Roster'],
  ['settings', 'Settings'],
] as const;
export const STUDENT_VIEWS = [
  ['own-week', 'This week'],
  ['study', 'Course'],
  ['announcements', 'Announcements'],
  ['messages', 'Messages'],
  ['calendar', 'Calendar'],
  ['grades', 'Grades'],
] as const;

/** Pages that belong to a view. */
const PARENT: Readonly<Record<string, string>> = {
  item: 'plan',
  check: 'plan',
  carry: 'plan',
  objectives: 'plan',
  time: 'plan',
  exchange: 'settings',
  groups: 'roster',
  work: 'marking',
  policy: 'gradebook',
  'study-item': 'study',
};

/** The view a page stands in; the programme stands with the Plan for some, with the course for others. */
export function viewOf(routeName: string, isStudent: boolean): string {
  if (routeName === 'programme') return isStudent ? 'study' : 'plan';
  return PARENT[routeName] ?? routeName;
}
