import type { QuestionKey, Region, TextRules, Tolerance, AcceptedNumber, AcceptedText } from '../quiz/question.ts';
import { toFormula, Unread } from './qtiFormula.ts';
import { coordsOf, tolerancesOf, type Declaration, type QtiProcessing, type QtiValue } from './qtiProcessing.ts';
import { allNamed, attr, childNamed, childrenNamed, nodesIn, wordsIn, type QtiNode } from './qtiTree.ts';

const WHOLE = 100_000;
/** A score as a share of the best, in thousandths of a percent, never more than all of it. */
export const shareOf = (score: number, full: number): number =>
  full <= 0 ? 0 : Math.max(-WHOLE, Math.min(WHOLE, Math.round((score / full) * WHOLE)));
/** One thing that was not understood, or came in otherwise than it was: in which element, and what follows. */
export interface QtiProblem {
  readonly element: string;
  readonly text: string;
}
/** What is known of one interaction while its key is read. */
export interface Asking {
  readonly item: QtiNode;
  readonly declaration: Declaration;
  readonly processing: QtiProcessing;
  readonly problems: QtiProblem[];
  readonly newId: () => string;
}
const one = (id: string, value: QtiValue): ReadonlyMap<string, QtiValue> => new Map([[id, value]]);
const note = (a: Asking, element: string, text: string): unknown => a.problems.push({ element, text });

/** What each answer of a single choice gives, and the best of it. */
export function singleShares(a: Asking, ids: readonly string[]): { readonly shares: readonly number[]; readonly full: number } {
  const scores = ids.map((id) => a.processing.score(one(a.declaration.id, [id])));
  const full = Math.max(0, ...scores);
  return { shares: scores.map((s) => shareOf(s, full)), full };
}

export interface SeveralShares {
  readonly shares: readonly number[];
  readonly rule: Extract<QuestionKey, { kind: 'several' }>['rule'];
  readonly full: number;
  readonly takesAway: boolean;
}
/** The same of several choices: by the mapping where it is one, else by trying answers. */
export function severalShares(a: Asking, ids: readonly string[]): SeveralShares {
  const { id, correct, mapping } = a.declaration;
  const ruled = (values: readonly number[], full: number, takesAway: boolean): SeveralShares => {
    const right = values.filter((v) => v > 0);
    const isEven = right.every((v) => Math.abs(v - full / right.length) < 1e-6 * Math.max(1, full));
    const isLess = right.length > 0 && isEven && values.every((v) => v > 0 || Math.abs(v + full / right.length) < 1e-6 * Math.max(1, full));
    const shares = values.map((v) => (isLess ? (v > 0 ? WHOLE : 0) : shareOf(v, full)));
    return { shares, rule: isLess ? 'less wrong' : 'own values', full, takesAway };
  };
  const isMapped = mapping !== null && (a.processing.all('mapResponse').length > 0 || a.processing.all('setOutcomeValue').length === 0);
  if (isMapped) {
    const values = ids.map((c) => {
      const found = childrenNamed(mapping, 'mapEntry').find((e) => attr(e, 'mapKey') === c);
      return Number(attr(found, 'mappedValue') || attr(mapping, 'defaultValue') || '0');
    });
    const most = values.reduce((sum, v) => sum + Math.max(0, v), 0);
    const high = attr(mapping, 'upperBound');
    const low = attr(mapping, 'lowerBound');
    const by = most === 0 ? 1 : a.processing.score(one(id, ids.filter((_, n) => (values[n] ?? 0) > 0))) / Math.min(most, high === '' ? Infinity : Number(high)); // prettier-ignore
    const full = (high === '' ? most : Math.min(most, Number(high))) * by;
    return ruled(
      values.map((v) => v * by),
      full,
      values.some((v) => v < 0) && (low === '' || Number(low) < 0),
    );
  }
  const right = ids.filter((c) => correct.includes(c));
  const full = a.processing.score(one(id, right));
  const alone = ids.map((c) => a.processing.score(one(id, [c])));
  if (right.length === 0 || full <= 0) return { shares: ids.map(() => 0), rule: 'less wrong', full: 0, takesAway: false };
  const isWhole = right.length === 1 || right.every((c) => (alone[ids.indexOf(c)] ?? 0) <= 0);
  const withWrong = ids.map((c) => (right.includes(c) ? 0 : a.processing.score(one(id, [...right, c])) - full));
  if (isWhole && ids.every((c, n) => right.includes(c) || (withWrong[n] ?? 0) <= -full + 1e-9))
    return { shares: ids.map((c) => (right.includes(c) ? WHOLE : 0)), rule: 'all or nothing', full, takesAway: false };
  return ruled(
    ids.map((c, n) => (right.includes(c) ? (alone[n] ?? 0) : (withWrong[n] ?? 0))),
    full,
    false,
  );
}

const hasVariable = (node: QtiNode, id: string): boolean => allNamed(node, 'variable').some((v) => attr(v, 'identifier') === id);
/** Texts that are compared with a response anywhere in the processing. */
function comparedTexts(a: Asking): string[] {
  const tests = a.processing.all('stringMatch', 'match', 'member', 'contains', 'substring').filter((t) => hasVariable(t, a.declaration.id));
  return tests.flatMap((t) => allNamed(t, 'baseValue').map((v) => wordsIn(v)));
}

/** The texts that are taken for one place, what each gives, and the most it gives. */
export function textRules(a: Asking): { readonly rules: TextRules; readonly full: number } {
  const { id, correct, mapping } = a.declaration;
  const keys = childrenNamed(mapping ?? undefined, 'mapEntry').map((e) => e.attrs.mapKey ?? '');
  const nothing = a.processing.score(new Map());
  const gain = (text: string): number => a.processing.score(one(id, [text])) - nothing;
  const plain = (text: string): { accepted: Omit<AcceptedText, 'share'>; gain: number }[] =>
    text.trim() === '' ? [] : [{ accepted: { text, isPattern: false }, gain: gain(text) }];
  // In the order in which they are looked at, which is that of what they give.
  const tests = a.processing
    .all('stringMatch', 'match', 'member', 'contains', 'substring', 'patternMatch')
    .filter((t) => hasVariable(t, id));
  const patterns = tests.filter((t) => t.name === 'patternMatch');
  const all = [
    ...tests.flatMap((t) => {
      if (t.name !== 'patternMatch') return allNamed(t, 'baseValue').flatMap((v) => plain(wordsIn(v)));
      const text = attr(t, 'pattern').replace(/^\(\?i:([\s\S]*)\)$/, '$1');
      return [{ accepted: { text, isPattern: true }, gain: a.processing.score(one(id, ['']), t) - nothing }];
    }),
    ...[...keys, ...correct].flatMap(plain),
  ];
  const isFirst = (t: (typeof all)[number], n: number): boolean =>
    all.findIndex((u) => u.accepted.text === t.accepted.text && u.accepted.isPattern === t.accepted.isPattern) === n;
  const tried = all.filter((t, n) => t.gain !== 0 && isFirst(t, n));
  const full = Math.max(0, ...tried.map((t) => t.gain));
  const swapped = (text: string): string => (text === text.toUpperCase() ? text.toLowerCase() : text.toUpperCase());
  const lettered = tried.filter((t) => !t.accepted.isPattern && swapped(t.accepted.text) !== t.accepted.text);
  const isPatternFree = patterns.some((p) => attr(p, 'pattern').startsWith('(?i:'));
  const caseMatters =
    lettered.length > 0 ? lettered.some((t) => gain(swapped(t.accepted.text)) !== t.gain) : patterns.length > 0 && !isPatternFree;
  const accepted = tried.map((t) => ({ ...t.accepted, share: shareOf(t.gain, full) }));
  return { rules: { accepted, caseMatters, spaceMatters: false }, full };
}

const numberText = (node: QtiNode): string => wordsIn(node).trim().replace(',', '.');
function toleranceOf(a: Asking, test: QtiNode | undefined): Tolerance {
  const none = { kind: 'absolute', amount: '0' } as const;
  if (test === undefined) return none;
  if (test.name === 'equalRounded') {
    const figures = Number(attr(test, 'figures'));
    if (attr(test, 'roundingMode') !== 'decimalPlaces') return { kind: 'significant', figures };
    note(a, 'equalRounded', `Rounding to ${figures} decimals came in as a tolerance of half of the last one.`);
    return { kind: 'absolute', amount: (0.5 * 10 ** -figures).toFixed(figures + 1) };
  }
  const [low, high] = tolerancesOf(test);
  const mode = attr(test, 'toleranceMode');
  if (mode !== 'absolute' && mode !== 'relative') return none;
  if (low !== high) note(a, 'equal', `The tolerance is ${low} below and ${high} above; the wider of the two is taken both ways.`);
  const width = String(Math.max(low, high));
  return mode === 'absolute' ? { kind: 'absolute', amount: width } : { kind: 'relative', percent: width };
}

/** The numbers that are taken, with how near is near enough. */
export function numberKey(a: Asking): { readonly accepted: readonly AcceptedNumber[]; readonly full: number } {
  const { id, correct, mapping } = a.declaration;
  const tests = a.processing.all('equal', 'equalRounded').filter((t) => hasVariable(t, id));
  const found = new Map<string, Tolerance>();
  for (const test of tests) {
    const values = allNamed(test, 'baseValue').map(numberText);
    const wanted = allNamed(test, 'correct').length > 0 ? [...values, ...correct] : values;
    for (const value of wanted) found.set(value, toleranceOf(a, test));
  }
  // Between two numbers is as near to their middle.
  for (const both of a.processing.all('and')) {
    const low = nodesIn(both).find((n) => ['gte', 'gt'].includes(n.name) && hasVariable(n, id));
    const high = nodesIn(both).find((n) => ['lte', 'lt'].includes(n.name) && hasVariable(n, id));
    const [from, to] = [low, high].map((n) => Number(numberText(childNamed(n, 'baseValue') ?? { name: '', attrs: {}, children: [] })));
    if (low === undefined || high === undefined || from === undefined || to === undefined) continue;
    found.set(String((from + to) / 2), { kind: 'absolute', amount: String(Math.abs(to - from) / 2) });
  }
  const plain = [...correct, ...childrenNamed(mapping ?? undefined, 'mapEntry').map((e) => attr(e, 'mapKey')), ...comparedTexts(a)];
  for (const value of plain) if (!found.has(value)) found.set(value, { kind: 'absolute', amount: '0' });
  // The unit that the key is in is worth one; without it a number with units would be nothing.
  const units: readonly [string, QtiValue][] = childrenNamed(a.item, 'responseDeclaration').flatMap((d) =>
    attr(d, 'identifier') === id || childNamed(d, 'mapping') === undefined ? [] : [[attr(d, 'identifier'), firstUnit(d)]],
  );
  const tried = [...found].flatMap(([value, tolerance]) => {
    const number = Number(value);
    if (value === '' || Number.isNaN(number)) return [];
    const score = a.processing.score(new Map<string, QtiValue>([[id, [number]], ...units]));
    return score === 0 ? [] : [{ value, tolerance, score }];
  });
  const full = Math.max(0, ...tried.map((t) => t.score));
  return { accepted: tried.map(({ value, tolerance, score }) => ({ value, tolerance, share: shareOf(score, full) })), full };
}
const firstUnit = (declaration: QtiNode): QtiValue => {
  const unit = childrenNamed(childNamed(declaration, 'mapping'), 'mapEntry').find((e) => Number(attr(e, 'mappedValue')) === 1);
  return unit === undefined ? null : [attr(unit, 'mapKey')];
};

/** Places of a picture from shapes in pixels. */
export function regionOf(node: QtiNode, width: number, height: number): Region {
  const c = coordsOf(node);
  const at = (n: number): { x: number; y: number } => ({ x: (c[n] ?? 0) / width, y: (c[n + 1] ?? 0) / height });
  const shape = attr(node, 'shape');
  if (c.some((n) => !Number.isFinite(n)) || (c.length < 3 && shape !== 'default'))
    throw new Unread(node.name, `Its coordinates “${attr(node, 'coords').slice(0, 60)}” cannot be read.`);
  switch (shape) {
    case 'rect':
      return { shape: 'rectangle', from: at(0), to: at(2) };
    case 'circle':
      return { shape: 'ellipse', centre: at(0), radius: { x: (c[2] ?? 0) / width, y: (c[2] ?? 0) / height } };
    case 'ellipse':
      return { shape: 'ellipse', centre: at(0), radius: { x: (c[2] ?? 0) / width, y: (c[3] ?? c[2] ?? 0) / height } };
    case 'poly': {
      const corners = Array.from({ length: Math.floor(c.length / 2) }, (_, n) => at(2 * n));
      const [first, last] = [corners[0], corners.at(-1)];
      const isClosed = corners.length > 3 && first?.x === last?.x && first?.y === last?.y;
      return { shape: 'polygon', corners: isClosed ? corners.slice(0, -1) : corners };
    }
    case 'default':
      return { shape: 'rectangle', from: { x: 0, y: 0 }, to: { x: 1, y: 1 } };
    default:
      throw new Unread(node.name, `“${shape}” is no shape.`);
  }
}

const RANDOMS = ['randomInteger', 'randomFloat', 'random'];
const decimalsOf = (...texts: readonly string[]): number => Math.max(0, ...texts.map((t) => /\.(\d+)/.exec(t)?.[1]?.length ?? 0));
interface Drawn {
  readonly from: string;
  readonly to: string;
  readonly step: string;
}
/** A number without the noise of binary fractions: 0.1 + 3 × 0.1 is 0.4. */
const tidy = (value: number): string => String(Number(value.toPrecision(12)));

function drawnOf(a: Asking, node: QtiNode): Drawn {
  if (node.name === 'randomInteger') {
    const max = Number(attr(node, 'max'));
    const step = attr(node, 'step') || '1';
    if (!Number.isInteger(max)) throw new Unread('randomInteger', `“${attr(node, 'max')}” is no whole number.`);
    return { from: attr(node, 'min') || '0', to: attr(node, 'max'), step };
  }
  if (node.name === 'randomFloat') {
    const [from, to] = [attr(node, 'min') || '0', attr(node, 'max')];
    const step = tidy((Number(to) - Number(from)) / 1000);
    note(a, 'randomFloat', `Any number from ${from} to ${to} came in as one of a thousand steps of ${step}.`);
    return { from, to, step };
  }
  if (node.name === 'random') {
    const values = allNamed(node, 'baseValue').map((v) => Number(wordsIn(v)));
    const step = (values[1] ?? 0) - (values[0] ?? 0);
    const isEven = values.length > 1 && step > 0 && values.every((v, n) => Math.abs(v - (values[0] ?? 0) - n * step) < 1e-9);
    if (!isEven) throw new Unread('random', 'Numbers are drawn in even steps here, and these are not.');
    return { from: tidy(values[0] ?? 0), to: tidy(values.at(-1) ?? 0), step: tidy(step) };
  }
  const parts = nodesIn(node);
  const inner = parts.find((p) => RANDOMS.includes(p.name) || allNamed(p, ...RANDOMS).length > 0);
  const others = parts.filter((p) => p !== inner);
  if (inner === undefined || others.some((p) => p.name !== 'baseValue') || !['sum', 'product', 'divide'].includes(node.name))
    throw new Unread(node.name, 'A number drawn in this way has no place here.');
  const held = drawnOf(a, inner);
  const numbers = others.map((p) => Number(wordsIn(p)));
  const by = node.name === 'sum' ? numbers.reduce((x, y) => x + y, 0) : numbers.reduce((x, y) => x * y, 1);
  const move = (text: string, isStep: boolean): string =>
    node.name === 'sum' ? (isStep ? text : tidy(Number(text) + by)) : tidy(node.name === 'divide' ? Number(text) / by : Number(text) * by);
  return { from: move(held.from, false), to: move(held.to, false), step: move(held.step, true) };
}

/** What the variables of a template are called here: as they are, where that is a name a formula can have. */
export function parameterNames(item: QtiNode): ReadonlyMap<string, string> {
  return new Map(
    childrenNamed(item, 'templateDeclaration').map((d, n): [string, string] => {
      const id = attr(d, 'identifier');
      return [id, /^[a-zA-Z][a-zA-Z0-9_]{0,19}$/.test(id) && !['e', 'pi'].includes(id) ? id : `value${n + 1}`];
    }),
  );
}

/** The drawn numbers of an item: parameters, conditions, and the formula that gives the answer. */
export function calculatedKey(a: Asking): Extract<QuestionKey, { kind: 'calculated' }>['question'] {
  const names = parameterNames(a.item);
  const derived = new Map<string, string>();
  const drawn = new Map<string, Drawn>();
  const conditions: string[] = [];
  let formula = '';
  const of = (name: string): string => derived.get(name) ?? names.get(name) ?? name;
  for (const rule of nodesIn(childNamed(a.item, 'templateProcessing'))) {
    const [value] = nodesIn(rule);
    const id = attr(rule, 'identifier');
    if (value === undefined) throw new Unread(rule.name, 'It has no value.');
    if (rule.name === 'templateConstraint') conditions.push(toFormula(value, of));
    else if (rule.name === 'setCorrectResponse') formula = toFormula(value, of);
    else if (rule.name !== 'setTemplateValue') throw new Unread(rule.name, 'This rule of a template is not understood.');
    else if (RANDOMS.includes(value.name) || allNamed(value, ...RANDOMS).length > 0) drawn.set(id, drawnOf(a, value));
    else derived.set(id, toFormula(value, of));
  }
  if (formula === '') throw new Unread('templateProcessing', 'It sets no correct response, so there is no formula.');
  const printed = allNamed(childNamed(a.item, 'itemBody'), 'printedVariable');
  const parameters = [...drawn].map(([id, d]) => {
    const format = attr(
      printed.find((p) => attr(p, 'identifier') === id),
      'format',
    );
    const asked = /^%\.(\d+)/.exec(format)?.[1];
    return { name: of(id), ...d, decimals: asked === undefined ? decimalsOf(d.from, d.step) : Number(asked) };
  });
  const test = a.processing.all('equal', 'equalRounded').find((t) => hasVariable(t, a.declaration.id));
  return { parameters, conditions, formula, tolerance: toleranceOf(a, test) };
}
