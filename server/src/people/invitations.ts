import type { Welcome } from '@rosemary/api';
import { createHash, randomUUID } from 'node:crypto';
import { sendMails } from '../notices/index.ts';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { requireGood } from './goodPassword.ts';
import { hashPassword } from './passwords.ts';

const DAYS = 14;
const hashOf = (token: string): Buffer => createHash('sha256').update(token).digest();

/** Mails people who have no password yet a way to set one; how many. The way opens once, within two weeks. */
export async function invite(db: Db, personIds: readonly string[], now: number): Promise<number> {
  const people = await rows<{ id: string; email: string; given_name: string }>(
    db,
    'select id, email, given_name from person where id = any($1) and password_hash is null',
    [personIds],
  );
  const school = await maybe<{ title: string }>(db, 'select title from school');
  const tokens = people.map(() => randomUUID());
  const bodies = people.map(
    (p, n) =>
      `${p.given_name}, you are at ${school?.title ?? 'our school'} now. Set your password here, within ${DAYS} days: /welcome/${tokens[n]}\n\nThe way opens once. If it is no longer open, the school sends another.`,
  );
  await run(
    db,
    'insert into invitation (token_hash, person_id, expires_at) select t.hash, t.id, to_timestamp($3 / 1000.0) + make_interval(days => $4) from unnest($1::bytea[], $2::uuid[]) as t(hash, id)',
    [tokens.map(hashOf), people.map((p) => p.id), now, DAYS],
  );
  const mails = people.map((p, n) => ({ personId: p.id, address: p.email, body: bodies[n] ?? '' }));
  await sendMails(db, mails, 'Set your password', now);
  return people.length;
}

async function getInvited(db: Db, token: string, now: number): Promise<Welcome & { personId: string }> {
  const found = await maybe<Welcome & { personId: string }>(
    db,
    'select p.id as "personId", p.given_name as "givenName", p.email from invitation i join person p on p.id = i.person_id where i.token_hash = $1 and i.used_at is null and i.expires_at > to_timestamp($2 / 1000.0) and p.password_hash is null for update of i',
    [hashOf(token), now],
  );
  if (found === null) throw new AppError('not-found', 'This way in is no longer open. Ask the school to send you another, or sign in.');
  return found;
}

export async function getWelcome(db: Db, token: string, now: number): Promise<Welcome> {
  const { givenName, email } = await getInvited(db, token, now);
  return { givenName, email };
}

/** Sets the first password of whoever holds the invitation, which is closed by it, with every other of theirs. */
export async function setFirstPassword(db: Db, token: string, password: string, now: number): Promise<string> {
  const { personId, givenName, email } = await getInvited(db, token, now);
  requireGood('password', password, [givenName, email]);
  await run(db, 'update person set password_hash = $2 where id = $1', [personId, await hashPassword(password)]);
  await run(db, 'update invitation set used_at = to_timestamp($2 / 1000.0) where person_id = $1 and used_at is null', [personId, now]);
  return personId;
}
