import { veiledId, veiledName } from '../anonymity/index.ts';
import { notFound } from '../platform/errors.ts';
import type { PeerFacts } from './readPeer.ts';

/** Students as those who teach see them here: by name, or as a work without one while names are hidden from those who mark. */
export interface Seen {
  readonly idOf: (enrolmentId: string) => string;
  readonly nameOf: (enrolmentId: string) => string;
  readonly isHidden: (enrolmentId: string) => boolean;
  /** The student behind an identifier of the address. */
  readonly behind: (id: string) => string;
}

export function seenBy({ veil, people }: PeerFacts): Seen {
  const isHidden = (id: string): boolean => veil?.isHidden(id) === true;
  const idOf = (id: string): string => (veil !== null && isHidden(id) ? veiledId(veil.key, id) : id);
  const behind = new Map([...people.keys()].map((id) => [idOf(id), id]));
  return {
    isHidden,
    idOf,
    nameOf: (id) => {
      const person = people.get(id);
      if (isHidden(id)) return `Work ${veiledName(idOf(id))}`;
      return person === undefined ? 'Somebody who left' : `${person.familyName}, ${person.givenName}`;
    },
    behind: (id) => {
      const found = behind.get(id);
      if (found === undefined) throw notFound();
      return found;
    },
  };
}
