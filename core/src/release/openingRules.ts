import { toRatio, ratio, type Exact } from '../exact/ratio.ts';
import { formatPoints, pointsInWords, type Thousandths } from '../exact/points.ts';

/** One thing that must be true before an item opens: a time has come, another item is done, a score is reached in one. */
export type OpeningRule =
  | { readonly kind: 'date'; readonly at: number }
  | { readonly kind: 'done'; readonly itemId: string }
  | { readonly kind: 'score'; readonly itemId: string; readonly least: Thousandths };

export interface Opening {
  /** Whether every rule must hold, or one of them is enough. */
  readonly needs: 'all' | 'any';
  readonly rules: readonly OpeningRule[];
}
export const NO_OPENING: Opening = { needs: 'all', rules: [] };

/** What is known of one student at the items that rules name. */
export interface OpeningFacts {
  readonly now: number;
  readonly isDone: (itemId: string) => boolean;
  /** The result as this student may know it; null where there is none. */
  readonly resultOf: (itemId: string) => Exact | null;
}

function holds(rule: OpeningRule, facts: OpeningFacts): boolean {
  if (rule.kind === 'date') return facts.now >= rule.at;
  if (rule.kind === 'done') return facts.isDone(rule.itemId);
  const result = facts.resultOf(rule.itemId);
  return result !== null && toRatio(result).compare(ratio(rule.least)) >= 0;
}

/**
 * The rules an item still waits for, for one student; an empty list means that it may open.
 *
 * With `needs: 'any'` one rule that holds is enough, so the list is either empty or whole. Scores compare exactly, in
 * thousandths, at or above. No rules: open.
 * Worked example: all of (done: Tolerances; at least 12 in Gear ratios); Tolerances is done, Gear ratios stands at 11.999:
 * it waits for the score alone.
 */
export function rulesWaitedFor(opening: Opening, facts: OpeningFacts): readonly OpeningRule[] {
  const waiting = opening.rules.filter((rule) => !holds(rule, facts));
  if (opening.needs === 'any' && waiting.length < opening.rules.length) return [];
  return waiting;
}

/**
 * A rule as a student reads it. An item they may not know of yet is not named.
 * Worked example: `at least 12 points in “Gear ratios”`.
 */
export function ruleInWords(rule: OpeningRule, titleOf: (itemId: string) => string | null, when: (at: number) => string): string {
  if (rule.kind === 'date') return `it is ${when(rule.at)}`;
  const title = titleOf(rule.itemId);
  const name = title === null ? 'something that is not shown yet' : `“${title}”`;
  return rule.kind === 'done' ? `${name} is done` : `you have at least ${pointsInWords(rule.least)} in ${name}`;
}

export interface RuledItem {
  readonly id: string;
  readonly title: string;
  readonly opening: Opening;
  /** Whether students can ever see it: no draft, not staff-only. A draft may still be opened by its teacher. */
  readonly isDraft: boolean;
  readonly isStaffOnly: boolean;
  /** Whether its own rule of being done can ever be met. */
  readonly canBeDone: boolean;
  readonly possible: Thousandths;
  readonly closesAt: number | null;
  readonly opensAt: number | null;
}

export interface RuleFault {
  readonly itemId: string;
  readonly text: string;
}

function faultOf(rule: OpeningRule, item: RuledItem, byId: ReadonlyMap<string, RuledItem>): string | null {
  if (rule.kind === 'date')
    return item.closesAt !== null && rule.at >= item.closesAt
      ? 'waits for a time at or after its own closing. Set an earlier time, or a later closing.'
      : null;
  const target = byId.get(rule.itemId);
  if (target === undefined) return 'waits for an item that is no longer here. Choose another, or take the rule away.';
  if (target.id === item.id) return 'waits for itself. Choose another item.';
  if (target.isStaffOnly) return `waits for “${target.title}”, which is for staff only. Choose another, or take the rule away.`;
  if (rule.kind === 'done' && !target.canBeDone)
    return `waits until “${target.title}” is done, which never happens by itself. Set there what makes it done.`;
  if (rule.kind === 'score' && target.possible === 0)
    return `asks for ${pointsInWords(rule.least)} in “${target.title}”, which has no points. Give it points, or take the rule away.`;
  if (rule.kind === 'score' && rule.least > target.possible)
    return `asks for ${pointsInWords(rule.least)} in “${target.title}”, which has ${formatPoints(target.possible)}. Ask for at most those.`;
  if (item.closesAt !== null && target.opensAt !== null && target.opensAt >= item.closesAt)
    return `waits for “${target.title}”, which opens only after this has closed. Set other dates.`;
  return null;
}

/** The items that lead round to one of them again, along the rules of those that can never open. */
function circleFrom(start: RuledItem, stuck: ReadonlyMap<string, RuledItem>): readonly RuledItem[] | null {
  const path: RuledItem[] = [];
  let at: RuledItem | undefined = start;
  while (at !== undefined && !path.includes(at)) {
    path.push(at);
    at = at.opening.rules.flatMap((r) => (r.kind === 'date' ? [] : (stuck.get(r.itemId) ?? [])))[0];
  }
  return at === start ? path : null;
}

/**
 * Rules that can never be met, and rules that turn in a circle.
 *
 * An item can open when all (or, with `any`, one) of its rules can be met; a rule on another item can be met when that one can
 * open and be done, or reach the score. The items that can open are found from those without rules upwards (a least fixed point),
 * so that a circle is never taken for an opening. With `any`, a rule that cannot be met is named only when no other holds the door
 * open. A target that is a draft counts as openable: its teacher may still open it. Each item is named once for a circle it
 * stands in. Worked example: A waits for B, B waits for A: both are named, “A waits for B, which waits for A”.
 */
export function findRuleFaults(items: readonly RuledItem[]): readonly RuleFault[] {
  const byId = new Map(items.map((item) => [item.id, item]));
  const faults = new Map(items.map((item) => [item.id, item.opening.rules.map((rule) => faultOf(rule, item, byId))]));
  const canOpen = new Set<string>();
  const canMeet = (item: RuledItem, n: number): boolean => {
    const rule = item.opening.rules[n] as OpeningRule;
    return faults.get(item.id)?.[n] === null && (rule.kind === 'date' || canOpen.has(rule.itemId));
  };
  const opensNow = (item: RuledItem): boolean => {
    const met = item.opening.rules.map((_, n) => canMeet(item, n));
    return item.opening.needs === 'all' || met.length === 0 ? met.every(Boolean) : met.some(Boolean);
  };
  for (let grew = true; grew;) {
    grew = false;
    for (const item of items) {
      if (canOpen.has(item.id) || !opensNow(item)) continue;
      canOpen.add(item.id);
      grew = true;
    }
  }
  const stuck = new Map(items.filter((i) => !canOpen.has(i.id)).map((i) => [i.id, i]));
  return [...stuck.values()].flatMap((item): RuleFault[] => {
    const own = (faults.get(item.id) ?? []).filter((f) => f !== null);
    if (own.length > 0) return own.map((text) => ({ itemId: item.id, text: `“${item.title}” ${text}` }));
    const circle = circleFrom(item, stuck);
    // What waits for something stuck elsewhere is mended there.
    if (circle === null) return [];
    const rest = [...circle.slice(1), item].map((i) => `“${i.title}”`).join(', which waits for ');
    return [{ itemId: item.id, text: `“${item.title}” can never open: it waits for ${rest}. Take one of these rules away.` }];
  });
}
