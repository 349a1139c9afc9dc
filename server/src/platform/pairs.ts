/** Something kept for each (item, enrolment): two maps deep, since a class times a course is too many pairs for joined keys. */
export class Pairs<T> {
  readonly #byEnrolment = new Map<string, Map<string, T>>();

  get(itemId: string, enrolmentId: string): T | undefined {
    return this.#byEnrolment.get(enrolmentId)?.get(itemId);
  }

  has(itemId: string, enrolmentId: string): boolean {
    return this.#byEnrolment.get(enrolmentId)?.has(itemId) ?? false;
  }

  set(itemId: string, enrolmentId: string, value: T): this {
    const own = this.#byEnrolment.get(enrolmentId);
    if (own === undefined) this.#byEnrolment.set(enrolmentId, new Map([[itemId, value]]));
    else own.set(itemId, value);
    return this;
  }
}

/** Pairs from rows. */
export function pairsOf<R, T>(
  found: readonly R[],
  itemId: (row: R) => string,
  enrolmentId: (row: R) => string,
  value: (row: R) => T,
): Pairs<T> {
  const pairs = new Pairs<T>();
  for (const row of found) pairs.set(itemId(row), enrolmentId(row), value(row));
  return pairs;
}
