import { randomUUID } from 'node:crypto';
import type { PeerDraw, PeerPairing } from '@rosemary/api';
import { pageOf } from '@rosemary/api';
import { allocate, type Allocation, countOf, type OpenPlace, type Pairing, type ReadWork } from '@rosemary/core';
import { tell } from '../notices/index.ts';
import { findPeer, noteDrawn, noteNothingDrawn } from '../peerSetting/index.ts';
import { type Db, maybe, run } from '../platform/database.ts';
import { AppError, invalid, notFound } from '../platform/errors.ts';
import { type PeerFacts, readPeer } from './readPeer.ts';
import type { ReviewRow } from './reviewRows.ts';

const isBegun = (review: ReviewRow): boolean => review.savedAt !== null || review.handedInAt !== null;

/** Drawn, and not begun: it may go to somebody else where a late work would find no place. */
const isMovable = (review: ReviewRow): boolean => review.origin === 'drawn' && !isBegun(review);

/** The works of students who are still here; what others left behind is not given out any more. */
const livingWorks = (facts: PeerFacts) => facts.works.filter((work) => work.authors.some((a) => facts.people.has(a)));

/** Whether somebody may be given a work: as the setting keeps sections and groups together or apart. */
function mayReviewIn({ peer, people, groupOf }: PeerFacts): (reviewerId: string, work: ReadWork) => boolean {
  const sectionOf = (id: string): string | null => people.get(id)?.sectionId ?? null;
  const shares = (reviewerId: string, work: ReadWork, of: (id: string) => string | null): boolean =>
    work.authors.some((author) => of(author) !== null && of(author) === of(reviewerId));
  const group = (id: string): string | null => groupOf.get(id) ?? null;
  if (peer.among === 'section') return (reviewerId, work) => shares(reviewerId, work, sectionOf);
  if (peer.among === 'group') return (reviewerId, work) => shares(reviewerId, work, group);
  if (peer.among === 'outside group') return (reviewerId, work) => !shares(reviewerId, work, group);
  return () => true;
}

/**
 * Whether a drawn review that nobody has begun is of a work that its reviewer may not read any more: the groups were merged or people moved
 * since. What a teacher paired by hand stays as they set it.
 */
function isMisplacedIn(facts: PeerFacts): (review: ReviewRow) => boolean {
  const may = mayReviewIn(facts);
  const workOf = new Map(facts.works.map((work) => [work.id, work]));
  return (review) => {
    const work = workOf.get(review.workId);
    if (review.role !== 'peer' || review.enrolmentId === null || work === undefined || !isMovable(review)) return false;
    const read = { id: work.id, wanted: facts.peer.reviewsPerWork, authors: work.authors };
    return work.authors.includes(review.enrolmentId) || !may(review.enrolmentId, read);
  };
}

const pairOf = (review: ReviewRow): Pairing => ({ reviewerId: review.enrolmentId ?? '', workId: review.workId });

interface Drawing {
  readonly seed: string;
  readonly standing: readonly ReviewRow[];
  /** How many more than they are to give anybody may be asked for. */
  readonly more: number;
}

/** What an allocation of these facts gives; nothing is written. */
function allocateIn(facts: PeerFacts, { seed, standing, more }: Drawing): Allocation {
  const { peer } = facts;
  // By name, so that the same class with the same seed is drawn alike wherever it stands.
  const place = new Map([...facts.people.keys()].map((id, n) => [id, n]));
  const placeOf = (work: { readonly authors: readonly string[] }): number => Math.min(...work.authors.flatMap((a) => place.get(a) ?? []));
  const placeOfWork = new Map(facts.works.map((work) => [work.id, placeOf(work)]));
  const ordered = standing
    .filter((r) => r.role === 'peer')
    .map((review) => ({ review, by: place.get(review.enrolmentId ?? '') ?? -1, of: placeOfWork.get(review.workId) ?? -1 }))
    .sort((a, b) => a.by - b.by || a.of - b.of)
    .map(({ review }) => review);
  const canGive = [...facts.people.keys()].filter((id) => !peer.needsOwnWork || facts.workOf.has(id));
  return allocate({
    reviewers: canGive.map((id) => ({ id, most: peer.reviewsPerStudent + more })),
    works: livingWorks(facts)
      .sort((a, b) => placeOf(a) - placeOf(b))
      .map((work) => ({ id: work.id, wanted: peer.reviewsPerWork, authors: work.authors })),
    mayReview: mayReviewIn(facts),
    standing: ordered.filter((r) => !isMovable(r)).map(pairOf),
    movable: ordered.filter(isMovable).map(pairOf),
    seed,
  });
}

/** Why works have fewer reviews than they are to get, as the pairs stand now, by work. */
export function openPlaces(facts: PeerFacts): ReadonlyMap<string, OpenPlace> {
  if (facts.peer.ownWork === 'alone') return new Map();
  const may = mayReviewIn(facts);
  const givers = [...facts.people.keys()].filter((id) => !facts.peer.needsOwnWork || facts.workOf.has(id));
  const got = new Map<string, number>();
  const isMisplaced = isMisplacedIn(facts);
  for (const r of facts.reviews) if (r.role === 'peer' && !isMisplaced(r)) got.set(r.workId, (got.get(r.workId) ?? 0) + 1);
  return new Map(
    livingWorks(facts).flatMap((work): (readonly [string, OpenPlace])[] => {
      const missing = facts.peer.reviewsPerWork - (got.get(work.id) ?? 0);
      if (missing <= 0) return [];
      const read = { id: work.id, wanted: facts.peer.reviewsPerWork, authors: work.authors };
      const eligible = givers.filter((id) => !work.authors.includes(id) && may(id, read)).length;
      const reason = eligible < facts.peer.reviewsPerWork ? 'too few may review it' : 'all who may are full';
      return [[work.id, { workId: work.id, missing, eligible, reason }]];
    }),
  );
}

/** In a sentence, for the board. */
export const openInWords = ({ missing, reason, eligible }: OpenPlace): string =>
  reason === 'too few may review it'
    ? `${countOf(missing, 'review')} too few: only ${countOf(eligible, 'student')} may review it`
    : `${countOf(missing, 'review')} too few: all who may review it have as many as they are to give, or it is not drawn yet`;

async function insertPairs(
  db: Db,
  itemId: string,
  pairs: readonly (Pairing & { readonly role: 'peer' | 'self'; readonly origin: ReviewRow['origin'] })[],
  drawId: string | null,
  now: number,
): Promise<void> {
  await run(
    db,
    `insert into review (item_id, role, submission_id, enrolment_id, origin, draw_id, made_at)
     select $1, t.role, t.work, t.reviewer, t.origin, $6, to_timestamp($7 / 1000.0) from unnest($2::text[], $3::uuid[], $4::uuid[], $5::text[]) as t(role, work, reviewer, origin)
     on conflict do nothing`,
    [itemId, pairs.map((p) => p.role), pairs.map((p) => p.workId), pairs.map((p) => p.reviewerId), pairs.map((p) => p.origin), drawId, now],
  );
}

/** Takes works from their reviewers again, by a drawing that gives them back where it is taken back. */
const drop = (db: Db, ids: readonly string[], why: string, drawId: string, now: number): Promise<number> =>
  run(
    db,
    'update review set dropped_at = to_timestamp($4 / 1000.0), dropped_why = $2, dropped_by_draw = $3 where id = any($1) and dropped_at is null',
    [ids, why, drawId, now],
  );

async function tellReviewers(db: Db, courseId: string, facts: PeerFacts, enrolmentIds: readonly string[], at: number): Promise<void> {
  const personIds = [...new Set(enrolmentIds)].flatMap((id) => facts.people.get(id)?.personId ?? []);
  if (personIds.length === 0) return;
  await tell(db, {
    ...{ courseId, personIds, at, kind: 'review' },
    words: `“${facts.title}”: works for you to review`,
    body: 'Open it to read them and to write your reviews.',
    path: pageOf('study', { courseId, itemId: facts.itemId }),
  });
}

/** Everybody’s own work, where they are to assess it too. */
const ownPairs = (facts: PeerFacts) =>
  facts.peer.ownWork === 'none'
    ? []
    : livingWorks(facts).flatMap((work) =>
        work.authors
          .filter((a) => facts.people.has(a) && !facts.reviews.some((r) => r.enrolmentId === a && r.workId === work.id))
          .map((reviewerId) => ({ reviewerId, workId: work.id, role: 'self', origin: 'own' }) as const),
      );

/** Holds the setting until all is written, so that one of two goes after the other; refused where no student reviews. */
async function holdRunning(db: Db, itemId: string): Promise<void> {
  const held = await findPeer(db, itemId, true);
  if (held === null || !held.isOn) throw new AppError('not-now', 'This is not reviewed by students. Say first who else reads the works.');
}

/**
 * Draws who reviews whom, in addition to what stands: works that came late are fitted in, what somebody who left was to give is given to
 * others. Gives the identifier of the drawing, by which it is taken back, and which is its seed where none is given. One drawing at a time: the setting is held until it is done.
 */
export async function draw(db: Db, courseId: string, itemId: string, how: PeerDraw, now: number, seed?: string): Promise<string> {
  await holdRunning(db, itemId);
  const facts = await readPeer(db, courseId, itemId, now);
  if (facts.works.length === 0) throw new AppError('not-now', 'Nobody has handed in yet, so there is nothing to give out.');
  const drawId = randomUUID();
  const isGone = (r: ReviewRow): boolean => r.enrolmentId !== null && !facts.people.has(r.enrolmentId) && r.handedInAt === null;
  const isPast = (r: ReviewRow): boolean => {
    const person = facts.people.get(r.enrolmentId ?? '');
    const due = person === undefined ? null : facts.reviewsDueAt(person);
    return how.dropsPast && !isBegun(r) && due !== null && now > due;
  };
  const gone = facts.reviews.filter((r) => r.role === 'peer' && isGone(r));
  const past = facts.reviews.filter((r) => r.role === 'peer' && !isGone(r) && isPast(r));
  const isMisplaced = isMisplacedIn(facts);
  const misplaced = facts.reviews.filter((r) => isMisplaced(r) && !isGone(r) && !isPast(r));
  const takeFrom = (reviews: readonly ReviewRow[], why: string): Promise<number> =>
    drop(
      db,
      reviews.map((r) => r.id),
      why,
      drawId,
      now,
    );
  await takeFrom(gone, 'no longer in the course');
  await takeFrom(past, 'nothing given by the due date');
  await takeFrom(misplaced, 'of their own group since groups were changed');
  const left = new Set([...gone, ...past, ...misplaced].map((r) => r.id));
  const late = new Set(past.map((r) => r.enrolmentId));
  const standing = facts.reviews.filter((r) => !left.has(r.id));
  // Whoever let the date pass is given nothing new; what somebody else was to give may make one more for others.
  const people = new Map([...facts.people].filter(([id]) => !late.has(id)));
  const after: PeerFacts = { ...facts, people: how.dropsPast ? people : facts.people, reviews: standing };
  const living: PeerFacts = { ...after, works: livingWorks(facts) };
  const isAlone = facts.peer.ownWork === 'alone';
  const by = (more: number): Allocation =>
    isAlone ? { drawn: [], moved: [], open: [] } : allocateIn(living, { seed: seed ?? drawId, standing, more });
  const usual = by(how.asksForMore || left.size > 0 ? 1 : 0);
  // What comes after the first drawing may ask for one review more, before a work is left with too few.
  const isFull = facts.peer.drawnAt !== null && usual.open.some((o) => o.reason === 'all who may are full');
  const { drawn, moved } = isFull ? by(1) : usual;
  const given = standing.filter((r) => isMovable(r) && moved.some((m) => m.reviewerId === r.enrolmentId && m.workId === r.workId));
  await takeFrom(given, 'given to somebody else, so that a late work finds its place');
  const pairs = [...drawn.map((p) => ({ ...p, role: 'peer', origin: 'drawn' }) as const), ...ownPairs(facts)];
  await insertPairs(db, itemId, pairs, drawId, now);
  await noteDrawn(db, itemId, now);
  await tellReviewers(
    db,
    courseId,
    facts,
    pairs.map((p) => p.reviewerId),
    now,
  );
  return drawId;
}

/** Takes a drawing back: what nobody has begun of it. A review that is begun stays. */
export async function undoDraw(db: Db, itemId: string, drawId: string, now: number): Promise<void> {
  await findPeer(db, itemId, true);
  const taken = await run(
    db,
    `update review set dropped_at = to_timestamp($3 / 1000.0), dropped_why = 'the drawing was taken back' where item_id = $1 and draw_id = $2 and dropped_at is null and saved_at is null and handed_in_at is null`,
    [itemId, drawId, now],
  );
  if (taken === 0) throw new AppError('not-now', 'Every review of this drawing is begun, or it was taken back before.');
  // What it took from others is theirs again, where they did not get the work otherwise meanwhile.
  await run(
    db,
    `update review r set dropped_at = null, dropped_why = '', dropped_by_draw = null where r.item_id = $1 and r.dropped_by_draw = $2
       and not exists (select 1 from review o where o.submission_id = r.submission_id and o.enrolment_id = r.enrolment_id and o.dropped_at is null)
       and not exists (select 1 from enrolment e where e.id = r.enrolment_id and e.withdrawn_at is not null)`,
    [itemId, drawId],
  );
  const left = await maybe(
    db,
    'select 1 as one from review where item_id = $1 and dropped_at is null and enrolment_id is not null limit 1',
    [itemId],
  );
  if (left === null) await noteNothingDrawn(db, itemId);
}

/** Gives one work to one student by hand. */
export async function pair(db: Db, courseId: string, itemId: string, { reviewerId, workId }: PeerPairing, now: number): Promise<void> {
  await holdRunning(db, itemId);
  const facts = await readPeer(db, courseId, itemId, now);
  const work = facts.works.find((w) => w.id === workId);
  if (work === undefined || !facts.people.has(reviewerId)) throw notFound();
  if (work.authors.includes(reviewerId)) throw invalid('reviewerId', 'This is their own work. Choose somebody else.');
  if (facts.reviews.some((r) => r.enrolmentId === reviewerId && r.workId === workId))
    throw invalid('reviewerId', 'They review this work already. Choose somebody else.');
  await insertPairs(db, itemId, [{ reviewerId, workId, role: 'peer', origin: 'hand' }], null, now);
  await noteDrawn(db, itemId, now);
  await tellReviewers(db, courseId, facts, [reviewerId], now);
}

/** Takes a work from a reviewer again, as long as they have not handed the review in. */
export async function unpair(db: Db, itemId: string, reviewId: string, now: number): Promise<void> {
  const taken = await run(
    db,
    `update review set dropped_at = to_timestamp($3 / 1000.0), dropped_why = 'taken back by the teacher' where item_id = $1 and id = $2 and role <> 'teacher' and dropped_at is null and handed_in_at is null`,
    [itemId, reviewId, now],
  );
  if (taken === 0) throw new AppError('not-now', 'This review is handed in, so it stays. It can be set aside.');
}
