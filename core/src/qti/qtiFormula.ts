import type { FormulaPart } from '../quiz/workOut.ts';
import { attr, nodesIn, q, wordsIn, type QtiNode } from './qtiTree.ts';

/** What of a package is not understood: the element, and why; thrown within this folder alone and caught where an item is read. */
export class Unread extends Error {
  readonly element: string;
  constructor(element: string, reason: string) {
    super(reason);
    this.element = element;
  }
}

const FOLDS: Readonly<Record<string, string>> = {
  ...{ '+': 'sum', '*': 'product', '-': 'subtract', '/': 'divide', '^': 'power', min: 'min', max: 'max' },
  ...{ '<': 'lt', '>': 'gt', '<=': 'lte', '>=': 'gte', and: 'and', or: 'or' },
};
/** Functions of a formula by the names that the operator of the standard has for them. */
const MATH: Readonly<Record<string, string>> = {
  ...{ sin: 'sin', cos: 'cos', tan: 'tan', asin: 'asin', acos: 'acos', atan: 'atan' },
  ...{ exp: 'exp', ln: 'ln', log10: 'log', abs: 'abs', floor: 'floor', ceil: 'ceil' },
};
export const float = (text: string | number): QtiNode => q('baseValue', { baseType: 'float' }, String(text));

/**
 * A formula as an expression of the standard. Worked example: `a / 2` is `<divide><variable identifier="a"/><baseValue>2</baseValue></divide>`.
 * The third root has no operator and is written as a power.
 */
export function toExpression(part: FormulaPart): QtiNode {
  if (part.kind === 'number') return float(part.text);
  if (part.kind === 'name')
    return ['pi', 'e'].includes(part.name) ? q('mathConstant', { name: part.name }) : q('variable', { identifier: part.name });
  const args = part.args.map(toExpression);
  const fold = FOLDS[part.name];
  if (fold !== undefined) return q(fold, {}, ...args);
  const [first = float(0), second] = args;
  switch (part.name) {
    case 'neg':
      return q('product', {}, float(-1), first);
    case 'sqrt':
      return q('power', {}, first, float('0.5'));
    case 'cbrt':
      return q('power', {}, first, q('divide', {}, float(1), float(3)));
    case '==':
    case '!=': {
      const equal = q('equal', { toleranceMode: 'exact' }, first, second ?? first);
      return part.name === '==' ? equal : q('not', {}, equal);
    }
    case 'round':
      return second === undefined
        ? q('round', {}, first)
        : q('roundTo', { roundingMode: 'decimalPlaces', figures: wordsIn(second) }, first);
    default:
      return q('mathOperator', { name: MATH[part.name] ?? part.name }, first);
  }
}

interface Text {
  readonly text: string;
  /** How closely it holds together: 1 is a sum, 4 a name. */
  readonly bond: number;
}
const joined = (parts: readonly Text[], sign: string, bond: number): Text => ({
  text: parts.map((p, n) => (p.bond < bond || (p.bond === bond && n > 0) ? `(${p.text})` : p.text)).join(sign),
  bond,
});
const SIGNS: Readonly<Record<string, readonly [string, number]>> = {
  ...{ sum: [' + ', 2], product: [' * ', 3], subtract: [' - ', 2], divide: [' / ', 3] },
  ...{ lt: [' < ', 1], gt: [' > ', 1], lte: [' <= ', 1], gte: [' >= ', 1], and: [' and ', 0], or: [' or ', 0] },
};
const CALLS = Object.fromEntries(Object.entries(MATH).map(([ours, theirs]) => [theirs, ours]));

function textOf(node: QtiNode, of: (name: string) => string): Text {
  const args = nodesIn(node).map((child) => textOf(child, of));
  const call = (name: string): Text => ({ text: `${name}(${args.map((a) => a.text).join(', ')})`, bond: 5 });
  if (node.name === 'product' && args.length === 2 && args[0]?.text === '-1') {
    const inner = args[1] as Text;
    return { text: inner.bond < 3 ? `-(${inner.text})` : `-${inner.text}`, bond: 2 };
  }
  const sign = SIGNS[node.name];
  if (sign !== undefined) return args.length === 1 ? (args[0] as Text) : joined(args, sign[0], sign[1]);
  switch (node.name) {
    case 'baseValue': {
      const text = wordsIn(node).trim();
      if (!/^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$/.test(text)) throw new Unread('baseValue', `“${text}” is no number.`);
      return { text, bond: text.startsWith('-') ? 2 : 5 };
    }
    case 'variable': {
      const text = of(attr(node, 'identifier'));
      return { text, bond: /^\w+$/.test(text) ? 5 : -1 };
    }
    case 'mathConstant':
      return { text: attr(node, 'name'), bond: 5 };
    case 'power': {
      const [base, exponent] = args;
      if (base === undefined || exponent === undefined) throw new Unread('power', 'It has not two operands.');
      if (exponent.text === '0.5') return { text: `sqrt(${base.text})`, bond: 5 };
      const held = (t: Text): string => (t.bond < 5 ? `(${t.text})` : t.text);
      return { text: `${held(base)}^${held(exponent)}`, bond: 4 };
    }
    case 'equal':
      if (!['', 'exact'].includes(attr(node, 'toleranceMode')))
        throw new Unread('equal', 'A condition with a tolerance has no place here.');
      return joined(args, ' == ', 1);
    case 'not': {
      const [inner] = nodesIn(node);
      if (inner?.name === 'equal') return joined(nodesIn(inner).map((child) => textOf(child, of)), ' != ', 1); // prettier-ignore
      throw new Unread('not', 'Only “not equal” can be said in a condition here.');
    }
    case 'min':
    case 'max':
    case 'round':
      return call(node.name);
    case 'roundTo':
      if (attr(node, 'roundingMode') !== 'decimalPlaces') throw new Unread('roundTo', 'Rounding to significant figures has no place in a formula here.'); // prettier-ignore
      return { text: `round(${args[0]?.text ?? ''}, ${attr(node, 'figures')})`, bond: 5 };
    case 'truncate':
      return call('floor');
    case 'mathOperator': {
      const name = CALLS[attr(node, 'name')];
      if (name === undefined) throw new Unread('mathOperator', `“${attr(node, 'name')}” has no place in a formula here.`);
      return call(name);
    }
    default:
      throw new Unread(node.name, 'This has no place in a formula here.');
  }
}

/**
 * An expression of the standard as a formula; `of` gives what a variable stands for. Throws {@link Unread} for what a formula here does not
 * have. Worked example: `<divide><variable identifier="a"/><baseValue>2</baseValue></divide>` is `a / 2`.
 */
export const toFormula = (node: QtiNode, of: (name: string) => string = (name) => name): string => textOf(node, of).text;
