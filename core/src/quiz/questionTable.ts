import type { DocumentNode } from '../document/plainText.ts';
import type { QuestionContent } from './askQuestion.ts';
import { toCell } from './documentCell.ts';
import type { AcceptedText, Choice, NumberRules, QuestionKey, Region, TextRules, Tolerance } from './question.ts';

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

/** Thousandths of a percent as a number: 33333 is 33.333. */
const percent = (share: number): string => String(share / 1000);
/** Text in quotes where it could be taken for something else. */
export const quoted = (text: string): string => (text === '' || /^["/\s<>]|\s$|[\r\n]|=/.test(text) ? JSON.stringify(text) : text);
export const toleranceCell = (t: Tolerance): string =>
  t.kind === 'absolute' ? `±${t.amount}` : t.kind === 'relative' ? `±${t.percent}%` : `${t.figures} figures`;

const acceptedLine = (a: AcceptedText): string => `${percent(a.share)}: ${a.isPattern ? `/${a.text}/` : quoted(a.text)}`;
const textRules = (r: Pick<TextRules, 'caseMatters' | 'spaceMatters'>): string[] => [
  ...(r.caseMatters ? ['case matters'] : []),
  ...(r.spaceMatters ? ['spaces matter'] : []),
];
const numberRules = (r: Omit<NumberRules, 'accepted'>): string[] => [
  ...(r.units.length === 0 ? [] : [`units: ${r.units.map((u) => `${u.name} ${u.factor}`).join(', ')}`]),
  ...(r.isUnitNeeded ? ['unit needed'] : []),
  ...(r.decimals === null ? [] : [`decimals: ${r.decimals}`]),
  ...(r.isSignFree ? ['either sign'] : []),
];
const none = (): number => 0;
const choiceLines = (choices: readonly Choice[]): string[] =>
  choices.flatMap((c) => [
    `${percent(c.share)}: ${toCell(c.words, none, true)}`,
    ...(c.feedback === null ? [] : [`> ${toCell(c.feedback, none, true)}`]),
  ]);
function regionLine(share: number, region: Region): string {
  const numbers =
    region.shape === 'rectangle'
      ? [region.from.x, region.from.y, region.to.x, region.to.y]
      : region.shape === 'ellipse'
        ? [region.centre.x, region.centre.y, region.radius.x, region.radius.y]
        : region.corners.flatMap((c) => [c.x, c.y]);
  return `${percent(share)}: ${region.shape} ${numbers.join(' ')}`;
}

/** What is right, line by line, and the rules by which it is, separated by semicolons. */
function keyCells({ key, words, picture }: QuestionContent): { readonly answers: readonly string[]; readonly rules: readonly string[] } {
  switch (key.kind) {
    case 'single':
    case 'truth':
      return { answers: choiceLines(key.choices), rules: key.hasDontKnow ? ['I do not know'] : [] };
    case 'several':
      return { answers: choiceLines(key.choices), rules: [key.rule, ...(key.hasDontKnow ? ['I do not know'] : [])] };
    case 'numeric':
      return {
        answers: key.rules.accepted.map((a) => `${percent(a.share)}: ${a.value} ${toleranceCell(a.tolerance)}`),
        rules: numberRules(key.rules),
      };
    case 'calculated': {
      const { parameters, conditions, formula, tolerance } = key.question;
      return {
        answers: [
          `formula: ${formula} | ${toleranceCell(tolerance)}`,
          ...parameters.map((p) => `${p.name}: ${p.from} to ${p.to} step ${p.step}, ${p.decimals} decimals`),
          ...conditions.map((c) => `if ${c}`),
        ],
        rules: numberRules(key.rules),
      };
    }
    case 'short':
      return { answers: key.rules.accepted.map(acceptedLine), rules: textRules(key.rules) };
    case 'blanks':
      return {
        answers: key.blanks.flatMap((b, n) => [
          `{${n + 1}} ${[`weight ${percent(b.weight)}`, `size ${sizeOf(words, b.id)}`, ...textRules(b.rules)].join('; ')}`,
          ...b.rules.accepted.map(acceptedLine),
        ]),
        rules: [],
      };
    case 'matching':
      return { answers: key.pairs.map((p) => `${quoted(p.left)} = ${quoted(p.right)}`), rules: [] };
    case 'ordering':
      return { answers: key.order.map(quoted), rules: key.isAllOrNothing ? ['all or nothing'] : [] };
    case 'hotspot':
      return {
        answers: key.regions.map((r) => regionLine(r.share, r.region)),
        rules: picture === null ? [] : [`picture: file:${picture.fileId} ${JSON.stringify(picture.alt).replaceAll(';', '\\u003b')}`],
      };
    default:
      return { answers: [], rules: [] };
  }
}
/** How large the space for an answer is, as it stands in the words. */
function sizeOf(node: DocumentNode, blankId: string): number {
  if (node.type === 'blank') return node.attrs?.id === blankId ? Number(node.attrs.size ?? 0) : 0;
  return Math.max(0, ...(node.content ?? []).map((child) => sizeOf(child, blankId)));
}
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
  const { answers, rules } = keyCells(question);
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
