import { exactPoints, ratio, simplest, toRatio, type Exact, type Ratio } from '../exact/ratio.ts';
import { formatPoints, type Thousandths } from '../exact/points.ts';
import type { LatePolicy } from './policy.ts';
import type { LateAccount } from './cell.ts';

const MINUTE = 60_000;
const PERCENT = 100_000;

export interface LateInput {
  readonly earned: Exact;
  readonly possible: Thousandths;
  readonly handedInAt: number | null;
  readonly dueAt: number | null;
  readonly policy: LatePolicy | null;
}

/**
 * How many whole or begun steps after due plus grace: ceil((handed in − due − grace) / step) when positive, else 0.
 * Instants are milliseconds since 1970. Worked example: handed in 25 h after the due time, no grace, step a day: 2.
 */
export function lateSteps(handedInAt: number, dueAt: number, policy: LatePolicy): number {
  const over = handedInAt - dueAt - policy.graceMinutes * MINUTE;
  return over <= 0 ? 0 : Math.ceil(over / (policy.stepMinutes * MINUTE));
}

/**
 * The result after the late policy, all values exact thousandths of a point.
 *
 * Rule: penalty = min(cap × base, steps × rate × base); result = min(e, max(e − penalty, floor × p)),
 * base is what was earned or what is possible, by policy. A floor never raises a mark.
 * Worked example: 47.5 of 60, one day late, 5 % of what was earned for each day: penalty 2.375, result 45.125.
 */
export function applyLate(input: LateInput): { readonly result: Exact; readonly late: LateAccount | null } {
  const { earned, possible, handedInAt, dueAt, policy } = input;
  if (policy === null || handedInAt === null || dueAt === null) return { result: earned, late: null };
  const steps = lateSteps(handedInAt, dueAt, policy);
  if (steps === 0) return { result: earned, late: null };
  const e = toRatio(earned);
  const base = policy.base === 'earned' ? e : ratio(possible);
  const stepped = base.mul(ratio(BigInt(policy.ratePercent) * BigInt(steps), PERCENT));
  const cap = base.mul(ratio(policy.capPercent, PERCENT));
  const penalty = stepped.compare(cap) > 0 ? cap : stepped;
  const floor = ratio(possible).mul(ratio(policy.floorPercent, PERCENT));
  const reduced = e.sub(penalty);
  const floored = reduced.compare(floor) < 0 ? floor : reduced;
  const result = floored.compare(e) > 0 ? e : floored;
  return {
    result: simplest(result),
    late: {
      steps,
      penalty: simplest(e.sub(result)),
      rule: lateWords(steps, policy, base, { isCapped: stepped.compare(cap) > 0, isFloored: floored.compare(reduced) !== 0, possible }),
      handedInAt,
      dueAt,
    },
  };
}

/** The rule with the numbers it was worked out from, so that the penalty can be worked out again from what is printed. */
function lateWords(
  steps: number,
  policy: LatePolicy,
  base: Ratio,
  { isCapped, isFloored, possible }: { readonly isCapped: boolean; readonly isFloored: boolean; readonly possible: Thousandths },
): string {
  const what = `the ${exactPoints(base)} ${policy.base}`;
  const taken = isCapped
    ? `${formatPoints(policy.capPercent)} % of ${what}, the most that is taken`
    : `${steps} × ${formatPoints(policy.ratePercent)} % of ${what}`;
  const least = isFloored ? `; never below ${formatPoints(policy.floorPercent)} % of the ${formatPoints(possible)} possible` : '';
  return `${lateRule(steps, policy)}: ${taken}${least}`;
}

/** The rule of a late penalty in words: `1 day late, 5 % of earned for each, at most 50 %`. */
export function lateRule(steps: number, policy: LatePolicy): string {
  const unit = policy.stepMinutes === 1440 ? 'day' : policy.stepMinutes === 60 ? 'hour' : `${policy.stepMinutes} min`;
  const many = steps === 1 ? `1 ${unit}` : `${steps} ${unit}${policy.stepMinutes === 1440 || policy.stepMinutes === 60 ? 's' : ' steps'}`;
  return `${many} late, ${formatPoints(policy.ratePercent)} % of ${policy.base} for each, at most ${formatPoints(policy.capPercent)} %`;
}
