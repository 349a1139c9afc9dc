import type { Request } from 'express';
import { ipKeyGenerator } from 'express-rate-limit';
import { sendMails } from '../notices/index.ts';
import { maybe, type Db } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { forgetWrong, noteWrong, requireNoWait, waitAfter, waitInWords } from '../platform/wrongTries.ts';
import { isPassword } from './passwords.ts';

/** After so many wrong passwords from anywhere within a day its owner is told, and then each time as many again. */
const TELLS_AFTER = 10;

export type SignInResult = { readonly ok: true; readonly personId: string } | { readonly ok: false; readonly error: AppError };

async function tellOwner(db: Db, person: { readonly id: string; readonly email: string }, many: number, now: number): Promise<void> {
  const body = `A wrong password was typed for your account ${many} times within a day. If it was you, nothing needs to be done. If not, and your password is short or used elsewhere, change it: under your name, “Your account”. Your account stays open to you.`;
  await sendMails(db, [{ personId: person.id, address: person.email, body }], 'Wrong passwords for your account', now);
}

/**
 * Checks address and password. Wrong ones make whoever types them wait, longer each time, at this address and from this network: its owner,
 * elsewhere, is never kept out by that. An address that nobody has is answered and counted in the same way.
 * Failures are values, so that their count is kept when the request is answered with an error.
 */
export async function checkSignIn(db: Db, email: string, password: string, network: string, now: number): Promise<SignInResult> {
  const address = email.trim().toLowerCase();
  const what = ['sign in', address, ipKeyGenerator(network)];
  await requireNoWait(db, what, now);
  const person = await maybe<{ id: string; email: string; password_hash: string | null; is_active: boolean }>(
    db,
    'select id, email, password_hash, deactivated_at is null as is_active from person where email = $1',
    [email.trim()],
  );
  if (await isPassword(person?.password_hash ?? null, password)) {
    await forgetWrong(db, what);
    // Only whoever knows the password hears that the account is closed.
    if (person?.is_active === false)
      return { ok: false, error: new AppError('refused', 'This account is deactivated. Ask an administrator of your school.') };
    return { ok: true, personId: person?.id ?? '' };
  }
  const wait = waitAfter(await noteWrong(db, what, now));
  const everywhere = await noteWrong(db, ['sign in from anywhere', address], now);
  if (person !== null && everywhere % TELLS_AFTER === 0) await tellOwner(db, person, everywhere, now);
  const words = 'The email or the password does not match.';
  return {
    ok: false,
    error: new AppError('wrong-password', `${words} ${wait === 0 ? 'Check both and try again.' : waitInWords(wait)}`),
  };
}

/** A new session for the person: the old identifier ends with the sign-in. */
export function startSession(request: Request, personId: string): Promise<void> {
  return new Promise((done, fail) => {
    request.session.regenerate((error: unknown) => {
      if (error) {
        fail(error instanceof Error ? error : new Error('session'));
        return;
      }
      request.session.personId = personId;
      request.session.begunAt = new Date().toISOString();
      request.session.browser = (request.get('user-agent') ?? '').slice(0, 400);
      request.session.network = request.ip ?? '';
      request.session.save((saved: unknown) => {
        if (saved) fail(saved instanceof Error ? saved : new Error('session'));
        else done();
      });
    });
  });
}

export function endSession(request: Request): Promise<void> {
  return new Promise((done) => {
    request.session.destroy(() => {
      done();
    });
  });
}
