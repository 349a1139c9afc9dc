import { hash, verify } from '@node-rs/argon2';

/** argon2id, with the library's present parameters, kept in the hash itself. */
export const hashPassword = (password: string): Promise<string> => hash(password);

const NOBODY = '$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$Zm9yIG5vYm9keSBhdCBhbGwsIG9ubHkgdGltaW5nLi4';

/** Checks a password; for an unknown person the same work is done, so that the time tells nothing. */
export async function isPassword(stored: string | null, password: string): Promise<boolean> {
  const matches = await verify(stored ?? NOBODY, password).catch(() => false);
  return stored !== null && matches;
}
