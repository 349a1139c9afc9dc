export type Serial = <T>(work: () => Promise<T>) => Promise<T>;

/** Runs pieces of work one after another, so that one's own quick changes never meet each other's versions. */
export function makeSerial(): Serial {
  let tail: Promise<unknown> = Promise.resolve();
  return (work) => {
    const next = tail.then(work, work);
    tail = next.catch(() => undefined);
    return next;
  };
}
