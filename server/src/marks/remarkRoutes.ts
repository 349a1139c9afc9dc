import { newRemark, remarkChange } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { AppError } from '../platform/errors.ts';
import { implement, type PersonContext, type Route } from '../platform/route.ts';
import { addRemark, addStarterRemarks, changeRemark, listRemarks, setRemarkRemoved } from './remarks.ts';

/** Remarks are for whoever teaches somewhere, and everyone has their own. */
function requireStaff(person: { readonly memberships: readonly { readonly role: string; readonly isActive: boolean }[] }): void {
  if (!person.memberships.some((m) => m.isActive && m.role !== 'student'))
    throw new AppError('refused', 'Remarks are for those who mark work.');
}

async function setRemark({ db, person, params }: PersonContext<unknown, { readonly remarkId: string }>, removedAt: number | null) {
  requireStaff(person);
  await setRemarkRemoved(db, person.personId, params.remarkId, removedAt);
  return listRemarks(db, person.personId);
}

export const remarkRoutes: readonly Route[] = [
  implement(api.listRemarks, ({ db, person }) => {
    requireStaff(person);
    return listRemarks(db, person.personId);
  }),
  implement(api.addRemark, newRemark, async ({ db, person, body, now }) => {
    requireStaff(person);
    await addRemark(db, person.personId, body, now);
    return listRemarks(db, person.personId);
  }),
  implement(api.takeStarterRemarks, async ({ db, person, now }) => {
    requireStaff(person);
    await addStarterRemarks(db, person.personId, now);
    return listRemarks(db, person.personId);
  }),
  implement(api.changeRemark, remarkChange, async ({ db, person, body, params }) => {
    requireStaff(person);
    await changeRemark(db, person.personId, params.remarkId, body);
    return listRemarks(db, person.personId);
  }),
  implement(api.removeRemark, (c) => setRemark(c, c.now)),
  implement(api.restoreRemark, (c) => setRemark(c, null)),
];
