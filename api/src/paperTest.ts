import type { Doubt } from '@rosemary/core';
import { id, Joi, version, whole } from './joi.ts';

/** How the sheets and the papers of a quiz are laid out. */
export interface PaperSetting {
  readonly version: number;
  readonly columns: number;
  readonly spacing: 'roomy' | 'tight';
  readonly alternates: boolean;
  readonly forms: number;
}
export interface PaperSettingChange extends Partial<Omit<PaperSetting, 'version'>> {
  readonly version: number;
}
export const paperSettingChange = Joi.object<PaperSettingChange>({
  version: version(),
  columns: whole(1, 4).label('Columns'),
  spacing: Joi.string().valid('roomy', 'tight').label('Spacing'),
  alternates: Joi.boolean().label('Letters'),
  forms: whole(1, 4).label('Versions'),
});

/** One row of a sheet as it stands: what was read or said, and whether somebody must look. */
export interface SheetRowView {
  readonly question: number;
  readonly letters: readonly string[];
  readonly picked: readonly number[];
  readonly doubt: Doubt | null;
  readonly isSaid: boolean;
  /** The scan in which it is seen. */
  readonly scanId: string | null;
}
export interface SheetView {
  readonly id: string;
  readonly number: number;
  /** The letter of its paper; empty where there is one paper. */
  readonly form: string;
  readonly enrolmentId: string | null;
  readonly name: string;
  readonly section: string;
  readonly state: 'nothing yet' | 'pages missing' | 'doubts' | 'ready' | 'recorded' | 'changed since';
  /** As it is typed: BDA-C. Empty where nothing was read or typed. */
  readonly answers: string;
  readonly doubts: readonly SheetRowView[];
  readonly attemptId: string | null;
  readonly scoreText: string | null;
}
export interface ScanView {
  readonly id: string;
  readonly name: string;
  readonly problem: string;
  readonly sheetNumber: number | null;
  readonly page: number | null;
  readonly at: string;
}
export interface PaperTestView {
  readonly setting: PaperSetting;
  readonly printedAt: string | null;
  /** Questions of the paper; those with circles; why nothing can be printed. */
  readonly questions: number;
  readonly onSheet: number;
  readonly most: number;
  readonly columnsFit: number;
  readonly pages: number;
  readonly whyNot: string;
  readonly sheets: readonly SheetView[];
  /** Scans from which nothing could be read, and spare sheets that are nobody’s yet. */
  readonly unread: readonly ScanView[];
  readonly scans: number;
  /** Students without a sheet. */
  readonly without: readonly { readonly enrolmentId: string; readonly name: string }[];
}
export interface PrintWish {
  readonly spare: number;
}
export const printWish = Joi.object<PrintWish, true>({ spare: whole(0, 200).required().label('Spare sheets') });
export interface RowSaid {
  readonly question: number;
  /** Null gives the row back to what was read. */
  readonly picked: number[] | null;
}
export const rowSaid = Joi.object<RowSaid, true>({
  question: whole(0, 2000).required(),
  picked: Joi.array().max(10).items(whole(0, 9)).allow(null).required(),
});
export interface AnswersSaid {
  readonly answers: string;
}
export const answersSaid = Joi.object<AnswersSaid, true>({ answers: Joi.string().allow('').max(6000).required().label('Answers') });
export interface SheetOwner {
  readonly enrolmentId: string | null;
}
export const sheetOwner = Joi.object<SheetOwner, true>({ enrolmentId: id().allow(null).required() });
export interface SheetsWish {
  readonly sheetIds: string[];
}
export const sheetsWish = Joi.object<SheetsWish, true>({ sheetIds: Joi.array().min(1).max(2000).items(id()).required() });
export interface AnswersTable {
  readonly csv: string;
  /** Only look at what it would do. */
  readonly isPreview: boolean;
}
export const answersTable = Joi.object<AnswersTable, true>({
  csv: Joi.string().min(1).max(350_000).required().label('Table'),
  isPreview: Joi.boolean().required(),
});
export interface AnswersTableDone {
  readonly rows: readonly { readonly line: number; readonly name: string; readonly answers: string; readonly problem: string }[];
}
/** A test of which there is only the key: the questions are on paper. */
export interface KeyOnly {
  readonly sectionId: string;
  readonly options: number;
  readonly points: number;
  readonly key: string;
  /** By question from 1: “1-10: 2.1”. */
  readonly objectives: { readonly from: number; readonly to: number; readonly code: string }[];
}
export const keyOnly = Joi.object<KeyOnly, true>({
  sectionId: id().required(),
  options: whole(2, 10).required().label('Answers to choose from'),
  points: whole(0, 1_000_000).required().label('Points each'),
  key: Joi.string().min(1).max(3000).required().label('Key'),
  objectives: Joi.array()
    .max(60)
    .required()
    .items(
      Joi.object({
        from: whole(1, 300).required().label('First question'),
        to: whole(1, 300).required().label('Last question'),
        code: Joi.string().trim().min(1).max(60).required().label('Objective'),
      }),
    ),
});
