import { ONE, ratio, ZERO, type Ratio } from '../exact/ratio.ts';
import { findAccepted } from './matchText.ts';
import { decimalRatio, isWithin, readNumber } from './readNumber.ts';
import { shareRatio as share } from './share.ts';
import type { Answer, Choice, NumberRules, QuestionKey, Region, ScoredQuestion, PictureSpot, Tolerance } from './question.ts';

const WHOLE = 100_000;
const sum = (parts: readonly Ratio[]): Ratio => parts.reduce((total, part) => total.add(part), ZERO);

/** The share of a question's points that an answer earned, and the rule that gave it in words; null waits for a person. */
export interface QuestionScore {
  readonly share: Ratio | null;
  readonly rule: string;
}
const given = (value: Ratio, rule: string): QuestionScore => ({ share: value, rule });
const NOTHING = given(ZERO, 'Nothing was answered.');

function ofChoice(choices: readonly Choice[], id: string): QuestionScore {
  const picked = choices.find((c) => c.id === id);
  return picked === undefined
    ? given(ZERO, 'The answer picked is no longer one of them.')
    : given(
        share(picked.share),
        picked.share >= WHOLE ? 'The right answer.' : picked.share === 0 ? 'Not the right answer.' : 'The value of this answer.',
      );
}

function ofChoices(key: Extract<QuestionKey, { kind: 'several' }>, ids: readonly string[]): QuestionScore {
  const picked = key.choices.filter((c) => ids.includes(c.id));
  if (key.rule === 'own values') return given(sum(picked.map((c) => share(c.share))), 'The values of the answers picked, added.');
  const right = key.choices.filter((c) => c.share > 0).length;
  const rightPicks = picked.filter((c) => c.share > 0).length;
  const wrongPicks = picked.length - rightPicks;
  if (right === 0) return given(picked.length === 0 ? ONE : ZERO, 'No answer is right, so none is to be picked.');
  if (key.rule === 'all or nothing')
    return given(
      rightPicks === right && wrongPicks === 0 ? ONE : ZERO,
      `${rightPicks} of ${right} right and ${wrongPicks} wrong; all or nothing.`,
    );
  return given(ratio(rightPicks - wrongPicks, right), `${rightPicks} right less ${wrongPicks} wrong, of ${right}.`);
}

interface Wanted {
  readonly value: Ratio;
  readonly tolerance: Tolerance;
  readonly share: number;
}
function ofNumber(rules: Omit<NumberRules, 'accepted'>, accepted: readonly Wanted[], text: string): QuestionScore {
  if (text.trim() === '') return NOTHING;
  const read = readNumber(text, rules);
  if (!read.ok) return given(ZERO, read.reason);
  const value = rules.isSignFree ? read.number.value.abs() : read.number.value;
  const near = accepted.filter((a) => isWithin(value, rules.isSignFree ? a.value.abs() : a.value, a.tolerance));
  const best = near.reduce((most, a) => Math.max(most, a.share), -Infinity);
  return near.length === 0 ? given(ZERO, 'Not within the tolerance of any answer.') : given(share(best), 'Within the tolerance.');
}

function ofBlanks(key: Extract<QuestionKey, { kind: 'blanks' }>, texts: Readonly<Record<string, string>>): QuestionScore {
  const parts = key.blanks.map((b) => {
    const found = findAccepted(texts[b.id] ?? '', b.rules);
    return { weight: share(b.weight), share: found === null ? ZERO : share(found.share) };
  });
  const right = parts.filter((p) => p.share.compare(ZERO) > 0).length;
  return given(sum(parts.map((p) => p.weight.mul(p.share))), `${right} of ${parts.length} blanks, by their weights.`);
}

function ofPairs(key: Extract<QuestionKey, { kind: 'matching' }>, pairs: Readonly<Record<string, string>>): QuestionScore {
  // A right side without a left one only distracts: there is nothing to put it beside.
  const asked = key.pairs.filter((p) => p.left !== '');
  const right = asked.filter((p) => pairs[p.left] === p.right).length;
  return asked.length === 0
    ? given(ZERO, 'There is no pair to find.')
    : given(ratio(right, asked.length), `${right} of ${asked.length} pairs are right.`);
}

/** Pairs that stand in the other order than in the key: Kendall's distance. What is not placed stands after everything that is. */
export function kendallDistance(order: readonly string[], key: readonly string[]): number {
  const placed = new Map(order.map((id, n) => [id, n]));
  const at = (id: string): number => placed.get(id) ?? order.length;
  let distance = 0;
  for (let a = 0; a < key.length; a += 1)
    for (let b = a + 1; b < key.length; b += 1) if (at(key[a] as string) >= at(key[b] as string)) distance += 1;
  return distance;
}

function ofOrder(key: Extract<QuestionKey, { kind: 'ordering' }>, order: readonly string[]): QuestionScore {
  const most = (key.order.length * (key.order.length - 1)) / 2;
  const distance = kendallDistance(order, key.order);
  if (most === 0) return given(ONE, 'One thing is in order by itself.');
  if (key.isAllOrNothing)
    return given(distance === 0 ? ONE : ZERO, distance === 0 ? 'The right order.' : 'Not the right order; all or nothing.');
  return given(ratio(most - distance, most), `${most - distance} of ${most} pairs stand in the right order.`);
}

/** Whether a place lies in a region, its edge included; corners of a polygon by the even-odd rule. */
export function isInside(spot: PictureSpot, region: Region): boolean {
  if (region.shape === 'rectangle') {
    const between = (value: number, a: number, b: number): boolean => value >= Math.min(a, b) && value <= Math.max(a, b);
    return between(spot.x, region.from.x, region.to.x) && between(spot.y, region.from.y, region.to.y);
  }
  if (region.shape === 'ellipse') {
    if (region.radius.x <= 0 || region.radius.y <= 0) return false;
    return ((spot.x - region.centre.x) / region.radius.x) ** 2 + ((spot.y - region.centre.y) / region.radius.y) ** 2 <= 1;
  }
  let isIn = false;
  region.corners.forEach((a, n) => {
    const b = region.corners[(n + region.corners.length - 1) % region.corners.length] as PictureSpot;
    if (a.y > spot.y !== b.y > spot.y && spot.x < ((b.x - a.x) * (spot.y - a.y)) / (b.y - a.y) + a.x) isIn = !isIn;
  });
  return isIn;
}

function scoreAnswer({ key, wanted }: ScoredQuestion, answer: Answer): QuestionScore {
  if (answer.kind === 'dontKnow') return given(ZERO, '“I do not know” is worth nothing and takes nothing away.');
  if ((key.kind === 'single' || key.kind === 'truth') && answer.kind === 'choice') return ofChoice(key.choices, answer.id);
  if ((key.kind === 'single' || key.kind === 'truth') && answer.kind === 'choices')
    return given(ZERO, 'More than one answer is marked, where one is right.');
  if (key.kind === 'several' && answer.kind === 'choices') return ofChoices(key, answer.ids);
  if (key.kind === 'numeric' && answer.kind === 'text') {
    const accepted = key.rules.accepted.map((a) => ({ ...a, value: decimalRatio(a.value) }));
    return ofNumber(key.rules, accepted, answer.text);
  }
  if (key.kind === 'calculated' && answer.kind === 'text') {
    if (wanted === undefined) throw new RangeError('A calculated question is scored with the answer that follows from its values.');
    return ofNumber(key.rules, [{ value: wanted, tolerance: key.question.tolerance, share: WHOLE }], answer.text);
  }
  if (key.kind === 'short' && answer.kind === 'text') {
    const found = findAccepted(answer.text, key.rules);
    return found === null ? given(ZERO, 'Not among the accepted answers.') : given(share(found.share), `Accepted as “${found.text}”.`);
  }
  if (key.kind === 'blanks' && answer.kind === 'texts') return ofBlanks(key, answer.texts);
  if (key.kind === 'matching' && answer.kind === 'pairs') return ofPairs(key, answer.pairs);
  if (key.kind === 'ordering' && answer.kind === 'order') return ofOrder(key, answer.order);
  if (key.kind === 'hotspot' && answer.kind === 'spot') {
    const hit = key.regions.filter((r) => isInside(answer.spot, r.region));
    return hit.length === 0
      ? given(ZERO, 'Outside every region.')
      : given(share(hit.reduce((most, r) => Math.max(most, r.share), -Infinity)), 'Inside a region.');
  }
  return given(ZERO, 'This is no answer to a question of this kind.');
}

/**
 * What an answer earns: an exact share of the question's points, with the rule that gave it. Never more than all of them; below nothing
 * only as far as the question's floor allows. Essays, files and whatever was given as work (on paper) wait for a person (`share` null);
 * nothing given is 0 in every kind, and so is an answer of another kind than the question.
 *
 * Rules (domain, Quiz): several choices: (right picks − wrong picks) / right answers; matching: share of right pairs; ordering:
 * 1 − Kendall distance / maximum; numeric: |x − a| ≤ tolerance after conversion of units.
 * Worked example: three right answers, two of them picked and one wrong one: (2 − 1) / 3.
 */
export function scoreQuestion(question: ScoredQuestion, answer: Answer | null): QuestionScore {
  const { key, points, floor } = question;
  if (answer === null) return NOTHING;
  if (key.kind === 'essay' || key.kind === 'file' || answer.kind === 'work') return { share: null, rule: 'Waits for somebody to mark it.' };
  const score = scoreAnswer(question, answer);
  const earned = score.share ?? ZERO;
  if (earned.compare(ONE) > 0) return { ...score, share: ONE };
  const least = floor === null || points === 0 ? null : ratio(floor, points);
  return least !== null && earned.compare(least) < 0
    ? given(least, `${score.rule} ${floor === 0 ? 'It takes nothing away.' : 'It takes no more away.'}`)
    : score;
}

/**
 * The score of an attempt in thousandths of a point: the exact sum of its questions, rounded half up once, here; null while any of them
 * waits. A sum below nothing is nothing.
 * Worked example: a third of 1 point and two thirds of 2: 1.667 points.
 */
export function attemptScore(parts: readonly { readonly points: number; readonly share: Ratio | null }[]): number | null {
  if (parts.some((p) => p.share === null)) return null;
  const total = sum(parts.map((p) => (p.share ?? ZERO).mul(ratio(p.points))));
  if (total.compare(ZERO) < 0) return 0;
  return Number((2n * total.n + total.d) / (2n * total.d));
}

/** A share that goes below what a question takes away at most, brought up to it. */
const atLeast = (earned: Ratio, least: Ratio | null): Ratio => (least !== null && earned.compare(least) < 0 ? least : earned);
const mostlyWhole = (earned: Ratio): Ratio => (earned.compare(ONE) > 0 ? ONE : earned);

/**
 * What somebody who guesses at random can expect of a question, as an exact share of its points; null where guessing has no chance that
 * could be told. Each answer counts as it would be scored: never below the question's floor, so wrong answers that cost something do
 * not cancel right ones where nothing is taken away. Pairs are guessed among the right sides that differ, those that only distract
 * included.
 * Worked example: four answers, one right, the others −50 %, floor 0: (1 + 0 + 0 + 0) / 4 = 1/4.
 */
export function expectedByGuessing(question: Pick<ScoredQuestion, 'key' | 'points' | 'floor'>): Ratio | null {
  const { key, points, floor } = question;
  const least = floor === null || points === 0 ? null : ratio(floor, points);
  if (key.kind === 'single' || key.kind === 'truth')
    return key.choices.length === 0
      ? null
      : sum(key.choices.map((c) => mostlyWhole(atLeast(share(c.share), least)))).div(ratio(key.choices.length));
  if (key.kind === 'matching') {
    const rights = new Set(key.pairs.map((p) => p.right)).size;
    return rights === 0 ? null : ratio(1, rights);
  }
  if (key.kind === 'ordering' && key.order.length > 1) {
    // Half of the pairs, on the whole; all of them in one order of n! only.
    const orders = key.order.reduce((product, _, n) => product * BigInt(n + 1), 1n);
    return key.isAllOrNothing ? ratio(1n, orders) : ratio(1, 2);
  }
  return null;
}
