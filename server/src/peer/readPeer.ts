import { findVeil, type Veil } from '../anonymity/index.ts';
import { type CourseFacts, type FactPerson, findReviewingColumn, findWorkColumn, readFacts, type WorkColumn } from '../gradebook/index.ts';
import { type DatedItem, type DatesFor, makeDatesFor } from '../opening/index.ts';
import { findPeer, type Peer } from '../peerSetting/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { findRubric } from '../rubric/index.ts';
import { getReviewed, type ReviewedKind } from './reviewed.ts';
import { listReviews, type ReviewRow } from './reviewRows.ts';
import { listPeerWorks, type PeerWorkRow } from './works.ts';
import type { RubricView } from '@rosemary/api';

/** Everything that a peer review is worked out from, read once. */
export interface PeerFacts {
  readonly itemId: string;
  readonly title: string;
  readonly peer: Peer;
  readonly form: RubricView;
  readonly facts: CourseFacts;
  readonly kind: ReviewedKind;
  readonly dueAt: string | null;
  /** Points of the work; 0 where it stands in no column. */
  readonly possible: number;
  /** The column of the works; null where they stand in none. */
  readonly column: WorkColumn | null;
  readonly reviewingColumn: Awaited<ReturnType<typeof findReviewingColumn>>;
  readonly isGroupWork: boolean;
  /** Judged in words or as done, the work has no points that reviews could give. */
  readonly isInPoints: boolean;
  /** Students the item is for, by enrolment. */
  readonly people: ReadonlyMap<string, FactPerson>;
  readonly works: readonly PeerWorkRow[];
  /** The work of each student who handed in. */
  readonly workOf: ReadonlyMap<string, PeerWorkRow>;
  /** Those that stand: not taken from their reviewer again. */
  readonly reviews: readonly ReviewRow[];
  /** By student, the group of the chosen set. */
  readonly groupOf: ReadonlyMap<string, string>;
  readonly veil: Veil | null;
  readonly worksDueAt: (person: FactPerson) => number | null;
  readonly reviewsDueAt: (person: FactPerson) => number | null;
}

const EMPTY_FORM: RubricView = { version: 0, criteria: [] };

async function listGroups(db: Db, setId: string | null): Promise<ReadonlyMap<string, string>> {
  if (setId === null) return new Map();
  const found = await rows<{ enrolment_id: string; group_id: string }>(
    db,
    'select m.enrolment_id, m.group_id from course_group g join group_member m on m.group_id = g.id where g.set_id = $1',
    [setId],
  );
  return new Map(found.map((row) => [row.enrolment_id, row.group_id]));
}

/** The dates of the reviews of an item in force for somebody: a function over all who are asked about. */
export const reviewDatesFor = (
  db: Db,
  facts: Pick<CourseFacts, 'courseId' | 'zone' | 'termEndsAt' | 'reach'>,
  of: string | null = null,
): Promise<DatesFor> => makeDatesFor(db, facts.courseId, facts.zone, facts.termEndsAt, facts.reach, { of, phase: 'reviews' });

/** Reads all of a peer review; one that was never set, or of an item whose works nobody can review, is not found. */
export async function readPeer(db: Db, courseId: string, itemId: string, now: number): Promise<PeerFacts> {
  const [peer, reviewed, facts] = [
    await findPeer(db, itemId),
    await getReviewed(db, courseId, itemId, now),
    await readFacts(db, courseId, { seesVeiled: true }),
  ];
  if (peer === null) throw notFound();
  const { item } = reviewed;
  const column = findWorkColumn(facts, itemId) ?? null;
  const at = (iso: string | null): number | null => (iso === null ? null : Date.parse(iso));
  const worksDated: DatedItem = {
    ...{ id: itemId, announcedAt: at(item.announcedAt), opensAt: at(item.opensAt), dueAt: at(item.dueAt), closesAt: at(item.closesAt) },
  };
  const isFor = (person: FactPerson): boolean =>
    facts.reach.isFor(itemId, person) || facts.handIns.get(itemId, person.enrolmentId) !== undefined;
  const works = await listPeerWorks(db, itemId);
  const currentOf = new Map(works.flatMap((w) => w.submissionIds.map((id) => [id, w.id] as const)));
  const datesFor = await reviewDatesFor(db, facts);
  const dated = { id: itemId, announcedAt: null, opensAt: peer.reviewsOpenAt, dueAt: peer.reviewsDueAt, closesAt: null };
  return {
    itemId,
    title: item.title,
    kind: reviewed.kind,
    dueAt: item.dueAt,
    possible: column?.possible ?? 0,
    peer,
    form: (await findRubric(db, peer.rubricId)) ?? EMPTY_FORM,
    facts,
    column,
    reviewingColumn: await findReviewingColumn(db, itemId),
    isGroupWork: reviewed.groupSetId !== null,
    isInPoints: reviewed.isInPoints && column !== null,
    people: new Map(facts.people.filter(isFor).map((p) => [p.enrolmentId, p])),
    works,
    workOf: new Map(works.flatMap((w) => w.authors.map((a) => [a, w] as const))),
    reviews: (await listReviews(db, itemId)).map((r) => ({ ...r, workId: currentOf.get(r.workId) ?? r.workId })),
    groupOf: await listGroups(db, peer.groupSetId ?? reviewed.groupSetId),
    veil: await findVeil(db, itemId, now),
    worksDueAt: (person) => facts.datesFor(worksDated, person).due.at,
    reviewsDueAt: (person) => datesFor(dated, person).due.at,
  };
}
