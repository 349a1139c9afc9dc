import type { MatchFigures, Stack, StackEntry } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import {
  type GradeFacts,
  isMissing,
  markingEstimate,
  type Membership,
  minutesInWords,
  paceInWords,
  stackState,
  type StackState,
} from '@rosemary/core';
import { findVeil, veilEntry } from '../anonymity/index.ts';
import { cellFor, type CourseFacts, findWorkColumn, latenessText, readFacts, scoreText, type WorkColumn } from '../gradebook/index.ts';
import { listFigures } from '../matching/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { isoAt } from '../platform/instants.ts';
import { listShares, reachesWork, scopeOf, type Shares } from '../shares/index.ts';
import { NO_PACE, readPaces } from './pace.ts';
import { listWorkGroups, listWorks, type MarkedWork, worksOf } from './works.ts';

export function stateOf(facts: CourseFacts, column: WorkColumn, { person, row }: MarkedWork, now: number): StackState {
  const grade: GradeFacts | undefined = facts.grades.get(column.id, person.enrolmentId);
  const handIn = facts.handIns.get(column.itemId, person.enrolmentId);
  return stackState({
    // Of several attempts the latest makes it wait again, whichever counts; where the first counts, nothing later does.
    handedInAt: (column.counted === 'first' ? handIn?.at : handIn?.latestAt) ?? null,
    gradeState: grade?.state ?? null,
    isReleased: grade?.isReleased ?? false,
    markState: row?.mark_state ?? null,
    // What reviews gave is finished when they gave it: a work that is revised after them waits again.
    finishedAt: (row?.finished_at ?? row?.reviewed_at)?.getTime() ?? null,
    attempt: row?.number ?? 0,
    revisionOf: row?.revision_of ?? null,
    pair: column.markers === 2 ? { begun: row?.pair_begun ?? 0, finished: row?.pair_finished ?? 0 } : null,
    hasDraft: row?.has_draft ?? false,
    isMissing: isMissing({
      isForStudent: true,
      expectsHandIn: column.expectsHandIn,
      possible: column.possible,
      dates: facts.datesFor(column.dated, person),
      handedInAt: handIn?.at ?? null,
      grade: null,
      late: column.late,
      now,
      releasedOnly: false,
    }),
  });
}

export function entryOf(
  facts: CourseFacts,
  column: WorkColumn,
  work: MarkedWork,
  sections: ReadonlyMap<string, string>,
  shares: Shares,
  figures: ReadonlyMap<string, MatchFigures>,
  now: number,
): StackEntry {
  const { person, mates, row } = work;
  const handIn = facts.handIns.get(column.itemId, person.enrolmentId);
  const isOne = mates.length === 1;
  return {
    enrolmentId: person.enrolmentId,
    personId: person.personId,
    givenName: person.givenName,
    familyName: person.familyName,
    sectionId: person.sectionId,
    section: sections.get(person.sectionId ?? '') ?? '',
    state: stateOf(facts, column, work, now),
    handedInAt: handIn === undefined ? null : new Date(handIn.at).toISOString(),
    lateText: handIn === undefined ? null : latenessText(column, facts.datesFor(column.dated, person), handIn.at),
    scoreText: scoreText(cellFor(facts, column, person, now, false), column.possible),
    words: row?.word_count ?? 0,
    attempt: row?.number ?? 0,
    files: row?.files ?? 0,
    marker: row?.marker ?? null,
    sharedTo: (shares.of(person.enrolmentId) ?? []).map((s) => s.marker),
    notes: row?.notes ?? 0,
    group: work.group,
    members: isOne ? [] : mates.map((m) => `${m.givenName} ${m.familyName}`),
    isVeiled: false,
    matchPercent: figures.get(person.enrolmentId)?.percent ?? null,
    hasNewWords: work.hasNewWords,
    title: (row?.heading ?? '').slice(0, 160),
    original:
      row?.original_id === undefined || row.original_id === null
        ? null
        : { name: row.original ?? '', url: urlOf(api.getFile, { courseId: facts.courseId, fileId: row.original_id }) },
  };
}

export async function sectionTitles(db: Db, courseId: string): Promise<Map<string, string>> {
  return new Map(
    (await rows<{ id: string; title: string }>(db, 'select id, title from section where course_id = $1', [courseId])).map((row) => [
      row.id,
      row.title,
    ]),
  );
}

/** The works of an item in the order of their students; those whose names are hidden in the order of what they are called then. */
async function veilEntries(
  db: Db,
  column: WorkColumn,
  facts: CourseFacts,
  entries: readonly StackEntry[],
  now: number,
): Promise<StackEntry[]> {
  const veil = await findVeil(db, column.itemId, now);
  if (veil === null) return [...entries];
  const shown = entries.map((e) => (veil.isHidden(e.enrolmentId) ? veilEntry(e, veil.key) : e));
  return shown.sort((a, b) => Number(b.isVeiled) - Number(a.isVeiled) || (a.isVeiled ? a.familyName.localeCompare(b.familyName) : 0));
}

export async function makeStack(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  markerId: string,
  now: number,
): Promise<Stack> {
  const shares = await listShares(db, itemId);
  const facts = await readFacts(db, courseId, { sectionIds: scopeOf(member, shares), seesVeiled: true });
  const column = findWorkColumn(facts, itemId);
  if (column === undefined) throw notFound();
  const works = worksOf(facts, column, await listWorks(db, courseId, itemId, markerId), await listWorkGroups(db, courseId, itemId)).filter(
    (w) => w.mates.some((m) => reachesWork(member, markerId, m, shares)),
  );
  const sections = await sectionTitles(db, courseId);
  const figures = await listFigures(db, itemId);
  const entries = await veilEntries(
    db,
    column,
    facts,
    works.map((work) => entryOf(facts, column, work, sections, shares, figures, now)),
    now,
  );
  const waits = entries.filter((e) => e.state === 'waits' || e.state === 'in hand' || e.state === 'to agree').length;
  const pace = (await readPaces(db, courseId, markerId)).get(itemId) ?? NO_PACE;
  const minutes = markingEstimate(waits, pace);
  return {
    item: {
      id: column.itemId,
      title: column.title,
      possible: column.possible,
      dueAt: isoAt(column.dated.dueAt),
      releaseMode: column.releaseMode,
      markers: column.markers,
      isVeiled: entries.some((e) => e.isVeiled),
    },
    entries,
    waits,
    estimate: minutes === 0 ? null : `about ${minutesInWords(minutes)}`,
    pace: paceInWords(pace),
    releasable: works.reduce((sum, work, n) => sum + (entries[n]?.state === 'finished' ? work.mates.length : 0), 0),
  };
}

export async function makeEntry(db: Db, facts: CourseFacts, column: WorkColumn, enrolmentId: string, now: number): Promise<StackEntry> {
  // Nobody else's works are read: of a thousand, that is most of the time it takes to open one.
  const ids = facts.people.map((p) => p.enrolmentId);
  const works = worksOf(
    facts,
    column,
    await listWorks(db, facts.courseId, column.itemId, null, ids),
    await listWorkGroups(db, facts.courseId, column.itemId, ids),
  );
  const work = works.find((w) => w.mates.some((m) => m.enrolmentId === enrolmentId));
  if (work === undefined) throw notFound();
  return entryOf(
    facts,
    column,
    work,
    await sectionTitles(db, facts.courseId),
    await listShares(db, column.itemId),
    await listFigures(db, column.itemId),
    now,
  );
}
