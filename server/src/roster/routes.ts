import * as api from '@rosemary/api/endpoints';
import { memberChange, newMember, type Roster, type RosterMember } from '@rosemary/api';
import { reachesSection } from '@rosemary/core';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { findPeople } from './findPeople.ts';
import { addMember, setArrangements } from './members.ts';
import { recordMoves } from './moves.ts';
import { randomUUID } from 'node:crypto';
import { implement, type MemberContext, type Route } from '../platform/route.ts';

interface Row {
  id: string;
  person_id: string;
  given_name: string;
  family_name: string;
  email: string;
  role: RosterMember['role'];
  section_id: string | null;
  section: string | null;
  is_sample: boolean;
  withdrawn_at: Date | null;
  is_auditing: boolean;
  started_at: Date;
  arrangements: RosterMember['arrangements'];
  version: number;
}

async function makeRoster(c: MemberContext<unknown>): Promise<Roster> {
  const { db, courseId, member } = c;
  const found = await rows<Row>(
    db,
    `
    select e.id, e.person_id, p.given_name, p.family_name, p.email, e.role, e.section_id, e.is_sample, e.withdrawn_at, e.is_auditing, e.started_at, e.version,
           coalesce(s.title, (select string_agg(s2.title, ', ' order by s2.position) from assistant_section a join section s2 on s2.id = a.section_id where a.enrolment_id = e.id)) as section,
           coalesce((select json_agg(json_build_object('extraDays', r.extra_days, 'timeMultiplier', (r.time_multiplier * 1000)::int, 'extraAttempts', r.extra_attempts, 'reason', r.reason) order by r.extra_days, r.id)
                     from arrangement r where r.enrolment_id = e.id), '[]') as arrangements
    from enrolment e join person p on p.id = e.person_id left join section s on s.id = e.section_id where e.course_id = $1 order by p.family_name, p.given_name`,
    [courseId],
  );
  const canEdit = member.role === 'instructor';
  const shown = found.filter((row) => row.role !== 'student' || reachesSection(member, row.section_id));
  return {
    canEdit,
    sections: await rows(db, 'select id, title from section where course_id = $1 and removed_at is null order by position, title', [
      courseId,
    ]),
    members: shown.map((row) => ({
      enrolmentId: row.id,
      personId: row.person_id,
      givenName: row.given_name,
      familyName: row.family_name,
      email: row.email,
      role: row.role,
      sectionId: row.section_id,
      section: row.section ?? (row.role === 'student' ? '' : 'all sections'),
      isSample: row.is_sample,
      startedAt: row.started_at.toISOString(),
      withdrawnAt: row.withdrawn_at?.toISOString() ?? null,
      isAuditing: row.is_auditing,
      arrangements: row.arrangements,
      version: row.version,
    })),
  };
}

async function requireSection(db: Db, courseId: string, sectionId: string | null): Promise<void> {
  if (sectionId === null) throw invalid('sectionId', 'A student belongs to a section. Choose one.');
  if (
    (await maybe(db, 'select 1 as one from section where id = $1 and course_id = $2 and removed_at is null', [sectionId, courseId])) ===
    null
  )
    throw notFound();
}

export const rosterRoutes: readonly Route[] = [
  implement(api.getRoster, makeRoster),
  implement(api.findPeople, ({ db, courseId, query }) => findPeople(db, courseId, (query.q ?? '').slice(0, 60))),
  implement(api.addMember, newMember, async (c) => {
    const { db, courseId, body } = c;
    if (body.role === 'student') await requireSection(db, courseId, body.sectionId);
    if ((await maybe(db, 'select 1 as one from person where id = $1', [body.personId])) === null) throw notFound();
    const added = await addMember(db, courseId, body.personId, body.role, body.role === 'student' ? body.sectionId : null);
    if (added === null) throw new AppError('not-now', 'This person is in the course in this part already.');
    return makeRoster(c);
  }),
  implement(api.changeMember, memberChange, async (c) => {
    const { db, courseId, body } = c;
    const before = await maybe<{ role: string; version: number; person_id: string; section_id: string | null; is_of_record: boolean }>(
      db,
      'select role, version, person_id, section_id, is_of_record from enrolment where id = $1 and course_id = $2 for update',
      [c.params.enrolmentId, courseId],
    );
    if (before === null) throw notFound();
    if (before.version !== body.version) throw conflict(before);
    if (before.person_id === c.person.personId && body.isWithdrawn === true)
      throw new AppError('not-now', 'You cannot withdraw yourself. Ask another instructor.');
    if (before.is_of_record && body.isWithdrawn === true && !c.person.isAdministrator)
      throw new AppError('refused', 'This is the instructor of record, whom only an administrator of the school can withdraw.');
    if (body.sectionId !== undefined && before.role === 'student') await requireSection(db, courseId, body.sectionId);
    const { sectionId = null } = body;
    if (before.section_id !== null && sectionId !== null && sectionId !== before.section_id) {
      const move = { id: randomUUID(), enrolmentId: c.params.enrolmentId, from: before.section_id, to: sectionId };
      await recordMoves(db, courseId, [move], randomUUID(), c.now);
    }
    await run(
      db,
      `update enrolment set section_id = case when $3 then $4 else section_id end, withdrawn_at = case when $5::boolean is null then withdrawn_at when $5 then to_timestamp($6 / 1000.0) end, started_at = coalesce($7, started_at), is_auditing = coalesce($8, is_auditing), version = version + 1 where id = $1 and course_id = $2`,
      [
        c.params.enrolmentId,
        courseId,
        body.sectionId !== undefined,
        sectionId,
        body.isWithdrawn ?? null,
        c.now,
        body.startedAt ?? null,
        body.isAuditing ?? null,
      ],
    );
    if (body.arrangements !== undefined) {
      if (before.role !== 'student') throw invalid('arrangements', 'Only a student has arrangements.');
      await setArrangements(db, c.params.enrolmentId, body.arrangements);
    }
    c.account({ before });
    return makeRoster(c);
  }),
];
