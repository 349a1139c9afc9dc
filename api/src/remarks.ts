import { id, Joi, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';

/** A remark of one's own, said before and to be said again. */
export interface RemarkView {
  readonly id: string;
  readonly body: string;
  readonly criterion: string;
  readonly shortcut: string;
  /** Points it gives or takes where it is used, in thousandths; null is none. */
  readonly points: number | null;
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

const worth = (): Joi.NumberSchema => whole(-10_000_000, 10_000_000).allow(null).label('Points');

export interface NewRemark {
  readonly id: string;
  readonly body: string;
  readonly criterion: string;
  readonly shortcut: string;
  readonly points?: number | null;
}
export const newRemark = Joi.object<NewRemark, true>({
  id: id().required(),
  body: Joi.string().trim().min(1).max(LIMITS.noteBody).required().label('Remark'),
  criterion: Joi.string().trim().allow('').max(LIMITS.criterionTitle).required().label('Criterion'),
  shortcut: shortcut().required(),
  points: worth().default(null),
});

export interface RemarkChange {
  readonly version: number;
  readonly body?: string;
  readonly criterion?: string;
  readonly shortcut?: string;
  readonly points?: number | null;
}
export const remarkChange = Joi.object<RemarkChange, true>({
  version: version(),
  body: Joi.string().trim().min(1).max(LIMITS.noteBody).label('Remark'),
  criterion: Joi.string().trim().allow('').max(LIMITS.criterionTitle).label('Criterion'),
  shortcut: shortcut(),
  points: worth(),
});
