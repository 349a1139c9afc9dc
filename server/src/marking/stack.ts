import type { DatesView, MarkingList, Stack, StackEntry } from '@rosemary/api';
import {
  isMissing,
  lateBy,
  markingEstimate,
  markingPace,
  paceInWords,
  minutesInWords,
  type Pace,
  spanInWords,
  stackState,
  type DatesInForce,
  type GradeFacts,
  type StackState,
} from '@rosemary/core';
import { cellFor } from '../gradebook/cells.ts';
import { scoreText } from '../gradebook/book.ts';
import { readFacts, type CourseFacts, type FactItem, type FactPerson } from '../gradebook/facts.ts';
import { pairsOf, type Pairs } from '../gradebook/pairs.ts';
import { rows, type Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

interface WorkRow {
  item_id: string;
  enrolment_id: string;
  word_count: number;
  number: number;
  files: number;
  notes: number;
  mark_state: 'draft' | 'finished' | null;
  finished_at: Date | null;
  marker: string | null;
  revision_of: number | null;
  has_new_words: boolean;
}

async function listWorks(db: Db, courseId: string, itemId: string | null, readerId: string | null = null): Promise<Pairs<WorkRow>> {
  const found = await rows<WorkRow>(
    db,
    `
    select s.item_id, s.enrolment_id, coalesce(a.word_count, 0) as word_count, coalesce(a.number, 0) as number,
           (select count(*)::int from attempt_file f where f.attempt_id = a.id) as files,
           (select count(*)::int from margin_note n join attempt a2 on a2.id = n.attempt_id where a2.submission_id = s.id and n.removed_at is null) as notes,
           (select max(r.attempt_number) from revision r where r.submission_id = s.id and r.ended_at is null) as revision_of,
           exists (select 1 from work_word w left join work_word_read wr on wr.submission_id = s.id and wr.person_id = $3 where w.submission_id = s.id and not w.is_staff and $3::uuid is not null and (wr.read_at is null or w.at > wr.read_at)) as has_new_words,
           m.state as mark_state, m.finished_at, p.given_name || ' ' || p.family_name as marker
    from submission s join item i on i.id = s.item_id
    left join lateral (select id, word_count, number from attempt where submission_id = s.id order by number desc limit 1) a on true
    left join mark m on m.submission_id = s.id and m.slot = 1 left join person p on p.id = m.marker_id
    where i.course_id = $1 and ($2::uuid is null or i.id = $2)`,
    [courseId, itemId, readerId],
  );
  return pairsOf(
    found,
    (row) => row.item_id,
    (row) => row.enrolment_id,
    (row) => row,
  );
}

function stateOf(facts: CourseFacts, item: FactItem, person: FactPerson, work: WorkRow | undefined, now: number): StackState {
  const grade: GradeFacts | undefined = facts.grades.get(item.id, person.enrolmentId);
  const handedInAt = facts.handIns.get(item.id, person.enrolmentId)?.at ?? null;
  return stackState({
    handedInAt,
    gradeState: grade?.state ?? null,
    isReleased: grade?.isReleased ?? false,
    markState: work?.mark_state ?? null,
    finishedAt: work?.finished_at?.getTime() ?? null,
    attempt: work?.number ?? 0,
    revisionOf: work?.revision_of ?? null,
    isMissing: isMissing({
      isForStudent: true,
      expectsHandIn: item.expectsHandIn,
      possible: item.possible,
      dates: facts.datesFor(item, person),
      handedInAt,
      grade: null,
      late: facts.late,
      now,
      releasedOnly: false,
    }),
  });
}

function entryOf(
  facts: CourseFacts,
  item: FactItem,
  person: FactPerson,
  sections: ReadonlyMap<string, string>,
  work: WorkRow | undefined,
  now: number,
): StackEntry {
  const handIn = facts.handIns.get(item.id, person.enrolmentId);
  const late = lateBy(handIn?.at ?? null, facts.datesFor(item, person).due.at, facts.late?.graceMinutes ?? 0);
  return {
    enrolmentId: person.enrolmentId,
    personId: person.personId,
    givenName: person.givenName,
    familyName: person.familyName,
    sectionId: person.sectionId,
    section: sections.get(person.sectionId ?? '') ?? '',
    state: stateOf(facts, item, person, work, now),
    handedInAt: handIn === undefined ? null : new Date(handIn.at).toISOString(),
    lateText: late === null ? null : `${spanInWords(late)} late`,
    scoreText: scoreText(cellFor(facts, item, person, now, false), item.possible),
    words: work?.word_count ?? 0,
    attempt: work?.number ?? 0,
    files: work?.files ?? 0,
    marker: work?.marker ?? null,
    notes: work?.notes ?? 0,
    hasNewWords: work?.has_new_words ?? false,
  };
}

export function latenessText(facts: CourseFacts, dates: DatesInForce, handedInAt: number): string | null {
  const late = lateBy(handedInAt, dates.due.at, facts.late?.graceMinutes ?? 0);
  return late === null ? null : `${spanInWords(late)} late`;
}

/** The pace of a marker at each item of a course, from their last thirty works of it. Breaks over an hour are no pace. */
async function readPaces(db: Db, courseId: string, markerId: string | null): Promise<Map<string, Pace>> {
  const found = await rows<{ id: string; marking_minutes: number; own: number[] }>(
    db,
    `
    select i.id, i.marking_minutes, coalesce(array_agg(m.minutes) filter (where m.minutes is not null), '{}') as own
    from item i left join lateral (
      select extract(epoch from m.finished_at - m.started_at)::float8 / 60 as minutes from mark m join submission s on s.id = m.submission_id
      where s.item_id = i.id and m.marker_id = $2 and m.finished_at - m.started_at between interval '20 seconds' and interval '1 hour'
      order by m.finished_at desc limit 30) m on true
    where i.course_id = $1 group by i.id`,
    [courseId, markerId],
  );
  return new Map(found.map((row) => [row.id, markingPace(row.marking_minutes, row.own)]));
}
const NO_PACE: Pace = { minutes: 0, isOwn: false };

async function sectionTitles(db: Db, courseId: string): Promise<Map<string, string>> {
  return new Map(
    (await rows<{ id: string; title: string }>(db, 'select id, title from section where course_id = $1', [courseId])).map((row) => [
      row.id,
      row.title,
    ]),
  );
}

export interface Waiting {
  readonly item: FactItem;
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

/** What waits in each item of a course, for those sections. */
export async function listWaiting(
  db: Db,
  courseId: string,
  sectionIds: readonly string[] | null,
  markerId: string | null,
  now: number,
): Promise<Waiting[]> {
  const facts = await readFacts(db, courseId, { sectionIds });
  const works = await listWorks(db, courseId, null);
  const paces = await readPaces(db, courseId, markerId);
  const waiting: Waiting[] = [];
  for (const item of facts.items.filter((i) => (i.expectsHandIn || i.kind === 'assignment') && !i.isDraft && i.kind !== 'discussion')) {
    const counts = { waits: 0, handedIn: 0, finished: 0, released: 0 };
    let oldestAt: number | null = null;
    const people = facts.people.filter((person) => facts.reach.isFor(item.id, person));
    for (const person of people) {
      const state = stateOf(facts, item, person, works.get(item.id, person.enrolmentId), now);
      const handIn = facts.handIns.get(item.id, person.enrolmentId);
      if (handIn !== undefined) counts.handedIn += 1;
      if (state === 'finished') counts.finished += 1;
      if (state === 'released') counts.released += 1;
      if (state === 'waits' || state === 'draft') {
        counts.waits += 1;
        if (handIn !== undefined && (oldestAt === null || handIn.at < oldestAt)) oldestAt = handIn.at;
      }
    }
    const pace = paces.get(item.id) ?? NO_PACE;
    waiting.push({
      item,
      ...counts,
      students: people.length,
      oldestAt,
      minutes: markingEstimate(counts.waits, pace),
      pace: paceInWords(pace),
    });
  }
  return waiting;
}

export async function countToMark(db: Db, courseId: string, sectionIds: readonly string[] | null, now: number): Promise<number> {
  return (await listWaiting(db, courseId, sectionIds, null, now)).reduce((sum, w) => sum + w.waits, 0);
}

export async function makeMarkingList(
  db: Db,
  courseId: string,
  sectionIds: readonly string[] | null,
  markerId: string,
  now: number,
): Promise<MarkingList> {
  const units = new Map(
    (await rows<{ id: string; title: string }>(db, 'select id, title from unit where course_id = $1', [courseId])).map((row) => [
      row.id,
      row.title,
    ]),
  );
  return {
    items: (await listWaiting(db, courseId, sectionIds, markerId, now)).map((w) => ({
      id: w.item.id,
      title: w.item.title,
      unit: units.get(w.item.unitId ?? '') ?? '',
      dueAt: w.item.dueAt === null ? null : new Date(w.item.dueAt).toISOString(),
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

export async function makeStack(
  db: Db,
  courseId: string,
  itemId: string,
  sectionIds: readonly string[] | null,
  markerId: string,
  now: number,
): Promise<Stack> {
  const facts = await readFacts(db, courseId, { sectionIds });
  const item = facts.items.find((i) => i.id === itemId && !i.isDraft);
  if (item === undefined) throw notFound();
  const works = await listWorks(db, courseId, itemId, markerId);
  const sections = await sectionTitles(db, courseId);
  const people = facts.people.filter(
    (person) => facts.reach.isFor(itemId, person) || facts.handIns.get(itemId, person.enrolmentId) !== undefined,
  );
  const entries = people.map((person) => entryOf(facts, item, person, sections, works.get(itemId, person.enrolmentId), now));
  const waits = entries.filter((e) => e.state === 'waits' || e.state === 'draft').length;
  const pace = (await readPaces(db, courseId, markerId)).get(itemId) ?? NO_PACE;
  const minutes = markingEstimate(waits, pace);
  return {
    item: {
      id: item.id,
      title: item.title,
      possible: item.possible,
      dueAt: item.dueAt === null ? null : new Date(item.dueAt).toISOString(),
      releaseMode: item.releaseMode,
    },
    entries,
    waits,
    estimate: minutes === 0 ? null : `about ${minutesInWords(minutes)}`,
    pace: paceInWords(pace),
    releasable: entries.filter((e) => e.state === 'finished').length,
  };
}

export async function makeEntry(db: Db, facts: CourseFacts, item: FactItem, person: FactPerson, now: number): Promise<StackEntry> {
  const works = await listWorks(db, facts.courseId, item.id);
  return entryOf(facts, item, person, await sectionTitles(db, facts.courseId), works.get(item.id, person.enrolmentId), now);
}

export function datesView(dates: DatesInForce): DatesView {
  const view = (d: { at: number | null; reason: string }): { at: string | null; reason: string } => ({
    at: d.at === null ? null : new Date(d.at).toISOString(),
    reason: d.reason,
  });
  return { opens: view(dates.opens), due: view(dates.due), closes: view(dates.closes) };
}
