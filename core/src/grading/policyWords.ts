import { formatPoints } from '../exact/points.ts';
import { categoryRule } from './working.ts';
import type { LatePolicy, Policy } from './policy.ts';

function lateInWords(late: LatePolicy | null): string {
  if (late === null || late.ratePercent === 0) return 'loses nothing';
  const step = late.stepMinutes === 1440 ? 'day' : late.stepMinutes === 60 ? 'hour' : `${late.stepMinutes} minutes`;
  const grace = late.graceMinutes > 0 ? `, after ${late.graceMinutes} minutes of grace` : '';
  const base = late.base === 'earned' ? 'what it earned' : 'the points possible';
  return `loses ${formatPoints(late.ratePercent)} % of ${base} for each ${step}, at most ${formatPoints(late.capPercent)} %${grace}`;
}

/**
 * A grading policy in sentences for those it is about, as it stands: how the total is made, each category, missing and late
 * work, the scheme. Nothing in it is typed by hand, so it stays true.
 * Worked example: a category of 20 % by equal share with one drop reads
 * `Exercises count 20 %, by equal share, leaving out the lowest one.`
 */
export function policyInWords(policy: Policy, late: LatePolicy | null): readonly string[] {
  const sentences: string[] = [];
  if (policy.total === 'weights') {
    for (const c of policy.categories) {
      const rule = categoryRule(c.method, c.dropLowest, c.keepBest, c.dropHighest);
      sentences.push(
        c.isExtraCredit
          ? `${c.title} add up to ${formatPoints(c.weightPercent)} % on top, ${rule}.`
          : `${c.title} count ${formatPoints(c.weightPercent)} %, ${rule}.`,
      );
    }
    sentences.push(
      policy.isRenormalised ? 'A category with nothing marked yet is left aside.' : 'A category with nothing marked counts as zero.',
    );
  } else {
    const rule = categoryRule(policy.total, policy.whole.dropLowest, policy.whole.keepBest, policy.whole.dropHighest);
    sentences.push(`The grade is made of all items together, ${rule}.`);
  }
  for (const period of policy.periods) sentences.push(`${period.title} counts ${formatPoints(period.weightPercent)} % of the course.`);
  sentences.push(policy.isMissingZero ? 'Missing work counts as zero once it is due.' : 'Missing work is left out of the total so far.');
  const common = lateInWords(late);
  sentences.push(`Late work ${common}.`);
  for (const c of policy.categories)
    if (policy.total === 'weights' && lateInWords(c.late) !== common) sentences.push(`Late work in ${c.title} ${lateInWords(c.late)}.`);
  if (policy.levels.length > 0)
    sentences.push(
      `The total is read to ${policy.decimals === 0 ? 'whole percent' : policy.decimals === 1 ? 'one decimal' : `${policy.decimals} decimals`}, half up: ${policy.levels.map((l) => `${l.label} from ${formatPoints(l.cutPoint)}`).join(', ')}.`,
    );
  if ((policy.passPercent ?? null) !== null) sentences.push(`The course is passed from ${formatPoints(policy.passPercent ?? 0)} %.`);
  return sentences;
}
