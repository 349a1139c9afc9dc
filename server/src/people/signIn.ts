import type { Request } from 'express';
import { dayAndTime } from '@rosemary/core';
import { maybe, run, type Db } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { isPassword } from './passwords.ts';

const TRIES = 5;
const LOCK_MINUTES = 15;

interface Row {
  id: string;
  password_hash: string | null;
  failed_sign_ins: number;
  locked_until: Date | null;
}
export type SignInResult = { readonly ok: true; readonly personId: string } | { readonly ok: false; readonly error: AppError };

/**
 * Checks address and password. After five failures in a row the account rests for fifteen minutes.
 * Failures are values, so that their count is kept when the request is answered with an error.
 */
export async function checkSignIn(db: Db, email: string, password: string, now: number): Promise<SignInResult> {
  const row = await maybe<Row>(db, 'select id, password_hash, failed_sign_ins, locked_until from person where email = $1 for update', [
    email.trim(),
  ]);
  if (row?.locked_until !== null && row !== null && row.locked_until.getTime() > now) {
    return {
      ok: false,
      error: new AppError(
        'locked',
        `This account rests until ${dayAndTime(row.locked_until.getTime(), 'UTC', now).slice(-5)} (UTC), because a wrong password was typed ${TRIES} times. Try again after that.`,
      ),
    };
  }
  if (await isPassword(row?.password_hash ?? null, password)) {
    await run(db, 'update person set failed_sign_ins = 0, locked_until = null where id = $1', [row?.id]);
    return { ok: true, personId: row?.id ?? '' };
  }
  if (row !== null) {
    const failed = row.failed_sign_ins + 1;
    const locks = failed >= TRIES;
    await run(db, 'update person set failed_sign_ins = $2, locked_until = case when $3 then to_timestamp($4 / 1000.0) end where id = $1', [
      row.id,
      locks ? 0 : failed,
      locks,
      now + LOCK_MINUTES * 60_000,
    ]);
    if (locks)
      return {
        ok: false,
        error: new AppError(
          'locked',
          `A wrong password was typed ${TRIES} times, so this account rests for ${LOCK_MINUTES} minutes. Try again after that.`,
        ),
      };
  }
  return { ok: false, error: new AppError('wrong-password', 'The address or the password does not match. Check both and try again.') };
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
