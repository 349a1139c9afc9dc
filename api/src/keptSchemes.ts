import { id, Joi, title, whole } from './joi.ts';
import { type LevelChange, schemeLevels } from './policy.ts';

/** Letters or words with their cut-points, and from which total a course is passed. */
export interface PlainScheme {
  readonly levels: LevelChange[];
  readonly passPercent: number | null;
}
/** A scheme kept to be used again, of one's own or shared in the school. */
export interface KeptScheme {
  readonly id: string;
  readonly title: string;
  readonly scheme: PlainScheme;
  readonly isShared: boolean;
  readonly isOwn: boolean;
  readonly owner: string;
}
export interface NewKeptScheme {
  readonly id: string;
  readonly title: string;
  readonly scheme: PlainScheme;
}
export const newKeptScheme = Joi.object<NewKeptScheme, true>({
  id: id().required(),
  title: title(120).required().label('Title'),
  scheme: Joi.object({
    levels: schemeLevels().min(1).required().label('Letters'),
    passPercent: whole(0, 1_000_000).allow(null).required().label('Pass mark'),
  }).required(),
});
