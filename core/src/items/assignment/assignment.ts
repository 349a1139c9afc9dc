import { HANDED_IN, type KindFault, type KindOfItem, WORK_RULES } from '../kindOfItem.ts';

export const assignment: KindOfItem = {
  word: 'assignment',
  reviewed: 'works',
  isWork: true,
  marking: 'work',
  hasOwnPoints: true,
  isInClass: false,
  isOnScreen: false,
  hasText: true,
  canStand: false,
  column: 'always',
  doneRules: [...WORK_RULES, 'reviewed', 'handed in and reviewed', 'handed in or reviewed'],
  typing: 'writing',
  ...HANDED_IN,
  // Each mark goes out as it is finished, unless the teacher holds them for one day.
  begins: { possible: 10_000, estimatedMinutes: 60, markingMinutes: 8, releaseMode: 'finished', counts: true },
  faults: ({ title, isEmpty, hasDue, takesWork, doneRule, isReviewed }) => {
    const found: KindFault[] = [];
    if (!hasDue) found.push({ weight: 'look', text: `“${title}” has no due date.`, place: 'dueAt' });
    if (isEmpty) found.push({ weight: 'look', text: `“${title}” has no instructions.`, place: 'text' });
    if (!takesWork)
      found.push({ weight: 'mend', text: `“${title}” takes neither text nor files, so nothing can be handed in.`, place: 'setting' });
    if (doneRule.includes('reviewed') && !isReviewed)
      found.push({
        weight: 'mend',
        text: `“${title}” is done when reviews are given, and no student reviews another there. Choose another rule, or let students review each other.`,
        place: 'doneRule',
      });
    return found;
  },
};
