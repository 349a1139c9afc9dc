import type { Rehearsal, TryResult, TryWish } from '@rosemary/api';
import { KEY_RULES, type QuestionContent, type QuestionKey } from '@rosemary/core';
import { rows, run, type Db } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { jobInSteps } from '../platform/jobs.ts';
import { inThread } from '../platform/thread.ts';
import { titleOf } from './titleOf.ts';
import checkKeys, { type KeySaid, type KeyWish, type PastAnswer } from './checkKeys.ts';

/** Every operation has its price and every key its budget, so this is only reached where the machine itself is too slow. */
const LONGEST_MS = 20_000;
const inItsThread = inThread<KeyWish, KeySaid[KeyWish['act']]>('checkKeys', checkKeys, {
  threads: 1,
  megabytes: 256,
  milliseconds: LONGEST_MS,
});

/** Answers what is asked of keys, in a thread; where that is too slow for it, it says so. */
async function ask<A extends KeyWish['act']>(wish: Extract<KeyWish, { act: A }>): Promise<KeySaid[A]> {
  try {
    return (await inItsThread(wish)) as KeySaid[A];
  } catch (error) {
    // A thread that was ended for its time or its memory; any other fault is one of ours.
    if (error instanceof Error && (error.name === 'AbortError' || 'code' in error))
      throw new AppError('busy', 'Checking this key took too long. Try again in a minute, or make its formula or its patterns simpler.');
    throw error;
  }
}

/** What keeps each of these questions from being asked, in their order. */
export const faultsOf = async (contents: readonly QuestionContent[]): Promise<KeySaid['faults']> =>
  contents.length === 0 ? [] : ask<'faults'>({ act: 'faults', contents });

interface Kept {
  readonly faults: readonly string[] | null;
  readonly faults_by: number | null;
}

/** The faults kept with each of these versions; those found by older rules, or never, are found now. */
export async function keptFaults(found: readonly (Kept & QuestionContent)[]): Promise<KeySaid['faults']> {
  const isKnown = (row: Kept): boolean => row.faults !== null && row.faults_by === KEY_RULES;
  const unknown = found.filter((row) => !isKnown(row));
  const fresh = await faultsOf(unknown.map(({ words, key, feedback, picture }) => ({ words, key, feedback, picture })));
  const of = new Map(unknown.map((row, n) => [row, fresh[n] ?? []]));
  return found.map((row) => of.get(row) ?? row.faults ?? []);
}

/** What keeps the newest version of each of these questions from being asked, as it was found when that was written. */
export async function listFaults(db: Db, questionIds: readonly string[]): Promise<ReadonlyMap<string, readonly string[]>> {
  const found = await rows<Kept & QuestionContent & { id: string }>(
    db,
    `select q.id, v.words, v.key, v.feedback, v.picture, v.faults, v.faults_by from question q
       join question_version v on v.question_id = q.id and v.number = q.newest where q.id = any($1)`,
    [questionIds],
  );
  const faults = await keptFaults(found);
  return new Map(found.map((row, n) => [row.id, faults[n] ?? []]));
}

/** The first of these versions that cannot be asked as it is, with what it is called and why; null where all of them can. */
export async function findFaulty(
  db: Db,
  wanted: readonly { readonly id: string; readonly number: number }[],
): Promise<{ readonly title: string; readonly fault: string } | null> {
  const found = await rows<Kept & QuestionContent & { title: string; plain: string }>(
    db,
    `select q.title, v.plain, v.words, v.key, v.feedback, v.picture, v.faults, v.faults_by from unnest($1::uuid[], $2::int[]) with ordinality as w(id, number, place)
       join question q on q.id = w.id join question_version v on v.question_id = w.id and v.number = w.number order by w.place`,
    [wanted.map((w) => w.id), wanted.map((w) => w.number)],
  );
  const faults = await keptFaults(found);
  const at = faults.findIndex((f) => f.length > 0);
  const row = found[at];
  return row === undefined ? null : { title: titleOf(row.title, row.plain), fault: faults[at]?.[0] ?? '' };
}

/** What an answer would earn, with the rule that says so, as a share and of one point. */
export async function tryAnswer(content: QuestionContent, questionId: string, wish: TryWish): Promise<TryResult> {
  const tried = await ask<'try'>({ act: 'try', key: wish.key ?? content.key, questionId, seed: wish.seed, answer: wish.answer });
  if (!tried.ok) throw new AppError('invalid', tried.reason);
  return tried.result;
}

const MOST_ROWS = 60;

/** A key run against what was answered before and against near misses of what it accepts, so that one sees what it takes and what it leaves. */
export async function rehearseKey(db: Db, questionId: string, key: QuestionKey): Promise<Rehearsal> {
  const before = await rows<PastAnswer>(
    db,
    `select a.answer, count(*)::int as times from quiz_answer a join quiz_attempt t on t.id = a.attempt_id where a.question_id = $1 and t.state = 'handed in' and a.answer is not null and a.answer <> 'null'
     group by a.answer order by times desc limit ${MOST_ROWS}`,
    [questionId],
  );
  return ask<'rehearse'>({ act: 'rehearse', key, before });
}

/** Folders at once, and versions of one. */
const [MOST_FOLDERS, MOST_VERSIONS] = [20, 500];
const OLD = `v.faults is null or v.faults_by is distinct from ${KEY_RULES}`;

/** Finds the faults of keys that were kept before there were verdicts, or by rules that have changed since: folder by folder. */
export const checkOldKeys = jobInSteps<{ id: string }>({
  name: 'check-keys',
  due: (db) =>
    rows(
      db,
      `select distinct q.folder_id as id from question_version v join question q on q.id = v.question_id where ${OLD} limit ${MOST_FOLDERS}`,
    ),
  one: async (work, { id }) => {
    const found = await work.read((db) =>
      rows<QuestionContent & { question_id: string; number: number }>(
        db,
        `select v.question_id, v.number, v.words, v.key, v.feedback, v.picture from question_version v join question q on q.id = v.question_id
         where q.folder_id = $1 and (${OLD}) limit ${MOST_VERSIONS}`,
        [id],
      ),
    );
    const faults = await faultsOf(found.map(({ words, key, feedback, picture }) => ({ words, key, feedback, picture })));
    await work.write((db) =>
      // What was written in between has its own verdict already.
      run(
        db,
        `update question_version v set faults = w.faults, faults_by = ${KEY_RULES}
         from jsonb_to_recordset($1) as w(id uuid, number int, key jsonb, words jsonb, faults jsonb)
         where v.question_id = w.id and v.number = w.number and v.key = w.key and v.words = w.words and (${OLD})`,
        [
          JSON.stringify(
            found.map((v, n) => ({ id: v.question_id, number: v.number, key: v.key, words: v.words, faults: faults[n] ?? [] })),
          ),
        ],
      ),
    );
  },
});
