import {
  FORM_FIELDS,
  type Activity,
  type FormField,
  type GradeDifference,
  type LetterTable,
  type RegistrarRules,
  type RowState,
} from '@rosemary/core';
import { day, id, instant, Joi, version } from './joi.ts';
import { LIMITS } from './limits.ts';

/** What stands of a student at the end of the course. */
export type FinalStanding = 'enrolled' | 'withdrawn' | 'auditing';

/** What an instructor agrees on. Days are written 2026-12-18. */
export interface AgreedGrade {
  readonly sentLetter: string;
  readonly letter: string | null;
  readonly percent: string | null;
  readonly calculatedLetter: string | null;
  readonly calculatedPercent: string | null;
  readonly isOverride: boolean;
  readonly reason: string;
  readonly lastDay: string | null;
  readonly lastDayFrom: string;
  readonly expiresOn: string | null;
  readonly lapsesTo: string | null;
}

/** A final grade that an instructor stands by. */
export interface AgreedView extends AgreedGrade {
  readonly id: string;
  readonly at: string;
  readonly who: string;
}

/** Where the last grade of a student that was sent is on its way. */
export interface RowView {
  readonly id: string;
  readonly state: RowState;
  readonly agreedId: string;
  readonly sentLetter: string;
  readonly receipt: string | null;
  /** What the registrar or the line said, and what to do about it; empty where nothing is wrong. */
  readonly says: string;
  readonly mend: string;
  readonly at: string;
  readonly who: string;
  readonly nextTryAt: string | null;
  readonly isCorrection: boolean;
}

export interface FinalRow {
  readonly enrolmentId: string;
  readonly familyName: string;
  readonly givenName: string;
  readonly sectionId: string | null;
  readonly standing: FinalStanding;
  /** What the policy gives now: number, letter of the course, and the registrar’s letter for it (null: there is none). */
  readonly calculated: { readonly percent: string | null; readonly letter: string | null; readonly sentLetter: string | null };
  readonly agreed: AgreedView | null;
  /** The calculated grade is another than when it was agreed, and the act after which it was. */
  readonly moved: { readonly from: string; readonly to: string; readonly by: string | null } | null;
  /** The section the student was in when it was agreed, where it is another now. */
  readonly movedFrom: string | null;
  /** Days that are offered as the last of attendance, the latest first. */
  readonly lastDays: readonly Activity[];
  /** What the registrar would refuse of what was agreed. */
  readonly faults: readonly string[];
  readonly row: RowView | null;
}

/** Something to look at before grades are sent, with where it is mended. */
export interface FinalFinding {
  readonly text: string;
  readonly students: readonly string[];
  readonly leadsTo: 'gradebook' | 'marking' | 'policy' | 'roster' | 'finals' | 'quiz' | 'school';
  readonly itemId: string | null;
}

export interface FinalSection {
  readonly id: string;
  readonly title: string;
  readonly students: number;
  readonly agreed: number;
  readonly accepted: number;
  readonly refused: number;
  readonly underWay: number;
  readonly records: readonly { readonly id: string; readonly at: string; readonly who: string; readonly rows: number }[];
}

export type FinalShown = 'none' | 'calculated' | 'agreed';
export interface FinalsView {
  readonly rules: RegistrarRules | null;
  readonly registrar: {
    /** Whether the school has set one. */
    readonly isSet: boolean;
    /** When he answered last, and what was wrong where he did not answer since. */
    readonly askedAt: string | null;
    readonly fault: string;
    readonly opensAt: string | null;
    readonly closesAt: string | null;
  };
  readonly labels: readonly string[];
  readonly gaps: readonly string[];
  readonly sections: readonly FinalSection[];
  readonly rows: readonly FinalRow[];
  readonly findings: readonly FinalFinding[];
  readonly shows: FinalShown;
  readonly shownFrom: string | null;
  readonly closedAt: string | null;
  readonly version: number;
  readonly canAgree: boolean;
  /** Whether whoever asks is the instructor of record, who alone sends. */
  readonly canSend: boolean;
  readonly needsApproval: boolean;
}

export interface AgreeRow {
  readonly enrolmentId: string;
  /** The registrar’s letter; null takes that of the calculated grade. */
  readonly sentLetter: string | null;
  /** A number instead of the calculated one, in thousandths of a percent, where the registrar takes numbers; null takes the calculated one. */
  readonly number: number | null;
  readonly reason: string;
  readonly lastDay: string | null;
  readonly lastDayFrom: string;
  readonly expiresOn: string | null;
  readonly lapsesTo: string | null;
  /** The calculated number that was seen: where it is another by now, it is asked again. */
  readonly seenPercent: string | null;
}
export interface AgreeWish {
  readonly rows: AgreeRow[];
}
const sentLetter = () => Joi.string().trim().min(1).max(12);
export const agreeWish = Joi.object<AgreeWish, true>({
  rows: Joi.array()
    .min(1)
    .max(5000)
    .required()
    .label('Students')
    .items(
      Joi.object({
        enrolmentId: id().required(),
        sentLetter: sentLetter().allow(null).required().label('Letter'),
        number: Joi.number().integer().min(0).max(1_000_000).allow(null).required().label('Number'),
        reason: Joi.string().trim().allow('').max(LIMITS.reason).required().label('Reason'),
        lastDay: day().allow(null).required().label('Last day of attendance'),
        lastDayFrom: Joi.string().trim().allow('').max(200).required(),
        expiresOn: day().allow(null).required().label('Until'),
        lapsesTo: sentLetter().allow(null).required().label('The letter it becomes'),
        seenPercent: Joi.string().max(20).allow(null).required(),
      }),
    ),
});

/** The students whose grades are taken back, sent, tried again or noted. */
export interface FinalChoice {
  readonly enrolmentIds: string[];
}
const choice = { enrolmentIds: Joi.array().min(1).max(5000).required().items(id()).label('Students') };
export const finalChoice = Joi.object<FinalChoice, true>(choice);

export interface SendWish extends FinalChoice {
  /** Why a grade that the registrar holds is changed; asked for where there is such a one among them. */
  readonly reason: string;
}
export const sendWish = Joi.object<SendWish, true>({
  ...choice,
  reason: Joi.string().trim().allow('').max(LIMITS.reason).required().label('Reason'),
});

/** How many of those chosen are on their way, and why the others are not. */
export interface SendAnswer {
  readonly sent: number;
  readonly left: readonly { readonly enrolmentId: string; readonly name: string; readonly text: string }[];
}

export interface FinalSettingChange {
  readonly version: number;
  readonly shows: FinalShown;
  readonly shownFrom: string | null;
}
export const finalSettingChange = Joi.object<FinalSettingChange, true>({
  version: version(),
  shows: Joi.string().valid('none', 'calculated', 'agreed').required().label('What students see'),
  shownFrom: instant().required().label('From when'),
});

export interface ReopenWish {
  readonly reason: string;
}
export const reopenWish = Joi.object<ReopenWish, true>({
  reason: Joi.string().trim().min(1).max(LIMITS.reason).required().label('Reason'),
});

/** What the registrar holds of a section, held against what was agreed. */
export interface ReadBack {
  readonly readAt: string | null;
  /** He is being asked now. */
  readonly isAsked: boolean;
  readonly fault: string;
  readonly held: number;
  readonly differences: readonly (GradeDifference & { readonly name: string })[];
}

export interface RowHistoryEntry {
  readonly at: string;
  readonly who: string;
  readonly state: RowState;
  readonly said: string;
}

/** Which letter of the registrar stands for each letter of a scheme; a scheme is known by its letters. */
export interface LetterTableView {
  readonly labels: readonly string[];
  readonly courses: readonly string[];
  readonly letters: LetterTable;
  readonly version: number;
  readonly gaps: readonly string[];
}
export interface SchoolSection {
  readonly sectionId: string;
  readonly courseId: string;
  readonly course: string;
  readonly section: string;
  readonly teacher: string;
  /** Who can be the instructor of record, by their part in the course. */
  readonly instructors: readonly { readonly enrolmentId: string; readonly name: string; readonly isOfRecord: boolean }[];
  readonly students: number;
  readonly agreed: number;
  readonly accepted: number;
  readonly refused: number;
  readonly underWay: number;
}
/** A correction that waits until an administrator approves it. */
export interface AwaitedApproval {
  readonly rowId: string;
  readonly student: string;
  readonly course: string;
  readonly from: string;
  readonly to: string;
  readonly reason: string;
  readonly who: string;
  readonly at: string;
}
/** The handover of the whole school, for its administrator. */
export interface SchoolHandover {
  readonly registrar: FinalsView['registrar'];
  readonly rules: RegistrarRules | null;
  readonly setting: SchoolHandoverSetting;
  readonly tables: readonly LetterTableView[];
  readonly sections: readonly SchoolSection[];
  readonly approvals: readonly AwaitedApproval[];
}
export interface FormColumn {
  readonly field: FormField;
  readonly head: string;
}

export interface SchoolHandoverSetting {
  readonly version: number;
  /** The columns of the registrar’s own form; empty is all there is, under our heads. */
  readonly form: FormColumn[];
  readonly withdrawnLetter: string | null;
  readonly auditingLetter: string | null;
  readonly needsApproval: boolean;
}
export const schoolHandoverSetting = Joi.object<SchoolHandoverSetting, true>({
  version: version(),
  withdrawnLetter: sentLetter().allow(null).required().label('Letter of students who withdrew'),
  auditingLetter: sentLetter().allow(null).required().label('Letter of students who only listen'),
  needsApproval: Joi.boolean().required(),
  form: Joi.array()
    .max(20)
    .required()
    .label('Columns of the form')
    .items(
      Joi.object({
        field: Joi.string()
          .valid(...Object.keys(FORM_FIELDS))
          .required(),
        head: Joi.string().trim().min(1).max(80).required().label('Head of a column'),
      }),
    ),
});

export interface LetterTableChange {
  readonly version: number;
  readonly labels: string[];
  readonly letters: LetterTable;
}
export const letterTableChange = Joi.object<LetterTableChange, true>({
  // One that was never set has the version 0.
  version: Joi.number().integer().min(0).required(),
  labels: Joi.array().min(1).max(20).required().items(Joi.string().min(1).max(12)).label('Letters of the scheme'),
  letters: Joi.object().max(20).required().pattern(Joi.string().min(1).max(12), sentLetter()).label('Letters of the registrar'),
});

export interface ApproveWish {
  readonly rowIds: string[];
}
export const approveWish = Joi.object<ApproveWish, true>({
  rowIds: Joi.array().min(1).max(5000).required().items(id()).label('Corrections'),
});
