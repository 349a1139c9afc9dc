import * as api from '@rosemary/api/endpoints';
import { demoSignIn, firstPassword, newPassword, ownSettings, signIn, type DemoPerson, type Me } from '@rosemary/api';
import { listOwnCourses } from '../course/index.ts';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError, invalid, notFound } from '../platform/errors.ts';
import { implement, type Route, Refusal } from '../platform/route.ts';
import { forgetWrong, noteWrong, requireNoWait, waitAfter, waitInWords } from '../platform/wrongTries.ts';
import { findSignedIn } from './actor.ts';
import { getWelcome, setFirstPassword } from './invitations.ts';
import { requireGood } from './goodPassword.ts';
import { hashPassword, isPassword } from './passwords.ts';
import { endOtherSessions, listSessions } from './sessions.ts';
import { checkSignIn, endSession, startSession } from './signIn.ts';

/** The demo's people, offered with one click each; never outside a demo school. */
async function listDemoPeople(db: Db): Promise<DemoPerson[]> {
  return rows<DemoPerson>(
    db,
    `
    select p.id, p.given_name as "givenName", p.family_name as "familyName",
           case when p.is_administrator then 'administers the school' when bool_or(e.role = 'instructor') then 'teaches' when bool_or(e.role = 'assistant') then 'assists and marks'
                else 'studies · ' || coalesce(min(s.title), '') end as what
    from person p left join enrolment e on e.person_id = p.id left join section s on s.id = e.section_id
    where p.deactivated_at is null and (p.is_administrator or e.role in ('instructor', 'assistant') or p.id in (
      select e2.person_id from enrolment e2 join person p2 on p2.id = e2.person_id join course c on c.id = e2.course_id and c.is_open join term t on t.id = c.term_id where e2.role = 'student' and not e2.is_sample and e2.withdrawn_at is null
      order by t.ends_on desc, c.code, exists (select 1 from arrangement a where a.enrolment_id = e2.id) desc, md5(p2.email) limit 5))
    group by p.id order by p.is_administrator, bool_or(e.role = 'student') nulls last, bool_or(e.role = 'assistant'), p.family_name limit 12`,
  );
}

async function makeMe(db: Db, personId: string | undefined, now: number): Promise<Me> {
  const school = await maybe<{ title: string; is_demo: boolean }>(db, 'select title, is_demo from school');
  const person = personId === undefined ? null : await findSignedIn(db, personId, now);
  return {
    person:
      person === null
        ? null
        : {
            id: person.personId,
            givenName: person.givenName,
            familyName: person.familyName,
            email: person.email,
            isAdministrator: person.isAdministrator,
            teaches: person.teaches,
            theme: person.theme,
          },
    school: school?.title ?? 'Rosemary',
    isDemo: school?.is_demo ?? false,
    demoPeople: person === null && school?.is_demo === true ? await listDemoPeople(db) : [],
    now: new Date(now).toISOString(),
    courses: person === null ? [] : await listOwnCourses(db, person.personId),
  };
}

export const peopleRoutes: readonly Route[] = [
  implement(api.getMe, ({ db, request, now }) => makeMe(db, request.session.personId, now)),
  implement(api.signIn, signIn, async ({ db, body, request, now }) => {
    const result = await checkSignIn(db, body.email, body.password, request.ip ?? '', now);
    if (result.ok) {
      await startSession(request, result.personId);
      return makeMe(db, result.personId, now);
    }
    // Answered after the failed try is counted.
    return new Refusal(result.error);
  }),
  implement(api.signInAsDemoPerson, demoSignIn, async ({ db, body, request, now }) => {
    const school = await maybe<{ is_demo: boolean }>(db, 'select is_demo from school');
    if (school?.is_demo !== true || !(await listDemoPeople(db)).some((p) => p.id === body.personId)) throw notFound();
    await startSession(request, body.personId);
    return makeMe(db, body.personId, now);
  }),
  implement(api.getWelcome, ({ db, params, now }) => getWelcome(db, params.token, now)),
  implement(api.setFirstPassword, firstPassword, async ({ db, params, body, request, now }) => {
    const personId = await setFirstPassword(db, params.token, body.password, now);
    await startSession(request, personId);
    return makeMe(db, personId, now);
  }),
  implement(api.signOut, async ({ request }) => {
    await endSession(request);
  }),
  implement(api.changeOwnSettings, ownSettings, async ({ db, person, body }) => {
    await run(db, 'update person set theme = $2 where id = $1', [person.personId, body.theme]);
  }),
  implement(api.listOwnSessions, async ({ db, person, request }) => ({
    sessions: await listSessions(db, person.personId, request.sessionID),
  })),
  implement(api.endOtherSessions, async ({ db, person, request }) => {
    const ended = await endOtherSessions(db, person.personId, request.sessionID);
    return { ended, sessions: await listSessions(db, person.personId, request.sessionID) };
  }),
  implement(api.changePassword, newPassword, async ({ db, person, body, request, now }) => {
    const what = ['password', person.personId];
    await requireNoWait(db, what, now);
    const row = await maybe<{ password_hash: string | null }>(db, 'select password_hash from person where id = $1', [person.personId]);
    if (!(await isPassword(row?.password_hash ?? null, body.current))) {
      const wait = waitAfter(await noteWrong(db, what, now));
      return new Refusal(invalid('current', `The present password does not match.${wait === 0 ? '' : ` ${waitInWords(wait)}`}`));
    }
    await forgetWrong(db, what);
    requireGood('next', body.next, [person.givenName, person.familyName, person.email]);
    if (body.next === body.current)
      throw new AppError('invalid', 'The new password is the present one. Choose another.', [
        { field: 'next', text: 'the same as before' },
      ]);
    await run(db, 'update person set password_hash = $2 where id = $1', [person.personId, await hashPassword(body.next)]);
    await startSession(request, person.personId);
    // Whoever knew the old one is out everywhere; whoever changed it is in, here.
    await endOtherSessions(db, person.personId, request.sessionID);
    return undefined;
  }),
];
