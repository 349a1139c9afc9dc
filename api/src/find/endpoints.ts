import { endpoint, is } from '../contract.ts';
import type { Found } from '../find.ts';

export const find = endpoint({
  method: 'get',
  path: '/find',
  needs: 'person',
  query: is<{ readonly q: string }>(),
  answer: is<readonly Found[]>(),
});
