import { type KeptScheme, keptChange, newKeptScheme } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { implement, type PersonContext, type Route } from '../platform/route.ts';
import { changeOnShelf, listShelf, putOnShelf, setOffShelf, type Shelf } from '../platform/shelf.ts';
import { checkLevels } from './policy.ts';

const SCHEMES: Shelf = { table: 'kept_scheme', holds: 'scheme', words: 'Schemes' };
const list = ({ db, person }: Pick<PersonContext<unknown>, 'db' | 'person'>): Promise<KeptScheme[]> => listShelf(db, SCHEMES, person);

export const keptSchemeRoutes: readonly Route[] = [
  implement(api.listKeptSchemes, list),
  implement(api.keepScheme, newKeptScheme, async (c) => {
    checkLevels('levels', c.body.scheme.levels);
    const { id, title, scheme } = c.body;
    await putOnShelf(c.db, SCHEMES, c.person, { id, title, held: scheme }, c.now);
    return list(c);
  }),
  implement(api.changeKeptScheme, keptChange, async (c) => {
    await changeOnShelf(c.db, SCHEMES, c.person, c.params.schemeId, c.body);
    return list(c);
  }),
  implement(api.removeKeptScheme, async (c) => {
    await setOffShelf(c.db, SCHEMES, c.person, c.params.schemeId, c.now);
    return list(c);
  }),
  implement(api.restoreKeptScheme, async (c) => {
    await setOffShelf(c.db, SCHEMES, c.person, c.params.schemeId, null);
    return list(c);
  }),
];
