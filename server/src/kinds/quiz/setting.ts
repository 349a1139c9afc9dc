import { checkDocument, type PlanItem, type QuizChange, type QuizSetting } from '@rosemary/api';
import { decimalText, type DocumentNode, formatPoints, pointsInWords, scoreTimingFault } from '@rosemary/core';
import ipaddr from 'ipaddr.js';
import { getPlanItem } from '../../items/index.ts';
import { type Db, rows, run } from '../../platform/database.ts';
import { conflict, invalid, notFound } from '../../platform/errors.ts';

interface SettingRow {
  item_id: string;
  taken: QuizSetting['taken'];
  instructions: DocumentNode;
  layout: QuizSetting['layout'];
  may_go_back: boolean;
  shuffles_sections: boolean;
  shuffles_answers: boolean;
  limit_minutes: number | null;
  at_end: QuizSetting['atEnd'];
  attempts_allowed: number | null;
  counted: QuizSetting['counted'];
  retry_until: number | null;
  review: QuizSetting['review'];
  allows_calculator: boolean;
  access_code: string;
  allowed_addresses: string[];
  records_leaving: boolean;
  discourages_copying: boolean;
  pass_points: number | null;
  merit_points: number | null;
  version: number;
}

/** The settings of quizzes, by their items. */
export async function findQuizzes(db: Db, itemIds: readonly string[]): Promise<ReadonlyMap<string, QuizSetting>> {
  const found = await rows<SettingRow>(
    db,
    `select item_id, taken, instructions, layout, may_go_back, shuffles_sections, shuffles_answers, limit_minutes, at_end, attempts_allowed, counted, (retry_until * 1000)::int as retry_until, review,
       allows_calculator, access_code, allowed_addresses, records_leaving, discourages_copying, (pass_points * 1000)::int as pass_points, (merit_points * 1000)::int as merit_points, version
     from quiz where item_id = any($1)`,
    [itemIds],
  );
  return new Map(
    found.map((row): [string, QuizSetting] => [
      row.item_id,
      {
        version: row.version,
        taken: row.taken,
        instructions: row.instructions,
        layout: row.layout,
        mayGoBack: row.may_go_back,
        shufflesSections: row.shuffles_sections,
        shufflesAnswers: row.shuffles_answers,
        limitMinutes: row.limit_minutes,
        atEnd: row.at_end,
        attemptsAllowed: row.attempts_allowed,
        counted: row.counted,
        retryUntil: row.retry_until,
        review: row.review,
        allowsCalculator: row.allows_calculator,
        accessCode: row.access_code,
        allowedAddresses: row.allowed_addresses,
        recordsLeaving: row.records_leaving,
        discouragesCopying: row.discourages_copying,
        passPoints: row.pass_points,
        meritPoints: row.merit_points,
      },
    ]),
  );
}

export const findQuiz = async (db: Db, itemId: string): Promise<QuizSetting | null> =>
  (await findQuizzes(db, [itemId])).get(itemId) ?? null;

export async function getQuiz(db: Db, itemId: string): Promise<QuizSetting> {
  const found = await findQuiz(db, itemId);
  if (found === null) throw notFound();
  return found;
}

const COLUMNS: { readonly [field in Exclude<keyof QuizSetting, 'version'>]: string } = {
  taken: 'taken',
  instructions: 'instructions',
  layout: 'layout',
  mayGoBack: 'may_go_back',
  shufflesSections: 'shuffles_sections',
  shufflesAnswers: 'shuffles_answers',
  limitMinutes: 'limit_minutes',
  atEnd: 'at_end',
  attemptsAllowed: 'attempts_allowed',
  counted: 'counted',
  retryUntil: 'retry_until',
  review: 'review',
  allowsCalculator: 'allows_calculator',
  accessCode: 'access_code',
  allowedAddresses: 'allowed_addresses',
  recordsLeaving: 'records_leaving',
  discouragesCopying: 'discourages_copying',
  passPoints: 'pass_points',
  meritPoints: 'merit_points',
};

const IN_POINTS = new Set(['retryUntil', 'passPoints', 'meritPoints']);

/** An address of the network, or a range of them; null is neither. */
export function readRange(text: string): [ipaddr.IPv4 | ipaddr.IPv6, number] | null {
  try {
    const one = ipaddr.isValid(text) ? ipaddr.process(text) : null;
    return one === null ? ipaddr.parseCIDR(text) : [one, one.kind() === 'ipv4' ? 32 : 128];
  } catch {
    return null;
  }
}

function checkSetting(next: QuizSetting, item: PlanItem): void {
  const check = checkDocument(next.instructions);
  if (!check.ok) throw invalid('instructions', check.reason);
  for (const address of next.allowedAddresses) {
    if (readRange(address) === null)
      throw invalid(
        'allowedAddresses',
        `“${address}” is no address of the network. Write one like 192.0.2.7, or a range like 192.0.2.0/24.`,
      );
  }
  if (next.passPoints !== null && next.meritPoints !== null && next.meritPoints <= next.passPoints)
    throw invalid('meritPoints', 'The second line of attainment lies above the first. Give it more points.');
  for (const [field, points] of [
    ['passPoints', next.passPoints],
    ['meritPoints', next.meritPoints],
    ['retryUntil', next.retryUntil],
  ] as const)
    if (points !== null && item.possible > 0 && points > item.possible)
      throw invalid(
        field,
        `${pointsInWords(points)} cannot be reached: the quiz has ${formatPoints(item.possible)}. Type no more than that.`,
      );
  const timing = scoreTimingFault(item.releaseMode, next.review.score.kind, next.retryUntil);
  if (timing !== null) throw invalid('review', timing);
  for (const [what, when] of Object.entries(next.review))
    if (when.kind === 'window' && Date.parse(when.to) <= Date.parse(when.from))
      throw invalid('review', `The time in which the ${what} can be seen ends before it begins. Change one of the two.`);
}

export async function saveQuiz(db: Db, courseId: string, itemId: string, change: QuizChange, now: number): Promise<QuizSetting> {
  const item = await getPlanItem(db, courseId, itemId, now);
  const current = await getQuiz(db, itemId);
  if (current.version !== change.version) throw conflict(current);
  checkSetting({ ...current, ...change }, item);
  const fields = (Object.keys(COLUMNS) as (keyof typeof COLUMNS)[]).filter((field) => change[field] !== undefined);
  const values = fields.map((field) => {
    const value = change[field];
    return IN_POINTS.has(field) && typeof value === 'number' ? decimalText(value) : value;
  });
  await run(
    db,
    `update quiz set ${[...fields.map((field, n) => `${COLUMNS[field]} = $${n + 2}`), 'version = version + 1'].join(', ')} where item_id = $1`,
    [itemId, ...values],
  );
  const after = await getQuiz(db, itemId);
  // What was handed in is looked at by the rule as it is now.
  if (change.review !== undefined)
    await run(db, "update quiz_attempt set kept = kept - 'review' where item_id = $1 and state <> 'open' and kept ? 'review'", [itemId]);
  return after;
}
