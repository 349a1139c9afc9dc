import type { PeerSetting } from '@rosemary/api';
import { peerFaults, PEER_BEGINS, scoredCriteria } from '@rosemary/core';
import { findReviewingColumn, getPolicy } from '../gradebook/index.ts';
import { listReviewDates } from '../opening/index.ts';
import { findPeer, NEW_PEER, type Peer } from '../peerSetting/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { isoAt } from '../platform/instants.ts';
import { findRubric } from '../rubric/index.ts';
import { listSampleLines } from './practise.ts';
import { getReviewed } from './reviewed.ts';
import { listPeerWorks } from './works.ts';

/** Points for reviewing before anything is chosen. */
const FIRST_POINTS = 10_000;

const choicesOf = (peer: Omit<Peer, 'veilKey'>) =>
  Object.fromEntries(
    (Object.keys(PEER_BEGINS) as (keyof typeof PEER_BEGINS)[]).map((name) => [name, peer[name]]),
  ) as unknown as typeof PEER_BEGINS;

/** How the peer review of an item is set, with what still keeps it from running; what it begins with where it was never set. */
export async function getSettingView(db: Db, courseId: string, itemId: string, now: number): Promise<PeerSetting> {
  const reviewed = await getReviewed(db, courseId, itemId, now);
  const { item } = reviewed;
  // Where reviews can give no points, whoever marks is told by them.
  const peer = (await findPeer(db, itemId)) ?? (reviewed.isInPoints ? NEW_PEER : { ...NEW_PEER, workFrom: 'teacher' as const });
  const form = await findRubric(db, peer.rubricId);
  const works = await listPeerWorks(db, itemId);
  const counts = await maybe<{ students: number; given: number }>(
    db,
    `select (select count(*)::int from enrolment where course_id = $1 and role = 'student' and withdrawn_at is null and not is_sample) as students,
            (select count(*)::int from review where item_id = $2 and role <> 'teacher' and handed_in_at is not null and dropped_at is null) as given`,
    [courseId, itemId],
  );
  const sets = await rows<{ id: string; title: string }>(
    db,
    'select id, title from group_set where course_id = $1 and removed_at is null order by title',
    [courseId],
  );
  const { policy } = await getPolicy(db, courseId);
  const column = await findReviewingColumn(db, itemId);
  const samples = await listSampleLines(db, itemId, form);
  const students = counts?.students ?? 0;
  const criteria = form?.criteria ?? [];
  const faults = peer.isOn
    ? peerFaults({
        ...peer,
        worksDueAt: item.dueAt === null ? null : Date.parse(item.dueAt),
        ...{ isDraft: item.isDraft, criteria: criteria.length, scoredCriteria: scoredCriteria(criteria).length },
        ...{
          takesWork: reviewed.takesWork,
          isInPoints: reviewed.isInPoints,
          hasGroupSet: peer.groupSetId !== null,
          isGroupWork: reviewed.groupSetId !== null,
          reviewed: reviewed.kind,
        },
        ...{
          students,
          works: works.length,
          sampleWorks: samples.length,
          areSamplesAssessed: samples.every((s) => s.unjudged.length === 0),
        },
      })
    : [];
  return {
    item: { id: itemId, title: item.title, possible: item.possible, dueAt: item.dueAt, isDraft: item.isDraft, reviewed: reviewed.kind },
    setting: {
      ...choicesOf(peer),
      ...{ version: peer.version, isOn: peer.isOn, prompt: peer.prompt, groupSetId: peer.groupSetId },
      ...{
        reviewsOpenAt: isoAt(peer.reviewsOpenAt),
        reviewsDueAt: isoAt(peer.reviewsDueAt),
        drawAt: isoAt(peer.drawAt),
        resultsAt: isoAt(peer.resultsAt),
        revisionDueAt: isoAt(peer.revisionDueAt),
      },
      reviewing:
        column === null
          ? { possible: FIRST_POINTS, categoryId: item.categoryId }
          : { possible: column.possible, categoryId: column.categoryId },
      otherDates: await listReviewDates(db, itemId),
    },
    form,
    faults,
    ...{ drawnAt: isoAt(peer.drawnAt), resultsOutAt: isoAt(peer.resultsOutAt), given: counts?.given ?? 0, students, works: works.length },
    samples,
    groupSets: sets,
    categories: policy.categories.map((c) => ({ id: c.id, title: c.title })),
  };
}
