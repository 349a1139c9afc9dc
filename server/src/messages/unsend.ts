import { takeNotices } from '../notices/index.ts';
import { maybe, run, type Db } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';

/** Takes a message back that nobody has read yet. */
export async function unsend(db: Db, sending: string, personId: string): Promise<void> {
  const read = await maybe<{ id: string; read_at: Date | null; answers: number }>(
    db,
    `select c.id, p.read_at, (select count(*)::int from message m where m.conversation_id = c.id) as answers from conversation c join conversation_person p on p.conversation_id = c.id and p.person_id = $2 where c.sending = $1`,
    [sending, personId],
  );
  if (read === null) throw notFound();
  if (read.read_at !== null || read.answers > 1)
    throw new AppError('not-now', 'This message has been read already, so it cannot be taken back. Write another that puts it right.');
  await takeNotices(db, 'message', personId, read.id);
  await run(db, 'delete from message where conversation_id = $1', [read.id]);
  await run(db, 'delete from conversation_person where conversation_id = $1', [read.id]);
  await run(db, 'delete from conversation where id = $1', [read.id]);
}
