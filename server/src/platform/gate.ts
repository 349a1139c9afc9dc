/** Lets at most `most` pieces of work go on at once; the others wait their turn, in the order they came. */
export function makeGate(most: number): <T>(work: () => Promise<T>) => Promise<T> {
  let going = 0;
  const waiting: (() => void)[] = [];
  return async (work) => {
    if (going >= most)
      await new Promise<void>((go) => {
        waiting.push(go);
      });
    else going += 1;
    try {
      return await work();
    } finally {
      // The place is handed on, so that nobody who comes between takes it.
      const next = waiting.shift();
      if (next === undefined) going -= 1;
      else next();
    }
  };
}
