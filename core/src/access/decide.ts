export type Role = 'instructor' | 'assistant' | 'student';

export const PERMISSIONS = [
  'course.see',
  'course.teach',
  'plan.edit',
  'work.own',
  'marking.see',
  'marking.mark',
  'marking.release',
  'gradebook.see',
  'gradebook.edit',
  'policy.edit',
  'progress.see',
  'roster.see',
  'roster.edit',
  'course.seeAs',
  'school.administer',
] as const;
export type Permission = (typeof PERMISSIONS)[number];

export interface Membership {
  readonly courseId: string;
  readonly enrolmentId: string;
  readonly role: Role;
  readonly isActive: boolean;
  /** The sections a member belongs to or, for an assistant, is given; null is every section. */
  readonly sectionIds: readonly string[] | null;
}

export interface Actor {
  readonly personId: string;
  readonly isAdministrator: boolean;
  readonly memberships: readonly Membership[];
}

export type Decision =
  | { readonly isAllowed: true; readonly membership: Membership | null }
  | { readonly isAllowed: false; readonly reason: 'unknown' | 'refused' };

const ASSISTANT: readonly Permission[] = [
  'course.see',
  'course.teach',
  'marking.see',
  'marking.mark',
  'gradebook.see',
  'progress.see',
  'roster.see',
];
const STUDENT: readonly Permission[] = ['course.see', 'work.own'];
const ALLOWED: { readonly [role in Role]: readonly Permission[] } = {
  instructor: PERMISSIONS.filter((p) => p !== 'work.own' && p !== 'school.administer'),
  assistant: ASSISTANT,
  student: STUDENT,
};

/**
 * Whether this person may do this in this course. Pure: the same facts give the same answer.
 *
 * Someone with no active membership is told the course is *unknown* (404), so that nothing leaks; a member whose role
 * does not reach is *refused* (403). The school's own permission is the administrator's alone and knows no course.
 * A person with several roles in a course is allowed what any of them allows.
 * Worked example: a student asking for `gradebook.see` in their course is refused; in another course it is unknown.
 */
export function decide(actor: Actor, permission: Permission, courseId: string | null): Decision {
  if (permission === 'school.administer') {
    return actor.isAdministrator ? { isAllowed: true, membership: null } : { isAllowed: false, reason: 'refused' };
  }
  const own = actor.memberships.filter((m) => m.courseId === courseId && m.isActive);
  if (own.length === 0) return { isAllowed: false, reason: 'unknown' };
  const membership = own.find((m) => ALLOWED[m.role].includes(permission));
  return membership === undefined ? { isAllowed: false, reason: 'refused' } : { isAllowed: true, membership };
}

/** Whether a member reaches the students of a section: assistants only those shared out to them. */
export function reachesSection(membership: Membership, sectionId: string | null): boolean {
  return membership.sectionIds === null || (sectionId !== null && membership.sectionIds.includes(sectionId));
}
