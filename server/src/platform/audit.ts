import { run, type Db } from './database.ts';

export interface AuditEntry {
  readonly at: number;
  readonly actorId: string;
  readonly courseId: string | null;
  readonly action: string;
  /** The one thing it is about; left out where there are several, which stand in `before` and `after`. */
  readonly subject?: string | undefined;
  readonly before?: unknown;
  readonly after?: unknown;
}

/** What is typed in secret is kept nowhere but as its hash. */
const SECRET = /password|secret|token/i;
const keptAs = (value: unknown): string | null =>
  value === undefined ? null : JSON.stringify(value, (name, inside: unknown) => (SECRET.test(name) ? undefined : inside));

/** Who changed what, when: kept beside the change in its own transaction, never updated. */
export async function writeAudit(db: Db, entry: AuditEntry): Promise<void> {
  await run(
    db,
    'insert into audit (at, actor_id, course_id, action, subject, before, after) values (to_timestamp($1 / 1000.0), $2, $3, $4, $5, $6, $7)',
    [
      entry.at,
      entry.actorId,
      entry.courseId,
      entry.action,
      entry.subject === undefined || entry.subject === '' ? null : entry.subject,
      keptAs(entry.before),
      keptAs(entry.after),
    ],
  );
}
