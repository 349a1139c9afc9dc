import type { MyGrades, ReviewsToGive, StudentCourse, StudentEntry, ThisWeek } from '@rosemary/api';
import {
  categoryRule,
  classStatistics,
  type Exact,
  type GradedCell,
  isMissing,
  type Membership,
  type Period,
  periodOf,
  type Policy,
  progressShare,
  type Ratio,
  readResult,
  roundHalfUp,
  sentCell,
  stateWords,
  workingOfCategory,
  workingOfCell,
  workingOfPeriod,
  workingOfTotal,
  LOCALE,
} from '@rosemary/core';
import { DateTime } from 'luxon';
import { getCourse, getSettings } from '../course/index.ts';
import {
  atText,
  calculate,
  cellFor,
  type CourseFacts,
  type FactColumn,
  type FactPerson,
  findWorkColumn,
  handInOf,
  listComments,
  readFacts,
  readTotals,
  toGraded,
} from '../gradebook/index.ts';
import { readOwnFinal } from '../handover/index.ts';
import { findFirstPage } from '../kinds/page/index.ts';
import { countUnread } from '../notices/index.ts';
import { listVisible, type Visible } from '../opening/index.ts';
import { listReviewsToGive } from '../peer/index.ts';
import type { Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { isoAt } from '../platform/instants.ts';

const DAY = 86_400_000;

function entryOf(facts: CourseFacts, course: string, visible: Visible, unread: number, now: number): StudentEntry {
  const person = facts.people[0];
  const column = findWorkColumn(facts, visible.item.id);
  const cell = column === undefined || person === undefined ? null : cellFor(facts, column, person, now, true);
  const missing =
    column !== undefined &&
    isMissing({
      isForStudent: true,
      expectsHandIn: column.expectsHandIn,
      possible: column.possible,
      dates: visible.dates,
      handedInAt: visible.handedInAt,
      grade: null,
      late: column.late,
      now,
      releasedOnly: true,
    }) &&
    cell?.state !== 'marked' &&
    cell?.state !== 'exempt';
  return {
    id: visible.item.id,
    courseId: facts.courseId,
    course,
    unit: visible.item.unit,
    kind: visible.item.kind,
    title: visible.item.title,
    visibility: visible.visibility,
    opensAt: isoAt(visible.dates.opens.at),
    dueAt: isoAt(visible.dates.due.at),
    dueReason: visible.dates.due.reason,
    estimatedMinutes: visible.item.estimatedMinutes,
    possible: visible.item.possible,
    waitsFor: visible.waitsFor,
    unread,
    isDone: visible.isDone,
    isHandedIn: visible.handedInAt !== null,
    isMissing: missing,
    isOnPaper: visible.item.isOnPaper,
    scoreText:
      cell?.state === 'marked' && cell.result !== null && column !== undefined
        ? readResult(column.studentReads, cell.result, column, facts.policy)
        : null,
    releasedAt: isoAt(visible.releasedAt),
  };
}

async function listEntries(
  db: Db,
  courseId: string,
  member: Membership,
  now: number,
): Promise<{ entries: StudentEntry[]; visible: Visible[]; zone: string; short: string }> {
  const course = await getCourse(db, courseId);
  const facts = await readFacts(db, courseId, { enrolmentId: member.enrolmentId, seesVeiled: true });
  const visible = await listVisible(db, courseId, member, now);
  const unread = await countUnread(db, courseId, facts.people[0]?.personId ?? '');
  const short = course.short_title === '' ? course.title : course.short_title;
  return {
    entries: visible.map((v) => entryOf(facts, short, v, v.visibility === 'announced' ? 0 : (unread.get(v.item.id) ?? 0), now)),
    visible,
    zone: facts.zone,
    short,
  };
}

/** What is due by one's own dates, what came back, what is next; over all courses of the student, or the one looked at. */
export async function makeThisWeek(db: Db, members: readonly Membership[], now: number): Promise<ThisWeek> {
  const all: StudentEntry[] = [];
  const reviews: ReviewsToGive[] = [];
  let zone = 'UTC';
  for (const member of members) {
    const found = await listEntries(db, member.courseId, member, now);
    all.push(...found.entries);
    ({ zone } = found);
    const toGive = await listReviewsToGive(db, member.courseId, member, now);
    for (const { at, ...one } of toGive)
      reviews.push({ ...one, courseId: member.courseId, course: found.short, dueAt: new Date(at).toISOString(), isPast: at < now });
  }
  const today = DateTime.fromMillis(now, { zone }).setLocale(LOCALE);
  const weekEnd = today.endOf('week').toMillis();
  const due = (entry: StudentEntry): number => (entry.dueAt === null ? Infinity : Date.parse(entry.dueAt));
  const byDue = (a: StudentEntry, b: StudentEntry): number => due(a) - due(b);
  const open = all.filter((e) => !e.isDone && !e.isHandedIn && e.dueAt !== null && e.scoreText === null);
  return {
    heading: today.toFormat('cccc d LLLL'),
    due: open.filter((e) => due(e) > now && due(e) <= weekEnd).sort(byDue),
    reviews: reviews.sort((a, b) => Date.parse(a.dueAt) - Date.parse(b.dueAt)),
    overdue: open.filter((e) => e.isMissing && e.visibility === 'open').sort(byDue),
    back: all
      .filter((e) => e.releasedAt !== null && Date.parse(e.releasedAt) > now - 14 * DAY)
      .sort((a, b) => Date.parse(b.releasedAt ?? '') - Date.parse(a.releasedAt ?? '')),
    next: [...open.filter((e) => due(e) > weekEnd && due(e) < now + 21 * DAY).sort(byDue)],
    timeZone: zone,
    now: new Date(now).toISOString(),
  };
}

export async function makeStudentCourse(db: Db, courseId: string, member: Membership, now: number): Promise<StudentCourse> {
  const { entries, visible } = await listEntries(db, courseId, member, now);
  const course = await getCourse(db, courseId);
  const settings = await getSettings(db, courseId);
  const units = new Map<string, { id: string; title: string; entries: StudentEntry[] }>();
  const text = await findFirstPage(
    db,
    visible.filter((v) => v.item.isStanding && v.visibility === 'open').map((v) => v.item.id),
  );
  const first = visible.find((v) => v.item.id === text?.id);
  visible.forEach((v, n) => {
    if (v.item.isStanding) return;
    const unit = units.get(v.item.unitId) ?? { id: v.item.unitId, title: v.item.unit, entries: [] };
    unit.entries.push(entries[n] as StudentEntry);
    units.set(v.item.unitId, unit);
  });
  const share = progressShare(
    visible.map((v) => ({
      minutes: v.item.estimatedMinutes,
      isRequired: v.item.isRequired,
      isDue: v.visibility !== 'announced',
      isDone: v.isDone,
    })),
    course.progress_by,
  );
  return {
    picture: settings.picture,
    first: first === undefined ? null : { id: first.item.id, title: first.item.title, document: text?.document ?? null },
    standing: entries.filter((_e, n) => visible[n]?.item.isStanding === true && visible[n] !== first),
    units: [...units.values()],
    progress: share === null || settings.progressShows === 'nothing' ? null : `${roundHalfUp(share.mul(100), 0)} %`,
    showsClassProgress: settings.progressShows === 'class',
  };
}

function cellText(cell: GradedCell, column: FactColumn, policy: Policy): string {
  return cell.state === 'marked' && cell.result !== null ? readResult(column.studentReads, cell.result, column, policy) : stateWords(cell);
}

/** One's own grades, made from released marks only, with the working of every number. */
export async function makeMyGrades(db: Db, courseId: string, member: Membership, now: number): Promise<MyGrades> {
  const facts = await readFacts(db, courseId, { enrolmentId: member.enrolmentId, seesVeiled: true });
  const person = facts.people[0];
  if (person === undefined) throw notFound();
  const visible = new Map((await listVisible(db, courseId, member, now)).map((v) => [v.item.id, v.item]));
  const calculation = calculate(facts, now, true);
  const cells = calculation.cellsOf(person);
  const totals = calculation.totalsOf(cells);
  const texts = readTotals(facts, totals);
  const shared = facts.columns.some((column) => column.showsStatistics && !column.isDraft)
    ? await readFacts(db, courseId, { seesVeiled: true })
    : null;
  const comments = await listComments(db, member.enrolmentId);
  const at = atText(facts, now);
  const { decimals } = facts.policy;
  const percent = (ratio: Ratio | null): string | null => (ratio === null ? null : roundHalfUp(ratio.mul(100), decimals));
  const statisticsOf = (column: FactColumn): MyGrades['categories'][number]['columns'][number]['statistics'] =>
    shared === null || !column.showsStatistics
      ? null
      : classStatistics(shared.people.flatMap((one) => releasedResult(shared, column, one, now)));
  const columnView = (column: FactColumn, cell: GradedCell, isOnPaper: boolean): MyGrades['categories'][number]['columns'][number] => {
    const isWaiting = cell.state === 'none' && handInOf(facts, column, person) !== undefined;
    const words = isWaiting ? 'handed in, not yet marked' : cellText(cell, column, facts.policy);
    return {
      id: column.id,
      itemId: column.itemId,
      kind: column.kind,
      title: column.title,
      text: `${cell.state === 'none' && isOnPaper ? 'on paper, ' : ''}${words}`,
      state: cell.state,
      possible: column.possible,
      working: workingOfCell(toGraded(column), cell, at),
      dueAt: isoAt(facts.datesFor(column.dated, person).due.at),
      isExtraCredit: column.isExtraCredit,
      comment: isKeptBack(facts, column, person) ? '' : (comments.get(column.id) ?? ''),
      statistics: statisticsOf(column),
    };
  };
  const isSeen = (column: FactColumn, cell: GradedCell | undefined): boolean =>
    column.unitId === null ? cell?.state !== 'outside' : column.itemId !== null && visible.has(column.itemId);
  const isPlaced = (column: FactColumn, period: Period | null): boolean =>
    period === null || (periodOf(toGraded(column), facts.policy.periods) ?? period).id === period.id;
  return {
    final: await readOwnFinal(db, courseId, member.enrolmentId, texts, now),
    totals: facts.showsFloorAndReach ? texts : { ...texts, floor: null, reach: null },
    working: workingOfTotal(totals.soFar, facts.policy, at),
    floorWorking: facts.showsFloorAndReach ? workingOfTotal(totals.floor, facts.policy, at) : [],
    reachWorking: facts.showsFloorAndReach ? workingOfTotal(totals.reach, facts.policy, at) : [],
    says: 'Counted from released marks only.',
    levels: facts.policy.levels,
    passPercent: facts.policy.passPercent ?? null,
    periods: totals.soFar.periods.flatMap((p) =>
      p.period === null
        ? []
        : [
            {
              id: p.period.id,
              title: p.period.title,
              weightPercent: p.period.weightPercent,
              percent: percent(p.ratio),
              working: workingOfPeriod(p, facts.policy, at),
            },
          ],
    ),
    suppose: {
      policy: facts.policy,
      // What is not announced to them counts, and has no name yet.
      columns: calculation.columns.map((column, place) =>
        isSeen(column, cells[place]) ? toGraded(column) : { ...toGraded(column), itemId: null, title: 'not announced yet' },
      ),
      cells: cells.map(sentCell),
    },
    categories: totals.soFar.periods.flatMap(({ period, categories }) =>
      categories.map(({ category, total }) => ({
        id: `${category?.id ?? 'all'}${period === null ? '' : ` ${period.id}`}`,
        title: `${period === null ? '' : `${period.title}: `}${category?.title ?? 'All items'}`,
        weightPercent: category?.weightPercent ?? null,
        rule:
          category === null
            ? categoryRule(
                facts.policy.total === 'share' ? 'share' : 'points',
                facts.policy.whole.dropLowest,
                facts.policy.whole.keepBest,
                facts.policy.whole.dropHighest,
              )
            : categoryRule(category.method, category.dropLowest, category.keepBest, category.dropHighest),
        percent: percent(total.ratio),
        working: workingOfCategory(total, decimals, at),
        columns: calculation.columns.flatMap((column, place) => {
          const cell = cells[place];
          if (
            cell === undefined ||
            (category !== null && column.categoryId !== category.id) ||
            !isPlaced(column, period) ||
            !isSeen(column, cell)
          )
            return [];
          const seen = column.itemId === null ? undefined : visible.get(column.itemId);
          return [columnView(column, cell, seen?.isOnPaper === true)];
        }),
      })),
    ),
  };
}

/** A result that its student has been given. */
function releasedResult(facts: CourseFacts, column: FactColumn, person: FactPerson, now: number): Exact[] {
  const { state, result } = cellFor(facts, column, person, now, true);
  return state === 'marked' && result !== null ? [result] : [];
}

/** Whether there is a mark that the student has not been given yet: then nothing is told of it. */
function isKeptBack(facts: CourseFacts, column: FactColumn, person: FactPerson): boolean {
  const grade = facts.grades.get(column.id, person.enrolmentId);
  return grade !== undefined && grade.state !== null && grade.state !== 'exempt' && !grade.isReleased;
}
