import type { ActUndone, BlockCell, BlockChange, BlockSaved } from '@rosemary/api';
import { countOf, formatPoints, pointsInWords, wishInWords, type CellWish } from '@rosemary/core';
import { randomUUID } from 'node:crypto';
import { readHidden } from '../anonymity/index.ts';
import { listToldNow } from '../opening/index.ts';
import type { Db } from '../platform/database.ts';
import { AppError, notFound, type Pointer } from '../platform/errors.ts';
import { announceReturned } from '../platform/events.ts';
import { isFor } from './cells.ts';
import { readFacts } from './facts.ts';
import type { CourseFacts, FactColumn, FactPerson } from './factTypes.ts';
import { cellKey, type CellKey, type CurrentGrade, type GradeWrite, listActCells, listCellsForUpdate, recordGrades } from './ledger.ts';

interface Wanted extends CellKey {
  readonly column: FactColumn;
  readonly person: FactPerson;
  readonly wish: CellWish;
  readonly seen: string | null;
}

const wishOf = (given: BlockCell[2]): CellWish =>
  given === null ? { state: null, raw: null } : typeof given === 'number' ? { state: 'scored', raw: given } : { state: given, raw: null };

/** The cells of a block with their columns and students; one that is not of this course is as if it were not there. */
function readWanted(facts: CourseFacts, change: BlockChange): Wanted[] {
  const columns = new Map(facts.columns.filter((c) => !c.isDraft).map((c) => [c.id, c]));
  const people = new Map(facts.people.map((p) => [p.enrolmentId, p]));
  const taken = new Set<string>();
  return change.cells.map(([student, place, given, seen]) => {
    const column = columns.get(change.columnIds[place] ?? '');
    const person = people.get(change.enrolmentIds[student] ?? '');
    if (column === undefined || person === undefined) throw notFound();
    const cell = { columnId: column.id, enrolmentId: person.enrolmentId };
    if (taken.has(cellKey(cell)))
      throw new AppError('invalid', `“${column.title}” of ${person.givenName} ${person.familyName} stands in it twice. Leave one out.`);
    taken.add(cellKey(cell));
    return { ...cell, column, person, wish: wishOf(given), seen };
  });
}

/** Why nothing may be written to a cell; null where it may. */
function refusalOf(
  facts: CourseFacts,
  { column, person, wish, seen }: Wanted,
  current: CurrentGrade | undefined,
  isAboveConfirmed: boolean,
  isHidden: (itemId: string, enrolmentId: string) => boolean,
): string | null {
  const who = `${person.givenName} ${person.familyName}`;
  if (column.itemId !== null && isHidden(column.itemId, person.enrolmentId))
    return `“${column.title}” is marked without names, so its marks are typed where it is marked.`;
  if (wish.state !== null && !isFor(facts, column, person)) return `“${column.title}” is not for ${who}.`;
  if (wish.raw !== null && wish.raw > column.possible && !isAboveConfirmed)
    return `${formatPoints(wish.raw)} for ${who} is more than the ${pointsInWords(column.possible)} of “${column.title}”.`;
  if ((current?.eventId ?? null) !== seen)
    return `“${column.title}” of ${who} was changed meanwhile: it now holds ${wishInWords({ state: current?.state === 'judged' ? null : (current?.state ?? null), raw: current?.raw ?? null })}.`;
  return null;
}

/** Which of the cells that had no result before are told to their students at once, by the rule of each item. */
async function readTold(db: Db, courseId: string, fresh: readonly Wanted[], now: number): Promise<ReadonlySet<string>> {
  const byItem = new Map<string, Wanted[]>();
  for (const cell of fresh)
    if (cell.column.itemId !== null) byItem.set(cell.column.itemId, [...(byItem.get(cell.column.itemId) ?? []), cell]);
  const told = await Promise.all(
    [...byItem].map(async ([itemId, cells]) => {
      const ids = await listToldNow(
        db,
        courseId,
        itemId,
        cells.map((c) => c.enrolmentId),
        now,
      );
      return cells.filter((c) => ids.has(c.enrolmentId));
    }),
  );
  return new Set([...told.flat(), ...fresh.filter((c) => c.column.itemId === null)].map(cellKey));
}

async function tellStudents(
  db: Db,
  courseId: string,
  written: readonly { readonly itemId: string | null; readonly enrolmentId: string }[],
): Promise<void> {
  const byItem = new Map<string | null, string[]>();
  for (const { itemId, enrolmentId } of written) byItem.set(itemId, [...(byItem.get(itemId) ?? []), enrolmentId]);
  await Promise.all([...byItem].map(([itemId, ids]) => announceReturned(db, courseId, itemId, ids)));
}

/**
 * Writes many cells as one act. Where one of them cannot be written none is, and each that cannot is named with its place among the cells,
 * so that it can be left out. What stands there already is not written again.
 */
export async function changeBlock(db: Db, courseId: string, change: BlockChange, actorId: string, now: number): Promise<BlockSaved> {
  const facts = await readFacts(db, courseId, { seesVeiled: true });
  const wanted = readWanted(facts, change);
  const [current, isHidden] = await Promise.all([listCellsForUpdate(db, wanted), readHidden(db, courseId, now)]);
  const held = (cell: CellKey): CurrentGrade | undefined => current.get(cellKey(cell));
  const isThere = (cell: Wanted): boolean => (held(cell)?.state ?? null) === cell.wish.state && (held(cell)?.raw ?? null) === cell.wish.raw;
  const refused = wanted.flatMap((cell, n): Pointer[] => {
    const text = isThere(cell) ? null : refusalOf(facts, cell, held(cell), change.isAboveConfirmed, isHidden);
    return text === null ? [] : [{ field: `cells.${n}`, text }];
  });
  if (refused.length > 0)
    throw new AppError('invalid', `${countOf(refused.length, 'cell')} cannot be written, so none was. ${refused[0]?.text ?? ''}`, refused);
  const written = wanted.filter((cell) => !isThere(cell));
  const told = await readTold(
    db,
    courseId,
    written.filter((cell) => held(cell) === undefined),
    now,
  );
  const act = randomUUID();
  const writes = written.map((cell): GradeWrite => ({
    columnId: cell.columnId,
    enrolmentId: cell.enrolmentId,
    kind: 'set',
    ...cell.wish,
    isReleased: held(cell)?.isReleased ?? told.has(cellKey(cell)),
    source: change.how,
    reason: change.reason,
    actorId,
    at: now,
    act,
  }));
  await recordGrades(db, writes);
  await tellStudents(
    db,
    courseId,
    written.filter((_, n) => writes[n]?.isReleased === true).map((c) => ({ itemId: c.column.itemId, enrolmentId: c.enrolmentId })),
  );
  return { act, changed: writes.length };
}

/** Takes an act back: each cell of it that nobody has changed since is as it was before; the ledger keeps both. */
export async function undoBlock(db: Db, courseId: string, act: string, actorId: string, now: number): Promise<ActUndone> {
  const cells = await listActCells(db, courseId, act);
  if (cells.length === 0) throw notFound();
  const [current, isHidden] = await Promise.all([listCellsForUpdate(db, cells), readHidden(db, courseId, now)]);
  const free = cells.filter(
    (c) => current.get(cellKey(c))?.eventId === c.eventId && (c.itemId === null || !isHidden(c.itemId, c.enrolmentId)),
  );
  const undoing = randomUUID();
  await recordGrades(
    db,
    free.map((cell): GradeWrite => ({
      columnId: cell.columnId,
      enrolmentId: cell.enrolmentId,
      kind: 'undo',
      state: cell.before?.state ?? null,
      raw: cell.before?.raw ?? null,
      isReleased: cell.before?.isReleased ?? false,
      source: 'gradebook',
      reason: '',
      actorId,
      at: now,
      undoes: cell.eventId,
      act: undoing,
    })),
  );
  await tellStudents(
    db,
    courseId,
    free.filter((c) => c.before?.isReleased === true),
  );
  return { changed: free.length, left: cells.length - free.length, act: undoing };
}
