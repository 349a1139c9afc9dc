import type {
  AwaitedApproval,
  LetterTableChange,
  LetterTableView,
  SchoolHandover,
  SchoolHandoverSetting,
  SchoolSection,
} from '@rosemary/api';
import { type LetterTable, registrarLetter, type RegistrarRules, translationGaps } from '@rosemary/core';
import { listSchemes } from '../gradebook/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { conflict, invalid } from '../platform/errors.ts';
import { isoAt } from '../platform/instants.ts';
import { findRegistrar } from './registrarClient.ts';
import { getHandoverSetting } from './setting.ts';

export const listSchoolSections = (db: Db): Promise<SchoolSection[]> =>
  rows<SchoolSection & Record<string, unknown>>(
    db,
    `
    with student as (
      select e.id, e.section_id from enrolment e where e.role = 'student' and not e.is_sample and e.withdrawn_at is null),
    agreed as (
      select distinct on (enrolment_id) enrolment_id, kind from agreed_grade order by enrolment_id, id desc),
    last as (
      select distinct on (enrolment_id) enrolment_id, state from handover_row where state <> 'taken back' order by enrolment_id, place desc)
    select s.id as "sectionId", c.id as "courseId", c.code || ' ' || c.run || ', ' || c.title as course, s.title as section,
           coalesce((select p.given_name || ' ' || p.family_name from enrolment i join person p on p.id = i.person_id where i.course_id = c.id and i.role = 'instructor' and i.is_of_record and i.withdrawn_at is null limit 1), '') as teacher,
           coalesce((select json_agg(json_build_object('enrolmentId', i.id, 'name', p.given_name || ' ' || p.family_name, 'isOfRecord', i.is_of_record) order by p.family_name, i.id)
                     from enrolment i join person p on p.id = i.person_id where i.course_id = c.id and i.role = 'instructor' and i.withdrawn_at is null), '[]') as instructors,
           count(t.id)::int as students, count(*) filter (where a.kind = 'agreed')::int as agreed, count(*) filter (where l.state in ('accepted', 'by hand'))::int as accepted,
           count(*) filter (where l.state = 'refused')::int as refused, count(*) filter (where l.state in ('awaits approval', 'waiting', 'sending', 'unknown'))::int as "underWay"
    from section s join course c on c.id = s.course_id left join student t on t.section_id = s.id left join agreed a on a.enrolment_id = t.id left join last l on l.enrolment_id = t.id
    where s.removed_at is null and c.removed_at is null and c.archived_at is null and c.is_open group by s.id, c.id order by c.code, c.run, s.position, s.title`,
  );

/** How far the final grades of one course are, and until when they are taken; null where that is not known, or the course is closed. */
export async function readHandoverStanding(db: Db, courseId: string): Promise<HandoverStanding | null> {
  const found = await maybe<HandoverStanding & Record<string, unknown>>(
    db,
    `
    with student as (
      select e.id from enrolment e where e.course_id = $1 and e.role = 'student' and not e.is_sample and e.withdrawn_at is null and not e.is_auditing and e.section_id is not null)
    select count(*)::int as students, count(*) filter (where a.kind = 'agreed')::int as agreed, count(*) filter (where l.state in ('accepted', 'by hand'))::int as held,
           count(*) filter (where l.state = 'refused')::int as refused, (extract(epoch from max(g.window_opens_at)) * 1000)::float8 as "opensAt", (extract(epoch from max(g.window_closes_at)) * 1000)::float8 as "closesAt"
    from student s left join lateral (select kind from agreed_grade where enrolment_id = s.id order by id desc limit 1) a on true
    left join lateral (select state from handover_row where enrolment_id = s.id and state <> 'taken back' order by place desc limit 1) l on true cross join handover_setting g
    where not exists (select 1 from final_setting f where f.course_id = $1 and f.closed_at is not null)`,
    [courseId],
  );
  return found === null || found.closesAt === null ? null : found;
}

const listApprovals = (db: Db): Promise<AwaitedApproval[]> =>
  rows<AwaitedApproval & Record<string, unknown>>(
    db,
    `select r.id as "rowId", p.family_name || ', ' || p.given_name as student, c.code || ' ' || c.run as course, coalesce(was.sent_letter, '') as from, a.sent_letter as to, r.reason,
            b.given_name || ' ' || b.family_name as who, to_char(r.asked_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') as at
     from handover_row r join agreed_grade a on a.id = r.agreed_id join enrolment e on e.id = r.enrolment_id join person p on p.id = e.person_id join course c on c.id = r.course_id
     join person b on b.id = r.asked_by left join handover_row f on f.id = r.corrects_id left join agreed_grade was on was.id = f.agreed_id where r.state = 'awaits approval' order by r.place`,
  );

/** What the Desk says of the final grades of a course. Instants in milliseconds. */
export interface HandoverStanding {
  readonly students: number;
  readonly agreed: number;
  readonly held: number;
  readonly refused: number;
  readonly opensAt: number | null;
  readonly closesAt: number | null;
}

/** Every scheme that a course reads its totals by, with the school’s table for it. */
async function listTables(db: Db, rules: RegistrarRules | null): Promise<LetterTableView[]> {
  const [schemes, kept] = await Promise.all([
    listSchemes(db),
    rows<{ labels: string[]; letters: LetterTable; version: number }>(db, 'select labels, letters, version from letter_table'),
  ]);
  const by = new Map(kept.map((k) => [JSON.stringify(k.labels), k]));
  return schemes.map(({ labels, courses }) => {
    const own = by.get(JSON.stringify(labels));
    const letters = own?.letters ?? {};
    return {
      ...{ labels, courses, letters, version: own?.version ?? 0 },
      gaps: rules === null ? [] : translationGaps(labels, letters, rules).map((g) => g.text),
    };
  });
}

export async function readSchoolHandover(db: Db): Promise<SchoolHandover> {
  const setting = await getHandoverSetting(db);
  const [tables, sections, approvals] = await Promise.all([listTables(db, setting.rules), listSchoolSections(db), listApprovals(db)]);
  return {
    registrar: {
      isSet: findRegistrar() !== null,
      askedAt: isoAt(setting.askedAt),
      opensAt: isoAt(setting.opensAt),
      closesAt: isoAt(setting.closesAt),
      fault: setting.fault,
    },
    rules: setting.rules,
    setting: {
      version: setting.version,
      withdrawnLetter: setting.withdrawnLetter,
      auditingLetter: setting.auditingLetter,
      needsApproval: setting.needsApproval,
      form: setting.form,
    },
    tables,
    sections,
    approvals,
  };
}

/** A letter has to be one of the registrar’s, in his spelling, where it is known what these are. */
function requireLetter(rules: RegistrarRules | null, field: string, letter: string | null): void {
  if (letter === null || rules === null || registrarLetter(rules, letter) !== null) return;
  throw invalid(field, `“${letter}” is no letter of the registrar. He takes ${rules.letters.map((l) => l.letter).join(', ')}.`);
}

export async function saveSchoolSetting(db: Db, change: SchoolHandoverSetting): Promise<void> {
  const now = await getHandoverSetting(db);
  requireLetter(now.rules, 'withdrawnLetter', change.withdrawnLetter);
  requireLetter(now.rules, 'auditingLetter', change.auditingLetter);
  const done = await run(
    db,
    'update handover_setting set withdrawn_letter = $2, auditing_letter = $3, needs_approval = $4, form = $5, version = version + 1 where version = $1',
    [change.version, change.withdrawnLetter, change.auditingLetter, change.needsApproval, JSON.stringify(change.form)],
  );
  if (done === 0) throw conflict((await readSchoolHandover(db)).setting);
}

export async function saveTable(db: Db, change: LetterTableChange): Promise<void> {
  const { rules } = await getHandoverSetting(db);
  for (const [label, letter] of Object.entries(change.letters)) {
    if (!change.labels.includes(label)) throw invalid('letters', `“${label}” is no letter of this scheme.`);
    requireLetter(rules, `letters.${label}`, letter);
  }
  const before = await maybe<{ version: number }>(db, 'select version from letter_table where labels = $1 for update', [change.labels]);
  if ((before?.version ?? 0) !== change.version) throw conflict(await readSchoolHandover(db));
  await run(
    db,
    `insert into letter_table (labels, letters) values ($1, $2) on conflict (labels) do update set letters = excluded.letters, version = letter_table.version + 1`,
    [change.labels, JSON.stringify(change.letters)],
  );
}
