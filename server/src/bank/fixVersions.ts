import { run, type Db } from '../platform/database.ts';

/** Versions that somebody was asked stay as they are from then on: what is changed after is a new version. */
export async function fixVersions(
  db: Db,
  questions: readonly { readonly questionId: string; readonly number: number }[],
  now: number,
): Promise<void> {
  await run(
    db,
    'update question_version v set fixed_at = to_timestamp($3 / 1000.0) from unnest($1::uuid[], $2::int[]) as w(id, number) where v.question_id = w.id and v.number = w.number and v.fixed_at is null',
    [questions.map((q) => q.questionId), questions.map((q) => q.number), now],
  );
}
