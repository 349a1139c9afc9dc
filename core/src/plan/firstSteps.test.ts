import { firstSteps, type FirstFacts } from '../index.ts';

const course = { students: 0, items: 0, openItems: 0, isOpen: false, isSeen: false, isRead: false };
const left = (facts: FirstFacts): string =>
  firstSteps(facts)
    .flatMap((step) => (step.isDone ? [] : [step.name]))
    .join(' ');
const all = (facts: FirstFacts): string =>
  firstSteps(facts)
    .map((step) => step.name)
    .join(' ');

describe('the first steps', () => {
  it('lead from an empty school to a page that is seen', () => {
    const school = { terms: 0, teachers: 0, courses: 0 };
    expect(left({ school, course: null })).toBe('term people course page open see');
    expect(left({ school: { ...school, terms: 1 }, course: null })).toBe('people course page open see');
    expect(left({ school: { terms: 1, teachers: 1, courses: 0 }, course: null })).toBe('course page open see');
    const begun = { terms: 1, teachers: 1, courses: 1 };
    expect(all({ school: begun, course })).toBe('term people course students page open see');
    expect(left({ school: begun, course: { ...course, students: 3, items: 1 } })).toBe('open see');
  });

  it('begin with the students in a course', () => {
    expect(left({ school: null, course })).toBe('students page open see');
    expect(left({ school: null, course: { ...course, students: 1, items: 4 } })).toBe('open see');
  });

  it('do not call a course open in which everything is a draft', () => {
    const open = { ...course, students: 1, items: 4, isOpen: true };
    expect(left({ school: null, course: open })).toBe('open see');
    expect(left({ school: null, course: { ...open, openItems: 1 } })).toBe('see');
  });

  it('end when all are done, and when a student has read something', () => {
    expect(firstSteps({ school: null, course: { ...course, students: 1, items: 1, openItems: 1, isOpen: true, isSeen: true } })).toEqual(
      [],
    );
    expect(firstSteps({ school: null, course: { ...course, isRead: true } })).toEqual([]);
    expect(firstSteps({ school: { terms: 1, teachers: 1, courses: 1 }, course: { ...course, isRead: true } })).toEqual([]);
  });
});
