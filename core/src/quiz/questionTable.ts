import type { DocumentNode } from '../document/plainText.ts';
import { toCell } from './documentCell.ts';
import { kindOfQuestion } from './kinds/kinds.ts';
import type { QuestionContent, QuestionKey } from './question.ts';

/** The columns of a table of questions, in their order. */
export const QUESTION_COLUMNS = [
  ...['kind', 'title', 'level', 'tags', 'objectives', 'points', 'words', 'answers', 'rules', 'right', 'wrong', 'always'],
] as const;
export type QuestionRow = { readonly [column: string]: string };
/** A question as it goes into a table and comes out of it; identifiers of its answers are made anew. */
export interface TableQuestion extends QuestionContent {
  readonly title: string;
  readonly level: 'easy' | 'medium' | 'hard' | null;
  readonly tags: readonly string[];
  readonly objectives: readonly string[];
  /** In thousandths; null where nothing is said. */
  readonly points: number | null;
}

const none = (): number => 0;
export const blankNumbers =
  (key: QuestionKey) =>
  (blankId: string): number =>
    key.kind === 'blanks' ? key.blanks.findIndex((b) => b.id === blankId) + 1 : 0;

/**
 * A question as a row of a table that can be read, changed and brought in again (docs/question-table.md): one line of the cell “answers” for
 * each answer, with what it gives in percent. Nothing is lost but the files themselves, which are named.
 * Worked example: a single choice of “lever” (right) and “wheel”: answers “100: lever” and “0: wheel”.
 */
export function questionRow(question: TableQuestion): QuestionRow {
  const { answers, rules } = kindOfQuestion(question.key.kind).cells(question.key, question);
  const { right, wrong, general } = question.feedback;
  const cell = (node: DocumentNode | null): string => (node === null ? '' : toCell(node, none));
  return {
    kind: question.key.kind,
    title: question.title,
    level: question.level ?? '',
    tags: question.tags.join(', '),
    objectives: question.objectives.join(', '),
    points: question.points === null ? '' : String(question.points / 1000),
    words: toCell(question.words, blankNumbers(question.key)),
    answers: answers.join('\n'),
    rules: rules.join('; '),
    right: cell(right),
    wrong: cell(wrong),
    always: cell(general),
  };
}
