import type { OwedLine, OwnPeer, OwnReview, ReadWorkView, ReceivedReview } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import { reviewState, rubricScore } from '@rosemary/core';
import { type Db, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { isoAt } from '../platform/instants.ts';
import { findRubric } from '../rubric/index.ts';
import { findOwnLeave } from './leave.ts';
import { sampleLines } from './ownSample.ts';
import { readWork } from './readWork.ts';
import { findWorkings } from './results.ts';
import { doorOf, requireOwn, type Reviewing, roleOf } from './reviewing.ts';
import { listNotesOf, listTakenUp } from './reviewNotes.ts';
import { listReceived, type ReviewRow } from './reviewRows.ts';
import { listShown } from './showing.ts';

const stateOf = ({ dates, now }: Reviewing, review: ReviewRow) =>
  reviewState({ isGiven: review.handedInAt !== null, isBegun: review.savedAt !== null, isSetAside: false }, dates.reviewsDueAt, now);

const PLACES = ['First', 'Second', 'Third', 'Fourth', 'Fifth', 'Sixth', 'Seventh', 'Eighth', 'Ninth', 'Tenth', 'Eleventh'];

/** What the works are called: whose they are where reviewers may know, else by their place in the list. */
async function titlesOf(db: Db, reviewing: Reviewing): Promise<ReadonlyMap<string, string>> {
  const names = new Map<string, string>();
  if (reviewing.peer.showsAuthors) {
    const found = await rows<{ id: string; name: string }>(
      db,
      `select s.id, p.given_name || ' ' || p.family_name as name from submission s join enrolment e on e.id = s.enrolment_id join person p on p.id = e.person_id where s.id = any($1)`,
      [reviewing.own.map((r) => r.workId)],
    );
    for (const row of found) names.set(row.id, row.name);
  }
  const titles = new Map<string, string>();
  let place = 0;
  for (const r of reviewing.own) {
    if (r.role === 'self') titles.set(r.id, 'Your own work');
    else {
      titles.set(r.id, names.get(r.workId) ?? `${PLACES[place] ?? String(place + 1)} work`);
      place += 1;
    }
  }
  return titles;
}

/** Why somebody finds nothing to review, in a sentence that says when there will be. */
function waitsFor({ peer, standing, own, now, dates }: Reviewing): string | null {
  if (own.length > 0) return null;
  if (peer.needsOwnWork && !standing.hasHandedIn) return 'Hand in your own work first: only then are you given others to review.';
  if (dates.reviewsDueAt !== null && now > dates.reviewsDueAt) return 'No work was left for you to review.';
  if (peer.drawnAt !== null) return 'No work is left for you to review now. If one comes late, it may still be given to you.';
  if (peer.drawing === 'hand') return 'Your teacher has not given out the works yet.';
  if (peer.drawing === 'as they come') return 'Works are given out as soon as enough of them are in.';
  return peer.drawing === 'time' ? 'Works are given out at the time that is set.' : 'Works are given out when they are due.';
}

/** Who gave reviews, by review, for authors who may know. */
async function listNames(db: Db, reviews: readonly ReviewRow[]): Promise<ReadonlyMap<string, string>> {
  const found = await rows<{ id: string; name: string }>(
    db,
    "select r.id, p.given_name || ' ' || p.family_name as name from review r join enrolment e on e.id = r.enrolment_id join person p on p.id = e.person_id where r.id = any($1)",
    [reviews.map((r) => r.id)],
  );
  return new Map(found.map((row) => [row.id, row.name]));
}

/** What came of it, once results are out: what others saw, and the working of the results as they were given. */
async function received(db: Db, reviewing: Reviewing): Promise<Pick<OwnPeer, 'received' | 'work' | 'reviewing'>> {
  const { itemId, enrolmentId, peer, ownWork } = reviewing;
  if (peer.resultsOutAt === null) return { received: null, work: null, reviewing: null };
  const reviews = await listReceived(db, ownWork?.submissionIds ?? [], enrolmentId);
  const ids = reviews.map((r) => r.id);
  const [notes, takenUp] = [await listNotesOf(db, ids), await listTakenUp(db, ids)];
  const now = (await findRubric(db, peer.rubricId)) ?? { version: 0, criteria: [] };
  const names = peer.showsReviewers ? await listNames(db, reviews) : new Map<string, string>();
  let others = 0;
  const shown = reviews.map((r): ReceivedReview => {
    if (r.role === 'peer') others += 1;
    const name = names.get(r.id) ?? `Reviewer ${others}`;
    const form = r.form ?? now;
    const score = rubricScore(form.criteria, r.choices, r.given);
    return {
      ...{ id: r.id, by: r.role === 'teacher' ? 'Your teacher' : r.role === 'self' ? 'You' : name },
      ...{ isOwn: r.role === 'self', isTeacher: r.role === 'teacher', form },
      total: score.possible === 0 ? null : score.score,
      ...{ choices: r.choices, given: r.given, comments: r.comments, words: r.words, notes: notes.get(r.id) ?? [] },
      answered: [...r.answered, ...(takenUp.get(r.id) ?? [])],
      ...{ answer: r.answer, isThanked: r.isThanked, reportedWhy: r.reportedWhy, answerVersion: r.answerVersion },
    };
  });
  return { received: shown, ...(await findWorkings(db, itemId, enrolmentId)) };
}

/** A peer review as a student sees it. */
export async function getOwnPeer(db: Db, reviewing: Reviewing): Promise<OwnPeer> {
  const { peer, dates, standing, own } = reviewing;
  const titles = await titlesOf(db, reviewing);
  return {
    prompt: peer.prompt,
    ...{ worksDueAt: isoAt(dates.worksDueAt), reviewsOpenAt: isoAt(dates.reviewsOpenAt), reviewsDueAt: isoAt(dates.reviewsDueAt) },
    resultsAt: isoAt(peer.resultsAt),
    owes: standing.owed,
    owed: own.map((r): OwedLine => ({
      id: r.id,
      role: roleOf(r),
      title: titles.get(r.id) ?? '',
      state: stateOf(reviewing, r),
      door: doorOf(reviewing, r),
    })),
    ...{ samples: sampleLines(reviewing), samplesWhen: peer.samples },
    waits: waitsFor(reviewing),
    ...{ showsAuthors: peer.showsAuthors, showsReviewers: peer.showsReviewers },
    ...(await received(db, reviewing)),
    leave: await findOwnLeave(db, reviewing.itemId, reviewing.enrolmentId),
    shown: await listShown(db, reviewing),
    ...{ closing: peer.resultsOutAt === null ? null : peer.closing, revisionDueAt: isoAt(peer.revisionDueAt) },
  };
}

/** The work of a review, at the attempt it was given on. */
const readReviewed = (db: Db, { courseId, itemId, peer }: Reviewing, review: ReviewRow): Promise<ReadWorkView> =>
  readWork(db, {
    ...{ submissionId: review.workId, attemptId: review.attemptId, isNamed: peer.showsAuthors || review.role === 'self' },
    urlOfFile: (fileId) => urlOf(api.getReviewedFile, { courseId, itemId, reviewId: review.id, fileId }),
  });

/** One review with the work it is of, for the student who gives it. The work is read once the door is open, or was. */
export async function getOwnReview(db: Db, reviewing: Reviewing, reviewId: string): Promise<OwnReview> {
  const review = requireOwn(reviewing, reviewId);
  const door = doorOf(reviewing, review);
  if (!door.isOpen && door.why !== 'past' && review.handedInAt === null) throw notFound();
  const { peer, dates, visible } = reviewing;
  const titles = await titlesOf(db, reviewing);
  const form = review.form ?? (await findRubric(db, peer.rubricId)) ?? { version: 0, criteria: [] };
  return {
    ...{ id: review.id, itemTitle: visible.item.title, title: titles.get(review.id) ?? '', role: roleOf(review) },
    ...{ state: stateOf(reviewing, review), door, dueAt: isoAt(dates.reviewsDueAt), prompt: peer.prompt, form },
    leastWords: peer.leastWords,
    work: await readReviewed(db, reviewing, review),
    notes: (await listNotesOf(db, [review.id])).get(review.id) ?? [],
    ...{ choices: review.choices, given: review.given, comments: review.comments, words: review.words },
    ...{ savedAt: isoAt(review.savedAt), handedInAt: isoAt(review.handedInAt), version: review.version },
  };
}

/** The attempt whose places the notes of a review are at. */
export const attemptOf = async (db: Db, reviewing: Reviewing, review: ReviewRow): Promise<string | null> =>
  (await readReviewed(db, reviewing, review)).attemptId;
