import { id, Joi, whole } from './joi.ts';

/** Who marks what, drawn to be seen before it is kept. */
export interface ShareDraw {
  readonly markerIds: string[];
  readonly within: 'sections' | 'all';
  /** How many each gets at most; null shares out all. */
  readonly each: number | null;
}
export const shareDraw = Joi.object<ShareDraw, true>({
  markerIds: Joi.array().min(1).max(60).unique().items(id()).required().label('Markers'),
  within: Joi.string().valid('sections', 'all').required(),
  each: whole(1, 5000).allow(null).required().label('Works for each'),
});

export interface NewShares {
  readonly shares: { readonly workId: string; readonly markerIds: string[] }[];
}
export const newShares = Joi.object<NewShares, true>({
  shares: Joi.array()
    .max(5000)
    .required()
    .items(Joi.object({ workId: id().required(), markerIds: Joi.array().max(2).unique().items(id()).required() })),
});

export interface SharesView {
  readonly markers: readonly { readonly id: string; readonly name: string; readonly works: number }[];
  readonly works: readonly { readonly id: string; readonly name: string; readonly markerIds: readonly string[] }[];
}
