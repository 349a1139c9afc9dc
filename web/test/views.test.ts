/** @jest-environment ../scripts/jsdomForJest.mjs */
import { router } from '../src/router.ts';
import { STAFF_VIEWS, STUDENT_VIEWS, viewOf } from '../src/shell/views.ts';

const names = router.getRoutes().flatMap((r) => (typeof r.name === 'string' ? [r.name] : []));
const inCourse = router
  .getRoutes()
  .flatMap((r) => (typeof r.name === 'string' && r.path.startsWith('/courses/:courseId/') ? [r.name] : []));

describe('the views of a course', () => {
  it('each have a page', () => {
    expect([...STAFF_VIEWS, ...STUDENT_VIEWS].map(([name]) => name).filter((name) => !names.includes(name))).toEqual([]);
  });

  it('are where every page of a course stands, so that the row always shows where one is', () => {
    const known = new Set<string>([...STAFF_VIEWS, ...STUDENT_VIEWS].map(([name]) => name));
    const nowhere = inCourse.filter((name) => !known.has(viewOf(name, false)) && !known.has(viewOf(name, true)));
    expect(nowhere).toEqual(['taking']);
  });
});
