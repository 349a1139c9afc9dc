import { id, Joi } from './joi.ts';
import { LIMITS } from './limits.ts';

export interface QuizShareView {
  readonly personId: string;
  readonly name: string;
  readonly canEdit: boolean;
}
export interface QuizShareChange {
  readonly addShare?: { readonly email: string; readonly canEdit: boolean };
  readonly endShare?: string;
}
export const quizShareChange = Joi.object<QuizShareChange>({
  addShare: Joi.object({
    email: Joi.string().trim().email({ tlds: false }).max(LIMITS.email).required().label('E-mail'),
    canEdit: Joi.boolean().required(),
  }),
  endShare: id(),
}).min(1);
/** A quiz that a colleague shares with whoever asks. */
export interface SharedQuiz {
  readonly itemId: string;
  readonly title: string;
  readonly course: string;
  readonly by: string;
  readonly canEdit: boolean;
}
export interface SharedQuizCopy {
  readonly unitId: string;
}
export const sharedQuizCopy = Joi.object<SharedQuizCopy, true>({ unitId: id().required() });
