/** @jest-environment ../scripts/jsdomForJest.mjs */
import { router } from '../src/router.ts';
import { moreOf, PLACES, placesOf, rowOf, viewOf, wordOf } from '../src/shell/views.ts';

const routes = router.getRoutes().flatMap((r) => (typeof r.name === 'string' ? [{ name: r.name, path: r.path }] : []));
const inCourse = routes.filter((r) => r.path.startsWith('/courses/:courseId/') && r.name !== 'taking').map((r) => r.name);

describe('the pages of a course', () => {
  it('are those of the registry, each once', () => {
    expect([...inCourse].sort()).toEqual(Object.keys(PLACES).sort());
  });

  it('stand in a view that is listed, so that one always sees where one is', () => {
    for (const role of ['instructor', 'student'] as const) {
      const isStudent = role === 'student';
      const listed = new Set<string>([...rowOf(isStudent), ...moreOf(role)].map(([name]) => name));
      const lost = Object.entries(PLACES)
        .filter(([, place]) => (isStudent ? place.student : place.staff) !== undefined)
        .filter(([name]) => !listed.has(viewOf(name, isStudent) ?? ''));
      expect([role, lost]).toEqual([role, []]);
    }
  });

  it('can each be found by their name, but for those that something else opens', () => {
    const found = new Set<string>(['instructor', 'student'].flatMap((role) => placesOf(role).map(([name]) => name)));
    expect(Object.entries(PLACES).filter(([name, place]) => found.has(name) === (place.isOpened === true))).toEqual([]);
  });

  it('are offered to assistants but for what is the instructor’s', () => {
    const names = (role: string): string[] => placesOf(role).map(([name]) => name);
    expect(names('instructor').filter((name) => !names('assistant').includes(name))).toEqual([
      'exchange',
      'history',
      'policy',
      'finals',
      'check',
      'carry',
      'dates',
    ]);
  });
});

describe('every page', () => {
  it('has a word for the title of its tab', () => {
    expect(routes.filter((r) => wordOf(r.name) === '')).toEqual([]);
  });
});
