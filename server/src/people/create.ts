import type { NewPerson } from '@rosemary/api';
import { type Db, maybe } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';
import { hashPassword } from './passwords.ts';

export async function addPerson(db: Db, person: NewPerson, isAdministrator = false, passwordHash?: string): Promise<string> {
  const row = await maybe<{ id: string }>(
    db,
    'insert into person (email, given_name, family_name, password_hash, is_administrator, teaches) values ($1, $2, $3, $4, $5, $6) on conflict (email) do nothing returning id',
    [
      person.email,
      person.givenName,
      person.familyName,
      passwordHash ?? (await hashPassword(person.password)),
      isAdministrator,
      person.teaches ?? false,
    ],
  );
  if (row === null) throw invalid('email', `Someone with the email ${person.email} is here already.`);
  return row.id;
}
