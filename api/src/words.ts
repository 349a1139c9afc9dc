import {
  type WordFound,
  type WordNoteKind,
  type WordRule,
  type WordRuleSetting,
  type WordSettings,
  WORD_RULE_NAMES,
  WORD_RULES,
} from '@rosemary/core';
import { day, id, Joi, title, whole } from './joi.ts';
import { LIMITS } from './limits.ts';

/** What was done for somebody: staff alone see it. */
export interface WordNote {
  readonly id: string;
  readonly enrolmentId: string;
  readonly rule: WordRule | null;
  readonly kind: WordNoteKind;
  readonly body: string;
  readonly untilOn: string | null;
  readonly at: string;
  readonly by: string;
}
export interface WordFinding extends WordFound {
  /** The latest that was done for it, if anything was. */
  readonly note: WordNote | null;
  /** Set aside until this day, and not yet back. */
  readonly asideUntil: string | null;
}
export interface Words {
  readonly rules: WordSettings;
  readonly findings: readonly WordFinding[];
}

export type WordRulesChange = { readonly [rule in WordRule]?: WordRuleSetting };
const ruleSetting = (rule: WordRule): Joi.ObjectSchema => {
  const kind = WORD_RULES[rule];
  const of = kind.of !== undefined ? whole(kind.of.least, kind.of.most).required().label(kind.of.label) : Joi.valid(null).required();
  return Joi.object({
    isOn: Joi.boolean().required(),
    threshold: whole(kind.threshold.least, kind.threshold.most).required().label(`${kind.title}: ${kind.threshold.label}`),
    of,
  });
};
export const wordRulesChange = Joi.object<WordRulesChange>(Object.fromEntries(WORD_RULE_NAMES.map((rule) => [rule, ruleSetting(rule)])));

export interface NewWordNote {
  /** Made by the browser, so that sending again notes nothing twice. */
  readonly key: string;
  readonly enrolmentIds: string[];
  readonly rule: WordRule | null;
  readonly kind: Exclude<WordNoteKind, 'wrote'>;
  readonly body: string;
  readonly untilOn: string | null;
}
const whom = Joi.array().min(1).max(2000).unique().items(id()).required().label('Students');
export const newWordNote = Joi.object<NewWordNote, true>({
  key: id().required(),
  enrolmentIds: whom,
  rule: Joi.string()
    .valid(...WORD_RULE_NAMES)
    .allow(null)
    .required(),
  kind: Joi.string().valid('called', 'met', 'arranged', 'noted', 'set aside').required().label('What was done'),
  body: Joi.string().trim().allow('').max(LIMITS.note).required().label('Note'),
  untilOn: Joi.when('kind', { is: 'set aside', then: day().required(), otherwise: Joi.valid(null).required() }).label('Until') as never,
});

export interface WordsWriting {
  readonly key: string;
  readonly enrolmentIds: string[];
  readonly rule: WordRule | null;
  readonly title: string;
  readonly body: string;
}
export const wordsWriting = Joi.object<WordsWriting, true>({
  key: id().required(),
  enrolmentIds: whom,
  rule: Joi.string()
    .valid(...WORD_RULE_NAMES)
    .allow(null)
    .required(),
  title: title().required().label('Subject'),
  body: Joi.string().trim().min(1).max(8000).required().label('Text'),
});

export interface WordNotesRemoval {
  readonly noteIds: string[];
}
export const wordNotesRemoval = Joi.object<WordNotesRemoval, true>({ noteIds: Joi.array().min(1).max(2000).items(id()).required() });
