/** A list that may come with its columns named otherwise. */
export interface NamedList {
  /** What it is a list of, as it stands inside a sentence. */
  readonly words: string;
  readonly needed: readonly string[];
  readonly more: readonly string[];
}
