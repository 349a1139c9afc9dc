import { byPerson } from '../byPerson.ts';

/** A file is given. */
export const file = byPerson('file');
