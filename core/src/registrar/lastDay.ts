/** What a student did, and when: from these the last day of attendance is offered. */
export const ACTIVITIES = {
  'hand-in': 'handed in',
  answer: 'answered in a quiz',
  visit: 'visited',
  post: 'wrote in a discussion',
} as const;
export type ActivityKind = keyof typeof ACTIVITIES;
export interface Activity {
  readonly kind: ActivityKind;
  /** Of which item it was. */
  readonly title: string;
  /** The day by the clock of the course, written 2026-12-18. */
  readonly day: string;
}

/**
 * The last days that are offered as a student’s last day of attendance: the latest of each kind of activity within the term and not still to
 * come, the latest first. Empty where nothing was recorded.
 * Worked example: a visit on 3 November and a hand-in on 28 October offer the 3rd (visited) first, then the 28th (handed in).
 */
export function offerLastDays(activities: readonly Activity[], startsOn: string, today: string): readonly Activity[] {
  const latest = new Map<ActivityKind, Activity>();
  for (const one of activities) {
    if (one.day < startsOn || one.day > today) continue;
    const held = latest.get(one.kind);
    if (held === undefined || held.day < one.day) latest.set(one.kind, one);
  }
  return [...latest.values()].sort((a, b) => b.day.localeCompare(a.day) || a.kind.localeCompare(b.kind));
}
