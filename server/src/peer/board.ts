import type { BoardLine, BoardReview, PeerBoard, PeerWork, ReviewerWorking, StrictnessView } from '@rosemary/api';
import {
  agreementWorking,
  countOf,
  formatPoints,
  type Membership,
  reachesSection,
  roundedThousandths,
  strictnessEffects,
  strictnessInWords,
  sumOfReview,
  traitsWorking,
  wordCount,
} from '@rosemary/core';
import type { Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { isoAt } from '../platform/instants.ts';
import { openInWords, openPlaces } from './draw.ts';
import { seenBy, type Seen } from './names.ts';
import { listNotesOf, listTakenUp } from './reviewNotes.ts';
import { type PeerFacts, readPeer } from './readPeer.ts';
import { countOutdated, makeResults, type PeerResults } from './results.ts';
import { leaveOf } from './leave.ts';
import { countPractice } from './practise.ts';
import { readTexts } from './readWork.ts';
import type { ReviewRow } from './reviewRows.ts';
import { findShowing, listShownIds } from './showing.ts';
import type { PeerWorkRow } from './works.ts';
import { getSettingView } from './settingView.ts';

/** Who looks: what an assistant is not given is not shown. */
export interface Watching {
  readonly db: Db;
  readonly courseId: string;
  readonly itemId: string;
  readonly member: Membership;
  readonly personId: string;
  readonly now: number;
}

function inWords({ peer, possible, isInPoints, reviewingColumn }: PeerFacts): string {
  const many = countOf(peer.reviewsPerWork, 'other');
  const names =
    peer.showsAuthors && peer.showsReviewers
      ? 'names seen'
      : peer.showsAuthors
        ? 'reviewers see whose work it is'
        : peer.showsReviewers
          ? 'authors see who reviewed'
          : 'names hidden';
  const worth = peer.workFrom === 'teacher' || !isInPoints ? 'marked by the teacher' : `${formatPoints(possible)} points for the work`;
  const reviewing = reviewingColumn === null ? [] : [`${formatPoints(reviewingColumn.possible)} for reviewing`];
  return [peer.ownWork === 'alone' ? 'each reads their own' : `read by ${many} each`, names, [worth, ...reviewing].join(', ')].join(' · ');
}

function lineOf(
  facts: PeerFacts,
  results: PeerResults,
  seen: Seen,
  practised: ReadonlyMap<string, number>,
  enrolmentId: string,
  now: number,
): BoardLine {
  const person = facts.people.get(enrolmentId);
  const work = facts.workOf.get(enrolmentId);
  const due = person === undefined ? null : facts.worksDueAt(person);
  const traits = results.consensus?.reviewers.get(enrolmentId);
  return {
    enrolmentId: seen.idOf(enrolmentId),
    personId: seen.isHidden(enrolmentId) ? null : (person?.personId ?? null),
    name: seen.nameOf(enrolmentId),
    sectionId: seen.isHidden(enrolmentId) ? null : (person?.sectionId ?? null),
    isLate: work !== undefined && due !== null && work.handedInAt > due,
    workId: work?.id ?? null,
    isMissing: work === undefined && due !== null && now > due,
    owes: facts.reviews.filter((r) => r.role === 'peer' && r.enrolmentId === enrolmentId).length,
    practised: practised.get(enrolmentId) ?? 0,
    work: work === undefined ? null : (results.workResult(work.id)?.points ?? null),
    reviewing: results.reviewing(enrolmentId).result?.points ?? null,
    ...{ bias: traits?.bias ?? null, biasWithin: traits?.biasWithin ?? null, weight: traits?.weight ?? null },
  };
}

const boardReview = (results: PeerResults, seen: Seen, r: ReviewRow): BoardReview => {
  const scores = results.scores.get(r.id);
  return {
    ...{ id: r.id, reviewerId: r.enrolmentId === null ? null : seen.idOf(r.enrolmentId), workId: r.workId, role: r.role },
    state: results.stateOf(r),
    isByHand: r.origin === 'hand',
    total: scores === undefined || results.named.length === 0 ? null : sumOfReview(scores),
    signs: results.signs.get(r.id) ?? [],
    ...{ keepsCredit: r.keepsCredit, reportedWhy: r.reportedWhy },
  };
};

/** Handed in once more after its reviews were out. */
const isRevised = ({ peer }: PeerFacts, work: PeerWorkRow): boolean => peer.resultsOutAt !== null && work.handedInAt > peer.resultsOutAt;

/** The last drawing of which something can still be taken back. */
const lastDrawOf = (reviews: readonly ReviewRow[]): string | null =>
  [...reviews].filter((r) => r.drawId !== null && r.savedAt === null && r.handedInAt === null).sort((a, b) => b.madeAt - a.madeAt)[0]
    ?.drawId ?? null;

export async function makeBoard({ db, courseId, itemId, member, personId, now }: Watching): Promise<PeerBoard> {
  const facts = await readPeer(db, courseId, itemId, now);
  const setting = await getSettingView(db, courseId, itemId, now);
  const results = makeResults(facts, now);
  const seen = seenBy(facts);
  const reached = [...facts.people.values()].filter((p) => reachesSection(member, p.sectionId)).map((p) => p.enrolmentId);
  const isReached = new Set(reached);
  const samples = setting.samples.filter((s) => s.unjudged.length === 0).map((s) => s.id);
  const practised = await countPractice(db, itemId, samples);
  const lines = reached.map((id) => lineOf(facts, results, seen, practised.byStudent, id, now));
  const shownNow = await listShownIds(db, itemId);
  const open = openPlaces(facts);
  const works = facts.works.filter((w) => w.authors.some((a) => isReached.has(a)));
  const shown = new Set(works.map((w) => w.id));
  return {
    item: { id: itemId, title: facts.title, isGroupWork: facts.isGroupWork, reviewed: facts.kind },
    words: inWords(facts),
    dates: {
      ...{
        worksDueAt: facts.dueAt,
        reviewsOpenAt: isoAt(facts.peer.reviewsOpenAt),
        reviewsDueAt: isoAt(facts.peer.reviewsDueAt),
      },
      ...{ drawAt: isoAt(facts.peer.drawAt), resultsAt: isoAt(facts.peer.resultsAt), revisionDueAt: isoAt(facts.peer.revisionDueAt) },
    },
    samples: samples.length,
    closing: { version: facts.peer.closingVersion, document: facts.peer.closing },
    faults: setting.faults,
    ...{ drawnAt: isoAt(facts.peer.drawnAt), resultsOutAt: isoAt(facts.peer.resultsOutAt), lastDrawId: lastDrawOf(facts.reviews) },
    formMost: results.named.reduce((sum, c) => sum + c.most, 0),
    workPossible: facts.possible,
    reviewingPossible: facts.reviewingColumn?.possible ?? null,
    ...{ workFrom: facts.peer.workFrom, reviewingFrom: facts.peer.reviewingFrom },
    // While names are hidden the order of the names would tell whose work is whose.
    lines: facts.veil === null ? lines : [...lines].sort((a, b) => (a.enrolmentId < b.enrolmentId ? -1 : 1)),
    works: works.map((w) => {
      const place = open.get(w.id);
      const found = results.consensus?.works.get(w.id);
      return {
        id: w.id,
        authors: w.authors.filter((a) => facts.people.has(a)).map(seen.idOf),
        wanted: facts.peer.reviewsPerWork,
        isOpenBecause: place === undefined ? null : openInWords(place),
        value: found === undefined ? null : facts.peer.workFrom === 'mean' ? roundedThousandths(found.mean) : found.total,
        mean: found === undefined ? null : roundedThousandths(found.mean),
        isShown: shownNow.has(w.id),
        isRevised: isRevised(facts, w),
      };
    }),
    reviews: facts.reviews
      .filter((r) => shown.has(r.workId) || (r.enrolmentId !== null && isReached.has(r.enrolmentId)))
      .map((r) => boardReview(results, seen, r)),
    agreement: agreementView(results),
    outdated: await countOutdated(db, facts, results, personId, now),
  };
}

function agreementView({ agreement, named }: PeerResults): PeerBoard['agreement'] {
  const { kappa, pairs, icc, works } = agreement;
  return {
    ...{ kappa, pairs, works },
    icc: icc === null ? null : { value: icc.value, low: icc.low, high: icc.high },
    working: agreementWorking(agreement, (id) => named.find((c) => c.id === id)?.title ?? ''),
  };
}

/** One work with its reviews and the working of its result. */
export async function makePeerWork({ db, courseId, itemId, member, now }: Watching, workId: string): Promise<PeerWork> {
  const facts = await readPeer(db, courseId, itemId, now);
  const work = facts.works.find((w) => w.id === workId);
  if (work === undefined || !work.authors.some((a) => reachesSection(member, facts.people.get(a)?.sectionId ?? null))) throw notFound();
  const results = makeResults(facts, now);
  const seen = seenBy(facts);
  const own = facts.reviews.filter((r) => r.workId === workId);
  const notes = await listNotesOf(
    db,
    own.map((r) => r.id),
  );
  const takenUp = await listTakenUp(
    db,
    own.map((r) => r.id),
  );
  const reviewedId = own.find((r) => r.attemptId !== null && r.attemptId !== work.attemptId)?.attemptId ?? null;
  const teacher = own.find((r) => r.role === 'teacher');
  return {
    id: workId,
    authors: work.authors.map(seen.nameOf),
    leadId: seen.idOf(work.authors[0] ?? ''),
    form: facts.form,
    reviews: own
      .filter((r) => r.role !== 'teacher')
      .map((r) => {
        const scores = results.scores.get(r.id);
        return {
          ...{ id: r.id, by: seen.nameOf(r.enrolmentId ?? ''), role: r.role, state: results.stateOf(r) },
          ...{ choices: r.choices, given: r.given, comments: r.comments, words: r.words, seconds: r.seconds },
          points: scores?.points ?? {},
          total: scores === undefined ? null : sumOfReview(scores),
          wordCount: wordCount([...Object.values(r.comments), r.words].join(' ')),
          signs: results.signs.get(r.id) ?? [],
          notes: notes.get(r.id) ?? [],
          answered: [...r.answered, ...(takenUp.get(r.id) ?? [])],
          ...{ setAsideWhy: r.setAsideWhy, keepsCredit: r.keepsCredit },
          ...{ answer: r.answer, isThanked: r.isThanked, reportedWhy: r.reportedWhy },
        };
      }),
    own:
      teacher === undefined
        ? null
        : {
            ...{ choices: teacher.choices, given: teacher.given, comments: teacher.comments, words: teacher.words },
            ...{ version: teacher.version, handedInAt: isoAt(teacher.handedInAt) },
          },
    criteria: results.named.map((c) => ({
      ...c,
      result: results.consensus?.works.get(workId)?.points[c.id] ?? null,
    })),
    working: results.workResult(workId)?.working ?? null,
    leave: await leaveOf(db, work.submissionIds),
    showing: await findShowing(db, itemId, workId),
    revised:
      reviewedId === null || work.attemptId === null || !isRevised(facts, work) ? null : await readTexts(db, reviewedId, work.attemptId),
  };
}

/** How the reviewing of one student comes out, review by review. */
export async function makeReviewerWorking({ db, courseId, itemId, member, now }: Watching, id: string): Promise<ReviewerWorking> {
  const facts = await readPeer(db, courseId, itemId, now);
  const enrolmentId = seenBy(facts).behind(id);
  if (!reachesSection(member, facts.people.get(enrolmentId)?.sectionId ?? null)) throw notFound();
  const results = makeResults(facts, now);
  const { result, owed } = results.reviewing(enrolmentId);
  const traits = results.consensus?.reviewers.get(enrolmentId);
  const parts = results.consensus?.partsOf(enrolmentId) ?? null;
  // By their place, as in the result of the reviewing: whose works they are may be nobody’s to know who looks.
  const titleOf = (reviewId: string): string => owed.find((one) => one.reviewId === reviewId)?.title ?? '';
  return {
    working: result?.working ?? null,
    reviews: owed.length,
    traits: traits === undefined || parts === null ? [] : traitsWorking(traits, parts, titleOf),
  };
}

/** What each strictness would make of the reviews that there are, in thousandths of a point. */
export async function listStrictness({ db, courseId, itemId, now }: Watching): Promise<StrictnessView[]> {
  const facts = await readPeer(db, courseId, itemId, now);
  const results = makeResults({ ...facts, peer: { ...facts.peer, reviewingFrom: 'nearness' } }, now);
  const possible = facts.reviewingColumn?.possible ?? 10_000;
  const effects = strictnessEffects((strictness) => [...facts.people.keys()].map((id) => results.share(id, strictness)));
  return effects.map(({ strictness, mean, least }) => ({
    strictness,
    words: strictnessInWords(strictness),
    mean: mean === null ? null : roundedThousandths(mean.mul(possible)),
    least: least === null ? null : roundedThousandths(least.mul(possible)),
  }));
}
