import { type Membership, type ReviewDates, reviewDoor, type ReviewDoor, type ReviewRole, type Standing, termEnd } from '@rosemary/core';
import { getVisible, makeDatesFor, readReach, type Visible } from '../opening/index.ts';
import { findPeer, type Peer, type Sample } from '../peerSetting/index.ts';
import type { Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { getTerm } from '../term/index.ts';
import { listOpenSamples, listPractice, type Practice } from './practise.ts';
import { listReviewsOf, type ReviewRow } from './reviewRows.ts';
import { findOwnWork } from './works.ts';

/** A student at a peer review: what holds for them. */
export interface Reviewing {
  readonly courseId: string;
  readonly itemId: string;
  readonly enrolmentId: string;
  readonly visible: Visible;
  readonly peer: Peer;
  readonly dates: ReviewDates;
  readonly standing: Standing;
  readonly own: readonly ReviewRow[];
  readonly ownWork: { readonly submissionIds: readonly string[] } | null;
  /** Sample works that students see, and what this one made of them. */
  readonly samples: readonly Sample[];
  readonly practice: readonly Practice[];
  readonly now: number;
}

/** What a student may know of a peer review; of one that is switched off, or of an item that is not theirs to see, nothing. */
export async function readReviewing(db: Db, courseId: string, itemId: string, member: Membership, now: number): Promise<Reviewing> {
  const visible = await getVisible(db, courseId, itemId, member, now);
  const peer = await findPeer(db, itemId);
  if (peer === null || !peer.isOn || visible.visibility === 'announced') throw notFound();
  const { enrolmentId } = member;
  const { zone, term } = await getTerm(db, courseId);
  const datesFor = await makeDatesFor(db, courseId, zone, termEnd(term, zone), await readReach(db, courseId), {
    of: enrolmentId,
    phase: 'reviews',
  });
  const inForce = datesFor(
    { id: itemId, announcedAt: null, opensAt: peer.reviewsOpenAt, dueAt: peer.reviewsDueAt, closesAt: null },
    { enrolmentId, sectionId: member.sectionIds?.[0] ?? null },
  );
  const own = await listReviewsOf(db, itemId, enrolmentId);
  const ownWork = await findOwnWork(db, itemId, enrolmentId);
  const samples = await listOpenSamples(db, itemId, peer.rubricId);
  const practice = await listPractice(db, itemId, enrolmentId);
  const isPractised = (id: string): boolean => practice.some((p) => p.sampleId === id && p.handedInAt !== null);
  const ofOthers = own.filter((r) => r.role === 'peer');
  return {
    ...{ courseId, itemId, enrolmentId, visible, peer, own, ownWork, samples, practice, now },
    dates: { worksDueAt: visible.dates.due.at, reviewsOpenAt: inForce.opens.at, reviewsDueAt: inForce.due.at },
    standing: {
      hasHandedIn: ownWork !== null,
      owed: ofOthers.length,
      given: ofOthers.filter((r) => r.handedInAt !== null).length,
      ownIsAssessed: own.some((r) => r.role === 'self' && r.handedInAt !== null),
      samples: samples.length,
      samplesAssessed: samples.filter((s) => isPractised(s.id)).length,
    },
  };
}

export const roleOf = (review: ReviewRow): ReviewRole => (review.role === 'self' ? 'self' : 'peer');

export const doorOf = ({ peer, dates, standing, now }: Reviewing, review: ReviewRow): ReviewDoor =>
  reviewDoor(peer, dates, standing, roleOf(review), review.handedInAt !== null, now);

/** A review of theirs by its identifier; anybody else’s is not found. */
export function requireOwn(reviewing: Reviewing, reviewId: string): ReviewRow {
  const review = reviewing.own.find((r) => r.id === reviewId);
  if (review === undefined) throw notFound();
  return review;
}
