import { ratio, type Ratio } from '../exact/ratio.ts';

/**
 * Where one student stands at one item, as one sign, so that a class of thousands is a short text for each: not for them, not open yet, then
 * open and not done or done, first of what is required, then of what is not.
 */
export const STEPS = { notFor: '-', notYet: '.', open: '0', done: '1', extra: 'n', extraDone: 'd' } as const;
export type Step = (typeof STEPS)[keyof typeof STEPS];

/** How a student stands at an item. */
export interface ItemStanding {
  readonly isFor: boolean;
  readonly isRequired: boolean;
  /** Open or past for them. */
  readonly isDue: boolean;
  readonly isDone: boolean;
}
/** The sign of a standing. Example: required, open and done is `1`. */
export function stepOf({ isFor, isRequired, isDue, isDone }: ItemStanding): Step {
  if (!isFor) return STEPS.notFor;
  if (!isDue) return STEPS.notYet;
  if (!isRequired) return isDone ? STEPS.extraDone : STEPS.extra;
  return isDone ? STEPS.done : STEPS.open;
}

/** A sign in words. Example: `0` is `not done`. */
export const STEP_WORDS: { readonly [step in Step]: string } = {
  '-': 'not for them',
  '.': 'not open yet',
  '0': 'not done',
  '1': 'done',
  n: 'not required',
  d: 'not required, done',
};
const isStep = (sign: string | undefined): sign is Step => sign !== undefined && sign in STEP_WORDS;
/** The sign at a place of a text of signs; beyond its end nothing is for them. */
export const stepAt = (steps: string, place: number): Step => (isStep(steps[place]) ? steps[place] : STEPS.notFor);

/**
 * The share of a student over some items: done required items / required items open or past for them, or the same by minutes. Null where nothing
 * of it is open. `places` are the places of the items in `steps` and `minutes`.
 * Worked example: of the signs `110.` at the places 0, 1, 2 and 3 it is 2/3 by items.
 */
export function shareOfSteps(steps: string, places: readonly number[], minutes: readonly number[], by: 'items' | 'minutes'): Ratio | null {
  let [done, all] = [0, 0];
  for (const place of places) {
    const step = steps[place];
    if (step !== STEPS.open && step !== STEPS.done) continue;
    const weight = by === 'items' ? 1 : (minutes[place] ?? 0);
    all += weight;
    if (step === STEPS.done) done += weight;
  }
  return all === 0 ? null : ratio(done, all);
}
