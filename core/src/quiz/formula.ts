import { all, create, type BigNumber, type MathNode } from 'mathjs';
import type { Ratio } from '../exact/ratio.ts';
import { decimalRatio } from './readNumber.ts';

const PRECISION = 64;
/** What is kept of a result: well within the precision it was worked out with. */
const KEPT_DIGITS = 40;
const math = create(all ?? {}, { number: 'BigNumber', precision: PRECISION });
const FUNCTIONS = new Set([
  'sqrt',
  'cbrt',
  'abs',
  'exp',
  'ln',
  'log10',
  'sin',
  'cos',
  'tan',
  'asin',
  'acos',
  'atan',
  'min',
  'max',
  'round',
  'floor',
  'ceil',
]);
const CONSTANTS = new Set(['pi', 'e']);
const OPERATORS = new Set(['+', '-', '*', '/', '^', '<', '>', '<=', '>=', '==', '!=', 'and', 'or']);
const LONGEST = 400;

export type FormulaValue = { readonly ok: true; readonly value: Ratio } | { readonly ok: false; readonly reason: string };
export interface Formula {
  /** The value with these parameters; what has none (a division by zero, a root of less than nothing) says so. */
  readonly valueOf: (values: ReadonlyMap<string, Ratio>) => FormulaValue;
  /** Whether a condition holds; one that has no value does not. */
  readonly holds: (values: ReadonlyMap<string, Ratio>) => boolean;
}
export type FormulaRead = { readonly ok: true; readonly formula: Formula } | { readonly ok: false; readonly reason: string };

/** What of a formula is not arithmetic of known names; null where all of it is. */
function faultOf(node: MathNode, names: ReadonlySet<string>): string | null {
  let fault: string | null = null;
  node.traverse((part, path) => {
    if (fault !== null) return;
    const { type } = part;
    const name = (part as MathNode & { name?: string }).name ?? '';
    if (type === 'SymbolNode') {
      // The name of a function is a symbol of its own.
      if (path === 'fn') return;
      if (!names.has(name) && !CONSTANTS.has(name))
        fault = `“${name}” is no parameter here. There are ${[...names].join(', ') || 'none yet'}.`;
    } else if (type === 'FunctionNode') {
      const called = (part as MathNode & { fn: { name?: string } }).fn.name ?? '';
      if (!FUNCTIONS.has(called)) fault = `“${called}” is no function here. There are ${[...FUNCTIONS].join(', ')}.`;
    } else if (type === 'OperatorNode') {
      const { op } = part as MathNode & { op: string };
      if (!OPERATORS.has(op)) fault = `“${op}” cannot be used in a formula.`;
    } else if (!['ConstantNode', 'ParenthesisNode', 'RelationalNode'].includes(type))
      fault = 'Only numbers, parameters, signs of arithmetic and functions can stand in a formula.';
    else if (type === 'ConstantNode' && typeof (part as MathNode & { value: unknown }).value === 'string')
      fault = 'A formula holds no words.';
  });
  return fault;
}

const scopeOf = (values: ReadonlyMap<string, Ratio>): Record<string, BigNumber> =>
  Object.fromEntries([...values].map(([name, v]) => [name, math.bignumber((v.s * v.n).toString()).div(math.bignumber(v.d.toString()))]));

function toRatio(result: unknown): FormulaValue {
  if (!math.isBigNumber(result)) return { ok: false, reason: 'it has no real value' };
  if (!result.isFinite()) return { ok: false, reason: result.isNaN() ? 'it has no value' : 'it is divided by zero, or grows without end' };
  try {
    return { ok: true, value: decimalRatio(result.toSignificantDigits(KEPT_DIGITS).toString()) };
  } catch {
    return { ok: false, reason: 'it is too large or too small to be written' };
  }
}

// `log` alone could be either, so it has no place here.
math.import({ ln: (x: BigNumber) => math.log(x) });

/**
 * Reads a formula (or a condition) of named parameters: arithmetic, powers, roots, logarithms (`ln`, `log10`) and angles in radians, worked
 * out with 64 digits. Nothing else: no words, no lists, no functions of one's own. What cannot be read is said in words.
 * Worked example: `n / (2 * pi * sqrt(l / g))` with parameters n, l and g.
 */
export function readFormula(text: string, parameters: readonly string[]): FormulaRead {
  if (text.trim() === '') return { ok: false, reason: 'The formula is empty.' };
  if (text.length > LONGEST) return { ok: false, reason: `A formula has ${LONGEST} signs at most.` };
  let node: MathNode;
  try {
    node = math.parse(text.replaceAll('×', '*').replaceAll('·', '*').replaceAll('−', '-').replaceAll('÷', '/'));
  } catch (error) {
    return { ok: false, reason: `“${text}” cannot be read: ${error instanceof Error ? error.message : 'unknown'}.` };
  }
  const fault = faultOf(node, new Set(parameters));
  if (fault !== null) return { ok: false, reason: fault };
  const code = node.compile();
  const run = (values: ReadonlyMap<string, Ratio>): unknown => code.evaluate(scopeOf(values)) as unknown;
  return {
    ok: true,
    formula: {
      valueOf: (values) => {
        try {
          return toRatio(run(values));
        } catch (error) {
          return { ok: false, reason: error instanceof Error ? error.message : 'it has no value' };
        }
      },
      holds: (values) => {
        try {
          return run(values) === true;
        } catch {
          return false;
        }
      },
    },
  };
}

/** A formula taken apart: numbers and names as they were written, and what is done with them (`+`, `neg`, `sqrt`, `<`, `and`). */
export type FormulaPart =
  | { readonly kind: 'number'; readonly text: string }
  | { readonly kind: 'name'; readonly name: string }
  | { readonly kind: 'call'; readonly name: string; readonly args: readonly FormulaPart[] };

const RELATIONS: Readonly<Record<string, string>> = {
  smaller: '<',
  larger: '>',
  smallerEq: '<=',
  largerEq: '>=',
  equal: '==',
  unequal: '!=',
};
function partOf(node: MathNode): FormulaPart {
  const at = node as MathNode & {
    readonly name?: string;
    readonly op?: string;
    readonly content?: MathNode;
    readonly args?: readonly MathNode[];
    readonly fn?: { readonly name?: string };
    readonly params?: readonly MathNode[];
    readonly conditionals?: readonly string[];
  };
  const call = (name: string, args: readonly FormulaPart[]): FormulaPart => ({ kind: 'call', name, args });
  const args = (): FormulaPart[] => (at.args ?? []).map(partOf);
  switch (node.type) {
    case 'SymbolNode':
      return { kind: 'name', name: at.name ?? '' };
    case 'ParenthesisNode':
      return partOf(at.content as MathNode);
    case 'FunctionNode':
      return call(at.fn?.name ?? '', args());
    case 'OperatorNode':
      return at.args?.length === 1 ? (at.op === '-' ? call('neg', args()) : (args()[0] as FormulaPart)) : call(at.op ?? '', args());
    case 'RelationalNode': {
      const params = (at.params ?? []).map(partOf);
      const links = (at.conditionals ?? []).map((c, n) =>
        call(RELATIONS[c] ?? '', [params[n] as FormulaPart, params[n + 1] as FormulaPart]),
      );
      return links.reduce((all, link) => call('and', [all, link]));
    }
    default:
      return { kind: 'number', text: node.toString() };
  }
}

/**
 * A formula or a condition taken apart, or null where it cannot be read ({@link readFormula} says why). A chain of comparisons is its links,
 * joined by `and`. Worked example: `-a / 2` is `/` of (`neg` of a) and 2.
 */
export function formulaParts(text: string, parameters: readonly string[]): FormulaPart | null {
  if (!readFormula(text, parameters).ok) return null;
  return partOf(math.parse(text.replaceAll('×', '*').replaceAll('·', '*').replaceAll('−', '-').replaceAll('÷', '/')));
}
