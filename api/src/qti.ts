/** One question of a package: what came of it. */
export interface QtiQuestionDone {
  /** The file of the item in the package. */
  readonly item: string;
  readonly id: string | null;
  readonly kind: string;
  readonly title: string;
  /** Why nothing could be made of it, with the element; empty where it came in. */
  readonly problem: string;
  /** What came in otherwise than it was, by element. */
  readonly notes: readonly string[];
}
export interface QtiQuizDone {
  readonly itemId: string | null;
  readonly title: string;
  readonly questions: number;
  readonly problem: string;
  readonly notes: readonly string[];
}
/** What came of a package of questions, or would come of it. */
export interface QtiDone {
  readonly questions: readonly QtiQuestionDone[];
  readonly quizzes: readonly QtiQuizDone[];
  readonly files: number;
  readonly problems: readonly string[];
}
