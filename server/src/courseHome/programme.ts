import { checkDocument, type DocumentChange, type Programme } from '@rosemary/api';
import { type DocumentNode, type Membership, minutesInWords, policyInWords, weekNumber } from '@rosemary/core';
import { getCourse, listSections } from '../course/index.ts';
import { getPolicy } from '../gradebook/index.ts';
import { listVisible } from '../opening/index.ts';
import { getPlan } from '../plan/index.ts';
import { type Db, maybe, run, rows } from '../platform/database.ts';
import { conflict, invalid } from '../platform/errors.ts';
import { getTerm } from '../term/index.ts';

interface Own {
  document: DocumentNode;
  version: number;
}

const findOwn = (db: Db, courseId: string): Promise<Own | null> =>
  maybe<Own>(db, 'select document, version from course_programme where course_id = $1', [courseId]);

/** What this member may read of an item in the programme: nothing of drafts; a student reads their own dates. */
async function datesFor(
  db: Db,
  courseId: string,
  member: Membership,
  now: number,
): Promise<(itemId: string, due: string | null) => string | null | undefined> {
  if (member.role !== 'student') return (_, due) => due;
  const visible = new Map((await listVisible(db, courseId, member, now)).map((v) => [v.item.id, v]));
  return (itemId) => {
    const own = visible.get(itemId);
    if (own === undefined) return undefined;
    return own.dates.due.at === null ? null : new Date(own.dates.due.at).toISOString();
  };
}

/** The course programme: made from the Plan and the policy each time it is read, so that it cannot be out of date. */
export async function makeProgramme(db: Db, courseId: string, member: Membership, now: number): Promise<Programme> {
  const course = await getCourse(db, courseId);
  const { term, zone } = await getTerm(db, courseId);
  const { policy, late } = await getPolicy(db, courseId);
  const plan = await getPlan(db, courseId, now);
  const dueFor = await datesFor(db, courseId, member, now);
  const categories = new Map(plan.categories.map((c) => [c.id, c.title]));
  const staff = await rows<{ name: string; email: string; role: string }>(
    db,
    `
    select p.given_name || ' ' || p.family_name as name, p.email, e.role from enrolment e join person p on p.id = e.person_id
    where e.course_id = $1 and e.role in ('instructor', 'assistant') and e.withdrawn_at is null order by e.role desc, e.is_of_record desc, p.family_name`,
    [courseId],
  );
  const own = await findOwn(db, courseId);
  let drafts = 0;
  const units = plan.units
    .filter((unit) => !unit.isStanding)
    .map((unit) => ({
      id: unit.id,
      title: unit.title,
      items: unit.items.flatMap((item) => {
        if (item.isOff) return [];
        if (item.isDraft) {
          drafts += 1;
          return [];
        }
        const dueAt = dueFor(item.id, item.dueAt);
        if (dueAt === undefined) return [];
        return [
          {
            id: item.id,
            kind: item.kind,
            title: item.title,
            dueAt,
            week: dueAt === null ? null : weekNumber(term, Date.parse(dueAt), zone),
            time: item.estimatedMinutes === 0 ? '' : minutesInWords(item.estimatedMinutes),
            possible: item.possible,
            category: item.categoryId === null ? null : (categories.get(item.categoryId) ?? null),
          },
        ];
      }),
    }));
  return {
    title: course.title,
    code: course.code,
    term,
    timeZone: zone,
    sections: member.role === 'student' ? [] : (await listSections(db, courseId)).map((s) => s.title),
    staff,
    units: units.filter((u) => u.items.length > 0),
    policy: policyInWords(policy, late),
    text: own?.document ?? null,
    version: own?.version ?? 0,
    drafts: member.role === 'student' ? 0 : drafts,
    canEdit: member.role === 'instructor',
  };
}

/** Keeps the teacher's own words; another's since is a conflict with both. */
export async function saveProgramme(db: Db, courseId: string, change: DocumentChange): Promise<number> {
  const check = checkDocument(change.document);
  if (!check.ok) throw invalid('document', check.reason);
  const saved = await maybe<{ version: number }>(
    db,
    `
    insert into course_programme (course_id, document) select $1, $2 where $3 = 0
    on conflict (course_id) do nothing returning version`,
    [courseId, change.document, change.version],
  );
  const next =
    saved ??
    (await maybe<{ version: number }>(
      db,
      'update course_programme set document = $2, version = version + 1 where course_id = $1 and version = $3 returning version',
      [courseId, change.document, change.version],
    ));
  if (next === null) throw conflict(await findOwn(db, courseId));
  return next.version;
}

/** The words of a programme that comes from an archive, where none is written yet. */
export async function putProgramme(db: Db, courseId: string, document: DocumentNode): Promise<void> {
  await run(db, 'insert into course_programme (course_id, document) values ($1, $2) on conflict do nothing', [courseId, document]);
}
