/** Whose work, of which item: the course is checked by the caller. */
export interface Target {
  readonly itemId: string;
  readonly enrolmentId: string;
}
