import { id, Joi, version } from './joi.ts';
import { LIMITS } from './limits.ts';

/** A remark of one's own, said before and to be said again. */
export interface RemarkView {
  readonly id: string;
  readonly body: string;
  readonly criterion: string;
  readonly shortcut: string;
  /** Notes it stands in. */
  readonly uses: number;
  readonly version: number;
}

const shortcut = (): Joi.StringSchema =>
  Joi.string()
    .trim()
    .lowercase()
    .pattern(/^[a-z0-9]{0,6}$/)
    .allow('')
    .label('Called by')
    .messages({ 'string.pattern.base': '“{#label}” takes up to six letters and digits, such as “how”.' });

export interface NewRemark {
  readonly id: string;
  readonly body: string;
  readonly criterion: string;
  readonly shortcut: string;
}
export const newRemark = Joi.object<NewRemark, true>({
  id: id().required(),
  body: Joi.string().trim().min(1).max(LIMITS.noteBody).required().label('Remark'),
  criterion: Joi.string().trim().allow('').max(LIMITS.criterionTitle).required().label('Criterion'),
  shortcut: shortcut().required(),
});

export interface RemarkChange {
  readonly version: number;
  readonly body?: string;
  readonly criterion?: string;
  readonly shortcut?: string;
}
export const remarkChange = Joi.object<RemarkChange, true>({
  version: version(),
  body: Joi.string().trim().min(1).max(LIMITS.noteBody).label('Remark'),
  criterion: Joi.string().trim().allow('').max(LIMITS.criterionTitle).label('Criterion'),
  shortcut: shortcut(),
});
