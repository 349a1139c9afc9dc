import type { QuizSetting, RunningAttempt, RunningAsked } from '@rosemary/api';
import { countOf, termEnd } from '@rosemary/core';
import { findQuizzes } from '../kinds/quiz/index.ts';
import { datedOf, makeDatesFor, readReach } from '../opening/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { getTerm } from '../term/index.ts';

type Field = Exclude<keyof QuizSetting, 'version'>;

/**
 * What a change of each field of a setting does to attempts that are running. With words: it is part of the terms they began under, so it
 * is asked whether they keep it. `begin` is asked when somebody begins and never again; `result` is about results, whose ripple is shown;
 * `text` is what is read before.
 */
const TOUCHES: { readonly [field in Field]: { readonly words: string } | 'begin' | 'result' | 'text' } = {
  taken: 'begin',
  instructions: 'text',
  layout: { words: 'how many questions stand on a page' },
  mayGoBack: { words: 'whether one may go back' },
  shufflesSections: 'begin',
  shufflesAnswers: { words: 'the order of the answers' },
  limitMinutes: { words: 'the time limit' },
  atEnd: { words: 'what happens when the time is over' },
  attemptsAllowed: { words: 'the number of attempts' },
  counted: 'result',
  retryUntil: { words: 'the points that end further attempts' },
  review: { words: 'what is shown afterwards' },
  allowsCalculator: { words: 'the calculator' },
  accessCode: 'begin',
  allowedAddresses: 'begin',
  recordsLeaving: { words: 'whether leaving the page is noted' },
  discouragesCopying: { words: 'whether copying is made harder' },
  passPoints: 'result',
  meritPoints: 'result',
};
const FIELDS = (Object.keys(TOUCHES) as Field[]).filter((field) => typeof TOUCHES[field] === 'object');
const WORDS: ReadonlyMap<string, string> = new Map([
  ...FIELDS.map((field): [string, string] => [field, (TOUCHES[field] as { words: string }).words]),
  ['closesAt', 'when it closes'],
  ['isThere', 'whether they have it at all'],
]);

/** What an attempt keeps, where the quiz has changed since it began. */
export type Kept = Partial<QuizSetting> & { readonly closesAt?: number | null };

/** The setting an attempt is taken under: the quiz’s, with what the attempt keeps. */
export const termsOf = (setting: QuizSetting, { kept }: { readonly kept: Kept }): QuizSetting => ({ ...setting, ...kept });

/** The setting by which it is decided whether another attempt may follow: as the last one was begun under. */
export const termsAfter = (setting: QuizSetting, taken: readonly { readonly kept: Kept }[]): QuizSetting => {
  const { attemptsAllowed = setting.attemptsAllowed, retryUntil = setting.retryUntil } = taken.at(-1)?.kept ?? {};
  return { ...setting, attemptsAllowed, retryUntil };
};

type Terms = { readonly [field: string]: unknown };

interface RunningTerms extends RunningAttempt {
  readonly id: string;
  readonly title: string;
  /** What whoever begins now would begin under. */
  readonly live: Terms;
  /** What this attempt is under. */
  readonly own: Terms;
}

interface Row {
  id: string;
  item_id: string;
  title: string;
  name: string;
  begun_at: Date;
  ends_at: Date | null;
  enrolment_id: string;
  section_id: string | null;
  kept: Terms;
  is_there: boolean;
  announced_at: Date | null;
  opens_at: Date | null;
  due_at: Date | null;
  closes_at: Date | null;
}

/** Every attempt that is running in a course with its terms, the first to begin first. */
async function readRunning(db: Db, courseId: string): Promise<RunningTerms[]> {
  const found = await rows<Row>(
    db,
    `select t.id, t.item_id, i.title, p.given_name || ' ' || p.family_name as name, t.begun_at, t.ends_at, t.enrolment_id, e.section_id,
       jsonb_build_object('limitMinutes', t.limit_minutes, 'atEnd', t.at_end) || t.kept as kept, not i.is_draft and i.removed_at is null as is_there, i.announced_at, i.opens_at, i.due_at, i.closes_at
     from quiz_attempt t join item i on i.id = t.item_id join enrolment e on e.id = t.enrolment_id join person p on p.id = e.person_id
     where i.course_id = $1 and t.state = 'open' order by t.begun_at, t.id`,
    [courseId],
  );
  if (found.length === 0) return [];
  const settings = await findQuizzes(db, [...new Set(found.map((row) => row.item_id))]);
  const { zone, term } = await getTerm(db, courseId);
  const reach = await readReach(db, courseId);
  const datesFor = await makeDatesFor(db, courseId, zone, termEnd(term, zone), reach);
  return found.map((row) => {
    const person = { enrolmentId: row.enrolment_id, sectionId: row.section_id };
    const dated = datedOf(row.item_id, row);
    const setting = settings.get(row.item_id);
    const live: Terms = {
      ...Object.fromEntries(FIELDS.map((field) => [field, setting?.[field] ?? null])),
      closesAt: datesFor(dated, person).closes.at,
      isThere: row.is_there && reach.isFor(row.item_id, person),
    };
    return {
      id: row.id,
      title: row.title,
      name: row.name,
      begunAt: row.begun_at.toISOString(),
      endsAt: row.ends_at?.toISOString() ?? null,
      live,
      own: { ...live, ...row.kept },
    };
  });
}

const differs = (a: unknown, b: unknown): boolean => JSON.stringify(a) !== JSON.stringify(b);

interface Touched {
  readonly was: RunningTerms;
  readonly is: RunningTerms;
  readonly fields: readonly string[];
}

function touchedOf(before: readonly RunningTerms[], after: readonly RunningTerms[]): Touched[] {
  const later = new Map(after.map((one) => [one.id, one]));
  return before.flatMap((was) => {
    const is = later.get(was.id);
    // What is no longer open was dealt with by name.
    if (is === undefined) return [];
    const fields = Object.keys(was.live).filter(
      (field) => differs(was.live[field], is.live[field]) && differs(was.own[field], is.live[field]),
    );
    return fields.length === 0 ? [] : [{ was, is, fields }];
  });
}

const MOST = 500;
const inWords = (words: readonly string[]): string => new Intl.ListFormat('en').format(words);

function askWhom(touched: readonly Touched[]): AppError {
  const fields = [...new Set(touched.flatMap((t) => t.fields))];
  const words = fields.map((field) => WORDS.get(field) ?? field);
  const titles = [...new Set(touched.map((t) => `“${t.is.title}”`))];
  const asked: RunningAsked = {
    titles,
    fields: words,
    canKeep: !fields.includes('isThere'),
    running: touched.slice(0, MOST).map(({ was }) => ({ name: was.name, begunAt: was.begunAt, endsAt: was.endsAt })),
  };
  const are = touched.length === 1 ? 'is' : 'are';
  return new AppError(
    'running',
    `${countOf(touched.length, 'student')} ${are} taking ${inWords(titles)} now, and this changes ${inWords(words)}. Nothing was changed: say first whether it is for them too.`,
    [],
    asked,
  );
}

/** What those who have begun keep is written to their attempts. */
async function keepTerms(db: Db, touched: readonly Touched[]): Promise<void> {
  if (touched.some((t) => t.fields.includes('isThere')))
    throw new AppError(
      'not-now',
      'Nobody can go on with a quiz they no longer have. Wait until they have handed in, or take it from them too.',
    );
  const kept = touched.map(({ was, fields }) =>
    Object.fromEntries(fields.filter((f) => f !== 'limitMinutes' && f !== 'atEnd').map((f) => [f, was.own[f]])),
  );
  await run(db, 'update quiz_attempt a set kept = a.kept || t.kept from unnest($1::uuid[], $2::jsonb[]) as t(id, kept) where a.id = t.id', [
    touched.map((t) => t.was.id),
    kept.map((k) => JSON.stringify(k)),
  ]);
}

/** The new terms are given to those who have begun. */
async function giveTerms(db: Db, touched: readonly Touched[]): Promise<void> {
  const given = touched.map(({ is, fields }) => ({
    id: is.id,
    fields: fields.join(' '),
    limit: fields.includes('limitMinutes') ? is.live.limitMinutes : is.own.limitMinutes,
    end: fields.includes('atEnd') ? is.live.atEnd : is.own.atEnd,
  }));
  await run(
    db,
    `update quiz_attempt a set kept = a.kept - string_to_array(t.fields, ' '), limit_minutes = t.limits, at_end = t.at_end, version = a.version + 1
     from unnest($1::uuid[], $2::text[], $3::int[], $4::text[]) as t(id, fields, limits, at_end) where a.id = t.id`,
    [given.map((g) => g.id), given.map((g) => g.fields), given.map((g) => g.limit), given.map((g) => g.end)],
  );
}

/** Whether those who have begun keep their terms, or are given the new ones too. */
export type ForRunning = 'keep' | 'give';

/**
 * Carries out a change in a course, and minds those who are taking a quiz in it: where what they take it under would change, it is asked
 * first whom it is for. Whatever writes it, and by whatever way: the terms are read before and after.
 */
export async function mindRunning(db: Db, courseId: string, choice: string | undefined, change: () => Promise<unknown>): Promise<unknown> {
  const before = await readRunning(db, courseId);
  const answer = await change();
  if (before.length === 0) return answer;
  const touched = touchedOf(before, await readRunning(db, courseId));
  if (touched.length === 0) return answer;
  // Thrown, so that the transaction is taken back.
  if (choice !== 'keep' && choice !== 'give') throw askWhom(touched);
  await (choice === 'keep' ? keepTerms : giveTerms)(db, touched);
  return answer;
}
