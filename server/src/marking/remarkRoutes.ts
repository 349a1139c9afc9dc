import { newRemark, remarkChange, type NewRemark, type RemarkChange } from '@rosemary/api';
import { AppError } from '../platform/errors.ts';
import { personRoute, type Route } from '../platform/route.ts';
import { addRemark, addStarterRemarks, changeRemark, listRemarks, setRemarkRemoved } from './remarks.ts';

/** Remarks are for whoever teaches somewhere, and everyone has their own. */
function requireStaff(person: { readonly memberships: readonly { readonly role: string; readonly isActive: boolean }[] }): void {
  if (!person.memberships.some((m) => m.isActive && m.role !== 'student'))
    throw new AppError('refused', 'Remarks are for those who mark work.');
}

function removal(removes: boolean): Route {
  return personRoute({
    method: removes ? 'delete' : 'post',
    path: `/remarks/:remarkId${removes ? '' : '/restore'}`,
    handle: async ({ db, person, params, now }) => {
      requireStaff(person);
      await setRemarkRemoved(db, person.personId, params.remarkId ?? '', removes ? now : null);
      return listRemarks(db, person.personId);
    },
  });
}

export const remarkRoutes: readonly Route[] = [
  personRoute({
    method: 'get',
    path: '/remarks',
    handle: ({ db, person }) => {
      requireStaff(person);
      return listRemarks(db, person.personId);
    },
  }),
  personRoute<NewRemark>({
    method: 'post',
    path: '/remarks',
    body: newRemark,
    handle: async ({ db, person, body, now }) => {
      requireStaff(person);
      await addRemark(db, person.personId, body, now);
      return listRemarks(db, person.personId);
    },
  }),
  personRoute({
    method: 'post',
    path: '/remarks/starter',
    handle: async ({ db, person, now }) => {
      requireStaff(person);
      await addStarterRemarks(db, person.personId, now);
      return listRemarks(db, person.personId);
    },
  }),
  personRoute<RemarkChange>({
    method: 'patch',
    path: '/remarks/:remarkId',
    body: remarkChange,
    handle: async ({ db, person, body, params }) => {
      requireStaff(person);
      await changeRemark(db, person.personId, params.remarkId ?? '', body);
      return listRemarks(db, person.personId);
    },
  }),
  removal(true),
  removal(false),
];
