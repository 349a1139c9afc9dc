import {
  blockChange,
  cellChange,
  cellWords,
  curveChange,
  eventReason,
  type CellSaved,
  type ColumnHistory,
  type HistoryEntry,
  policyChange,
  undoAct,
  undoEvent as undoEventBody,
} from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { formatPoints, type Membership, reachesSection } from '@rosemary/core';
import { findVeil, workId } from '../anonymity/index.ts';
import { getCourse } from '../course/index.ts';
import { readSheetFile, sendZip, writePlainTable, writeSheet, writeTable } from '../files/index.ts';
import type { Db } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';
import { implement, type Route } from '../platform/route.ts';
import { asOf, findPastSince } from './asOf.ts';
import { changeBlock, undoBlock } from './blockChange.ts';
import { makeBook } from './book.ts';
import { bookTable, listKeys, listSectionTitles } from './bookTable.ts';
import { changeCell, putBack, readRow, rowOf, saveReason, undoEvent } from './cellChange.ts';
import { readDifferences } from './differences.ts';
import { readFacts } from './facts.ts';
import type { CourseFacts, FactColumn, FactPerson } from './factTypes.ts';
import { type ColumnEventRow, type EventRow, listColumnEvents, listEvents } from './ledger.ts';
import { oneRosterFiles } from './oneRosterOut.ts';
import { columnView, findCellWords, saveCellWords, setCurve } from './openColumn.ts';
import { applyPolicy, getPolicyView, listPolicyChanges } from './policy.ts';
import { workingOf, workingOfClass } from './workings.ts';

/** One student's facts, if this member of staff reaches them. */
export async function readOne(
  db: Db,
  courseId: string,
  enrolmentId: string,
  member: Membership,
): Promise<{ facts: CourseFacts; person: FactPerson }> {
  const facts = await readFacts(db, courseId, { enrolmentId });
  const person = facts.people[0];
  if (person === undefined || !reachesSection(member, person.sectionId)) throw notFound();
  return { facts, person };
}

/** A cell whose student this member of staff reaches, and whose name is not hidden from those who mark it. */
async function readNamedCell(
  db: Db,
  courseId: string,
  { columnId, enrolmentId }: { readonly columnId: string; readonly enrolmentId: string },
  member: Membership,
  now: number,
): Promise<{ column: FactColumn; enrolmentId: string }> {
  const { facts, person } = await readOne(db, courseId, enrolmentId, member);
  const column = facts.columns.find((one) => one.id === columnId);
  if (column === undefined) throw notFound();
  if (column.itemId !== null && (await workId(db, { itemId: column.itemId, enrolmentId }, now)) !== enrolmentId) throw notFound();
  return { column, enrolmentId: person.enrolmentId };
}

/** An instant that is asked for: one that is no date, or is still to come, is refused by name. */
function instantOf(field: string, text: string, now: number): number {
  const at = Date.parse(text);
  if (Number.isNaN(at)) throw invalid(field, `“${text}” is not a date and time.`);
  if (at > now) throw invalid(field, 'That day is still to come. Choose one that has been.');
  return at;
}

function eventWords(event: EventRow, before: Pick<EventRow, 'state' | 'raw'> | undefined): string {
  const value = event.state === 'scored' ? formatPoints(event.raw ?? 0) : (event.state ?? 'emptied');
  if (event.kind === 'release') return `released ${value}`;
  if (event.kind === 'withhold') return `taken back from the student: ${value}`;
  if (event.kind === 'undo') return `undone, back to ${event.state === null ? 'empty' : value}`;
  const was =
    before === undefined || before.state === null ? null : before.state === 'scored' ? formatPoints(before.raw ?? 0) : before.state;
  return was === null ? value : `${was} → ${value}`;
}

function toHistory(events: readonly EventRow[], readerId: string): HistoryEntry[] {
  return events.map((event, n) => ({
    eventId: event.id,
    at: event.at.toISOString(),
    who: `${event.given_name} ${event.family_name}`,
    what: eventWords(event, events[n + 1]),
    source: event.source,
    reason: event.reason,
    canUndo: n === 0,
    isMine: event.actor_id === readerId,
  }));
}

const toColumnHistory = (events: readonly ColumnEventRow[]): ColumnHistory['entries'] =>
  events.map((event) => ({
    eventId: event.id,
    at: event.at.toISOString(),
    who: `${event.given_name} ${event.family_name}`,
    student: event.student,
    what: eventWords(event, event.was_there ? { state: event.was_state, raw: event.was_raw } : undefined),
    source: event.source,
    reason: event.reason,
  }));

export const gradebookRoutes: readonly Route[] = [
  implement(api.getGradebook, async ({ db, courseId, member, query, now }) => {
    const { sectionIds } = member;
    if (query.asOf === undefined) return makeBook(await readFacts(db, courseId, { sectionIds, now }), now);
    const at = instantOf('asOf', query.asOf, now);
    const since = await findPastSince(db, courseId);
    return asOf(db, courseId, at, async () => makeBook(await readFacts(db, courseId, { sectionIds, now: at }), at, since));
  }),
  implement(api.getGradebookTable, async (c) => {
    const { db, courseId, member, query, now } = c;
    const { section, format } = query;
    if (section !== undefined && !reachesSection(member, section)) throw notFound();
    const facts = await readFacts(db, courseId, { sectionIds: section === undefined ? member.sectionIds : [section], now });
    const [people, sections] = await Promise.all([listKeys(db, courseId), listSectionTitles(db, courseId)]);
    const lines = bookTable(makeBook(facts, now), {
      keys: query.columns === undefined ? null : query.columns.split(','),
      students: query.students === undefined ? null : new Set(query.students.split(',')),
      isWhole: query.whole !== undefined,
      sections,
      people: new Map(people.map((p) => [p.enrolmentId, p])),
    });
    c.response.set('content-disposition', `attachment; filename="gradebook.${format}"`);
    if (format === 'csv') c.response.type('text/csv').send(writeTable(lines));
    else c.response.type('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet').send(await writeSheet('Gradebook', lines));
  }),
  implement(api.getOneRosterResults, async (c) => {
    const { db, courseId, member, query, now } = c;
    const { section } = query;
    if (section !== undefined && !reachesSection(member, section)) throw notFound();
    const facts = await readFacts(db, courseId, { sectionIds: section === undefined ? member.sectionIds : [section], now });
    const { code, run } = await getCourse(db, courseId);
    const files = await oneRosterFiles(db, facts, `${code} ${run}`, now);
    return sendZip(`${code} ${run} results.zip`, new Date(now), c.response, () =>
      [...files].map(([name, lines]) => ({ name, bytes: Buffer.from(writePlainTable(lines)) })),
    );
  }),
  implement(api.getColumnHistory, async ({ db, courseId, member, params, now }) => {
    const facts = await readFacts(db, courseId, { sectionIds: member.sectionIds, now });
    const column = facts.columns.find((one) => one.id === params.columnId);
    if (column === undefined) throw notFound();
    const veil = column.itemId === null ? null : await findVeil(db, column.itemId, now);
    if (veil !== null && facts.people.some((p) => veil.isHidden(p.enrolmentId))) return { entries: [], isHidden: true };
    return { entries: toColumnHistory(await listColumnEvents(db, column.id, member.sectionIds)), isHidden: false };
  }),
  implement(api.readGradebookTable, async ({ db, courseId, file }) => ({
    lines: await readSheetFile(file.path),
    people: await listKeys(db, courseId),
  })),
  implement(api.getDifferences, ({ db, courseId, member, query, now }) => {
    const from = instantOf('from', query.from ?? '', now);
    const to = query.to === undefined ? now : instantOf('to', query.to, now);
    if (to <= from) throw invalid('to', 'The second day must be after the first.');
    return readDifferences(db, courseId, { sectionIds: member.sectionIds }, { from, to, now });
  }),
  implement(api.getGradebookRow, async ({ db, courseId, member, params, now }) => {
    const { facts, person } = await readOne(db, courseId, params.enrolmentId, member);
    return rowOf(facts, person, now);
  }),
  implement(api.changeCell, cellChange, ({ db, courseId, body, person, now }) => changeCell(db, courseId, body, person.personId, now)),
  implement(api.undoCell, undoEventBody, async ({ db, courseId, body, person, now }): Promise<CellSaved> => {
    const { eventId, enrolmentId } = await undoEvent(db, courseId, body.eventId, person.personId, now);
    return { eventId, row: await readRow(db, courseId, enrolmentId, now) };
  }),
  implement(api.putCellBack, undoEventBody, async ({ db, courseId, body, person, now }): Promise<CellSaved> => {
    const { eventId, enrolmentId } = await putBack(db, courseId, body.eventId, person.personId, now);
    return { eventId, row: await readRow(db, courseId, enrolmentId, now) };
  }),
  implement(api.saveEventReason, eventReason, async ({ db, courseId, body, person }) => {
    await saveReason(db, courseId, body, person.personId);
  }),
  implement(api.changeBlock, blockChange, ({ db, courseId, body, person, now }) => changeBlock(db, courseId, body, person.personId, now)),
  implement(api.undoBlock, undoAct, ({ db, courseId, body, person, now }) => undoBlock(db, courseId, body.act, person.personId, now)),
  implement(api.getClassWorking, async ({ db, courseId, member, query, now }) => {
    const { section } = query;
    if (section !== undefined && !reachesSection(member, section)) throw notFound();
    return workingOfClass(await readFacts(db, courseId, { sectionIds: section === undefined ? member.sectionIds : [section] }), now);
  }),
  implement(api.getWorking, async ({ db, courseId, member, params, query, now }) => {
    const at = query.asOf === undefined ? now : instantOf('asOf', query.asOf, now);
    const read = async () => {
      const { facts, person } = await readOne(db, courseId, params.enrolmentId, member);
      return workingOf(facts, person, query.of ?? 'soFar', at, false);
    };
    return query.asOf === undefined ? read() : asOf(db, courseId, at, read);
  }),
  implement(api.getCellHistory, async ({ db, courseId, member, params, person: reader, now }) => {
    const { facts, person } = await readOne(db, courseId, params.enrolmentId, member);
    const column = facts.columns.find((one) => one.id === params.columnId);
    if (column === undefined) throw notFound();
    // A score in the history of a cell would tell whose work it was.
    if (
      column.itemId !== null &&
      (await workId(db, { itemId: column.itemId, enrolmentId: person.enrolmentId }, now)) !== person.enrolmentId
    )
      return [];
    return toHistory(await listEvents(db, column.id, person.enrolmentId), reader.personId);
  }),
  implement(api.getGradeColumn, async ({ db, courseId, member, params, query, now }) => {
    const { section } = query;
    if (section !== undefined && !reachesSection(member, section)) throw notFound();
    const facts = await readFacts(db, courseId, { sectionIds: section === undefined ? member.sectionIds : [section], now });
    return columnView(facts, params.columnId, now);
  }),
  implement(api.setCurve, curveChange, async ({ db, courseId, params, body, account }) => {
    const done = await setCurve(db, await readFacts(db, courseId, { seesVeiled: true }), params.columnId, body);
    account({ before: done.before, after: body, subject: params.columnId });
    return done;
  }),
  implement(api.getCellWords, async ({ db, courseId, member, params, now }) => {
    const { enrolmentId } = await readNamedCell(db, courseId, params, member, now);
    return findCellWords(db, params.columnId, enrolmentId);
  }),
  implement(api.saveCellWords, cellWords, async ({ db, courseId, member, params, body, person, now }) => {
    const at = await readNamedCell(db, courseId, params, member, now);
    return saveCellWords(db, at, body, person.personId, now);
  }),
  implement(api.getPolicy, ({ db, courseId, now }) => getPolicyView(db, courseId, now)),
  implement(api.getPolicyHistory, async ({ db, courseId }) => ({ changes: await listPolicyChanges(db, courseId) })),
  implement(api.changePolicy, policyChange, async ({ db, courseId, body, account }) => {
    const { before, after } = await applyPolicy(db, courseId, body);
    account({ before, after });
    return { before, after };
  }),
];
