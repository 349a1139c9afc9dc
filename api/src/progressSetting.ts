import { id, Joi, title, whole } from './joi.ts';

/** A type of task, such as essay or pre-test, by which results are looked at together. */
export interface TaskType {
  readonly id: string;
  readonly title: string;
  /** How many items are of it, in all courses. */
  readonly uses: number;
}
export interface TaskTypes {
  readonly taskTypes: readonly TaskType[];
}
/** The whole list in its order; who has no identifier is new, who is not in it is taken off. */
export interface TaskTypesChange {
  readonly taskTypes: { readonly id: string | null; readonly title: string }[];
}
export const taskTypesChange = Joi.object<TaskTypesChange, true>({
  taskTypes: Joi.array()
    .max(100)
    .required()
    .items(Joi.object({ id: id().allow(null).required(), title: title(60).required().label('Type of task') }))
    .unique((a: { title: string }, b: { title: string }) => a.title.toLowerCase() === b.title.toLowerCase())
    .messages({ 'array.unique': 'Two types of task have the same title. Give one of them another, or take it off.' }),
});

/** What is recorded of students, and what staff are shown of it. */
export interface ActivitySetting {
  readonly months: number;
  readonly showsVisitsAgainstResults: boolean;
}
export const activitySetting = Joi.object<ActivitySetting, true>({
  months: whole(1, 120).required().label('Months'),
  showsVisitsAgainstResults: Joi.boolean().required(),
});
