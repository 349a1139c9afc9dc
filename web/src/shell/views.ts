/**
 * Every page of a course, once: its name as an address, its word wherever it is listed, and where it stands for those who teach and
 * those who study. `row`: among the views of every day; `more`: in the menu behind them; a name: within that view.
 */
interface Place {
  readonly word: string;
  readonly staff?: 'row' | 'more' | PlaceName;
  readonly student?: 'row' | 'more' | PlaceName;
  /** More letters to find it by, said after its word. */
  readonly about?: string;
  /** Only those who teach the course are led there; assistants are not. */
  readonly isTeaching?: true;
  /** Opened from something in its view alone: it has no address of its own to be found by. */
  readonly isOpened?: true;
}
export type PlaceName =
  | 'plan'
  | 'marking'
  | 'gradebook'
  | 'progress'
  | 'roster'
  | 'student'
  | 'own-progress'
  | 'bank'
  | 'calendar'
  | 'messages'
  | 'announcements'
  | 'files'
  | 'groups'
  | 'objectives'
  | 'settings'
  | 'exchange'
  | 'history'
  | 'own-week'
  | 'study'
  | 'grades'
  | 'programme'
  | 'policy'
  | 'finals'
  | 'check'
  | 'carry'
  | 'time'
  | 'dates'
  | 'give'
  | 'given'
  | 'item'
  | 'peer-setting'
  | 'peer-sample'
  | 'peer-board'
  | 'own-review'
  | 'own-sample'
  | 'shown-work'
  | 'stack'
  | 'work'
  | 'study-item'
  | 'paper'
  | 'quiz'
  | 'quiz-preview'
  | 'quiz-results'
  | 'quiz-attempt'
  | 'quiz-marking'
  | 'quiz-figures'
  | 'quiz-on-paper';

export const PLACES: { readonly [name in PlaceName]: Place } = {
  'own-week': { word: 'This week', student: 'row' },
  study: { word: 'Course', student: 'row' },
  grades: { word: 'Grades', student: 'row' },
  'own-progress': { word: 'Progress', student: 'more', about: 'results, rhythm, how far' },
  plan: { word: 'Plan', staff: 'row' },
  marking: { word: 'Marking', staff: 'row' },
  gradebook: { word: 'Gradebook', staff: 'row' },
  progress: { word: 'Progress', staff: 'row' },
  roster: { word: 'Roster', staff: 'row', about: 'people, sections, arrangements' },
  bank: { word: 'Bank', staff: 'row', about: 'questions' },
  messages: { word: 'Messages', staff: 'more', student: 'row' },
  announcements: { word: 'Announcements', staff: 'more', student: 'more' },
  calendar: { word: 'Calendar', staff: 'more', student: 'more' },
  files: { word: 'Files', staff: 'more' },
  groups: { word: 'Groups', staff: 'more' },
  student: { word: 'Student', staff: 'progress', isOpened: true },
  objectives: { word: 'Objectives', staff: 'more' },
  settings: { word: 'Settings', staff: 'more', about: 'course, sections, picture' },
  exchange: { word: 'Import and export', staff: 'more', isTeaching: true },
  history: { word: 'History and deleted', staff: 'more', about: 'bin, restore, who did what', isTeaching: true },
  programme: { word: 'Programme', staff: 'plan', student: 'study' },
  policy: { word: 'Policy', staff: 'gradebook', about: 'weights, late work, letters', isTeaching: true },
  finals: { word: 'Final grades', staff: 'gradebook', about: 'agree, send, registrar', isTeaching: true },
  check: { word: 'Check before opening', staff: 'plan', isTeaching: true },
  carry: { word: 'Copy from another course', staff: 'plan', isTeaching: true },
  time: { word: 'Time asked and taken', staff: 'plan' },
  dates: { word: 'Dates', staff: 'plan', about: 'move, clear, weekdays, holidays', isTeaching: true },
  give: { word: 'Give to classes', staff: 'plan', isOpened: true },
  given: { word: 'Given to classes', staff: 'plan', about: 'who has handed in, over all classes' },
  item: { word: 'Item', staff: 'plan', isOpened: true },
  'peer-setting': { word: 'Peer review', staff: 'plan', isOpened: true },
  'peer-sample': { word: 'Sample work', staff: 'plan', isOpened: true },
  'peer-board': { word: 'Reviews', staff: 'plan', isOpened: true },
  'own-review': { word: 'A review', student: 'study', isOpened: true },
  'own-sample': { word: 'A sample work', student: 'study', isOpened: true },
  'shown-work': { word: 'A shown work', student: 'study', isOpened: true },
  stack: { word: 'Submissions', staff: 'marking', isOpened: true },
  work: { word: 'Marking a work', staff: 'marking', isOpened: true },
  'study-item': { word: 'Item', student: 'study', isOpened: true },
  paper: { word: 'Your answers', student: 'study', isOpened: true },
  quiz: { word: 'Quiz', staff: 'plan', isOpened: true },
  'quiz-preview': { word: 'Preview', staff: 'plan', isOpened: true },
  'quiz-results': { word: 'Results', staff: 'plan', isOpened: true },
  'quiz-attempt': { word: 'Attempt', staff: 'plan', isOpened: true },
  'quiz-marking': { word: 'Marking a question', staff: 'plan', isOpened: true },
  'quiz-figures': { word: 'Figures', staff: 'plan', isOpened: true },
  'quiz-on-paper': { word: 'On paper', staff: 'plan', isOpened: true },
};
type Listed = readonly (readonly [name: PlaceName, word: string])[];
const all = Object.entries(PLACES) as readonly (readonly [PlaceName, Place])[];
const standOf = (place: Place, isStudent: boolean): Place['staff'] => (isStudent ? place.student : place.staff);
const isPlace = (name: string): name is PlaceName => name in PLACES;

/** The views of every day, which stand in the row under the term line. */
export const rowOf = (isStudent: boolean): Listed =>
  all.filter(([, place]) => standOf(place, isStudent) === 'row').map(([name, place]) => [name, place.word]);

/** The other views, in the menu behind the row. */
export const moreOf = (role: string): Listed =>
  all
    .filter(([, place]) => standOf(place, role === 'student') === 'more' && (!place.isTeaching || role === 'instructor'))
    .map(([name, place]) => [name, place.word]);

/** Every place of a course that somebody in this role can go to by its name, with what it is about. */
export const placesOf = (role: string): readonly (readonly [name: PlaceName, words: string])[] =>
  all
    .filter(
      ([, place]) => standOf(place, role === 'student') !== undefined && !place.isOpened && (!place.isTeaching || role === 'instructor'),
    )
    .map(([name, place]) => [name, place.about === undefined ? place.word : `${place.word}: ${place.about}`]);

/** The view that a page stands in, or null for a page outside every course. */
export function viewOf(routeName: string, isStudent: boolean): PlaceName | null {
  if (!isPlace(routeName)) return null;
  const place = PLACES[routeName];
  const stand = standOf(place, isStudent) ?? standOf(place, !isStudent);
  return stand === undefined || stand === 'row' || stand === 'more' ? routeName : stand;
}

/** Pages outside every course, by the name of their address. */
const OUTSIDE: Readonly<Record<string, string>> = {
  desk: 'Desk',
  'sign-in': 'Sign in',
  welcome: 'Welcome',
  about: 'About a course',
  'this-week': 'This week',
  school: 'School',
  'school-lists': 'Import lists',
  'school-registrar': 'Final grades',
  'school-storage': 'Storage',
  'school-progress': 'Progress',
  account: 'Your account',
  'new-course': 'New course',
  'all-calendar': 'Calendar',
  outbox: 'Outbox',
  taking: 'Quiz',
  nothing: 'Not found',
};
/** What a page is called, in a course or outside. */
export const wordOf = (routeName: string): string => (isPlace(routeName) ? PLACES[routeName].word : (OUTSIDE[routeName] ?? ''));

/** The title of the browser's tab: the most specific first. */
export function tabTitle(routeName: string, course: string | null, item: string | null): string {
  const isHere = isPlace(routeName) || routeName === 'taking';
  return [
    item,
    item !== null && isPlace(routeName) && PLACES[routeName].word === 'Item' ? null : wordOf(routeName),
    isHere ? course : null,
    'Rosemary',
  ]
    .filter((word) => word !== null && word !== '')
    .join(' · ');
}
