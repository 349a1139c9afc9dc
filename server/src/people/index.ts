export { findSignedIn, findStudentMembership } from './actor.ts';
export { changePerson } from './change.ts';
export { addPerson } from './create.ts';
export { listEmbedHosts } from './embedHosts.ts';
export { requireGood } from './goodPassword.ts';
export { invite } from './invitations.ts';
export { hashPassword } from './passwords.ts';
export { requirePersonByEmail } from './personByEmail.ts';
export { peopleRoutes } from './routes.ts';
