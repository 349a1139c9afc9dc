import { type Db, maybe } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';

/** Whoever has this email here; where nobody has, the field is named with what was typed. */
export async function requirePersonByEmail(db: Db, email: string): Promise<string> {
  const known = await maybe<{ id: string }>(db, 'select id from person where email = $1', [email]);
  if (known === null) throw invalid('email', `Nobody here has the email “${email}”. Check its spelling.`);
  return known.id;
}
