import type { Request } from 'express';
import { createHash } from 'node:crypto';
import { maybe, often, run, type Db } from './database.ts';

/** Answers larger than this are not kept: sent again, such a write is a conflict as it is without this. */
const MOST_BYTES = 131_072;
const DAY = 86_400_000;

/** What a write says it saw: sent twice, the second would be refused as if somebody else had been there. */
const SEEN = ['version', 'seenEventId'] as const;

/** What tells a write from every other; null for one that names nothing it saw, which is done again as it is asked. */
export function digestOf(request: Request): Buffer | null {
  const body = request.body as Readonly<Record<string, unknown>> | undefined;
  if (typeof body !== 'object' || !SEEN.some((name) => name in body)) return null;
  return createHash('sha256')
    .update(`${request.method} ${request.originalUrl} ${JSON.stringify(body)}`)
    .digest();
}

/** Keeps what was answered, in the transaction of the write itself. */
export async function keepAnswer(db: Db, personId: string, digest: Buffer, answer: unknown, now: number): Promise<void> {
  // What is sent as bytes has no text to keep.
  const text = JSON.stringify(answer ?? {}) as string | undefined;
  if (text === undefined || text.length > MOST_BYTES) return;
  await often(
    db,
    `insert into kept_answer (person_id, digest, answer, at) values ($1, $2, $3, to_timestamp($4 / 1000.0))
     on conflict (person_id, digest) do update set answer = excluded.answer, at = excluded.at`,
    [personId, digest, text, now],
  );
}

interface Seen {
  readonly version?: unknown;
  readonly eventId?: unknown;
}

/** Whether what stands there now is what this write left: nobody, not even its sender, has changed it since. */
function isAsLeft(body: Seen, current: Seen, answer: Seen): boolean {
  if (typeof body.version === 'number' && typeof current.version === 'number') return current.version === body.version + 1;
  return current.eventId === undefined || current.eventId === answer.eventId;
}

/** What was answered when this very write was done, where what it left is still `current`; null where it was not, or was forgotten. */
export async function findAnswer(
  db: Db,
  personId: string,
  digest: Buffer,
  body: unknown,
  current: unknown,
): Promise<{ readonly answer: unknown } | null> {
  const kept = await maybe<{ answer: Seen }>(db, 'select answer from kept_answer where person_id = $1 and digest = $2', [personId, digest]);
  return kept !== null && isAsLeft(body as Seen, (current ?? {}) as Seen, kept.answer) ? kept : null;
}

export const forgetAnswers = (db: Db, now: number): Promise<number> =>
  run(db, 'delete from kept_answer where at < to_timestamp($1 / 1000.0)', [now - DAY]);
