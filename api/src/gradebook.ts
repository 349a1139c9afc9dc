import {
  type CellState,
  type ClassStatistics,
  type ColumnRole,
  CURVE_KINDS,
  type CurveKind,
  type ItemKind,
  READINGS,
  type ResultReading,
  type Ripple,
  type SchemeLevel,
  type WorkingLine,
} from '@rosemary/core';
import { id, instant, Joi, points, title, version, whole } from './joi.ts';
import { type LevelChange, schemeLevels } from './policy.ts';
import { LIMITS } from './limits.ts';
import { audience, type AudienceMember } from './release.ts';
import type { TotalsText } from './student.ts';

export interface CellChange {
  readonly columnId: string;
  readonly enrolmentId: string;
  readonly state: 'scored' | 'exempt' | 'unfinished' | 'missing' | null;
  readonly raw: number | null;
  readonly seenEventId: string | null;
  readonly isAboveConfirmed: boolean;
  readonly reason: string;
}

export const cellChange = Joi.object<CellChange, true>({
  columnId: id().required(),
  enrolmentId: id().required(),
  state: Joi.string().valid('scored', 'exempt', 'unfinished', 'missing').allow(null).required(),
  raw: points().allow(null).required().label('Score'),
  seenEventId: Joi.string().pattern(/^\d+$/).allow(null).required(),
  isAboveConfirmed: Joi.boolean().required(),
  reason: Joi.string().allow('').max(LIMITS.reason).required().label('Reason'),
});

/** A cell of a block: the places of its student and column in the lists, what is given, and the event that was seen there. */
export type BlockCell = readonly [
  student: number,
  column: number,
  given: number | 'exempt' | 'unfinished' | 'missing' | null,
  seenEventId: string | null,
];

/** Many cells written as one act, which is taken back as one. */
export interface BlockChange {
  readonly how: 'paste' | 'fill' | 'import';
  readonly enrolmentIds: string[];
  readonly columnIds: string[];
  readonly cells: readonly BlockCell[];
  /** Scores above the points were seen and are meant. */
  readonly isAboveConfirmed: boolean;
  readonly reason: string;
}

export const blockChange = Joi.object<BlockChange>({
  how: Joi.string().valid('paste', 'fill', 'import').required(),
  enrolmentIds: Joi.array().max(5000).items(id()).required(),
  columnIds: Joi.array().max(LIMITS.items).items(id()).required(),
  cells: Joi.array()
    .min(1)
    .max(LIMITS.blockCells)
    .required()
    .label('Cells')
    .items(
      Joi.array().ordered(
        whole(0, 4999).required().label('Student of a cell'),
        whole(0, LIMITS.items - 1)
          .required()
          .label('Column of a cell'),
        Joi.alternatives(points(), Joi.string().valid('exempt', 'unfinished', 'missing'))
          .allow(null)
          .required()
          .label('Score'),
        Joi.string().pattern(/^\d+$/).allow(null).required(),
      ),
    ),
  isAboveConfirmed: Joi.boolean().required(),
  reason: Joi.string().allow('').max(LIMITS.reason).required().label('Reason'),
});

export interface BlockSaved {
  readonly act: string;
  readonly changed: number;
}

/** Takes an act back: every cell of it that nobody has changed since. */
export interface UndoAct {
  readonly act: string;
}
export const undoAct = Joi.object<UndoAct, true>({ act: id().required() });

export interface ActUndone {
  readonly changed: number;
  /** Cells of it that were changed later, and stay. */
  readonly left: number;
  /** By this the undoing is itself taken back. */
  readonly act: string;
}

/** Why a change was made, said after it by the one who made it. */
export interface EventReason extends UndoEvent {
  readonly reason: string;
}
export const eventReason = Joi.object<EventReason, true>({
  eventId: Joi.string()
    .pattern(/^\d{1,18}$/)
    .required(),
  reason: Joi.string().trim().allow('').max(LIMITS.reason).required().label('Reason'),
});

/** A table of results as it was read from a file, with what names the students, to be met with the gradebook. */
export interface ReadTable {
  readonly lines: readonly (readonly string[])[];
  readonly people: readonly { readonly enrolmentId: string; readonly email: string; readonly source: string | null }[];
}

/** A column made in the gradebook: what is done in class, and has nothing to hand in. */
export interface NewColumn {
  readonly title: string;
  readonly possible: number;
  readonly categoryId: string | null;
  /** A category that is made with it; null where it goes into one there is, or into none. */
  readonly newCategory: string | null;
  readonly dueAt: string | null;
  readonly audience: AudienceMember[];
  /** Whether students see a result as soon as it is written. */
  readonly isToldAtOnce: boolean;
  readonly showsStatistics: boolean;
  readonly isExtraCredit: boolean;
  readonly multiplier: number;
  /** The grading period it counts in; null leaves it to its date. */
  readonly periodId: string | null;
  readonly studentReads: ResultReading;
  /** Names of its own by which it is read; null is by the letters of the course. */
  readonly ownLevels: LevelChange[] | null;
}
export const newColumn = Joi.object<NewColumn, true>({
  title: title().required().label('Title'),
  possible: points().required().label('Points'),
  categoryId: id().allow(null).required().label('Category'),
  newCategory: title(LIMITS.categoryTitle).allow(null).required().label('New category'),
  dueAt: instant().required().label('Date'),
  audience: audience().required(),
  isToldAtOnce: Joi.boolean().required(),
  showsStatistics: Joi.boolean().required(),
  isExtraCredit: Joi.boolean().required(),
  multiplier: whole(0, 100_000).required().label('Multiplier'),
  periodId: id().allow(null).required().label('Grading period'),
  studentReads: Joi.string()
    .valid(...READINGS)
    .required()
    .label('How students read the result'),
  ownLevels: schemeLevels().min(1).allow(null).required().label('Levels'),
});

/** Where a class activity that stands in the gradebook alone is put, and as what. */
export interface ColumnPlace {
  readonly unitId: string;
  /** Whether it becomes something that students hand in. */
  readonly isHandedIn: boolean;
}
export const columnPlace = Joi.object<ColumnPlace, true>({
  unitId: id().required().label('Unit'),
  isHandedIn: Joi.boolean().required(),
});

/** A curve that is set on a column; null takes the one it has away. */
export interface CurveChange {
  readonly curve: { readonly kind: CurveKind; readonly amount: number | null; readonly isCapped: boolean } | null;
}
export const curveChange = Joi.object<CurveChange, true>({
  curve: Joi.object({
    kind: Joi.string()
      .valid(...CURVE_KINDS)
      .required(),
    amount: points().allow(null).required().label('Points'),
    isCapped: Joi.boolean().required(),
  })
    .allow(null)
    .required(),
});

/** The results of a column and its curve, for the dialog in which it is set. */
export interface ColumnView {
  readonly id: string;
  readonly title: string;
  readonly possible: number;
  readonly curve: { readonly kind: CurveKind; readonly amount: number | null; readonly isCapped: boolean } | null;
  readonly curveWords: string | null;
  /** What was given, before curve and lateness: finished marks, without those of sample students. */
  readonly marks: readonly number[];
  /** Number, mean, median and spread of the results; null below five. */
  readonly statistics: ClassStatistics | null;
  readonly missing: readonly string[];
  readonly unreleased: number;
  readonly isShownToStudents: boolean;
}

/** Words on a cell: a memo for staff, a comment for the student. */
export interface CellWords {
  readonly memo: string;
  readonly comment: string;
  readonly version: number;
}
export const cellWords = Joi.object<CellWords, true>({
  memo: Joi.string().allow('').max(LIMITS.cellWords).required().label('Memo'),
  comment: Joi.string().allow('').max(LIMITS.cellWords).required().label('Comment'),
  version: version(),
});

export interface UndoEvent {
  readonly eventId: string;
}

export const undoEvent = Joi.object<UndoEvent, true>({ eventId: Joi.string().pattern(/^\d+$/).required() });

/** Who moves by a change not yet made, with the scheme it would be read by. */
export interface RippleAnswer extends Ripple {
  readonly levels: readonly SchemeLevel[];
}

export interface BookColumn {
  readonly id: string;
  /** The item it is of; null where it stands in the gradebook alone. */
  readonly itemId: string | null;
  readonly role: ColumnRole;
  readonly kind: ItemKind | null;
  readonly title: string;
  readonly categoryId: string | null;
  readonly possible: number;
  readonly dueAt: string | null;
  readonly isDraft: boolean;
  readonly counts: boolean;
  readonly madeAt: string;
  /** Its place in the Plan. */
  readonly order: number;
  /** Whether it stands in the gradebook alone, and in no unit of the Plan. */
  readonly isAlone: boolean;
  /** The grading period it counts in: its own, or that of its date; null where it counts in each. */
  readonly periodId: string | null;
  readonly isExtraCredit: boolean;
  readonly multiplier: number;
  readonly hasCurve: boolean;
  /** Whether a letter of the scheme can be typed into it. */
  readonly takesLetters: boolean;
  /** The levels it is read by instead of the letters of the course. */
  readonly ownLevels: readonly SchemeLevel[] | null;
}

/** What was given, before lateness: what is edited. */
type Given = number | 'exempt' | 'unfinished' | 'missing' | null;
/**
 * A cell travels as a short row: state, result as it is read, released, late, last event, waiting, what was given. Where staff
 * read it otherwise than students, the other reading stands at the end.
 */
export type BookCell =
  | readonly [state: CellState, text: string, isReleased: 0 | 1, isLate: 0 | 1, eventId: string | null, waits: 0 | 1, given: Given]
  | readonly [
      state: CellState,
      text: string,
      isReleased: 0 | 1,
      isLate: 0 | 1,
      eventId: string | null,
      waits: 0 | 1,
      given: Given,
      alsoReads: string,
    ];

export interface BookPart {
  readonly categoryId: string;
  readonly periodId: string | null;
  readonly title: string;
  readonly weightPercent: number;
}

export interface BookRow {
  readonly enrolmentId: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly sectionId: string | null;
  readonly cells: readonly (BookCell | 0)[];
  /** Beside the parts of the book. */
  readonly subtotals: readonly (string | null)[];
  /** Beside its periods. */
  readonly periods: readonly (string | null)[];
  readonly totals: TotalsText;
}

export interface Gradebook {
  readonly columns: readonly BookColumn[];
  /** Where columns count together, in the order of the grid: a category, in a grading period where there are any with a weight. */
  readonly parts: readonly BookPart[];
  readonly periods: readonly { readonly id: string; readonly title: string; readonly weightPercent: number }[];
  readonly categories: readonly { readonly id: string; readonly title: string; readonly weightPercent: number }[];
  readonly rows: readonly BookRow[];
  readonly total: string;
  readonly weightsSum: number;
  readonly shares: readonly (readonly number[])[];
  readonly levels: readonly SchemeLevel[];
  /** From which total so far the course is passed; null where nothing is said of it. */
  readonly passPercent: number | null;
  /** Where it is shown as it stood: the instant, and since when the past of what is no mark is known (null: from the beginning). */
  readonly asOf: { readonly at: string; readonly knownSince: string | null } | null;
}

/** A cell that differs between two days, with the act that changed it last. */
export interface CellDifference {
  readonly columnId: string;
  readonly title: string;
  readonly enrolmentId: string;
  readonly name: string;
  readonly was: string;
  readonly is: string;
  /** Null where no mark was written: a date, the policy or a curve made it another. */
  readonly by: {
    readonly eventId: string;
    readonly act: string | null;
    readonly who: string;
    readonly at: string;
    readonly source: string;
  } | null;
}
/** An act of the time between that is no mark, by which results or totals may have moved. */
export interface OtherAct {
  readonly at: string;
  readonly who: string;
  readonly what: string;
  readonly subject: string;
}
/** What changed in the gradebook between two instants. */
export interface BookDifferences {
  readonly from: string;
  readonly to: string;
  readonly knownSince: string | null;
  readonly cells: readonly CellDifference[];
  readonly totals: readonly {
    readonly enrolmentId: string;
    readonly name: string;
    readonly before: string | null;
    readonly after: string | null;
    readonly letterBefore: string | null;
    readonly letterAfter: string | null;
  }[];
  readonly acts: readonly OtherAct[];
}

export interface CellSaved {
  readonly eventId: string | null;
  readonly row: BookRow;
}

export interface WorkingView {
  readonly who: string;
  readonly title: string;
  readonly rule: string;
  readonly lines: readonly WorkingLine[];
  readonly inTotal: string | null;
}

export interface HistoryEntry {
  readonly eventId: string;
  readonly at: string;
  readonly who: string;
  readonly what: string;
  readonly source: string;
  readonly reason: string;
  readonly canUndo: boolean;
  /** Whether the one who asks wrote it, and can say why. */
  readonly isMine: boolean;
}

/** A change in a column, with whose result it was. */
export interface ColumnHistoryEntry {
  readonly eventId: string;
  readonly at: string;
  readonly who: string;
  readonly student: string;
  readonly what: string;
  readonly source: string;
  readonly reason: string;
}
export interface ColumnHistory {
  readonly entries: readonly ColumnHistoryEntry[];
  /** Names are hidden from those who mark: what happened is not told while they are. */
  readonly isHidden: boolean;
}

export type RippleView = Ripple;
