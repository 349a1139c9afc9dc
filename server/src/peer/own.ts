import type { OwedLine, OwnPeer, OwnReview, ReadWorkView, ReceivedReview } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import {
  type DocumentNode,
  type Membership,
  type ReviewDates,
  reviewDoor,
  type ReviewDoor,
  type ReviewRole,
  reviewState,
  rubricScore,
  type Standing,
  termEnd,
} from '@rosemary/core';
import { type FileRow, fileView } from '../files/index.ts';
import { getVisible, makeDatesFor, readReach, type Visible } from '../opening/index.ts';
import { findPeer, type Peer } from '../peerSetting/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { isoAt } from '../platform/instants.ts';
import { findRubric } from '../rubric/index.ts';
import { getTerm } from '../term/index.ts';
import { readPeer } from './readPeer.ts';
import { makeResults } from './results.ts';
import { listNotesOf } from './reviewNotes.ts';
import { listReviewsOf, type ReviewRow } from './reviewRows.ts';
import { listPeerWorks, type PeerWorkRow } from './works.ts';

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
  readonly ownWork: PeerWorkRow | null;
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
  const works = await listPeerWorks(db, itemId);
  const ownWork = works.find((w) => w.authors.includes(enrolmentId)) ?? null;
  const ofOthers = own.filter((r) => r.role === 'peer');
  return {
    ...{ courseId, itemId, enrolmentId, visible, peer, own, ownWork, now },
    dates: { worksDueAt: visible.dates.due.at, reviewsOpenAt: inForce.opens.at, reviewsDueAt: inForce.due.at },
    standing: {
      hasHandedIn: ownWork !== null,
      owed: ofOthers.length,
      given: ofOthers.filter((r) => r.handedInAt !== null).length,
      ownIsAssessed: own.some((r) => r.role === 'self' && r.handedInAt !== null),
      samples: 0,
      samplesAssessed: 0,
    },
  };
}

const roleOf = (review: ReviewRow): ReviewRole => (review.role === 'self' ? 'self' : 'peer');

export const doorOf = ({ peer, dates, standing, now }: Reviewing, review: ReviewRow): ReviewDoor =>
  reviewDoor(peer, dates, standing, roleOf(review), review.handedInAt !== null, now);

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

/** What came of it, once results are out. */
async function received(db: Db, reviewing: Reviewing): Promise<Pick<OwnPeer, 'received' | 'work' | 'reviewing'>> {
  const { courseId, itemId, enrolmentId, peer, now } = reviewing;
  if (peer.resultsOutAt === null) return { received: null, work: null, reviewing: null };
  const facts = await readPeer(db, courseId, itemId, now);
  const results = makeResults(facts, now);
  const work = facts.workOf.get(enrolmentId);
  const reviews = facts.reviews.filter((r) => r.workId === work?.id && r.handedInAt !== null && r.setAsideAt === null);
  const notes = await listNotesOf(
    db,
    reviews.map((r) => r.id),
  );
  const mixed = await rows<{ id: string }>(db, 'select t.id from unnest($1::uuid[]) as t(id) order by md5(t.id::text)', [
    reviews.map((r) => r.id),
  ]);
  const place = new Map(mixed.map((row, n) => [row.id, n]));
  let others = 0;
  const shown = [...reviews]
    .sort((a, b) => (place.get(a.id) ?? 0) - (place.get(b.id) ?? 0))
    // One’s own, and a member’s of the own group, is only the own one’s.
    .filter((r) => r.role !== 'self' || r.enrolmentId === enrolmentId)
    .map((r): ReceivedReview => {
      const person = facts.people.get(r.enrolmentId ?? '');
      if (r.role === 'peer') others += 1;
      const name = person === undefined ? 'Somebody who left' : `${person.givenName} ${person.familyName}`;
      const by = r.role === 'teacher' ? 'Your teacher' : r.role === 'self' ? 'You' : peer.showsReviewers ? name : `Reviewer ${others}`;
      const form = r.form ?? facts.form;
      const score = rubricScore(form.criteria, r.choices, r.given);
      return {
        ...{ id: r.id, by, isOwn: r.role === 'self', isTeacher: r.role === 'teacher', form },
        total: score.possible === 0 ? null : score.score,
        ...{ choices: r.choices, given: r.given, comments: r.comments, words: r.words, notes: notes.get(r.id) ?? [] },
        ...{ answer: r.answer, isThanked: r.isThanked, reportedWhy: r.reportedWhy, answerVersion: r.answerVersion },
      };
    });
  return {
    received: shown,
    work: work === undefined ? null : (results.workResult(work.id)?.working ?? null),
    reviewing: facts.reviewingColumn === null ? null : (results.reviewing(enrolmentId).result?.working ?? null),
  };
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
    waits: waitsFor(reviewing),
    ...{ showsAuthors: peer.showsAuthors, showsReviewers: peer.showsReviewers },
    ...(await received(db, reviewing)),
  };
}

interface AttemptRow {
  id: string;
  document: DocumentNode | null;
  word_count: number;
  link: string;
  files: FileRow[];
}

/** The work of a review as it is read: without its author’s name in its files where names are hidden. */
async function readWork(db: Db, { courseId, itemId, peer }: Reviewing, review: ReviewRow): Promise<ReadWorkView> {
  const attempt = await maybe<AttemptRow & Record<string, unknown>>(
    db,
    `select a.id, a.document, a.word_count, a.link,
       coalesce((select json_agg(json_build_object('id', f.id, 'course_id', f.course_id, 'name', f.name, 'size', b.size, 'media_type', b.media_type) order by af.position, f.created_at)
                 from attempt_file af join file f on f.id = af.file_id join file_blob b on b.sha256 = f.sha256 where af.attempt_id = a.id), '[]') as files
     from attempt a where a.id = coalesce($1, (select coalesce(l.lead_id, l.id) from attempt l where l.submission_id = $2 order by l.number desc limit 1))`,
    [review.attemptId, review.workId],
  );
  if (attempt === null) throw notFound();
  const isNamed = peer.showsAuthors || review.role === 'self';
  return {
    ...{ attemptId: attempt.id, document: attempt.document, wordCount: attempt.word_count, link: attempt.link },
    files: attempt.files.map((row, n) => {
      const file = fileView(row);
      return {
        ...file,
        name: isNamed ? file.name : `File ${n + 1}${/\.[a-z0-9]{1,5}$/i.exec(file.name)?.[0].toLowerCase() ?? ''}`,
        url: urlOf(api.getReviewedFile, { courseId, itemId, reviewId: review.id, fileId: file.id }),
      };
    }),
  };
}

/** A review of theirs by its identifier; anybody else’s is not found. */
export function requireOwn(reviewing: Reviewing, reviewId: string): ReviewRow {
  const review = reviewing.own.find((r) => r.id === reviewId);
  if (review === undefined) throw notFound();
  return review;
}

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
    work: await readWork(db, reviewing, review),
    notes: (await listNotesOf(db, [review.id])).get(review.id) ?? [],
    ...{ choices: review.choices, given: review.given, comments: review.comments, words: review.words },
    ...{ savedAt: isoAt(review.savedAt), handedInAt: isoAt(review.handedInAt), version: review.version },
  };
}

/** The attempt whose places the notes of a review are at. */
export const attemptOf = async (db: Db, reviewing: Reviewing, review: ReviewRow): Promise<string> =>
  (await readWork(db, reviewing, review)).attemptId;
