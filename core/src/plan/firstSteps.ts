/** The steps from nothing to a page that students read, in their order. */
export type FirstStepName = 'term' | 'people' | 'course' | 'students' | 'page' | 'open' | 'see';

/** What is there already. */
export interface FirstFacts {
  /** The school’s own, where the steps begin with it; null inside a course. */
  readonly school: { readonly terms: number; readonly teachers: number; readonly courses: number } | null;
  /** The course that is being begun; null before there is one. */
  readonly course: {
    readonly students: number;
    readonly items: number;
    /** Items that students would see. */
    readonly openItems: number;
    readonly isOpen: boolean;
    /** Whoever teaches it has looked at it as a student does. */
    readonly isSeen: boolean;
    /** A student has read something in it. */
    readonly isRead: boolean;
  } | null;
}

export interface FirstStep {
  readonly name: FirstStepName;
  readonly isDone: boolean;
}

const done = (name: FirstStepName, isDone: boolean): FirstStep => ({ name, isDone });

/**
 * The first steps of a school or of a course, each with whether it is done.
 *
 * Convention: in the order in which they are taken; none at all once a student has read something or every step is done, as then
 * nobody is beginning any more. A course is open to students only when something in it is open as well.
 * Worked example: a school with a term and nothing else gives six steps of which the first is done; a course with one draft and one
 * student gives “students” and “page” done, “open” and “see” to come.
 */
export function firstSteps({ school, course }: FirstFacts): readonly FirstStep[] {
  if (course?.isRead === true) return [];
  const steps = [
    ...(school === null ? [] : [done('term', school.terms > 0), done('people', school.teachers > 0), done('course', school.courses > 0)]),
    ...(school !== null && course === null ? [] : [done('students', (course?.students ?? 0) > 0)]),
    done('page', (course?.items ?? 0) > 0),
    done('open', course?.isOpen === true && course.openItems > 0),
    done('see', course?.isSeen === true),
  ];
  return steps.every((step) => step.isDone) ? [] : steps;
}
