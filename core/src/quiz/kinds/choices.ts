import { nodesOfType, plainText } from '../../document/plainText.ts';
import type { DocumentNode } from '../../document/plainText.ts';
import { ONE, ratio, ZERO, type Ratio } from '../../exact/ratio.ts';
import { answerOrder } from '../assemble.ts';
import { toCell } from '../documentCell.ts';
import type { Answer, AskedQuestion, Choice, QuestionKey } from '../question.ts';
import { shareRatio as share } from '../share.ts';
import { given, type Asking, type QuestionScore } from './kindOfQuestion.ts';
import { documentOf, percent, sharedLine, type Reading } from './tableCells.ts';

/** What the kinds with answers to choose from have in common. */
const ALL = 100_000;
export const line = (text: string): DocumentNode => ({
  type: 'doc',
  content: [text === '' ? { type: 'paragraph' } : { type: 'paragraph', content: [{ type: 'text', text }] }],
});
export const choice = (id: string, words: string, isRight: boolean): Choice => ({
  id,
  words: line(words),
  share: isRight ? ALL : 0,
  feedback: null,
});

/** The answers in the order of one student, with the numbers that were drawn for them. */
export function askedChoices(
  key: Extract<QuestionKey, { readonly choices: unknown }>,
  { questionId, seed, said }: Asking,
  isMixed: boolean,
): Partial<AskedQuestion> {
  const ids = key.choices.map((c) => c.id);
  const order = isMixed ? answerOrder(ids, new Set(), seed, questionId) : ids;
  const choices = order.flatMap((id) => key.choices.filter((c) => c.id === id).map((c) => ({ id, words: said(c.words) })));
  return { choices, hasDontKnow: key.hasDontKnow };
}

export function choiceFaults(choices: readonly Choice[], isSeveral: boolean): string[] {
  const right = choices.filter((c) => c.share > 0);
  return [
    ...(choices.length < 2 ? ['There are fewer than two answers to choose from. Give another.'] : []),
    ...(choices.some(
      (c) =>
        plainText(c.words).trim() === '' &&
        nodesOfType(c.words, 'picture').length === 0 &&
        nodesOfType(c.words, 'formulaInline').length === 0,
    )
      ? ['An answer to choose is empty. Type it, or remove it.']
      : []),
    ...(right.length === 0 && !isSeveral ? ['No answer is marked as right.'] : []),
    ...(!isSeveral && right.length > 0 && !choices.some((c) => c.share >= ALL) ? ['No answer is worth all the points.'] : []),
  ];
}

function ofChoice(choices: readonly Choice[], id: string): QuestionScore {
  const picked = choices.find((c) => c.id === id);
  return picked === undefined
    ? given(ZERO, 'The answer picked is no longer one of them.')
    : given(
        share(picked.share),
        picked.share >= ALL ? 'The right answer.' : picked.share === 0 ? 'Not the right answer.' : 'The value of this answer.',
      );
}

/** One answer picked, where one is right. */
export function scoreOne(key: { readonly choices: readonly Choice[] }, answer: Answer): QuestionScore | null {
  if (answer.kind === 'choice') return ofChoice(key.choices, answer.id);
  return answer.kind === 'choices' ? given(ZERO, 'More than one answer is marked, where one is right.') : null;
}

/** A guess among answers of which one is picked, each as it would be scored. */
export function guessedChoice(choices: readonly Choice[], least: Ratio | null): Ratio | null {
  const atLeast = (earned: Ratio): Ratio => (least !== null && earned.compare(least) < 0 ? least : earned);
  const atMost = (earned: Ratio): Ratio => (earned.compare(ONE) > 0 ? ONE : earned);
  if (choices.length === 0) return null;
  return choices.reduce((total, c) => total.add(atMost(atLeast(share(c.share)))), ZERO).div(ratio(choices.length));
}
export const rightChoices = (choices: readonly Choice[]): readonly string[] =>
  choices.filter((c) => c.share > 0).map((c) => plainText(c.words));

export const none = (): number => 0;
export const choiceLines = (choices: readonly Choice[]): string[] =>
  choices.flatMap((c) => [
    `${percent(c.share)}: ${toCell(c.words, none, true)}`,
    ...(c.feedback === null ? [] : [`> ${toCell(c.feedback, none, true)}`]),
  ]);
export function readChoices(r: Reading): Choice[] {
  const found: Choice[] = [];
  for (const line of r.lines) {
    const last = found.at(-1);
    if (line.startsWith('>') && last !== undefined) found[found.length - 1] = { ...last, feedback: documentOf(r, line.slice(1).trim()) };
    else {
      const { share, rest } = sharedLine(line);
      found.push({ id: r.newId(), words: documentOf(r, rest), share, feedback: null });
    }
  }
  return found;
}
