/** What whoever holds a field by a ref may do with its caret. */
export interface Typing {
  readonly focus: () => void;
  readonly blur: () => void;
  readonly select: () => void;
}
