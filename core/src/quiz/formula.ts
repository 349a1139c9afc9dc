import type { MathNode } from 'mathjs';
import type { Ratio } from '../exact/ratio.ts';
import {
  budgetOf,
  CONSTANTS,
  FUNCTIONS,
  math,
  OPERATORS,
  toRatio,
  workOut,
  type Budget,
  type FormulaPart,
  type FormulaValue,
} from './workOut.ts';

const LONGEST = 400;

export interface Formula {
  /**
   * The value with these parameters; what has none (a division by zero, a root of less than nothing) says so. What it costs is taken from the
   * budget, its own where none is given; {@link OverBudget} is thrown where that is used up.
   */
  readonly valueOf: (values: ReadonlyMap<string, Ratio>, budget?: Budget) => FormulaValue;
  /** Whether a condition holds; one that has no value does not. */
  readonly holds: (values: ReadonlyMap<string, Ratio>, budget?: Budget) => boolean;
}
export type FormulaRead = { readonly ok: true; readonly formula: Formula } | { readonly ok: false; readonly reason: string };

const isNumber = (value: unknown): boolean => math.isBigNumber(value) || typeof value === 'boolean';

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
    else if (type === 'ConstantNode' && !isNumber((part as MathNode & { value: unknown }).value)) fault = 'A formula holds no words.';
  });
  return fault;
}

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

const parse = (text: string): MathNode =>
  math.parse(text.replaceAll('×', '*').replaceAll('·', '*').replaceAll('−', '-').replaceAll('÷', '/'));

/**
 * Reads a formula (or a condition) of named parameters: arithmetic, powers, roots, logarithms (`ln`, `log10`) and angles in radians, worked
 * out with 64 digits and within a budget of operations. Nothing else: no words, no lists, no functions of one's own. What cannot be read is said in words.
 * Worked example: `n / (2 * pi * sqrt(l / g))` with parameters n, l and g.
 */
export function readFormula(text: string, parameters: readonly string[]): FormulaRead {
  if (text.trim() === '') return { ok: false, reason: 'The formula is empty.' };
  if (text.length > LONGEST) return { ok: false, reason: `A formula has ${LONGEST} signs at most.` };
  let node: MathNode;
  try {
    node = parse(text);
  } catch (error) {
    return { ok: false, reason: `“${text}” cannot be read: ${error instanceof Error ? error.message : 'unknown'}.` };
  }
  const fault = faultOf(node, new Set(parameters));
  if (fault !== null) return { ok: false, reason: fault };
  const part = partOf(node);
  return {
    ok: true,
    formula: {
      valueOf: (values, budget = budgetOf()) => toRatio(workOut(part, values, budget)),
      holds: (values, budget = budgetOf()) => workOut(part, values, budget) === true,
    },
  };
}

/**
 * A formula or a condition taken apart, or null where it cannot be read ({@link readFormula} says why). A chain of comparisons is its links,
 * joined by `and`. Worked example: `-a / 2` is `/` of (`neg` of a) and 2.
 */
export function formulaParts(text: string, parameters: readonly string[]): FormulaPart | null {
  if (!readFormula(text, parameters).ok) return null;
  return partOf(parse(text));
}
