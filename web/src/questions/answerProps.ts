import type { GivenAnswer } from '@rosemary/api';
import type { AskedQuestion } from '@rosemary/core';
import type { SendFile } from './sendFile.ts';

/** What the place for an answer is given in every kind. */
export interface AnswerProps {
  readonly asked: AskedQuestion;
  readonly answer: GivenAnswer | null;
  /** What it is called for those who hear the page: “Question 3”. */
  readonly label: string;
  readonly isFixed?: boolean;
  /** The answers that are right, once that may be told. */
  readonly rightIds?: readonly string[];
  /** Sends a file, where one can be given here. */
  readonly sendFile?: SendFile;
  readonly fileName?: string;
}
export interface AnswerEmits {
  answer: [answer: GivenAnswer | null];
  typing: [answer: GivenAnswer | null];
}
