import { all, create, type BigNumber } from 'mathjs';
import type { Ratio } from '../exact/ratio.ts';
import { decimalRatio } from './readNumber.ts';

const PRECISION = 64;
/** What is kept of a result: well within the precision it was worked out with. */
const KEPT_DIGITS = 40;
export const math = create(all ?? {}, { number: 'BigNumber', precision: PRECISION });

export type FormulaValue = { readonly ok: true; readonly value: Ratio } | { readonly ok: false; readonly reason: string };

/** A formula taken apart: numbers and names as they were written, and what is done with them (`+`, `neg`, `sqrt`, `<`, `and`). */
export type FormulaPart =
  | { readonly kind: 'number'; readonly text: string }
  | { readonly kind: 'name'; readonly name: string }
  | { readonly kind: 'call'; readonly name: string; readonly args: readonly FormulaPart[] };

/** What working out may still cost, counted in plain operations (one addition of two numbers of 64 digits, about 3 microseconds). */
export interface Budget {
  left: number;
}

/** What the values of one student may cost: about 30 milliseconds. A question with a root, a power and three conditions takes a tenth. */
const MOST_OPERATIONS = 10_000;

export const budgetOf = (): Budget => ({ left: MOST_OPERATIONS });

/** Working out took more operations than it may. */
export class OverBudget extends RangeError {
  constructor() {
    super('working it out takes too long');
  }
}

type Value = unknown;
interface Operation {
  readonly run: (...args: readonly Value[]) => Value;
  readonly cost: number | ((...args: readonly Value[]) => number);
}

/** The functions of the library take any kind of number, and say at run time what they cannot take. */
const its = (name: string) => (math as unknown as Readonly<Record<string, (...args: readonly Value[]) => Value>>)[name] as Operation['run'];

/** How many digits stand before the point. */
const digitsOf = (x: Value): number => (math.isBigNumber(x) && x.isFinite() ? Math.max(0, x.e) : 0);
/** An angle is first brought within one turn, with as many digits of pi as it has itself. */
const ANGLE = (x: Value): number => 100 + 6 * digitsOf(x);
const POWER = (_: Value, by: Value): number => (math.isBigNumber(by) && by.isInteger() ? 15 : 700);

const OPERATIONS: Readonly<Record<string, Operation>> = {
  '+': { run: its('add'), cost: 1 },
  '-': { run: its('subtract'), cost: 1 },
  '*': { run: its('multiply'), cost: 2 },
  '/': { run: its('divide'), cost: 2 },
  '^': { run: its('pow'), cost: POWER },
  neg: { run: its('unaryMinus'), cost: 1 },
  '<': { run: its('smaller'), cost: 1 },
  '>': { run: its('larger'), cost: 1 },
  '<=': { run: its('smallerEq'), cost: 1 },
  '>=': { run: its('largerEq'), cost: 1 },
  '==': { run: its('equal'), cost: 1 },
  '!=': { run: its('unequal'), cost: 1 },
  sqrt: { run: its('sqrt'), cost: 60 },
  cbrt: { run: its('cbrt'), cost: 60 },
  abs: { run: its('abs'), cost: 1 },
  exp: { run: its('exp'), cost: 150 },
  ln: { run: (x) => math.log(x as BigNumber), cost: 150 },
  log10: { run: its('log10'), cost: 150 },
  sin: { run: its('sin'), cost: ANGLE },
  cos: { run: its('cos'), cost: ANGLE },
  tan: { run: its('tan'), cost: ANGLE },
  asin: { run: its('asin'), cost: 700 },
  acos: { run: its('acos'), cost: 700 },
  atan: { run: its('atan'), cost: 500 },
  min: { run: its('min'), cost: (...args) => args.length },
  max: { run: its('max'), cost: (...args) => args.length },
  round: { run: its('round'), cost: 3 },
  floor: { run: its('floor'), cost: 3 },
  ceil: { run: its('ceil'), cost: 3 },
};

/** Names that stand for a number without being a parameter. */
export const CONSTANTS: ReadonlyMap<string, unknown> = new Map([
  ['pi', math.pi],
  ['e', math.e],
]);
const WORDS: Readonly<Record<string, boolean>> = { true: true, false: false };

const isFunction = (name: string): boolean => /^[a-z]/.test(name) && name !== 'neg';
/** What can be called in a formula by its name. */
export const FUNCTIONS: ReadonlySet<string> = new Set(Object.keys(OPERATIONS).filter(isFunction));
/** What can stand between two parts of a formula. */
export const OPERATORS: ReadonlySet<string> = new Set([...Object.keys(OPERATIONS).filter((name) => !isFunction(name)), 'and', 'or']);

/** Anything but nothing, as a condition. */
const isTrue = (value: unknown): boolean => its('and')(value, true) === true;

const toNumber = (v: Ratio): BigNumber => math.bignumber((v.s * v.n).toString()).div(math.bignumber(v.d.toString()));

function pay(budget: Budget, cost: number): void {
  budget.left -= cost;
  if (budget.left < 0) throw new OverBudget();
}

function valueOfPart(part: FormulaPart, values: ReadonlyMap<string, Ratio>, budget: Budget): Value {
  const at = (inner: FormulaPart): Value => valueOfPart(inner, values, budget);
  if (part.kind === 'number') return WORDS[part.text] ?? math.bignumber(part.text);
  if (part.kind === 'name') {
    const value = values.get(part.name);
    pay(budget, 3);
    return value === undefined ? CONSTANTS.get(part.name) : toNumber(value);
  }
  const [first, second] = part.args as readonly [FormulaPart, FormulaPart];
  // The second is looked at only where the first does not decide.
  if (part.name === 'and') return isTrue(at(first)) && isTrue(at(second));
  if (part.name === 'or') return isTrue(at(first)) || isTrue(at(second));
  const { run, cost } = OPERATIONS[part.name] as Operation;
  const args = part.args.map(at);
  pay(budget, typeof cost === 'number' ? cost : cost(...args));
  return run(...args);
}

/**
 * Works out a formula or a condition with 64 digits; a fault of arithmetic is its value too. Every operation is paid for out of the budget
 * before it is done, so that no formula takes longer than its budget; {@link OverBudget} is thrown where it is used up.
 * Worked example: `a / 2` with a = 5 pays 5 operations and gives 2.5.
 */
export function workOut(part: FormulaPart, values: ReadonlyMap<string, Ratio>, budget: Budget): Value {
  try {
    return valueOfPart(part, values, budget);
  } catch (error) {
    if (error instanceof OverBudget) throw error;
    return error;
  }
}

/** What was worked out, as an exact number of 40 digits at most, or the reason why it is none. Example: 0.5 is one half. */
export function toRatio(result: Value): FormulaValue {
  if (result instanceof Error) return { ok: false, reason: result.message };
  if (!math.isBigNumber(result)) return { ok: false, reason: 'it has no real value' };
  if (!result.isFinite()) return { ok: false, reason: result.isNaN() ? 'it has no value' : 'it is divided by zero, or grows without end' };
  try {
    return { ok: true, value: decimalRatio(result.toSignificantDigits(KEPT_DIGITS).toString()) };
  } catch {
    return { ok: false, reason: 'it is too large or too small to be written' };
  }
}
