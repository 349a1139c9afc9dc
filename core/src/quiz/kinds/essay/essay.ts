import { byPerson } from '../byPerson.ts';

/** Written at length. */
export const essay = byPerson('essay');
