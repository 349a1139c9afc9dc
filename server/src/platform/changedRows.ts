const changed = new WeakMap<object, Set<string>>();

/** Notes, within a transaction, that a row of the gradebook is another now: its event names it. */
export function noteChangedRow(db: object, enrolmentId: string): void {
  changed.set(db, (changed.get(db) ?? new Set()).add(enrolmentId));
}

/** The rows that were noted on this connection, which begins afresh with it. */
export function takeChangedRows(db: object): readonly string[] {
  const ids = [...(changed.get(db) ?? [])];
  changed.delete(db);
  return ids;
}
