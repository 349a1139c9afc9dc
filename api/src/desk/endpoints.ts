import { endpoint, is, OWN } from '../contract.ts';
import type { Desk, SlipChoice } from '../desk.ts';

export const getDesk = endpoint({
  method: 'get',
  path: '/desk',
  needs: 'person',
  answer: is<Desk>(),
});

export const putSlipAside = endpoint({
  method: 'post',
  path: '/desk/slips',
  needs: 'person',
  body: is<SlipChoice>(),
  answer: is<Desk>(),
  audit: OWN,
});
