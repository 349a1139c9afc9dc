import { id, Joi, version, whole } from './joi.ts';

export interface ObjectiveView {
  readonly id: string;
  readonly parentId: string | null;
  readonly code: string;
  readonly statement: string;
  readonly position: number;
  readonly version: number;
  readonly uses: readonly { readonly itemId: string; readonly title: string; readonly criterion: string | null }[];
}
export interface Objectives {
  readonly objectives: readonly ObjectiveView[];
}
const statement = (): Joi.StringSchema => Joi.string().trim().min(1).max(2000).label('Statement');
const code = (): Joi.StringSchema => Joi.string().trim().allow('').max(60).label('Code');

export interface NewObjective {
  readonly parentId: string | null;
  readonly code: string;
  readonly statement: string;
}
export const newObjective = Joi.object<NewObjective, true>({
  parentId: id().allow(null).required(),
  code: code().required(),
  statement: statement().required(),
});
export interface ObjectiveChange {
  readonly version: number;
  readonly parentId?: string | null;
  readonly code?: string;
  readonly statement?: string;
  readonly position?: number;
}
export const objectiveChange = Joi.object<ObjectiveChange, true>({
  version: version(),
  parentId: id().allow(null).label('Below'),
  code: code(),
  statement: statement(),
  position: whole(0, 5000),
});

/** What is aligned with one item or one criterion, whole. */
export interface Alignment {
  readonly objectiveIds: string[];
}
export const alignment = Joi.object<Alignment, true>({ objectiveIds: Joi.array().max(60).unique().items(id()).required() });

/** What a file of objectives would bring, row by row. */
export interface ObjectivesPreview {
  readonly rows: readonly {
    readonly code: string;
    readonly statement: string;
    readonly depth: number;
    readonly what: 'add' | 'change' | 'same';
  }[];
  readonly problems: readonly { readonly line: number; readonly text: string }[];
}
export interface ObjectivesDone extends Objectives {
  readonly added: number;
  readonly changed: number;
  readonly left: number;
}
