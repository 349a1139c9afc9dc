import type { MarkView, RubricView } from '@rosemary/api';
import { formatPoints, plainText } from '@rosemary/core';

type Marked = Pick<MarkView, 'choices' | 'given' | 'comments' | 'feedback' | 'scoreReason' | 'total'>;

/** How a mark judges one criterion, in words: its level, points or count, and what was said. */
function judged(criterion: RubricView['criteria'][number], mark: Marked): string {
  const level = criterion.levels.find((l) => l.id === mark.choices[criterion.id]);
  const given = mark.given[criterion.id];
  const points = given === undefined ? '' : criterion.form === 'count' ? String(given) : formatPoints(given);
  const words = level === undefined ? points : [level.title || formatPoints(level.points), points].filter((word) => word !== '').join(', ');
  return [words, mark.comments[criterion.id] ?? ''].filter((word) => word !== '').join('\n');
}

/** Two marks of the same work, line by line, to be held against each other. */
export function markLines(criteria: RubricView['criteria'], theirs: Marked, mine: Marked) {
  const line = (what: string, of: (mark: Marked) => string) => ({ what, theirs: of(theirs), mine: of(mine) });
  return [
    line('Score', (mark) => (mark.total === null ? 'none yet' : formatPoints(mark.total))),
    line('Reason for the score', (mark) => mark.scoreReason),
    ...criteria.map((criterion) => line(criterion.title, (mark) => judged(criterion, mark))),
    line('Feedback', (mark) => plainText(mark.feedback)),
  ];
}
