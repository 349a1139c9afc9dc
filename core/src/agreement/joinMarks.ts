import { plainText, type DocumentNode } from '../document/plainText.ts';
import { formatPoints, type Thousandths } from '../exact/points.ts';
import { criterionPoints, type RubricCriterion } from '../grading/rubric.ts';

/** What one of two markers gave. */
export interface OneMark {
  readonly choices: { readonly [criterionId: string]: string };
  readonly given: { readonly [criterionId: string]: number };
  readonly comments: { readonly [criterionId: string]: string };
  readonly feedback: DocumentNode | null;
  readonly total: Thousandths | null;
}
/** Both as one mark, which says how it came about. */
export interface JoinedMark extends Omit<OneMark, 'total'> {
  readonly score: Thousandths;
  readonly scoreReason: string;
}

const NAMES = ['First marker', 'Second marker'] as const;
/** Half up, to a thousandth of a point. */
const meanOf = (a: Thousandths, b: Thousandths): Thousandths => Math.floor((a + b + 1) / 2);

function joinFeedback(marks: readonly [OneMark, OneMark]): DocumentNode | null {
  const said = marks.map((m) => (plainText(m.feedback).trim() === '' ? null : m.feedback));
  const [first, second] = said;
  if (!first && !second) return null;
  const content = said.flatMap((document, n): DocumentNode[] =>
    document === null || document === undefined
      ? []
      : [
          { type: 'paragraph', content: [{ type: 'text', text: `${NAMES[n] ?? ''}:`, marks: [{ type: 'bold' }] }] },
          ...(document.content ?? []),
        ],
  );
  return { type: 'doc', content };
}

/**
 * The mean of what two markers gave, with what led to it: where both chose the same level it stands; where they did not, the first marker’s
 * stands and the words of the criterion say what each gave; comments and feedback of both are kept under their own names.
 *
 * The score is the mean of the two totals, rounded half up to a thousandth of a point; a total that is missing counts as 0. Marks are
 * `[first, second]` in the order of their slots.
 * Worked example: totals of 52 and 35 points give 43.5, because “the mean of two markers: 52 and 35”.
 */
export function joinMarks(criteria: readonly RubricCriterion[], marks: readonly [OneMark, OneMark]): JoinedMark {
  const [a, b] = marks;
  const comments: Record<string, string> = {};
  for (const c of criteria) {
    const points = marks.map((m) => criterionPoints(c, { choices: m.choices, given: m.given }));
    const level = (m: OneMark): string => c.levels.find((l) => l.id === m.choices[c.id])?.title ?? '';
    const isApart = points[0] !== points[1] || a.choices[c.id] !== b.choices[c.id];
    const words = marks.flatMap((m, n) => {
      const own = m.comments[c.id]?.trim() ?? '';
      const gave =
        points[n] === null || points[n] === undefined ? '' : [level(m), formatPoints(points[n])].filter((w) => w !== '').join(', ');
      const text = [isApart && c.form !== 'comment' ? gave : '', own].filter((w) => w !== '').join('. ');
      return text === '' ? [] : [`${NAMES[n] ?? ''}: ${text}`];
    });
    if (words.length > 0) comments[c.id] = words.join(' ');
  }
  return {
    choices: { ...b.choices, ...a.choices },
    given: { ...b.given, ...a.given },
    comments,
    feedback: joinFeedback(marks),
    score: meanOf(a.total ?? 0, b.total ?? 0),
    scoreReason: `the mean of two markers: ${formatPoints(a.total ?? 0)} and ${formatPoints(b.total ?? 0)}`,
  };
}
