import { run, type Db } from './database.ts';
import { AppError } from './errors.ts';

export type Piece<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: unknown; readonly reason: string };

/** Does one piece of a larger whole; what goes wrong in it is taken back alone, and said. */
export async function piece<T>(db: Db, work: () => Promise<T>): Promise<Piece<T>> {
  await run(db, 'savepoint piece');
  try {
    const value = await work();
    await run(db, 'release savepoint piece');
    return { ok: true, value };
  } catch (error) {
    await run(db, 'rollback to savepoint piece');
    // It stays after that, and would stand in the way of the one around it.
    await run(db, 'release savepoint piece');
    return { ok: false, error, reason: error instanceof AppError ? error.message : 'could not be taken in.' };
  }
}
