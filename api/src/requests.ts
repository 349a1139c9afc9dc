import { DONE_RULES, OUTLINES, type DocumentNode, type DoneRule, type ItemKind, type OutlineKind } from '@rosemary/core';
import { document, id, instant, Joi, points, title, version, whole } from './joi.ts';
import { FILE_TYPES, LIMITS } from './limits.ts';

export interface SignIn {
  readonly email: string;
  readonly password: string;
}
export const signIn = Joi.object<SignIn, true>({
  email: Joi.string().max(LIMITS.email).required().label('Address'),
  password: Joi.string().max(LIMITS.password).required().label('Password'),
});

export interface DemoSignIn {
  readonly personId: string;
}
export const demoSignIn = Joi.object<DemoSignIn, true>({ personId: id().required() });

export interface OwnSettings {
  readonly theme: 'light' | 'dark';
}
export const ownSettings = Joi.object<OwnSettings, true>({ theme: Joi.string().valid('light', 'dark').required() });

export interface NewPassword {
  readonly current: string;
  readonly next: string;
}
export const newPassword = Joi.object<NewPassword, true>({
  current: Joi.string().max(LIMITS.password).required().label('Present password'),
  next: Joi.string().min(LIMITS.passwordLeast).max(LIMITS.password).required().label('New password'),
});

export interface SlipChoice {
  readonly slip: string;
  readonly until: string | null;
}
export const slipChoice = Joi.object<SlipChoice, true>({ slip: Joi.string().max(120).required(), until: instant().required() });

export interface UnitTitle {
  readonly title: string;
  readonly version: number;
}
export const unitTitle = Joi.object<UnitTitle, true>({ title: title(LIMITS.unitTitle).required().label('Title'), version: version() });

export interface NewUnit {
  readonly title: string;
}
export const newUnit = Joi.object<NewUnit, true>({ title: title(LIMITS.unitTitle).required().label('Title') });

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
  kind: Joi.string().valid('page', 'assignment', 'activity').required().label('Kind'),
  title: title().required().label('Title'),
  position: whole(0, LIMITS.items).required(),
});

export interface ItemChange {
  readonly version: number;
  readonly title?: string;
  readonly isDraft?: boolean;
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
  readonly doneRule?: DoneRule;
  readonly doneScore?: number | null;
  readonly releaseMode?: 'finished' | 'date' | 'hand';
  readonly releaseAt?: string | null;
}
export const itemChange = Joi.object<ItemChange, true>({
  version: version(),
  title: title().label('Title'),
  isDraft: Joi.boolean(),
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
  doneRule: Joi.string()
    .valid(...DONE_RULES)
    .label('Done when'),
  doneScore: points().allow(null).label('Score needed'),
  releaseMode: Joi.string().valid('finished', 'date', 'hand').label('Release'),
  releaseAt: instant().label('Release at'),
});

/** What can be set for several items in one go. */
export type BatchFields = Pick<
  ItemChange,
  'isDraft' | 'categoryId' | 'announcedAt' | 'opensAt' | 'dueAt' | 'closesAt' | 'estimatedMinutes' | 'possible'
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
        categoryId: id().allow(null).label('Category'),
        announcedAt: instant().label('Announced from'),
        opensAt: instant().label('Opens'),
        dueAt: instant().label('Due'),
        closesAt: instant().label('Closes'),
        estimatedMinutes: whole(0, 6000).label('Minutes for a student'),
        possible: points().label('Points'),
      }),
    ),
});

/** What to bring from another course, and how. */
export interface CarryWish {
  readonly fromCourseId: string;
  readonly itemIds: string[];
  /** Dates by teaching week, or none. */
  readonly hasDates: boolean;
  readonly weekdays: { readonly from: number; readonly to: number }[];
  /** For items that came before: nothing said is `skip`. */
  readonly again: { readonly itemId: string; readonly how: 'skip' | 'replace' | 'add' }[];
}
export const carryWish = Joi.object<CarryWish, true>({
  fromCourseId: id().required(),
  itemIds: Joi.array().max(LIMITS.items).unique().items(id()).required(),
  hasDates: Joi.boolean().required(),
  weekdays: Joi.array()
    .max(7)
    .unique('from')
    .required()
    .items(Joi.object({ from: whole(1, 7).required(), to: whole(1, 7).required() })),
  again: Joi.array()
    .max(LIMITS.items)
    .unique('itemId')
    .required()
    .items(Joi.object({ itemId: id().required(), how: Joi.string().valid('skip', 'replace', 'add').required() })),
});

export interface ItemChoice {
  readonly itemIds: string[];
}
export const itemChoice = Joi.object<ItemChoice, true>({ itemIds: Joi.array().min(1).max(LIMITS.items).unique().items(id()).required() });

export interface DocumentChange {
  readonly document: DocumentNode;
  readonly version: number;
}
export const documentChange = Joi.object<DocumentChange, true>({ document: document().required(), version: version() });

export interface AssignmentChange {
  readonly version: number;
  readonly instructions?: DocumentNode;
  readonly acceptsText?: boolean;
  readonly acceptsFiles?: boolean;
  readonly fileTypes?: string[];
  readonly mostFiles?: number;
  readonly mostBytes?: number;
  readonly attemptsAllowed?: number | null;
}
export const assignmentChange = Joi.object<AssignmentChange, true>({
  version: version(),
  instructions: document(),
  acceptsText: Joi.boolean(),
  acceptsFiles: Joi.boolean(),
  fileTypes: Joi.array()
    .min(1)
    .items(Joi.string().valid(...Object.keys(FILE_TYPES)))
    .label('File types'),
  mostFiles: whole(1, 50).label('Files'),
  mostBytes: whole(1024, 104_857_600).label('Largest file'),
  attemptsAllowed: whole(1, 50).allow(null).label('Attempts'),
});

export interface RubricChange {
  readonly version: number;
  readonly criteria: {
    readonly id: string | null;
    readonly title: string;
    readonly levels: { readonly id: string | null; readonly title: string; readonly descriptor: string; readonly points: number }[];
  }[];
}
export const rubricChange = Joi.object<RubricChange, true>({
  version: version(),
  criteria: Joi.array()
    .max(LIMITS.criteria)
    .required()
    .items(
      Joi.object({
        id: id().allow(null).required(),
        title: title(LIMITS.criterionTitle).required().label('Criterion'),
        levels: Joi.array()
          .min(2)
          .max(LIMITS.levels)
          .required()
          .label('Levels')
          .items(
            Joi.object({
              id: id().allow(null).required(),
              title: Joi.string().trim().allow('').max(LIMITS.levelTitle).required().label('Level'),
              descriptor: Joi.string().allow('').max(LIMITS.descriptor).required().label('Descriptor'),
              points: points().required().label('Points of a level'),
            }),
          ),
      }),
    ),
});

export interface VariantsChange {
  readonly variants: {
    readonly sectionId: string | null;
    readonly enrolmentId: string | null;
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
        opensAt: instant().required(),
        dueAt: instant().required(),
        closesAt: instant().required(),
      }),
    ),
});

export interface Visit {
  readonly seconds: number;
}
export const visit = Joi.object<Visit, true>({ seconds: whole(0, 3600).required() });

export interface HandIn {
  readonly note: string;
  readonly key: string;
  readonly version: number;
}
export const handIn = Joi.object<HandIn, true>({
  note: Joi.string().allow('').max(LIMITS.note).required().label('Note'),
  key: Joi.string().min(8).max(80).required(),
  version: version(),
});

export interface MarkChange {
  readonly version: number;
  readonly choices: { readonly [criterionId: string]: string };
  readonly score: number | null;
  readonly scoreReason: string;
  readonly feedback: DocumentNode | null;
}
export const markChange = Joi.object<MarkChange, true>({
  version: version(),
  choices: Joi.object().pattern(id(), id()).max(LIMITS.criteria).required(),
  score: points().allow(null).required().label('Score'),
  scoreReason: Joi.string().allow('').max(LIMITS.reason).required().label('Reason'),
  feedback: document().allow(null).required().label('Feedback'),
});

export interface Finish {
  readonly version: number;
  readonly isAboveConfirmed: boolean;
}
export const finish = Joi.object<Finish, true>({ version: version(), isAboveConfirmed: Joi.boolean().required() });

/** A place in a work: a range of the written answer, or words on a page of a PDF with their boxes as shares of the page. */
export type Anchor =
  | { readonly kind: 'text'; readonly from: number; readonly to: number }
  | {
      readonly kind: 'pdf';
      readonly page: number;
      readonly boxes: { readonly x: number; readonly y: number; readonly w: number; readonly h: number }[];
    };
const share = (): Joi.NumberSchema => Joi.number().min(0).max(1).required();
export const anchor = Joi.alternatives<Anchor>(
  Joi.object({
    kind: Joi.string().valid('text').required(),
    from: whole(0, 1_000_000).required(),
    to: whole(1, 1_000_000).greater(Joi.ref('from')).required(),
  }),
  Joi.object({
    kind: Joi.string().valid('pdf').required(),
    page: whole(1, 5000).required(),
    boxes: Joi.array()
      .min(1)
      .max(120)
      .required()
      .items(Joi.object({ x: share(), y: share(), w: share(), h: share() })),
  }),
);

export interface NewNote {
  readonly id: string;
  readonly attemptId: string;
  readonly fileId: string | null;
  readonly anchor: Anchor;
  readonly quote: string;
  readonly body: string;
}
export const newNote = Joi.object<NewNote, true>({
  id: id().required(),
  attemptId: id().required(),
  fileId: id().allow(null).required(),
  anchor: anchor.required(),
  quote: Joi.string().max(2000).required(),
  body: Joi.string().trim().min(1).max(LIMITS.noteBody).required().label('Note'),
});

export interface NoteChange {
  readonly body: string;
  readonly version: number;
}
export const noteChange = Joi.object<NoteChange, true>({
  body: Joi.string().trim().min(1).max(LIMITS.noteBody).required().label('Note'),
  version: version(),
});

export interface Release {
  readonly enrolmentIds: string[] | null;
}
export const release = Joi.object<Release, true>({ enrolmentIds: Joi.array().max(5000).items(id()).allow(null).required() });

export interface CellChange {
  readonly itemId: string;
  readonly enrolmentId: string;
  readonly state: 'scored' | 'exempt' | 'unfinished' | 'missing' | null;
  readonly raw: number | null;
  readonly seenEventId: string | null;
  readonly isAboveConfirmed: boolean;
  readonly reason: string;
}
export const cellChange = Joi.object<CellChange, true>({
  itemId: id().required(),
  enrolmentId: id().required(),
  state: Joi.string().valid('scored', 'exempt', 'unfinished', 'missing').allow(null).required(),
  raw: points().allow(null).required().label('Score'),
  seenEventId: Joi.string().pattern(/^\d+$/).allow(null).required(),
  isAboveConfirmed: Joi.boolean().required(),
  reason: Joi.string().allow('').max(LIMITS.reason).required().label('Reason'),
});

export interface UndoEvent {
  readonly eventId: string;
}
export const undoEvent = Joi.object<UndoEvent, true>({ eventId: Joi.string().pattern(/^\d+$/).required() });

export interface PolicyCategory {
  readonly id: string | null;
  readonly title: string;
  readonly weightPercent: number;
  readonly method: 'points' | 'share';
  readonly dropLowest: number;
  readonly keepBest: number;
  readonly dropHighest: number;
  readonly isExtraCredit: boolean;
  readonly isCapped: boolean;
  readonly declaredItems: number;
  readonly declaredPoints: number;
}
export interface PolicyChange {
  readonly version: number;
  readonly total: 'weights' | 'points' | 'share';
  readonly wholeDropLowest: number;
  readonly isRenormalised: boolean;
  readonly isMissingZero: boolean;
  readonly decimals: number;
  readonly showsFloorAndReach: boolean;
  readonly lateRatePercent: number;
  readonly lateStepMinutes: number;
  readonly lateBase: 'earned' | 'possible';
  readonly lateCapPercent: number;
  readonly lateFloorPercent: number;
  readonly lateGraceMinutes: number;
  readonly categories: PolicyCategory[];
  readonly levels: { readonly label: string; readonly cutPoint: number }[];
}
export const policyChange = Joi.object<PolicyChange, true>({
  version: version(),
  total: Joi.string().valid('weights', 'points', 'share').required(),
  wholeDropLowest: whole(0, 50).required(),
  isRenormalised: Joi.boolean().required(),
  isMissingZero: Joi.boolean().required(),
  decimals: whole(0, 3).required(),
  showsFloorAndReach: Joi.boolean().required(),
  lateRatePercent: whole(0, 100_000).required().label('Late penalty'),
  lateStepMinutes: whole(1, 10_080).required(),
  lateBase: Joi.string().valid('earned', 'possible').required(),
  lateCapPercent: whole(0, 100_000).required(),
  lateFloorPercent: whole(0, 100_000).required(),
  lateGraceMinutes: whole(0, 10_080).required(),
  categories: Joi.array()
    .max(LIMITS.categories)
    .required()
    .items(
      Joi.object({
        id: id().allow(null).required(),
        title: title(LIMITS.categoryTitle).required().label('Category'),
        weightPercent: whole(0, 1_000_000).required().label('Weight'),
        method: Joi.string().valid('points', 'share').required(),
        dropLowest: whole(0, 50).required(),
        keepBest: whole(0, 50).required(),
        dropHighest: whole(0, 50).required(),
        isExtraCredit: Joi.boolean().required(),
        isCapped: Joi.boolean().required(),
        declaredItems: whole(0, 500).required(),
        declaredPoints: points().required(),
      }),
    ),
  levels: Joi.array()
    .max(20)
    .required()
    .items(
      Joi.object({
        label: Joi.string().trim().min(1).max(12).required().label('Letter'),
        cutPoint: whole(0, 1_000_000).required().label('Cut-point'),
      }),
    ),
});

export interface NewPerson {
  readonly email: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly password: string;
}
export const newPerson = Joi.object<NewPerson, true>({
  email: Joi.string().trim().email({ tlds: false }).max(LIMITS.email).required().label('Address'),
  givenName: title(LIMITS.name).required().label('Given name'),
  familyName: title(LIMITS.name).required().label('Family name'),
  password: Joi.string().min(LIMITS.passwordLeast).max(LIMITS.password).required().label('Password'),
});

export interface NewTerm {
  readonly title: string;
  readonly startsOn: string;
  readonly endsOn: string;
  readonly meetingDays: number[];
  readonly holidays: { readonly title: string; readonly startsOn: string; readonly endsOn: string }[];
}
const day = (): Joi.StringSchema =>
  Joi.string()
    .pattern(/^\d{4}-\d{2}-\d{2}$/)
    .required()
    .messages({ 'string.pattern.base': '{{#label}} is “{{#value}}”; a day is written 2026-09-21.' });
export const newTerm = Joi.object<NewTerm, true>({
  title: title(LIMITS.name).required().label('Title'),
  startsOn: day().label('First day'),
  endsOn: day().label('Last day'),
  meetingDays: Joi.array().items(whole(1, 7)).unique().required(),
  holidays: Joi.array()
    .max(60)
    .required()
    .items(
      Joi.object({
        title: title(LIMITS.name).required().label('Holiday'),
        startsOn: day().label('Holiday from'),
        endsOn: day().label('Holiday to'),
      }),
    ),
});

export interface NewCourse {
  readonly code: string;
  readonly run: string;
  readonly title: string;
  readonly termId: string;
  readonly timeZone: string;
  readonly instructorId: string;
  readonly sections: string[];
}
const code = (): Joi.StringSchema =>
  Joi.string()
    .trim()
    .pattern(/^[A-Za-z0-9][A-Za-z0-9.-]{0,19}$/)
    .required()
    .messages({ 'string.pattern.base': '{{#label}} is “{{#value}}”; it takes up to 20 letters, digits, points and hyphens.' });
export const newCourse = Joi.object<NewCourse, true>({
  code: code().label('Code'),
  run: code().label('Run'),
  title: title().required().label('Title'),
  termId: id().required().label('Term'),
  timeZone: Joi.string().max(60).required().label('Time zone'),
  instructorId: id().required().label('Instructor'),
  sections: Joi.array().min(1).max(40).items(title(LIMITS.name)).unique().required().label('Sections'),
});

/** A course made by the one who will teach it. */
export interface OwnCourseStart {
  readonly code: string;
  readonly run: string;
  readonly title: string;
  readonly termId: string;
  readonly timeZone: string;
  readonly sections: string[];
  readonly outline: OutlineKind;
}
export const ownCourseStart = Joi.object<OwnCourseStart, true>({
  code: code().label('Code'),
  run: code().label('Run'),
  title: title().required().label('Title'),
  termId: id().required().label('Term'),
  timeZone: Joi.string().max(60).required().label('Time zone'),
  sections: Joi.array().min(1).max(40).items(title(LIMITS.name)).unique().required().label('Sections'),
  outline: Joi.string()
    .valid(...OUTLINES)
    .required()
    .label('Outline'),
});

export interface NewMember {
  readonly personId: string;
  readonly role: 'instructor' | 'assistant' | 'student';
  readonly sectionId: string | null;
}
export const newMember = Joi.object<NewMember, true>({
  personId: id().required(),
  role: Joi.string().valid('instructor', 'assistant', 'student').required(),
  sectionId: id().allow(null).required(),
});

/** A lasting adjustment for one student; the multiplier of time in thousandths, 1.25 is 1250. */
export interface ArrangementChange {
  readonly extraDays: number;
  readonly timeMultiplier: number;
  readonly extraAttempts: number;
  readonly reason: string;
}
const arrangementChange = Joi.object({
  extraDays: Joi.number().integer().min(0).max(60).required(),
  timeMultiplier: Joi.number().integer().min(1000).max(4000).multiple(10).required(),
  extraAttempts: Joi.number().integer().min(0).max(10).required(),
  reason: Joi.string().trim().max(200).allow('').required(),
});

export interface MemberChange {
  readonly version: number;
  readonly sectionId?: string | null;
  readonly isWithdrawn?: boolean;
  /** All of a student's arrangements as they shall stand. */
  readonly arrangements?: ArrangementChange[];
}
export const memberChange = Joi.object<MemberChange, true>({
  version: version(),
  sectionId: id().allow(null),
  isWithdrawn: Joi.boolean(),
  arrangements: Joi.array().max(5).items(arrangementChange),
});
