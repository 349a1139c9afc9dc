import type { RubricView } from '@rosemary/api';
import {
  type Consensus,
  consensus,
  countOf,
  mostOf,
  nearness,
  type NamedCriterion,
  type OwedReview,
  peerAgreement,
  type Ratio,
  type PeerResult,
  pointsByCriterion,
  type ReviewScores,
  reviewState,
  reviewingResult,
  reviewingShare,
  reviewSigns,
  type ReviewSign,
  type RubricCriterion,
  scoredCriteria,
  type ShownOwed,
  type Strictness,
  sumOfReview,
  workResult,
  type WorkingLine,
} from '@rosemary/core';
import { type GradeWrite, listGradesForUpdate, recordGrades } from '../gradebook/index.ts';
import { tell } from '../notices/index.ts';
import { pageOf } from '@rosemary/api';
import { setRevisionsAfterReviews } from '../handIn/index.ts';
import { noteResultsOut } from '../peerSetting/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { announceReturned } from '../platform/events.ts';
import type { PeerFacts } from './readPeer.ts';
import type { ReviewRow } from './reviewRows.ts';

/** What a peer review comes to, as its reviews stand. */
export interface PeerResults {
  readonly criteria: readonly RubricCriterion[];
  readonly named: readonly NamedCriterion[];
  readonly consensus: Consensus | null;
  /** Of the reviews that were handed in, in the points of the form as it is now. */
  readonly scores: ReadonlyMap<string, ReviewScores>;
  readonly signs: ReadonlyMap<string, readonly ReviewSign[]>;
  readonly workResult: (workId: string) => PeerResult | null;
  readonly reviewing: (
    enrolmentId: string,
    strictness?: Strictness,
  ) => { readonly result: PeerResult | null; readonly owed: readonly ShownOwed[] };
  /** The share of the reviewing alone, by nearness, under any strictness. */
  readonly share: (enrolmentId: string, strictness: Strictness) => Ratio | null;
  readonly agreement: ReturnType<typeof peerAgreement>;
  readonly stateOf: (review: ReviewRow) => ReturnType<typeof reviewState>;
}

/** The criteria that results are made of: those of the form as it is, and those that reviews were given under and the form has no longer. */
function allCriteria(form: RubricView, reviews: readonly ReviewRow[]): readonly RubricCriterion[] {
  const known = new Map(form.criteria.map((c) => [c.id, c]));
  for (const review of reviews) for (const c of review.form?.criteria ?? []) if (!known.has(c.id)) known.set(c.id, c);
  return scoredCriteria([...known.values()]);
}

/** The points of a review on the criteria as they are now: what it gave under an older form keeps its share of each criterion. */
function scoresOf(review: ReviewRow, criteria: readonly RubricCriterion[]): ReviewScores {
  const form = review.form?.criteria ?? [];
  const found = pointsByCriterion(form, review.choices, review.given);
  const points = Object.entries(found).flatMap(([id, given]) => {
    const [now, then] = [criteria.find((c) => c.id === id), form.find((c) => c.id === id)];
    if (now === undefined || then === undefined) return [];
    const [is, was] = [mostOf(now), mostOf(then)];
    return [[id, is === was ? given : Math.floor((2 * given * is + was) / (2 * was))] as const];
  });
  return { id: review.id, reviewerId: review.enrolmentId ?? '', workId: review.workId, points: Object.fromEntries(points) };
}

const textOf = (review: ReviewRow): string => [...Object.values(review.comments), review.words].join('\n');

export function makeResults(facts: PeerFacts, now: number): PeerResults {
  const { peer, reviews, form, possible: ofWork, people } = facts;
  const given = reviews.filter((r) => r.handedInAt !== null);
  const criteria = allCriteria(form, given);
  const named = criteria.map((c) => ({ id: c.id, title: c.title, most: mostOf(c) }));
  const scores = new Map(given.map((r) => [r.id, scoresOf(r, criteria)]));
  const ofPeers = given.filter((r) => r.role === 'peer');
  const counted = ofPeers.filter((r) => r.setAsideAt === null);
  const countedScores = counted.flatMap((r) => scores.get(r.id) ?? []);
  const found = named.length === 0 ? null : consensus(countedScores, named);
  const dueOf = new Map<string, number | null>();
  const dueAt = (enrolmentId: string | null): number | null => {
    const person = people.get(enrolmentId ?? '');
    if (person === undefined) return peer.reviewsDueAt;
    const known = dueOf.get(person.enrolmentId);
    if (known !== undefined) return known;
    const due = facts.reviewsDueAt(person);
    dueOf.set(person.enrolmentId, due);
    return due;
  };
  const stateOf = (review: ReviewRow) =>
    reviewState(
      { isGiven: review.handedInAt !== null, isBegun: review.savedAt !== null, isSetAside: review.setAsideAt !== null },
      review.role === 'teacher' ? null : dueAt(review.enrolmentId),
      now,
    );
  const owedOf = (enrolmentId: string, strictness: Strictness): ShownOwed[] =>
    reviews
      .filter((r) => r.role === 'peer' && r.enrolmentId === enrolmentId)
      .map((r, n): ShownOwed => {
        const state = stateOf(r);
        const own = scores.get(r.id);
        const near = state === 'given' && own !== undefined ? nearness(criteria, own, found?.others(own) ?? null, strictness) : null;
        const counts: OwedReview['state'] = {
          given: 'given' as const,
          missing: 'missing' as const,
          begun: 'not due' as const,
          'to give': 'not due' as const,
          'set aside': r.keepsCredit ? ('set aside with credit' as const) : ('set aside without credit' as const),
        }[state];
        return { reviewId: r.id, title: `Review ${n + 1}`, state: counts, nearness: near?.share ?? null, near };
      });
  return {
    ...{ criteria, named, consensus: found, scores, stateOf },
    signs: reviewSigns(
      ofPeers.flatMap((r) => scores.get(r.id) ?? []),
      given
        .filter((r) => r.role !== 'teacher')
        .map((r) => ({ id: r.id, reviewerId: r.enrolmentId ?? '', text: textOf(r), seconds: r.seconds })),
      named,
      found,
      peer.leastWords,
    ),
    workResult: (workId) => {
      const teacher = given.find((r) => r.role === 'teacher' && r.workId === workId);
      const own = [...counted, ...(teacher === undefined ? [] : [teacher])].filter((r) => r.workId === workId);
      const judged = named.filter((c) => own.some((r) => scores.get(r.id)?.points[c.id] !== undefined));
      if (judged.length === 0 || peer.workFrom === 'teacher' || !facts.isInPoints) return null;
      const ownScores = teacher === undefined ? undefined : scores.get(teacher.id);
      return workResult(found?.works.get(workId) ?? null, ownScores === undefined ? null : sumOfReview(ownScores), judged, peer, ofWork);
    },
    reviewing: (enrolmentId, strictness = peer.strictness) => {
      const owed = owedOf(enrolmentId, strictness);
      const by = peer.reviewingFrom === 'done' ? 'done' : 'nearness';
      const share = owed.length === 0 ? null : reviewingShare(owed, by);
      const possible = facts.reviewingColumn?.possible ?? 0;
      const isJudged = (peer.reviewingFrom === 'nearness' || peer.reviewingFrom === 'done') && possible > 0;
      return { owed, result: isJudged ? reviewingResult(share, owed, named, by, possible) : null };
    },
    share: (enrolmentId, strictness) => {
      const owed = owedOf(enrolmentId, strictness);
      return owed.length === 0 ? null : reviewingShare(owed, 'nearness');
    },
    agreement: peerAgreement(countedScores, criteria),
  };
}

interface Wanted {
  readonly columnId: string;
  readonly enrolmentId: string;
  readonly raw: number;
  readonly reason: string;
}

/** What the columns should hold by the reviews as they stand. */
function wantedGrades(facts: PeerFacts, results: PeerResults): Wanted[] {
  const counts = new Map<string, number>();
  for (const r of facts.reviews)
    if (r.role === 'peer' && r.handedInAt !== null && r.setAsideAt === null) counts.set(r.workId, (counts.get(r.workId) ?? 0) + 1);
  const workColumnId = facts.column?.id;
  const ofWorks = facts.works.flatMap((work): Wanted[] => {
    const result = results.workResult(work.id);
    if (result === null || workColumnId === undefined) return [];
    const many = countOf(counts.get(work.id) ?? 0, 'review');
    return work.authors
      .filter((a) => facts.people.has(a))
      .map((enrolmentId) => ({ columnId: workColumnId, enrolmentId, raw: result.points, reason: `from ${many}` }));
  });
  const columnId = facts.reviewingColumn?.id;
  if (columnId === undefined) return ofWorks;
  const ofReviewing = [...facts.people.keys()].flatMap((enrolmentId): Wanted[] => {
    const { result, owed } = results.reviewing(enrolmentId);
    return result === null ? [] : [{ columnId, enrolmentId, raw: result.points, reason: `from ${countOf(owed.length, 'review')} to give` }];
  });
  return [...ofWorks, ...ofReviewing];
}

/** Which writes would bring the ledger to the results as they stand; what somebody typed, and who is exempt, stays. */
async function listWrites(db: Db, facts: PeerFacts, results: PeerResults, actorId: string, at: number): Promise<GradeWrite[]> {
  const wanted = wantedGrades(facts, results);
  const columnIds = [...new Set(wanted.map((w) => w.columnId))].sort();
  const sources = new Map(
    (
      await rows<{ column_id: string; enrolment_id: string; source: string }>(
        db,
        'select g.column_id, g.enrolment_id, e.source from grade g join grade_event e on e.id = g.last_event_id where g.column_id = any($1)',
        [columnIds],
      )
    ).map((row) => [`${row.column_id} ${row.enrolment_id}`, row.source]),
  );
  const writes: GradeWrite[] = [];
  for (const columnId of columnIds) {
    const own = wanted.filter((w) => w.columnId === columnId).sort((a, b) => (a.enrolmentId < b.enrolmentId ? -1 : 1));
    const held = await listGradesForUpdate(
      db,
      columnId,
      own.map((w) => w.enrolmentId),
    );
    for (const { enrolmentId, raw, reason } of own) {
      const grade = held.get(enrolmentId);
      const isTyped = grade !== undefined && grade.state !== null && sources.get(`${columnId} ${enrolmentId}`) !== 'reviews';
      if (grade?.state === 'exempt' || isTyped) continue;
      if (grade?.state === 'scored' && grade.raw === raw && grade.isReleased) continue;
      writes.push({ columnId, enrolmentId, kind: 'set', state: 'scored', raw, isReleased: true, source: 'reviews', reason, actorId, at });
    }
  }
  return writes;
}

/** How many results would come out otherwise now than they were given. */
export const countOutdated = async (db: Db, facts: PeerFacts, results: PeerResults, actorId: string, now: number): Promise<number> =>
  facts.peer.resultsOutAt === null ? 0 : (await listWrites(db, facts, results, actorId, now)).length;

/** Keeps how each result came about as it is given: what is changed later changes nothing of it until it is given again. */
async function keepWorkings(db: Db, facts: PeerFacts, results: PeerResults): Promise<void> {
  const of = (role: 'work' | 'reviewing', workingOf: (enrolmentId: string) => WorkingLine | undefined) =>
    [...facts.people.keys()].flatMap((enrolmentId) => {
      const working = workingOf(enrolmentId);
      return working === undefined ? [] : [{ enrolmentId, role, working: JSON.stringify(working) }];
    });
  const byWork = new Map(facts.works.map((w) => [w.id, results.workResult(w.id)?.working]));
  const all = [
    ...of('work', (id) => byWork.get(facts.workOf.get(id)?.id ?? '')),
    ...of('reviewing', (id) => (facts.reviewingColumn === null ? undefined : results.reviewing(id).result?.working)),
  ];
  await run(db, 'delete from peer_result where item_id = $1', [facts.itemId]);
  await run(
    db,
    'insert into peer_result (item_id, enrolment_id, role, working) select $1, t.enrolment_id, t.role, t.working from unnest($2::uuid[], $3::text[], $4::jsonb[]) as t(enrolment_id, role, working)',
    [facts.itemId, all.map((r) => r.enrolmentId), all.map((r) => r.role), all.map((r) => r.working)],
  );
}

/** How the results of one student came about when they were given. */
export async function findWorkings(
  db: Db,
  itemId: string,
  enrolmentId: string,
): Promise<{ readonly work: WorkingLine | null; readonly reviewing: WorkingLine | null }> {
  const found = await rows<{ role: 'work' | 'reviewing'; working: WorkingLine }>(
    db,
    'select role, working from peer_result where item_id = $1 and enrolment_id = $2',
    [itemId, enrolmentId],
  );
  const of = (role: 'work' | 'reviewing'): WorkingLine | null => found.find((row) => row.role === role)?.working ?? null;
  return { work: of('work'), reviewing: of('reviewing') };
}

/** Brings the results into the ledger, released: once they are out, or to give them out. */
export async function recordPeerResults(db: Db, courseId: string, facts: PeerFacts, actorId: string, now: number): Promise<void> {
  const results = makeResults(facts, now);
  const writes = await listWrites(db, facts, results, actorId, now);
  await recordGrades(db, writes);
  await keepWorkings(db, facts, results);
  const isFirst = facts.peer.resultsOutAt === null;
  if (isFirst) {
    await noteResultsOut(db, facts.itemId, now);
    await setRevisionsAfterReviews(db, facts.itemId, facts.peer.revisionDueAt, actorId, now);
  }
  const told = isFirst ? [...facts.people.keys()] : [...new Set(writes.map((w) => w.enrolmentId))];
  if (told.length === 0) return;
  await announceReturned(db, courseId, facts.itemId, told);
  if (!isFirst) return;
  await tell(db, {
    ...{ courseId, kind: 'review', at: now, personIds: told.flatMap((id) => facts.people.get(id)?.personId ?? []) },
    words: `“${facts.title}”: the reviews are here`,
    body: `Open it to read what others saw in your work.${facts.peer.revisionDueAt === null ? '' : ' You can revise it by what they say.'}`,
    path: pageOf('study', { courseId, itemId: facts.itemId }),
  });
}
