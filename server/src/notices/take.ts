import { run, type Db } from '../platform/database.ts';

/** Takes notices of a kind back from somebody: those that lead to what is named. */
export async function takeNotices(db: Db, kind: 'message', personId: string, of: string): Promise<void> {
  await run(db, "delete from notice where kind = $3 and person_id = $1 and path like '%' || $2", [personId, of, kind]);
}

/** A subject is one line, whatever the title in it holds. */
export const oneLine = (text: string): string => text.replace(/\s+/g, ' ').trim();

/** Mail to people by name, beside what they are told in the application. */
export async function sendMails(
  db: Db,
  mails: readonly { readonly personId: string; readonly address: string; readonly body: string }[],
  subject: string,
  now: number,
): Promise<void> {
  await run(
    db,
    'insert into outbox (person_id, address, subject, body, at) select t.id, t.address, $4, t.body, to_timestamp($5 / 1000.0) from unnest($1::uuid[], $2::text[], $3::text[]) as t(id, address, body)',
    [mails.map((m) => m.personId), mails.map((m) => m.address), mails.map((m) => m.body), oneLine(subject), now],
  );
}
