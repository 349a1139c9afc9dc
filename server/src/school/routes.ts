import {
  activitySetting,
  embedHosts,
  jobAgain,
  type ListsDone,
  newCourse,
  newPerson,
  newTerm,
  personChange,
  type School,
  storageLimits,
  taskTypesChange,
  termChange,
} from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { termWeeks } from '@rosemary/core';
import { removeCourse, restoreCourse } from '../course/index.ts';
import { addCourse, schoolSteps } from '../courseHome/index.ts';
import { getStorage } from '../files/index.ts';
import { addPerson, changePerson, listEmbedHosts, requireGood } from '../people/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { compareLedger, listLedgerChecks } from '../gradebook/index.ts';
import { listFailures, tryAgain } from '../platform/jobFailures.ts';
import type { JobName } from '../platform/jobs.ts';
import { implement, type Route } from '../platform/route.ts';
import { addTerm, changeTerm, listTerms } from '../term/index.ts';
import { changeActivitySetting, changeTaskTypes, getActivitySetting, listTaskTypes } from './progressSetting.ts';
import { beginLook, endLook } from './look.ts';
import { listHolidayCountries, listPublicHolidays } from './publicHolidays.ts';
import { bringLists, previewLists } from './lists.ts';

async function makeSchool(db: Db): Promise<School> {
  const school = await maybe<{ title: string }>(db, 'select title from school');
  const terms = await listTerms(db);
  const versions = new Map((await rows<{ id: string; version: number }>(db, 'select id, version from term')).map((t) => [t.id, t.version]));
  return {
    title: school?.title ?? '',
    terms: terms.map((t) => ({ ...t, weeks: termWeeks(t).length, version: versions.get(t.id) ?? 0 })),
    people: await rows(
      db,
      `select id, given_name as "givenName", family_name as "familyName", email, is_administrator as "isAdministrator", teaches, deactivated_at is null as "isActive" from person where email not like '%@rosemary.invalid' order by family_name, given_name limit 5000`,
    ),
    courses: await rows(
      db,
      `
      select c.id, c.code, c.run, c.title, t.title as term, c.is_open as "isOpen", c.archived_at is not null as "isArchived", c.removed_at as "removedAt", count(e.id) filter (where e.role = 'student' and not e.is_sample and e.withdrawn_at is null)::int as students,
             coalesce(string_agg(p.given_name || ' ' || p.family_name, ', ' order by p.family_name) filter (where e.role = 'instructor'), '') as staff
      from course c join term t on t.id = c.term_id left join enrolment e on e.course_id = c.id left join person p on p.id = e.person_id group by c.id, t.id order by t.starts_on desc, c.code`,
    ),
  };
}

const withSchool = async (db: Db, id: string): Promise<{ id: string; school: School }> => ({ id, school: await makeSchool(db) });

export const schoolRoutes: readonly Route[] = [
  implement(api.listTaskTypes, ({ db }) => listTaskTypes(db)),
  implement(api.changeTaskTypes, taskTypesChange, ({ db, body, now }) => changeTaskTypes(db, body, now)),
  implement(api.getActivitySetting, ({ db }) => getActivitySetting(db)),
  implement(api.changeActivitySetting, activitySetting, ({ db, body }) => changeActivitySetting(db, body)),
  implement(api.getLedgerChecks, async ({ db }) => ({ checks: await listLedgerChecks(db) })),
  implement(api.checkLedgerNow, async ({ db, now }) => {
    await compareLedger(db, now);
    return { checks: await listLedgerChecks(db) };
  }),
  implement(api.getJobFailures, async ({ db }) => ({ failures: await listFailures(db) })),
  implement(api.tryJobAgain, jobAgain, async ({ db, body, now, kick }) => {
    if (!(await tryAgain(db, body.job, body.piece, now))) throw notFound();
    kick(body.job as JobName);
    return { failures: await listFailures(db) };
  }),
  implement(api.previewLists, ({ db, file }) => previewLists(db, file.path, file.name)),
  implement(api.importLists, async ({ db, query, now, file, account }): Promise<ListsDone> => {
    const done = await bringLists(db, file.path, file.name, query.zone ?? 'UTC', now);
    account({ after: { name: file.name, ...done } });
    return { ...done, school: await makeSchool(db) };
  }),
  implement(api.listEmbedHosts, async ({ db }) => ({ hosts: await listEmbedHosts(db) })),
  implement(api.changeEmbedHosts, embedHosts, async ({ db, body }) => {
    await run(db, 'update school set embed_hosts = $1', [body.hosts]);
    return { hosts: await listEmbedHosts(db) };
  }),
  implement(api.getStorage, ({ db }) => getStorage(db)),
  implement(api.changeStorage, storageLimits, async ({ db, body }) => {
    await run(db, 'update school set most_course_mb = $1, most_person_mb = $2', [body.courseMegabytes, body.personMegabytes]);
    return getStorage(db);
  }),
  implement(api.getSchool, ({ db }) => makeSchool(db)),
  implement(api.changeTerm, termChange, async (c) => {
    await changeTerm(c.db, c.params.termId, c.body);
    return withSchool(c.db, c.params.termId);
  }),
  implement(api.addTerm, newTerm, async (c) => withSchool(c.db, await addTerm(c.db, c.body))),
  implement(api.changePerson, personChange, async (c) => {
    await changePerson(c.db, c.params.id, c.body, c.person.personId, c.now);
    return { school: await makeSchool(c.db) };
  }),
  implement(api.addPerson, newPerson, async (c) => {
    requireGood('password', c.body.password, [c.body.givenName, c.body.familyName, c.body.email]);
    return withSchool(c.db, await addPerson(c.db, c.body));
  }),
  implement(api.removeSchoolCourse, async (c) => {
    await removeCourse(c.db, c.params.id, true, c.now);
    c.account({ courseId: c.params.id });
    return { school: await makeSchool(c.db) };
  }),
  implement(api.restoreSchoolCourse, async (c) => {
    await restoreCourse(c.db, c.params.id);
    c.account({ courseId: c.params.id });
    return { school: await makeSchool(c.db) };
  }),
  implement(api.getSchoolSteps, ({ db, person }) => schoolSteps(db, person.personId)),
  implement(api.listHolidayCountries, () => listHolidayCountries()),
  implement(api.listPublicHolidays, ({ query }) => listPublicHolidays(query.country ?? '', query.region, query.from ?? '', query.to ?? '')),
  implement(api.beginLook, (c) => {
    c.account({ courseId: c.params.id });
    return beginLook(c.db, c.params.id, c.person.personId, c.now);
  }),
  implement(api.endLook, async (c) => {
    c.account({ courseId: c.params.id });
    await endLook(c.db, c.params.id, c.person.personId, c.now);
  }),
  implement(api.addCourse, newCourse, async (c) => withSchool(c.db, await addCourse(c.db, c.body))),
];
