import { nodesOfType, type DocumentNode } from '../../../document/plainText.ts';
import { exactText, ONE, ZERO, type Ratio } from '../../../exact/ratio.ts';
import { findAccepted } from '../../matchText.ts';
import type { KeyOf, QuestionContent, TextRules } from '../../question.ts';
import { shareRatio } from '../../share.ts';
import { cannotBeGuessed, given, nothingNear, type KindOfQuestion, type QuestionScore } from '../kindOfQuestion.ts';
import { fail, percent, rulesOf, type Reading } from '../tableCells.ts';
import { accepted, acceptedLine, textFaults, textRules } from '../texts.ts';

const sum = (parts: readonly Ratio[]): Ratio => parts.reduce((total, part) => total.add(part), ZERO);

function blankFaults(content: QuestionContent, key: KeyOf<'blanks'>): string[] {
  const inText = nodesOfType(content.words, 'blank').map((n) => String(n.attrs?.id ?? ''));
  const sum = key.blanks.reduce((total, b) => total.add(shareRatio(b.weight)), ZERO);
  return [
    ...(key.blanks.length === 0 ? ['There is no blank yet. Choose words of the text and make them a blank.'] : []),
    ...(key.blanks.length > 0 && !sum.equals(ONE)
      ? [`The weights of the blanks add up to ${exactText(sum.mul(100))} %, and must to 100 %.`]
      : []),
    ...(key.blanks.some((b) => !inText.includes(b.id)) ? ['A blank is no longer in the text. Put it back, or remove it.'] : []),
    ...key.blanks.flatMap((b) => textFaults(b.rules)),
  ];
}

function ofBlanks(key: KeyOf<'blanks'>, texts: Readonly<Record<string, string>>): QuestionScore {
  const parts = key.blanks.map((b) => {
    const found = findAccepted(texts[b.id] ?? '', b.rules, key.blanks.length);
    return { weight: shareRatio(b.weight), share: found === null ? ZERO : shareRatio(found.share) };
  });
  const right = parts.filter((p) => p.share.compare(ZERO) > 0).length;
  return given(sum(parts.map((p) => p.weight.mul(p.share))), `${right} of ${parts.length} blanks, by their weights.`);
}

/** How large the space for an answer is, as it stands in the words. */
function sizeOf(node: DocumentNode, blankId: string): number {
  if (node.type === 'blank') return node.attrs?.id === blankId ? Number(node.attrs.size ?? 0) : 0;
  return Math.max(0, ...(node.content ?? []).map((child) => sizeOf(child, blankId)));
}
interface BlankRead {
  readonly id: string;
  readonly size: number;
  readonly weight: number;
  readonly rules: TextRules;
}
function readBlanks(r: Reading): BlankRead[] {
  const found: BlankRead[] = [];
  for (const line of r.lines) {
    const head = /^\{(\d+)\}\s*(.*)$/.exec(line);
    if (head === null) {
      const last = found.at(-1);
      if (last === undefined) fail('answers', line, 'stands before any place, such as “{1} weight 50”.');
      else found[found.length - 1] = { ...last, rules: { ...last.rules, accepted: [...last.rules.accepted, accepted(line)] } };
      continue;
    }
    const blank = { id: r.newId(), size: 0, weight: 0, rules: { accepted: [], caseMatters: false, spaceMatters: false } as TextRules };
    for (const part of (head[2] ?? '').split(';').map((p) => p.trim())) {
      const number = /^(weight|size) (\d+(?:\.\d+)?)$/.exec(part);
      if (number !== null && number[1] === 'weight') blank.weight = Math.round(Number(number[2]) * 1000);
      else if (number !== null) blank.size = Number(number[2]);
      else if (part === 'case matters') blank.rules = { ...blank.rules, caseMatters: true };
      else if (part === 'spaces matter') blank.rules = { ...blank.rules, spaceMatters: true };
      else if (part !== '') fail('answers', part, 'is not said of a place: weight, size, case matters, spaces matter.');
    }
    found.push(blank);
  }
  return found;
}

export const blanks: KindOfQuestion<KeyOf<'blanks'>> = {
  takes: 'texts',
  begin: () => ({ kind: 'blanks', blanks: [] }),
  asked: (key) => ({ blanks: key.blanks.map((b) => b.id) }),
  faults: (key, content) => blankFaults(content, key),
  inWords: (key) =>
    key.blanks.map((b, n) => {
      const right = b.rules.accepted.filter((a) => a.share > 0).map((a) => a.text);
      return `${n + 1}: ${right.join(' or ')}`;
    }),
  score: (key, answer) => (answer.kind === 'texts' ? ofBlanks(key, answer.texts) : null),
  guessing: cannotBeGuessed,
  near: nothingNear,
  cells: (key, { words }) => ({
    answers: key.blanks.flatMap((b, n) => [
      `{${n + 1}} ${[`weight ${percent(b.weight)}`, `size ${sizeOf(words, b.id)}`, ...textRules(b.rules)].join('; ')}`,
      ...b.rules.accepted.map(acceptedLine),
    ]),
    rules: [],
  }),
  read: (reading) => {
    const found = readBlanks(reading);
    rulesOf(reading, {});
    const placeOf = (inside: string): DocumentNode | null => {
      const blank = found[Number(inside) - 1];
      return blank === undefined ? null : { type: 'blank', attrs: { id: blank.id, size: blank.size } };
    };
    return { key: { kind: 'blanks', blanks: found.map(({ id, weight, rules }) => ({ id, weight, rules })) }, placeOf };
  },
};
