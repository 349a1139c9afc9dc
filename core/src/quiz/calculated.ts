import Fraction from 'fraction.js';
import { exactText, ratio, roundHalfUp, ZERO, type Ratio } from '../exact/ratio.ts';
import { countOf } from '../exact/countOf.ts';
import { readFormula, type Formula } from './formula.ts';
import { budgetOf, OverBudget } from './workOut.ts';
import type { Calculated, NumberRules, Parameter } from './question.ts';
import { decimalRatio, isWithin, toSignificant } from './readNumber.ts';
import { seeded } from './seeded.ts';

export interface DrawnValues {
  readonly values: ReadonlyMap<string, Ratio>;
  readonly answer: Ratio;
  /** What was drawn before and had no answer, with the reason: it was drawn again. */
  readonly without: readonly string[];
}
export type ValuesDrawn = { readonly ok: true; readonly drawn: DrawnValues } | { readonly ok: false; readonly reason: string };

const MOST_TRIES = 400;
const MOST_STEPS = 1_000_000n;
const NAME = /^[a-zA-Z][a-zA-Z0-9_]{0,19}$/;

interface Ready {
  readonly grid: readonly { readonly name: string; readonly from: Ratio; readonly step: Ratio; readonly steps: bigint }[];
  readonly conditions: readonly Formula[];
  readonly formula: Formula;
}
type Prepared = { readonly ok: true; readonly ready: Ready } | { readonly ok: false; readonly faults: readonly string[] };

function gridOf(p: Parameter): Ready['grid'][number] | string {
  if (!NAME.test(p.name)) return `“${p.name}” is no name for a parameter: letters and digits, a letter first, 20 at most.`;
  let [from, to, step]: (Ratio | null)[] = [null, null, null];
  try {
    [from, to, step] = [decimalRatio(p.from), decimalRatio(p.to), decimalRatio(p.step)];
  } catch {
    return `${p.name}: from, to and step are numbers; one of “${p.from}”, “${p.to}” and “${p.step}” is not.`;
  }
  if (step.compare(ZERO) <= 0) return `${p.name}: the step is “${p.step}”; it must be more than 0.`;
  if (to.compare(from) < 0) return `${p.name} goes from ${p.from} to ${p.to}; the second must not be the smaller one.`;
  const steps = to.sub(from).div(step);
  const whole = steps.n / steps.d;
  return whole > MOST_STEPS ? `${p.name} has more than a million values. Take a larger step.` : { name: p.name, from, step, steps: whole };
}

function prepare(question: Calculated): Prepared {
  const faults: string[] = [];
  const grid = question.parameters.flatMap((p) => {
    const made = gridOf(p);
    if (typeof made !== 'string') return [made];
    faults.push(made);
    return [];
  });
  const names = question.parameters.map((p) => p.name);
  const twice = names.find((name, n) => names.indexOf(name) !== n);
  if (twice !== undefined) faults.push(`Two parameters are called ${twice}.`);
  const read = (text: string, what: string): Formula | null => {
    const found = readFormula(text, names);
    if (found.ok) return found.formula;
    faults.push(`${what}: ${found.reason}`);
    return null;
  };
  const formula = read(question.formula, 'The formula');
  const conditions = question.conditions.map((c) => read(c, `The condition “${c}”`)).filter((c) => c !== null);
  return formula === null || faults.length > 0 ? { ok: false, faults } : { ok: true, ready: { grid, conditions, formula } };
}

function drawFrom({ grid, conditions, formula }: Ready, seed: string, budget = budgetOf()): ValuesDrawn {
  const random = seeded(seed);
  const without: string[] = [];
  for (let n = 0; n < MOST_TRIES; n += 1) {
    const values = new Map(
      grid.map((p) => {
        const at = BigInt(Math.floor(random() * (Number(p.steps) + 1)));
        return [p.name, p.from.add(p.step.mul(new Fraction(at, 1n)))] as const;
      }),
    );
    try {
      if (!conditions.every((c) => c.holds(values, budget))) continue;
      const answer = formula.valueOf(values, budget);
      if (answer.ok) return { ok: true, drawn: { values, answer: answer.value, without } };
      without.push(`With ${inWords(values)} ${answer.reason}`);
    } catch (error) {
      if (error instanceof OverBudget) return { ok: false, reason: TOO_LONG };
      throw error;
    }
  }
  return { ok: false, reason: without[0] === undefined ? NEVER_HOLDS : `${without[0]}, and no other values have an answer.` };
}
const TOO_LONG =
  'Working out the values of one student takes too long. Use fewer functions, smaller powers, or conditions that more of the values meet.';
const NEVER_HOLDS = `In ${MOST_TRIES} draws no values were found for which every condition holds.`;
const inWords = (values: ReadonlyMap<string, Ratio>): string => [...values].map(([name, v]) => `${name} = ${v.toString()}`).join(', ');

/**
 * The values of one student, and the answer that follows from them: the same for the same seed. Every step of every parameter is as likely
 * as any other, less what the conditions rule out. Values and steps are exact. Values that have no answer (a division by zero) are drawn again.
 * A question that cannot be read, has no answer with any values, or takes too many operations says so.
 * Worked example: n from 40 to 80 in steps of 4, formula `n / 8`, some seed: n = 56, answer 7.
 */
export function drawValues(question: Calculated, seed: string): ValuesDrawn {
  const prepared = prepare(question);
  return prepared.ok ? drawFrom(prepared.ready, seed) : { ok: false, reason: prepared.faults.join(' ') };
}

/** How many decimals a number needs to be written in full. */
function decimalsNeeded(value: Ratio): number {
  let places = 0;
  for (let rest = value.d; rest !== 1n && places < 60; places += 1) {
    const common = ratio(10n, rest);
    rest = common.d;
  }
  return places;
}

/**
 * How many decimals a parameter is shown with: what its range and step need, so that what a student reads is what the answer is worked out
 * from, and more where its author wishes so.
 * Worked example: from 0.5 in steps of 0.25, with 0 decimals wished: 2.
 */
export function shownDecimals(p: Parameter): number {
  try {
    return Math.max(p.decimals, decimalsNeeded(decimalRatio(p.from)), decimalsNeeded(decimalRatio(p.step)));
  } catch {
    // What is no number is said where the question is checked.
    return p.decimals;
  }
}

/** An answer as carefully as a student can write it: with the decimals that are asked for, else with ten figures. */
const asWritten = (answer: Ratio, decimals: number | null): Ratio =>
  decimals === null ? toSignificant(answer, 10) : decimalRatio(roundHalfUp(answer, decimals).replace('−', '-'));

export interface SampleRow {
  readonly values: { readonly [name: string]: string };
  readonly answer: string;
}
type SampleRules = Pick<NumberRules, 'isSignFree'> & { readonly decimals?: number | null };
export interface Samples {
  readonly rows: readonly SampleRow[];
  /** What keeps the question from being asked. */
  readonly faults: readonly string[];
  /** What should be looked at: values with no answer, a tolerance that takes any sign, or the same answer for everybody. */
  readonly warnings: readonly string[];
}

/** More values without an answer than one in this many, and the question may not be asked. */
const OFTEN_WITHOUT = 4;

/** What is wrong with the values that have no answer, and what should only be looked at. */
function withoutAnswer(drawn: readonly ValuesDrawn[]): { readonly faults: readonly string[]; readonly warnings: readonly string[] } {
  const failed = drawn.flatMap((d) => (d.ok ? [] : [d.reason]));
  const again = drawn.flatMap((d) => (d.ok ? d.drawn.without : []));
  const many = drawn.length - failed.length + again.length;
  const said = `${again[0] ?? ''}; ${again.length} of ${many} values tried have no answer.`;
  if (failed[0] !== undefined) return { faults: [failed[0]], warnings: [] };
  if (again.length === 0) return { faults: [], warnings: [] };
  return again.length * OFTEN_WITHOUT > many
    ? { faults: [`${said} Rule such values out by a condition.`], warnings: [] }
    : { faults: [], warnings: [`${said} Such values are drawn again.`] };
}

/** How many students a question is tried for, or as many as cost twenty times what one may. */
const MOST_SAMPLES = 100;
const MOST_WORK = 20;

/** Draws one after another; a question that takes too long is not drawn on. */
function drawSamples(ready: Ready): ValuesDrawn[] {
  const drawn: ValuesDrawn[] = [];
  let work = 0;
  while (drawn.length < MOST_SAMPLES && work < MOST_WORK) {
    const budget = budgetOf();
    const all = budget.left;
    const next = drawFrom(ready, `sample ${drawn.length}`, budget);
    drawn.push(next);
    work += next.ok ? 1 - budget.left / all : MOST_WORK;
  }
  return drawn;
}

/**
 * Sample values of a calculated question for its author, with what is wrong with it: `many` rows are shown, and a hundred are tried
 * (fewer where they cost much).
 * Worked example: `a / b` with b from 0 to 9 warns that with b = 0 it is divided by zero; with b from 0 to 1 it may not be asked.
 */
export function sampleValues(question: Calculated, many: number, decimals: number, rules: SampleRules): Samples {
  const prepared = prepare(question);
  if (!prepared.ok) return { rows: [], faults: prepared.faults, warnings: [] };
  const drawn = drawSamples(prepared.ready);
  const answers = drawn.flatMap((d) => (d.ok ? [d.drawn.answer] : []));
  const none = withoutAnswer(drawn);
  const warnings = [...none.warnings];
  if (answers.some((a) => a.compare(ZERO) !== 0 && isWithin(ZERO, a, question.tolerance)))
    warnings.push('The tolerance is as wide as some of the answers: 0 would be taken for right.');
  if (!rules.isSignFree && answers.some((a) => a.compare(ZERO) !== 0 && isWithin(a.neg(), a, question.tolerance)))
    warnings.push('The tolerance takes some answers with either sign.');
  if (answers.length > 1 && answers.every((a) => a.equals(answers[0] as Ratio))) warnings.push('Everybody has the same answer.');
  const unreachable = drawn.find(
    (d) => d.ok && !isWithin(asWritten(d.drawn.answer, rules.decimals ?? null), d.drawn.answer, question.tolerance),
  );
  const outOfReach = unreachable?.ok
    ? [
        `With ${inWords(unreachable.drawn.values)} the answer is ${exactText(unreachable.drawn.answer)}, and written with ${rules.decimals === undefined || rules.decimals === null ? 'ten figures' : countOf(rules.decimals, 'decimal')} it is outside the tolerance. Widen the tolerance.`,
      ]
    : [];
  const decimalsOf = new Map(question.parameters.map((p) => [p.name, shownDecimals(p)]));
  return {
    faults: [...none.faults, ...outOfReach],
    warnings: answers.length === 0 ? [] : warnings,
    rows: drawn.slice(0, many).flatMap((d): SampleRow[] =>
      d.ok
        ? [
            {
              values: Object.fromEntries([...d.drawn.values].map(([name, v]) => [name, roundHalfUp(v, decimalsOf.get(name) ?? 0)])),
              answer: roundHalfUp(d.drawn.answer, decimals),
            },
          ]
        : [],
    ),
  };
}
