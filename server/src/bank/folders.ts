import type { BankFolder, BankFolderChange, NewBankFolder } from '@rosemary/api';
import type { Actor } from '@rosemary/core';
import { requirePersonByEmail } from '../people/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, invalid, notFound } from '../platform/errors.ts';
import { setCourseOut } from './courseBanks.ts';

interface FolderRow {
  id: string;
  parent_id: string | null;
  title: string;
  subject: string | null;
  person_id: string | null;
  version: number;
  questions: number;
  shared: boolean | null;
  shares: BankFolder['shares'];
  courses: BankFolder['courses'];
}

/** The courses somebody teaches. */
export const taughtBy = (actor: Actor): string[] =>
  actor.memberships.filter((m) => m.isActive && m.role !== 'student').map((m) => m.courseId);

/** The banks that the courses somebody teaches use: those whose questions they read, and those they write. */
async function banksOf(db: Db, actor: Actor): Promise<{ reads: string[]; writes: string[] }> {
  const teaching = actor.memberships.filter((m) => m.isActive && m.role !== 'student');
  const found = await rows<{ course_id: string; subject: string }>(
    db,
    'select b.course_id, f.subject from bank_course b join bank_folder f on f.id = b.folder_id where b.course_id = any($1) and b.removed_at is null',
    [teaching.map((m) => m.courseId)],
  );
  const banksOfThese = (ids: readonly string[]): string[] => [
    ...new Set(found.filter((c) => ids.includes(c.course_id)).map((c) => c.subject)),
  ];
  return {
    reads: banksOfThese(teaching.map((m) => m.courseId)),
    writes: banksOfThese(teaching.filter((m) => m.role === 'instructor').map((m) => m.courseId)),
  };
}

async function makeRoots(db: Db, actor: Actor): Promise<void> {
  await run(db, "insert into bank_folder (title, person_id) values ('My questions', $1) on conflict do nothing", [actor.personId]);
  await run(db, "insert into bank_folder (title) values ('The school’s questions') on conflict do nothing");
}

/** Every folder somebody reaches: those of their courses’ banks, their own, the school’s, and what colleagues share with them. */
export async function listFolders(db: Db, actor: Actor, makes: boolean): Promise<BankFolder[]> {
  const { reads, writes } = await banksOf(db, actor);
  if (makes) await makeRoots(db, actor);
  const found = await rows<FolderRow>(
    db,
    `
    with recursive shared as (
      select s.folder_id as id, s.can_edit from bank_share s where s.person_id = $1
      union select f.id, shared.can_edit from bank_folder f join shared on f.parent_id = shared.id)
    select f.id, f.parent_id, f.title, f.subject, f.person_id, f.version,
           (select count(*)::int from question q where q.folder_id = f.id and q.retired_at is null) as questions,
           (select bool_or(can_edit) from shared where shared.id = f.id) as shared,
           coalesce((select json_agg(json_build_object('personId', p.id, 'name', p.given_name || ' ' || p.family_name, 'canEdit', s.can_edit) order by p.family_name)
                     from bank_share s join person p on p.id = s.person_id where s.folder_id = f.id), '[]') as shares,
           coalesce((select json_agg(json_build_object('courseId', c.id, 'title', c.code || ' ' || c.run || ' ' || c.title, 'teachers',
                       coalesce((select json_agg(p.given_name || ' ' || p.family_name order by e.is_of_record desc, p.family_name)
                                 from enrolment e join person p on p.id = e.person_id where e.course_id = c.id and e.role = 'instructor' and e.withdrawn_at is null), '[]'))
                       order by c.code, c.run)
                     from bank_course b join course c on c.id = b.course_id where b.folder_id = f.id and b.removed_at is null), '[]') as courses
    from bank_folder f
    where f.removed_at is null and (f.subject = any($2) or f.person_id = $1 or (f.subject is null and f.person_id is null) or f.id in (select id from shared))
    order by f.subject is null, f.person_id is null, f.title, f.id`,
    [actor.personId, reads],
  );
  return found.map((row): BankFolder => {
    const isMine = row.person_id === actor.personId;
    const isSchools = row.subject === null && row.person_id === null;
    const isSubject = row.subject !== null && reads.includes(row.subject);
    const canEdit =
      isMine || (isSchools && actor.isAdministrator) || (row.subject !== null && writes.includes(row.subject)) || row.shared === true;
    return {
      id: row.id,
      parentId: row.parent_id,
      title: row.title,
      owner: isMine ? 'person' : isSchools ? 'school' : isSubject ? 'subject' : 'shared',
      isMine,
      canEdit,
      questions: row.questions,
      version: row.version,
      shares: row.shares,
      // Who else uses a bank is for those who keep it.
      courses: canEdit ? row.courses : [],
    };
  });
}

/** A folder somebody reaches; one they do not is not there for them. */
export async function getFolder(db: Db, actor: Actor, folderId: string): Promise<BankFolder> {
  const found = (await listFolders(db, actor, false)).find((f) => f.id === folderId);
  if (found === undefined) throw notFound();
  return found;
}

/** A folder somebody may write in. */
export async function requireFolder(db: Db, actor: Actor, folderId: string): Promise<BankFolder> {
  const folder = await getFolder(db, actor, folderId);
  if (!folder.canEdit) throw new AppError('refused', `You may read “${folder.title}” and not change it. Ask whoever keeps it.`);
  return folder;
}

export async function addFolder(db: Db, actor: Actor, wish: NewBankFolder): Promise<string> {
  await requireFolder(db, actor, wish.parentId);
  const row = await maybe<{ id: string }>(
    db,
    'insert into bank_folder (parent_id, title, subject, person_id) select id, $2, subject, person_id from bank_folder where id = $1 returning id',
    [wish.parentId, wish.title],
  );
  return row?.id ?? '';
}

async function moveFolder(db: Db, actor: Actor, folder: BankFolder, parentId: string): Promise<void> {
  const target = await requireFolder(db, actor, parentId);
  const isBelow = await maybe(
    db,
    `with recursive down as (select id from bank_folder where id = $1 union select f.id from bank_folder f join down on f.parent_id = down.id)
     select 1 as one from down where id = $2`,
    [folder.id, parentId],
  );
  if (isBelow !== null) throw invalid('parentId', `“${folder.title}” cannot stand in itself or below itself. Choose another folder.`);
  const isSameOwner = await maybe(
    db,
    'select 1 as one from bank_folder a, bank_folder b where a.id = $1 and b.id = $2 and a.subject is not distinct from b.subject and a.person_id is not distinct from b.person_id',
    [folder.id, parentId],
  );
  if (isSameOwner === null)
    throw invalid('parentId', `“${target.title}” belongs to somebody else. Move the questions there instead of the folder.`);
  await run(db, 'update bank_folder set parent_id = $2, version = version + 1 where id = $1', [folder.id, parentId]);
}

/** Shares a folder with somebody who is known here, to read or to edit. */
async function addShare(db: Db, folder: BankFolder, share: NonNullable<BankFolderChange['addShare']>): Promise<void> {
  const personId = await requirePersonByEmail(db, share.email);
  await run(
    db,
    'insert into bank_share (folder_id, person_id, can_edit) values ($1, $2, $3) on conflict (folder_id, person_id) do update set can_edit = excluded.can_edit',
    [folder.id, personId, share.canEdit],
  );
}

export async function changeFolder(db: Db, actor: Actor, folderId: string, change: BankFolderChange, now: number): Promise<void> {
  const folder = await requireFolder(db, actor, folderId);
  if (change.title !== undefined) {
    if (folder.parentId === null) throw invalid('title', 'The first folder keeps its name. Make folders in it and name those.');
    await run(db, 'update bank_folder set title = $2, version = version + 1 where id = $1', [folderId, change.title]);
  }
  if (change.parentId !== undefined) {
    if (folder.parentId === null) throw invalid('parentId', 'The first folder stays where it is. Move what is in it.');
    await moveFolder(db, actor, folder, change.parentId);
  }
  if (change.addShare !== undefined) await addShare(db, folder, change.addShare);
  if (change.endShare !== undefined)
    await run(db, 'delete from bank_share where folder_id = $1 and person_id = $2', [folderId, change.endShare]);
  if (change.courseOut !== undefined) await setCourseOut(db, folderId, change.courseOut, true, now);
  if (change.courseAgain !== undefined) await setCourseOut(db, folderId, change.courseAgain, false, now);
}

/** Takes an empty folder away, or brings it back. */
export async function setFolderRemoved(db: Db, actor: Actor, folderId: string, at: number | null): Promise<void> {
  if (at !== null) {
    const folder = await requireFolder(db, actor, folderId);
    const isUsed = await maybe(
      db,
      'select 1 as one from question where folder_id = $1 union all select 1 from bank_folder where parent_id = $1 and removed_at is null limit 1',
      [folderId],
    );
    if (folder.parentId === null || isUsed !== null)
      throw new AppError(
        'not-now',
        `“${folder.title}” is not empty. Move its questions and folders first; questions are retired, never deleted.`,
      );
  }
  if (
    (await run(db, 'update bank_folder set removed_at = to_timestamp($2 / 1000.0), version = version + 1 where id = $1', [
      folderId,
      at,
    ])) === 0
  )
    throw notFound();
  if (at === null) await requireFolder(db, actor, folderId);
}
