/** What a score sheet, or an archive of marked works, would change; row by row, before anything happens. */
export interface SheetPreview {
  readonly rows: readonly SheetRow[];
  readonly faults: readonly string[];
}
export interface SheetRow {
  readonly line: number;
  readonly workId: string;
  readonly name: string;
  readonly outcome: 'changes' | 'same' | 'refused';
  readonly scoreBefore: string;
  readonly scoreAfter: string;
  readonly feedback: string | null;
  readonly notes: number;
  readonly files: readonly string[];
  readonly reason: string;
  /** Why the line is older than what it would change; empty where it is not. Such a line is left unless it is chosen. */
  readonly older: string;
}
export interface SheetDone {
  readonly changed: number;
  readonly finished: number;
  readonly left: readonly { readonly name: string; readonly reason: string }[];
}
