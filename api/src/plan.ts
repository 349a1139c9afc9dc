import { DONE_RULES, ITEM_KINDS, READINGS } from '@rosemary/core';
import type {
  DocumentNode,
  DoneRule,
  Finding,
  ItemKind,
  ItemState,
  LatePolicy,
  ResultReading,
  Term,
  TimeTaken,
  WeekLoad,
} from '@rosemary/core';
import { document, id, instant, Joi, latePolicy, points, title, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';
import { type LevelChange, schemeLevels } from './policy.ts';
import type { Judged, AssignmentSetting, RubricView } from './assignment.ts';
import type { LinkView, ShownFileView } from './files.ts';
import { audience, opening, type AudienceMember, type AudienceName, type HandOpening, type OpeningWish } from './release.ts';

export interface UnitChange {
  readonly version: number;
  readonly title?: string;
  readonly announcedAt?: string | null;
  readonly opensAt?: string | null;
  readonly closesAt?: string | null;
  readonly isStaffOnly?: boolean;
  readonly audience?: AudienceMember[];
}

export const unitChange = Joi.object<UnitChange, true>({
  version: version(),
  title: title(LIMITS.unitTitle).label('Title'),
  announcedAt: instant().label('Announced from'),
  opensAt: instant().label('Opens'),
  closesAt: instant().label('Closes'),
  isStaffOnly: Joi.boolean(),
  audience: audience(),
});

export interface NewUnit {
  readonly title: string;
  readonly isStanding?: boolean;
}

export const newUnit = Joi.object<NewUnit, true>({ title: title(LIMITS.unitTitle).required().label('Title'), isStanding: Joi.boolean() });

export interface Order {
  readonly units: { readonly id: string; readonly itemIds: string[] }[];
}

export const order = Joi.object<Order, true>({
  units: Joi.array()
    .max(200)
    .items(Joi.object({ id: id().required(), itemIds: Joi.array().max(LIMITS.items).items(id()).required() }))
    .required(),
});

export interface NewItem {
  readonly unitId: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly position: number;
}

export const newItem = Joi.object<NewItem, true>({
  unitId: id().required(),
  kind: Joi.string()
    .valid(...ITEM_KINDS)
    .required()
    .label('Kind'),
  title: title().required().label('Title'),
  position: whole(0, LIMITS.items).required(),
});

export interface ItemChange {
  readonly version: number;
  readonly title?: string;
  readonly isDraft?: boolean;
  readonly isOff?: boolean;
  readonly categoryId?: string | null;
  readonly possible?: number;
  readonly multiplier?: number;
  readonly isExtraCredit?: boolean;
  readonly counts?: boolean;
  readonly isRequired?: boolean;
  readonly announcedAt?: string | null;
  readonly opensAt?: string | null;
  readonly dueAt?: string | null;
  readonly closesAt?: string | null;
  readonly estimatedMinutes?: number;
  readonly markingMinutes?: number;
  /** One of the school’s list of task types. */
  readonly taskTypeId?: string | null;
  readonly doneRule?: DoneRule;
  readonly doneScore?: number | null;
  readonly releaseMode?: 'finished' | 'date' | 'hand';
  readonly releaseAt?: string | null;
  readonly isStaffOnly?: boolean;
  readonly audience?: AudienceMember[];
  readonly opening?: OpeningWish;
  /** A remark for whoever carries the course forward. */
  readonly nextNote?: string;
  /** Students see number, mean, median and spread of the results, of five at least. */
  readonly showsStatistics?: boolean;
  readonly studentReads?: ResultReading;
  readonly staffReads?: ResultReading;
  /** Levels of its own, by which its results are read as letters; null is by the course's. */
  readonly ownLevels?: LevelChange[] | null;
  /** Late work of this item by a policy of its own; null is by the course's. Percentages in thousandths. */
  readonly late?: LatePolicy | null;
  /** Whom changed dates are for in a running course: everyone unless said; the rest keep what they had. */
  readonly whom?: Whom;
}
export type Whom = 'everyone' | 'not begun' | string[];

export const itemChange = Joi.object<ItemChange, true>({
  version: version(),
  title: title().label('Title'),
  isDraft: Joi.boolean(),
  isOff: Joi.boolean(),
  categoryId: id().allow(null).label('Category'),
  possible: points().label('Points'),
  multiplier: whole(0, 100_000).label('Multiplier'),
  isExtraCredit: Joi.boolean(),
  counts: Joi.boolean(),
  isRequired: Joi.boolean(),
  announcedAt: instant().label('Announced from'),
  opensAt: instant().label('Opens'),
  dueAt: instant().label('Due'),
  closesAt: instant().label('Closes'),
  estimatedMinutes: whole(0, 6000).label('Minutes for a student'),
  markingMinutes: whole(0, 600).label('Minutes to mark'),
  taskTypeId: id().allow(null).label('Type of task'),
  doneRule: Joi.string()
    .valid(...DONE_RULES)
    .label('Done when'),
  doneScore: points().allow(null).label('Score needed'),
  releaseMode: Joi.string().valid('finished', 'date', 'hand').label('Release'),
  releaseAt: instant().label('Release at'),
  isStaffOnly: Joi.boolean(),
  audience: audience(),
  opening: opening(),
  nextNote: Joi.string().allow('').max(LIMITS.note).label('Note to next time'),
  showsStatistics: Joi.boolean(),
  studentReads: Joi.string()
    .valid(...READINGS)
    .label('How students read the result'),
  staffReads: Joi.string()
    .valid(...READINGS)
    .label('How staff also read the result'),
  ownLevels: schemeLevels().min(1).allow(null).label('Levels'),
  late: latePolicy(),
  whom: Joi.alternatives(Joi.string().valid('everyone', 'not begun'), Joi.array().min(1).max(60).items(id())) as Joi.AlternativesSchema,
});

/** What can be set for several items in one go. */
export type BatchFields = Pick<
  ItemChange,
  'isDraft' | 'isOff' | 'categoryId' | 'announcedAt' | 'opensAt' | 'dueAt' | 'closesAt' | 'estimatedMinutes' | 'possible' | 'audience'
>;

export interface BatchChange {
  readonly changes: ({ readonly id: string; readonly version: number } & BatchFields)[];
}

export const batchChange = Joi.object<BatchChange, true>({
  changes: Joi.array()
    .min(1)
    .max(LIMITS.items)
    .unique('id')
    .required()
    .items(
      Joi.object({
        id: id().required(),
        version: version(),
        isDraft: Joi.boolean(),
        isOff: Joi.boolean(),
        categoryId: id().allow(null).label('Category'),
        announcedAt: instant().label('Announced from'),
        opensAt: instant().label('Opens'),
        dueAt: instant().label('Due'),
        closesAt: instant().label('Closes'),
        estimatedMinutes: whole(0, 6000).label('Minutes for a student'),
        possible: points().label('Points'),
        audience: audience(),
      }),
    ),
});

export interface ItemChoice {
  readonly itemIds: string[];
}

export const itemChoice = Joi.object<ItemChoice, true>({ itemIds: Joi.array().min(1).max(LIMITS.items).unique().items(id()).required() });

export interface DocumentChange {
  readonly document: DocumentNode;
  readonly version: number;
  /** Another text takes the place of this one: what stood before stays a version of its own, however lately it was written. */
  readonly isReplacing?: boolean;
}

export const documentChange = Joi.object<DocumentChange, true>({
  document: document().required(),
  version: version(),
  isReplacing: Joi.boolean(),
});

/** What is done to a text as it was seen in this version. */
export interface VersionSeen {
  readonly version: number;
}
export const versionSeen = Joi.object<VersionSeen, true>({ version: version() });

export interface VariantsChange {
  readonly variants: {
    readonly sectionId: string | null;
    readonly enrolmentId: string | null;
    readonly groupId?: string | null;
    readonly opensAt: string | null;
    readonly dueAt: string | null;
    readonly closesAt: string | null;
  }[];
}

export const variantsChange = Joi.object<VariantsChange, true>({
  variants: Joi.array()
    .max(LIMITS.variants)
    .required()
    .items(
      Joi.object({
        sectionId: id().allow(null).required(),
        enrolmentId: id().allow(null).required(),
        groupId: id().allow(null),
        opensAt: instant().required(),
        dueAt: instant().required(),
        closesAt: instant().required(),
      }),
    ),
});

/** Several items changed together, with what undoes it. */
export interface BatchDone {
  readonly plan: Plan;
  readonly undo: BatchChange;
}

/** What a check before opening found, and over how many items. */
export interface CourseCheck {
  readonly findings: readonly Finding[];
  readonly items: number;
  /** What students would see once it is no draft any more. */
  readonly drafts: readonly { readonly id: string; readonly version: number }[];
  /** How many items students see by their dates once the course is open. */
  readonly shown: number;
}

export interface PlanItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly state: ItemState;
  readonly isDraft: boolean;
  /** Switched off: a draft for everybody that asks for no time and no points, until it is on again as it was. */
  readonly isOff: boolean;
  /** What it is once it is on. */
  readonly isDraftOnceOn: boolean;
  readonly categoryId: string | null;
  readonly possible: number;
  /** How it is judged; null where it is no assignment. */
  readonly judged: Judged | null;
  readonly multiplier: number;
  readonly isExtraCredit: boolean;
  readonly counts: boolean;
  readonly isRequired: boolean;
  readonly announcedAt: string | null;
  readonly opensAt: string | null;
  readonly dueAt: string | null;
  readonly closesAt: string | null;
  readonly estimatedMinutes: number;
  readonly markingMinutes: number;
  readonly taskTypeId: string | null;
  readonly doneRule: DoneRule;
  readonly doneScore: number | null;
  /** Students review each other’s works of it. */
  readonly isReviewed: boolean;
  readonly releaseMode: 'finished' | 'date' | 'hand';
  readonly releaseAt: string | null;
  readonly isStaffOnly: boolean;
  readonly audience: readonly AudienceName[];
  readonly opening: OpeningWish;
  readonly handOpenings: readonly HandOpening[];
  readonly nextNote: string;
  readonly showsStatistics: boolean;
  /** How its result is read by its student, and by staff beside the points. */
  readonly studentReads: ResultReading;
  readonly staffReads: ResultReading;
  readonly ownLevels: readonly LevelChange[] | null;
  readonly late: LatePolicy | null;
  readonly version: number;
  /** Its text has changes that are not published. */
  readonly hasChanges: boolean;
  readonly warnings: readonly string[];
  readonly variants: readonly {
    readonly sectionId: string | null;
    readonly enrolmentId: string | null;
    readonly groupId?: string | null;
    readonly name: string;
    readonly opensAt: string | null;
    readonly dueAt: string | null;
    readonly closesAt: string | null;
  }[];
}

export interface PlanUnit {
  readonly id: string;
  readonly title: string;
  readonly announcedAt: string | null;
  readonly opensAt: string | null;
  readonly closesAt: string | null;
  readonly isStaffOnly: boolean;
  /** Pages that stand outside the units, before all of them; a course has one such unit at most. */
  readonly isStanding: boolean;
  readonly audience: readonly AudienceName[];
  readonly version: number;
  readonly items: readonly PlanItem[];
}

export interface Plan {
  readonly units: readonly PlanUnit[];
  readonly categories: readonly { readonly id: string; readonly title: string }[];
  readonly arrangements: number;
  readonly term: Term;
}

export interface ItemDetail {
  readonly item: PlanItem;
  readonly page: { readonly document: DocumentNode; readonly version: number } | null;
  readonly link: (LinkView & { readonly version: number }) | null;
  readonly file: (ShownFileView & { readonly version: number }) | null;
  readonly assignment: AssignmentSetting | null;
  readonly rubric: RubricView | null;
  /** Students review each other’s works of it. */
  readonly hasPeers: boolean;
  /** Its text as it is edited; null where its kind has none. */
  readonly text: EditedText | null;
}

/** The text of an item as it is edited. While students read the item, what is written is a working copy until it is published. */
export interface EditedText {
  readonly document: DocumentNode;
  readonly isRead: boolean;
  /** What is not published yet was begun then, by this person, while students go on reading the published text. */
  readonly working: { readonly published: DocumentNode; readonly begunAt: string; readonly begunBy: string } | null;
}
/** A text was saved; as a working copy where students go on reading the text from before. */
export interface TextSaved {
  readonly version: number;
  readonly isWorking: boolean;
}
/** There is no working copy any more; this is what is edited again. */
export interface ChangesDropped {
  readonly version: number;
  readonly document: DocumentNode;
}
/** What students read from now on, and what they read before. */
export interface TextPublished {
  readonly version: number;
  readonly before: DocumentNode;
}

/** A version of a page, without its text. */
export interface PageVersion {
  readonly number: number;
  readonly savedAt: string;
  readonly savedBy: string;
  readonly words: number;
}
export interface PageTemplate {
  readonly id: string;
  readonly title: string;
  readonly document: DocumentNode;
}
export interface NewTemplate {
  readonly title: string;
  readonly document: DocumentNode;
}
export const newTemplate = Joi.object<NewTemplate, true>({ title: title().required().label('Title'), document: document().required() });

/** What the weeks of a course ask, and what its items take. */
export interface CourseTime {
  readonly weeks: readonly (WeekLoad & { readonly isOverfull: boolean })[];
  /** The usual week, where one is far above it. */
  readonly median: number | null;
  readonly items: readonly {
    readonly id: string;
    readonly kind: ItemKind;
    readonly title: string;
    readonly unit: string;
    readonly version: number;
    readonly asked: number;
    readonly taken: TimeTaken;
  }[];
}
