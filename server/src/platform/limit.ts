import { AppError } from './errors.ts';

/** Takes a place for somebody, and gives what frees it again; refuses whoever has as many as one may. */
export type Limit = (who: string) => () => void;

/** At most so many at once for each, so that nobody can take the places of all. */
export function makeLimit(most: number, words: string): Limit {
  const going = new Map<string, number>();
  return (who) => {
    const mine = going.get(who) ?? 0;
    if (mine >= most) throw new AppError('too-many', words);
    going.set(who, mine + 1);
    let isFree = false;
    return () => {
      if (isFree) return;
      isFree = true;
      const left = (going.get(who) ?? 1) - 1;
      if (left === 0) going.delete(who);
      else going.set(who, left);
    };
  };
}
