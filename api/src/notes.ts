import { id, Joi, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';

/**
 * A place in a work: a range of the written answer; words or an area on a page of a PDF, with their boxes as shares of the page; an
 * area of a picture, as shares of it.
 */
export type Anchor =
  | { readonly kind: 'text'; readonly from: number; readonly to: number }
  | {
      readonly kind: 'pdf';
      readonly page: number;
      readonly boxes: Box[];
    }
  | { readonly kind: 'picture'; readonly boxes: Box[] };

export interface Box {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

const share = (): Joi.NumberSchema => Joi.number().min(0).max(1).required();

const box = () => Joi.object({ x: share(), y: share(), w: share(), h: share() });
export const anchor = Joi.alternatives<Anchor>(
  Joi.object({
    kind: Joi.string().valid('text').required(),
    from: whole(0, 1_000_000).required(),
    to: whole(1, 1_000_000).greater(Joi.ref('from')).required(),
  }),
  Joi.object({
    kind: Joi.string().valid('pdf').required(),
    page: whole(1, 5000).required(),
    boxes: Joi.array().min(1).max(120).required().items(box()),
  }),
  Joi.object({ kind: Joi.string().valid('picture').required(), boxes: Joi.array().length(1).required().items(box()) }),
);

export interface NewNote {
  readonly id: string;
  readonly attemptId: string;
  readonly fileId: string | null;
  readonly anchor: Anchor;
  readonly quote: string;
  readonly body: string;
  /** The stock remark it was made from, if one. */
  readonly remarkId?: string | null;
  /** Other words proposed for those it is on; empty strikes them. */
  readonly replacement?: string | null;
}

export const newNote = Joi.object<NewNote, true>({
  id: id().required(),
  attemptId: id().required(),
  fileId: id().allow(null).required(),
  anchor: anchor.required(),
  quote: Joi.string().allow('').max(2000).required(),
  // A correction may stand without a word.
  body: Joi.string()
    .trim()
    .max(LIMITS.noteBody)
    .required()
    .label('Note')
    .when('replacement', { is: Joi.string().allow('').required(), then: Joi.string().allow('') }),
  replacement: Joi.string().allow('', null).max(2000).default(null).label('Proposed words'),
  remarkId: id().allow(null).default(null),
});

export interface NoteChange {
  readonly body: string;
  readonly version: number;
}

export const noteChange = Joi.object<NoteChange, true>({
  body: Joi.string().trim().min(1).max(LIMITS.noteBody).required().label('Note'),
  version: version(),
});

export interface NoteView {
  readonly id: string;
  readonly attemptId: string;
  readonly fileId: string | null;
  readonly anchor: Anchor;
  readonly quote: string;
  readonly body: string;
  readonly author: string;
  readonly replacement: string | null;
  /** Points its stock remark gives or takes, in thousandths. */
  readonly points: number | null;
  readonly version: number;
  /** The student says it is answered, in a revision. */
  readonly isAnswered: boolean;
}
