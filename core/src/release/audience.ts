/** Whom something is for: sections and single students. Nobody named is everyone. */
export interface Audience {
  readonly sectionIds: readonly string[];
  readonly enrolmentIds: readonly string[];
}

/** What an item needs told of a unit it stands in. */
export interface UnitReach {
  readonly isStaffOnly: boolean;
  readonly audience: Audience;
}

export const EVERYONE: Audience = { sectionIds: [], enrolmentIds: [] };

/**
 * Whether an audience takes a student in: nobody named is everyone, else their section or they themselves must be named.
 * Worked example: named are the section Distance and Ada; Ada of the section Morning is taken in.
 */
export function isInAudience(audience: Audience, person: { readonly enrolmentId: string; readonly sectionId: string | null }): boolean {
  if (audience.sectionIds.length === 0 && audience.enrolmentIds.length === 0) return true;
  return (
    audience.enrolmentIds.includes(person.enrolmentId) || (person.sectionId !== null && audience.sectionIds.includes(person.sectionId))
  );
}

/**
 * Whether an item is for a student: its own audience takes them in, and so does one of the units it stands in that is not
 * staff-only. An item in no unit (a class activity of the gradebook) depends on its own audience alone.
 * Worked example: an item for everyone, in one unit for the section Distance only: a student of Morning does not see it.
 */
export function isForStudent(
  own: Audience,
  units: readonly UnitReach[],
  person: { readonly enrolmentId: string; readonly sectionId: string | null },
): boolean {
  if (!isInAudience(own, person)) return false;
  return units.length === 0 || units.some((unit) => !unit.isStaffOnly && isInAudience(unit.audience, person));
}
