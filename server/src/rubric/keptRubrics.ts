import { type KeptRubric, keptChange, newKeptRubric } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { implement, type PersonContext, type Route } from '../platform/route.ts';
import { changeOnShelf, listShelf, putOnShelf, setOffShelf, type Shelf } from '../platform/shelf.ts';

const RUBRICS: Shelf = { table: 'kept_rubric', holds: 'criteria', words: 'Rubrics' };
const list = ({ db, person }: Pick<PersonContext<unknown>, 'db' | 'person'>): Promise<KeptRubric[]> => listShelf(db, RUBRICS, person);

export const keptRubricRoutes: readonly Route[] = [
  implement(api.listKeptRubrics, list),
  implement(api.keepRubric, newKeptRubric, async (c) => {
    const { id, title, criteria } = c.body;
    await putOnShelf(c.db, RUBRICS, c.person, { id, title, held: criteria }, c.now);
    return list(c);
  }),
  implement(api.changeKeptRubric, keptChange, async (c) => {
    await changeOnShelf(c.db, RUBRICS, c.person, c.params.rubricId, c.body);
    return list(c);
  }),
  implement(api.removeKeptRubric, async (c) => {
    await setOffShelf(c.db, RUBRICS, c.person, c.params.rubricId, c.now);
    return list(c);
  }),
  implement(api.restoreKeptRubric, async (c) => {
    await setOffShelf(c.db, RUBRICS, c.person, c.params.rubricId, null);
    return list(c);
  }),
];
