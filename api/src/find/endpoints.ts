import { asks, endpoint, is } from '../contract.ts';
import type { Found } from '../find.ts';

export const find = endpoint({
  method: 'get',
  path: '/find',
  needs: 'person',
  query: asks({ q: 'text' }),
  answer: is<readonly Found[]>(),
});
