import type { OwnWork, PeerChoices, SamplesWhen } from './setting.ts';

/** The dates of the reviews in force for one student; instants in milliseconds since 1970, or null where nothing is said. */
export interface ReviewDates {
  readonly worksDueAt: number | null;
  readonly reviewsOpenAt: number | null;
  readonly reviewsDueAt: number | null;
}

/** Where a reviewer stands, which the door to their reviews depends on. */
export interface Standing {
  readonly hasHandedIn: boolean;
  /** Reviews of others they are to give, and how many they gave. */
  readonly owed: number;
  readonly given: number;
  readonly ownIsAssessed: boolean;
  readonly samples: number;
  readonly samplesAssessed: number;
}

export type ReviewDoor =
  | { readonly isOpen: true; readonly isLate: boolean }
  | {
      readonly isOpen: false;
      readonly why: 'hand in first' | 'not yet' | 'past' | 'samples first' | 'own work first' | 'others first';
      readonly opensAt: number | null;
    };

/** Which kind of review is asked about. */
export type ReviewRole = 'peer' | 'self' | 'sample';

/** When reviews open for somebody: at a time, with the works’ due date, or at once (null). */
export const reviewsOpenFor = (choices: Pick<PeerChoices, 'reviewsOpen'>, dates: ReviewDates): number | null =>
  ({ 'own work': null, 'works due': dates.worksDueAt, time: dates.reviewsOpenAt })[choices.reviewsOpen];

const isBefore = (own: OwnWork | SamplesWhen, ...early: string[]): boolean => early.includes(own);

/**
 * Whether somebody may give a review now, and if not, why: their own work first, where it is asked for; not before the reviews open; not
 * after they are due, unless late ones are taken; sample works and one’s own work in the order that is chosen. `hasGiven` is whether
 * this review was handed in already: it is then changed until it is due, and no later; of a sample work it stays, since it was compared.
 * Worked example: reviews open when works are due, it is the day before: not open, `not yet`, with the due time of the works.
 */
export function reviewDoor(
  choices: Pick<PeerChoices, 'reviewsOpen' | 'needsOwnWork' | 'takesLateReviews' | 'ownWork' | 'samples'>,
  dates: ReviewDates,
  standing: Standing,
  role: ReviewRole,
  hasGiven: boolean,
  now: number,
): ReviewDoor {
  const shut = (why: Extract<ReviewDoor, { isOpen: false }>['why'], opensAt: number | null = null): ReviewDoor => ({
    isOpen: false,
    why,
    opensAt,
  });
  const areSamplesDone = standing.samplesAssessed >= standing.samples;
  if (role === 'sample') {
    // Those who are given nothing to review until it is due have nothing to come after.
    const isPast = dates.reviewsDueAt !== null && now > dates.reviewsDueAt;
    const areGiven = standing.owed > 0 ? standing.given >= standing.owed : standing.ownIsAssessed;
    if (isBefore(choices.samples, 'after') && !areGiven && !isPast) return shut('others first');
    return hasGiven ? shut('past') : { isOpen: true, isLate: false };
  }
  if (!standing.hasHandedIn && (choices.needsOwnWork || role === 'self')) return shut('hand in first');
  const opensAt = reviewsOpenFor(choices, dates);
  if (opensAt !== null && now < opensAt) return shut('not yet', opensAt);
  const isLate = dates.reviewsDueAt !== null && now > dates.reviewsDueAt;
  if (isLate && (hasGiven || !choices.takesLateReviews)) return shut('past');
  if (isBefore(choices.samples, 'before') && !areSamplesDone) return shut('samples first');
  if (role === 'peer' && isBefore(choices.ownWork, 'first') && !standing.ownIsAssessed) return shut('own work first');
  if (role === 'self' && isBefore(choices.ownWork, 'last') && standing.given < standing.owed) return shut('others first');
  return { isOpen: true, isLate };
}

export const REVIEW_STATES = ['to give', 'begun', 'given', 'missing', 'set aside'] as const;
export type ReviewState = (typeof REVIEW_STATES)[number];

/**
 * The state of one review, derived: set aside goes before given, given before what the clock says. Past its due time it is missing,
 * also where something was begun: what was not handed in was not given.
 * Example: begun, due yesterday: `missing`.
 */
export function reviewState(
  review: { readonly isGiven: boolean; readonly isBegun: boolean; readonly isSetAside: boolean },
  dueAt: number | null,
  now: number,
): ReviewState {
  if (review.isSetAside) return 'set aside';
  if (review.isGiven) return 'given';
  if (dueAt !== null && now > dueAt) return 'missing';
  return review.isBegun ? 'begun' : 'to give';
}
