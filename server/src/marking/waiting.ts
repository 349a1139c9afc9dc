import type { MarkingList } from '@rosemary/api';
import { kindOfItem, markingEstimate, type Membership, minutesInWords, paceInWords, spanInWords } from '@rosemary/core';
import { isWorkColumn, readFacts, type WorkColumn } from '../gradebook/index.ts';
import { listMarkedByPeers } from '../peerSetting/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { isoAt } from '../platform/instants.ts';
import { listAllShares, reachesWork, scopeOf } from '../shares/index.ts';
import { NO_PACE, readPaces } from './pace.ts';
import { stateOf } from './stack.ts';
import { listWorkGroups, listWorks, type WorkRow, worksOf } from './works.ts';

export interface Waiting {
  readonly column: WorkColumn;
  readonly waits: number;
  readonly students: number;
  readonly handedIn: number;
  readonly finished: number;
  readonly released: number;
  readonly oldestAt: number | null;
  readonly minutes: number;
  /** What the minutes rest on, in words. */
  readonly pace: string;
}

/** What waits in each item of a course for this member of staff. */
export async function listWaiting(db: Db, courseId: string, member: Membership, markerId: string, now: number): Promise<Waiting[]> {
  const shares = await listAllShares(db, courseId);
  const facts = await readFacts(db, courseId, {
    sectionIds: [...shares.values()].some((s) => scopeOf(member, s) === null) ? null : member.sectionIds,
    seesVeiled: true,
  });
  const works = await listWorks(db, courseId, null);
  const groups = await listWorkGroups(db, courseId, null);
  const paces = await readPaces(db, courseId, markerId);
  const waiting: Waiting[] = [];
  const ofPeers = await listMarkedByPeers(db, courseId);
  // The reviews judge what was handed in first; what was revised after them is judged by who teaches.
  const isRevised = (row: WorkRow | undefined): boolean => row !== undefined && row.revision_of !== null && row.number > row.revision_of;
  const hasRevised = (itemId: string): boolean => facts.people.some((p) => isRevised(works.get(itemId, p.enrolmentId)));
  // Reviews give the essays of a quiz no points: they wait for whoever marks them.
  const isOfPeers = (itemId: string, marking: string): boolean => marking === 'work' && ofPeers.has(itemId);
  const isMarked = ({ itemId, kind, expectsHandIn, isDraft }: WorkColumn): boolean => {
    const { marking } = kindOfItem(kind);
    return (
      !isDraft && (marking === 'work' || (marking === 'attempts' && expectsHandIn)) && (!isOfPeers(itemId, marking) || hasRevised(itemId))
    );
  };
  for (const column of facts.columns.filter(isWorkColumn).filter(isMarked)) {
    const counts = { waits: 0, handedIn: 0, finished: 0, released: 0 };
    let oldestAt: number | null = null;
    const own = worksOf(facts, column, works, groups)
      .filter((w) => !isOfPeers(column.itemId, kindOfItem(column.kind).marking) || isRevised(w.row))
      .filter((w) => w.mates.some((m) => reachesWork(member, markerId, m, shares.get(column.itemId))));
    for (const work of own) {
      const state = stateOf(facts, column, work, now);
      const handIn = facts.handIns.get(column.itemId, work.person.enrolmentId);
      if (handIn !== undefined) counts.handedIn += 1;
      if (state === 'finished') counts.finished += 1;
      if (state === 'released') counts.released += 1;
      if (state === 'waits' || state === 'in hand' || state === 'to agree') {
        counts.waits += 1;
        if (handIn !== undefined && (oldestAt === null || handIn.at < oldestAt)) oldestAt = handIn.at;
      }
    }
    const pace = paces.get(column.itemId) ?? NO_PACE;
    waiting.push({
      column,
      ...counts,
      students: own.length,
      oldestAt,
      minutes: markingEstimate(counts.waits, pace),
      pace: paceInWords(pace),
    });
  }
  return waiting;
}

export async function countToMark(db: Db, courseId: string, member: Membership, markerId: string, now: number): Promise<number> {
  return (await listWaiting(db, courseId, member, markerId, now)).reduce((sum, w) => sum + w.waits, 0);
}

export async function makeMarkingList(db: Db, courseId: string, member: Membership, markerId: string, now: number): Promise<MarkingList> {
  const units = new Map(
    (await rows<{ id: string; title: string }>(db, 'select id, title from unit where course_id = $1', [courseId])).map((row) => [
      row.id,
      row.title,
    ]),
  );
  return {
    items: (await listWaiting(db, courseId, member, markerId, now)).map((w) => ({
      id: w.column.itemId,
      isQuiz: kindOfItem(w.column.kind).marking === 'attempts',
      title: w.column.title,
      unit: units.get(w.column.unitId ?? '') ?? '',
      dueAt: isoAt(w.column.dated.dueAt),
      handedIn: w.handedIn,
      students: w.students,
      waits: w.waits,
      finished: w.finished,
      released: w.released,
      oldest: w.oldestAt === null ? null : spanInWords(now - w.oldestAt),
      estimate: w.waits === 0 || w.minutes === 0 ? null : `about ${minutesInWords(w.minutes)}`,
      pace: w.pace,
    })),
  };
}
