export type Role = 'instructor' | 'assistant' | 'student';

/**
 * Every permission there is, and which roles have it in a course. `school.administer` is nobody’s by a role: it belongs to the
 * administrators of the school, and knows no course.
 */
const HELD_BY = {
  'course.see': ['instructor', 'assistant', 'student'],
  'course.teach': ['instructor', 'assistant'],
  'course.seeAs': ['instructor'],
  'plan.edit': ['instructor'],
  'work.own': ['student'],
  'marking.see': ['instructor', 'assistant'],
  'marking.mark': ['instructor', 'assistant'],
  'marking.release': ['instructor'],
  'gradebook.see': ['instructor', 'assistant'],
  'gradebook.edit': ['instructor'],
  'policy.edit': ['instructor'],
  'grades.handOver': ['instructor'],
  'progress.see': ['instructor', 'assistant'],
  'roster.see': ['instructor', 'assistant'],
  'roster.edit': ['instructor'],
  'school.administer': [],
} as const satisfies { readonly [permission: string]: readonly Role[] };
export type Permission = keyof typeof HELD_BY;
export const PERMISSIONS = Object.keys(HELD_BY) as readonly Permission[];

export interface Membership {
  readonly courseId: string;
  readonly enrolmentId: string;
  readonly role: Role;
  readonly isActive: boolean;
  /** The course is archived: it is read, and no longer changed. */
  readonly isArchived?: boolean;
  /** An instructor whom the registrar knows as the one of this course: who alone hands its grades over. */
  readonly isOfRecord?: boolean;
  /** The grades were handed over and are closed: they change once they are opened again with a reason. */
  readonly isClosed?: boolean;
  /** An administrator who looks into the course for a while: it is read as an assistant reads it, and nothing in it is changed. */
  readonly isLook?: true;
  /** The sections a member belongs to or, for an assistant, is given; null is every section. */
  readonly sectionIds: readonly string[] | null;
}

export interface Actor {
  readonly personId: string;
  readonly isAdministrator: boolean;
  readonly memberships: readonly Membership[];
  /** Courses that an administrator looks into and is no member of: they open a view, and count for nothing else. */
  readonly looks?: readonly Membership[];
}

export type Decision =
  | { readonly isAllowed: true; readonly membership: Membership | null }
  | { readonly isAllowed: false; readonly reason: 'unknown' | 'refused' };

const isHeldBy = ({ role, isOfRecord }: Membership, permission: Permission): boolean =>
  (HELD_BY[permission] as readonly Role[]).includes(role) && (permission !== 'grades.handOver' || isOfRecord === true);

/**
 * Whether this person may do this in this course. Pure: the same facts give the same answer.
 *
 * Someone with no active membership is told the course is *unknown* (404), so that nothing leaks; a member whose role
 * does not reach is *refused* (403). The school's own permission is the administrator's alone and knows no course.
 * A person with several roles in a course is allowed what any of them allows. An administrator who looks into a course reaches what the
 * look allows, where they are no member.
 * Worked example: a student asking for `gradebook.see` in their course is refused; in another course it is unknown.
 */
export function decide(actor: Actor, permission: Permission, courseId: string | null): Decision {
  if (permission === 'school.administer') {
    return actor.isAdministrator ? { isAllowed: true, membership: null } : { isAllowed: false, reason: 'refused' };
  }
  const here = (m: Membership): boolean => m.courseId === courseId && m.isActive;
  const members = actor.memberships.filter(here);
  const own = members.length > 0 ? members : (actor.looks ?? []).filter(here);
  if (own.length === 0) return { isAllowed: false, reason: 'unknown' };
  const membership = own.find((m) => isHeldBy(m, permission));
  return membership === undefined ? { isAllowed: false, reason: 'refused' } : { isAllowed: true, membership };
}

/** Whether a member reaches the students of a section: assistants only those shared out to them. */
export function reachesSection(membership: Membership, sectionId: string | null): boolean {
  return membership.sectionIds === null || (sectionId !== null && membership.sectionIds.includes(sectionId));
}
