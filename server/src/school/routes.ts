import {
  embedHosts,
  jobAgain,
  newCourse,
  newPerson,
  newTerm,
  termChange,
  type EmbedHosts,
  type JobAgain,
  type NewCourse,
  type NewPerson,
  type NewTerm,
  type ListsDone,
  type TermChange,
  type School,
} from '@rosemary/api';
import { termWeeks } from '@rosemary/core';
import { listTerms } from '../course/queries.ts';
import { writeAudit } from '../platform/audit.ts';
import { listEmbedHosts } from '../plan/changes.ts';
import { notFound } from '../platform/errors.ts';
import { listFailures, tryAgain } from '../platform/jobFailures.ts';
import type { JobName } from '../platform/jobs.ts';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { personRoute, schoolRoute, type PersonContext, type Route } from '../platform/route.ts';
import { withUpload } from '../files/upload.ts';
import { bringLists, previewLists } from './lists.ts';
import { addCourse, addPerson, addTerm, changeTerm } from './create.ts';

async function makeSchool(db: Db): Promise<School> {
  const school = await maybe<{ title: string }>(db, 'select title from school');
  const terms = await listTerms(db);
  const versions = new Map((await rows<{ id: string; version: number }>(db, 'select id, version from term')).map((t) => [t.id, t.version]));
  return {
    title: school?.title ?? '',
    terms: terms.map((t) => ({ ...t, weeks: termWeeks(t).length, version: versions.get(t.id) ?? 0 })),
    people: await rows(
      db,
      `select id, given_name as "givenName", family_name as "familyName", email, is_administrator as "isAdministrator" from person where email not like '%@rosemary.invalid' order by family_name, given_name limit 5000`,
    ),
    courses: await rows(
      db,
      `
      select c.id, c.code, c.run, c.title, t.title as term, c.is_open as "isOpen", count(e.id) filter (where e.role = 'student' and not e.is_sample and e.withdrawn_at is null)::int as students,
             coalesce(string_agg(p.given_name || ' ' || p.family_name, ', ' order by p.family_name) filter (where e.role = 'instructor'), '') as staff
      from course c join term t on t.id = c.term_id left join enrolment e on e.course_id = c.id left join person p on p.id = e.person_id group by c.id, t.id order by t.starts_on desc, c.code`,
    ),
  };
}

async function added(c: PersonContext<unknown>, action: string, id: string): Promise<{ id: string; school: School }> {
  await writeAudit(c.db, { at: c.now, actorId: c.person.personId, courseId: null, action, subject: id });
  return { id, school: await makeSchool(c.db) };
}

export const schoolRoutes: readonly Route[] = [
  schoolRoute({
    method: 'get',
    path: '/school/jobs',
    handle: async ({ db }) => ({ failures: await listFailures(db) }),
  }),
  schoolRoute<JobAgain>({
    method: 'post',
    path: '/school/jobs/again',
    body: jobAgain,
    handle: async ({ db, body, now, kick, person }) => {
      if (!(await tryAgain(db, body.job, body.piece, now))) throw notFound();
      await writeAudit(db, { at: now, actorId: person.personId, courseId: null, action: 'background work tried again', after: body });
      kick(body.job as JobName);
      return { failures: await listFailures(db) };
    },
  }),
  schoolRoute({
    method: 'post',
    path: '/school/lists/preview',
    takesFile: true,
    handle: ({ db, request, response }) => withUpload(request, response, ({ path, name }) => previewLists(db, path, name)),
  }),
  schoolRoute({
    method: 'post',
    path: '/school/lists',
    takesFile: true,
    handle: ({ db, person, query, now, request, response }) =>
      withUpload(request, response, async ({ path, name }): Promise<ListsDone> => {
        const done = await bringLists(db, path, name, query.zone ?? 'UTC', now);
        await writeAudit(db, { at: now, actorId: person.personId, courseId: null, action: 'lists brought in', after: { name, ...done } });
        return { ...done, school: await makeSchool(db) };
      }),
  }),
  personRoute({
    method: 'get',
    path: '/embed-hosts',
    handle: async ({ db }) => ({ hosts: await listEmbedHosts(db) }),
  }),
  schoolRoute<EmbedHosts>({
    method: 'put',
    path: '/school/embed-hosts',
    body: embedHosts,
    handle: async ({ db, person, body, now }) => {
      await run(db, 'update school set embed_hosts = $1', [body.hosts]);
      await writeAudit(db, { at: now, actorId: person.personId, courseId: null, action: 'sites for embeds changed', after: body });
      return { hosts: await listEmbedHosts(db) };
    },
  }),
  schoolRoute({ method: 'get', path: '/school', handle: ({ db }) => makeSchool(db) }),
  schoolRoute<TermChange>({
    method: 'put',
    path: '/school/terms/:termId',
    body: termChange,
    handle: async (c) => {
      await changeTerm(c.db, c.params.termId ?? '', c.body);
      return added(c, 'term changed', c.params.termId ?? '');
    },
  }),
  schoolRoute<NewTerm>({
    method: 'post',
    path: '/school/terms',
    body: newTerm,
    handle: async (c) => added(c, 'term added', await addTerm(c.db, c.body)),
  }),
  schoolRoute<NewPerson>({
    method: 'post',
    path: '/school/people',
    body: newPerson,
    handle: async (c) => added(c, 'person added', await addPerson(c.db, c.body)),
  }),
  schoolRoute<NewCourse>({
    method: 'post',
    path: '/school/courses',
    body: newCourse,
    handle: async (c) => added(c, 'course added', await addCourse(c.db, c.body)),
  }),
];
