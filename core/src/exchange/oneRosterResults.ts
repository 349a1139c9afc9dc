import { formatPoints, type Thousandths } from '../exact/points.ts';

/** A category of results; weights are thousandths of a percent. */
export interface RosterCategory {
  readonly key: string;
  readonly title: string;
  readonly weightPercent: Thousandths;
}
/** A column of results in one class. Days are written 2026-09-21. */
export interface RosterLine {
  readonly key: string;
  readonly title: string;
  readonly classKey: string;
  readonly categoryKey: string | null;
  readonly assignedOn: string;
  readonly dueOn: string;
  readonly possible: Thousandths;
}
export interface RosterResult {
  readonly lineKey: string;
  readonly studentKey: string;
  readonly classKey: string;
  /** What stands there: a result, or a state without one. */
  readonly state: 'marked' | 'missing' | 'exempt' | 'unfinished' | 'waits';
  /** As it is read, a plain decimal; empty where there is none. */
  readonly score: string;
  /** The letter or word it is read as; empty where it is not read so. */
  readonly text: string;
  readonly isLate: boolean;
  readonly day: string;
  readonly comment: string;
}

const STATUS: { readonly [state in RosterResult['state']]: string } = {
  marked: 'fully graded',
  missing: 'not submitted',
  exempt: 'exempt',
  unfinished: 'partially graded',
  waits: 'submitted',
};
/** The files of the standard, each said to be here or not. */
const FILES = [
  ...['academicSessions', 'categories', 'classes', 'classResources', 'courses', 'courseResources', 'demographics', 'enrollments'],
  ...['lineItemLearningObjectiveIds', 'lineItems', 'lineItemScoreScales', 'orgs', 'resources', 'resultLearningObjectiveIds', 'results'],
  ...['resultScoreScales', 'roles', 'scoreScales', 'userProfiles', 'userResources', 'users'],
] as const;
const HERE: ReadonlySet<string> = new Set(['categories', 'lineItems', 'results']);

type Table = readonly (readonly string[])[];

/**
 * Results of a course as the files of OneRoster 1.2 CSV (1EdTech): a line item for each column in each class, and a result for whoever has
 * something there. Bulk files leave status and date of change empty, as the standard asks. Points and weights are thousandths and are written
 * as decimals; lines of a category that is not here are refused with an error, since they could not be read again.
 * Source: 1EdTech OneRoster 1.2 CSV binding, gradebook files. Worked example: one category, one column in one class and one result of 45.5
 * give a `results.csv` of two lines, the second with the status `fully graded` and the score `45.5`.
 */
export function writeOneRosterResults(
  source: { readonly name: string; readonly code: string },
  categories: readonly RosterCategory[],
  lines: readonly RosterLine[],
  results: readonly RosterResult[],
): ReadonlyMap<string, Table> {
  const known = new Set(categories.map((c) => c.key));
  const lost = lines.find((line) => line.categoryKey !== null && !known.has(line.categoryKey));
  if (lost !== undefined) throw new Error(`“${lost.title}” is in a category that is not written.`);
  const yes = (is: boolean): string => (is ? 'true' : 'false');
  return new Map<string, Table>([
    [
      'manifest.csv',
      [
        ['propertyName', 'value'],
        ['manifest.version', '1.0'],
        ['oneroster.version', '1.2'],
        ...FILES.map((file) => [`file.${file}`, HERE.has(file) ? 'bulk' : 'absent']),
        ['source.systemName', source.name],
        ['source.systemCode', source.code],
      ],
    ],
    [
      'categories.csv',
      [
        ['sourcedId', 'status', 'dateLastModified', 'title', 'weight'],
        ...categories.map((c) => [c.key, '', '', c.title, formatPoints(c.weightPercent)]),
      ],
    ],
    [
      'lineItems.csv',
      [
        [
          ...['sourcedId', 'status', 'dateLastModified', 'title', 'description', 'assignDate', 'dueDate', 'classSourcedId'],
          ...['categorySourcedId', 'gradingPeriodSourcedId', 'resultValueMin', 'resultValueMax', 'schoolSourcedId'],
        ],
        ...lines.map((l) => [
          ...[l.key, '', '', l.title, '', l.assignedOn, l.dueOn, l.classKey],
          ...[l.categoryKey ?? '', '', '0', formatPoints(l.possible), ''],
        ]),
      ],
    ],
    [
      'results.csv',
      [
        [
          ...['sourcedId', 'status', 'dateLastModified', 'lineItemSourcedId', 'studentSourcedId', 'scoreStatus', 'score', 'scoreDate'],
          ...['comment', 'scoreScaleSourcedId', 'textScore', 'classSourcedId', 'inProgress', 'incomplete', 'late', 'missing'],
        ],
        ...results.map((r) => [
          ...[`${r.lineKey}:${r.studentKey}`, '', '', r.lineKey, r.studentKey, STATUS[r.state], r.score, r.day],
          ...[r.comment, '', r.text, r.classKey, yes(r.state === 'waits'), yes(r.state === 'unfinished'), yes(r.isLate)],
          yes(r.state === 'missing'),
        ]),
      ],
    ],
  ]);
}
