import { checkDocument, type NewTemplate, type PageTemplate, type PageVersion } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import { type DocumentNode, filesIn, plainText, withFilesAt, wordCount } from '@rosemary/core';
import { copyFiles } from '../../files/index.ts';
import { type Db, maybe, rows, run } from '../../platform/database.ts';
import { invalid, notFound } from '../../platform/errors.ts';

/** What one person types within this time is one version. */
const ONE_SITTING = '10 minutes';

/**
 * Keeps what was saved: in the version the same person is still writing, or as the next one. The first time, what stood before
 * (a text brought in from elsewhere) is kept as well, so that it can be gone back to.
 */
export async function keepVersion(
  db: Db,
  itemId: string,
  before: DocumentNode | null,
  document: DocumentNode,
  personId: string,
  now: number,
  isReplacing = false,
): Promise<void> {
  const written = isReplacing
    ? 0
    : await run(
        db,
        `
    update page_version v set document = $2, saved_at = to_timestamp($4 / 1000.0)
    where v.item_id = $1 and v.saved_by = $3 and v.saved_at > to_timestamp($4 / 1000.0) - interval '${ONE_SITTING}'
      and v.number = (select max(number) from page_version where item_id = $1)`,
        [itemId, document, personId, now],
      );
  if (written > 0) return;
  if (before !== null && plainText(before).trim() !== '')
    await run(
      db,
      `
      insert into page_version (item_id, number, document, saved_at, saved_by)
      select $1, 1, $2, least(i.created_at, to_timestamp($4 / 1000.0) - interval '${ONE_SITTING}'), $3 from item i
      where i.id = $1 and not exists (select 1 from page_version where item_id = $1)`,
      [itemId, before, personId, now],
    );
  await run(
    db,
    `
    insert into page_version (item_id, number, document, saved_at, saved_by)
    select $1, coalesce((select max(number) from page_version where item_id = $1), 0) + 1, $2, to_timestamp($4 / 1000.0), $3`,
    [itemId, document, personId, now],
  );
}

export async function listVersions(db: Db, itemId: string): Promise<PageVersion[]> {
  const found = await rows<{ number: number; saved_at: Date; name: string; document: DocumentNode }>(
    db,
    `
    select v.number, v.saved_at, p.given_name || ' ' || p.family_name as name, v.document
    from page_version v join person p on p.id = v.saved_by where v.item_id = $1 order by v.number desc limit 200`,
    [itemId],
  );
  return found.map((v) => ({
    number: v.number,
    savedAt: v.saved_at.toISOString(),
    savedBy: v.name,
    words: wordCount(plainText(v.document)),
  }));
}

export async function getVersion(db: Db, itemId: string, number: number): Promise<{ document: DocumentNode }> {
  const found = await maybe<{ document: DocumentNode }>(db, 'select document from page_version where item_id = $1 and number = $2', [
    itemId,
    number,
  ]);
  if (found === null) throw notFound();
  return found;
}

export const listTemplates = (db: Db, personId: string): Promise<PageTemplate[]> =>
  rows<PageTemplate>(db, 'select id, title, document from page_template where owner_id = $1 and removed_at is null order by lower(title)', [
    personId,
  ]);

/** The files of a document that this person may take along: those of courses they teach. */
async function readOwnFiles(db: Db, personId: string, document: DocumentNode): Promise<ReadonlySet<string>> {
  const found = await rows<{ id: string }>(
    db,
    `select f.id from file f join enrolment e on e.course_id = f.course_id
     where f.id = any($1) and f.is_kept and e.person_id = $2 and e.role = 'instructor' and e.withdrawn_at is null`,
    [filesIn(document), personId],
  );
  return new Set(found.map((file) => file.id));
}

/** A page kept as a beginning for others, with the files of courses that this person teaches. */
export async function addTemplate(db: Db, personId: string, wish: NewTemplate, now: number): Promise<string> {
  const own = await readOwnFiles(db, personId, wish.document);
  const check = checkDocument(wish.document);
  if (!check.ok) throw invalid('document', check.reason);
  const made = await rows<{ id: string }>(
    db,
    'insert into page_template (owner_id, title, document, created_at) values ($1, $2, $3, to_timestamp($4 / 1000.0)) returning id',
    [personId, wish.title, withFilesOf(wish.document, own), now],
  );
  return made[0]?.id ?? '';
}

/** Leaves out what shows a file that may not be taken along. */
function withFilesOf(node: DocumentNode, own: ReadonlySet<string>): DocumentNode {
  if (node.content === undefined) return node;
  const kept = node.content.filter(({ attrs }) =>
    [attrs?.fileId, attrs?.captionsId].every((id) => typeof id !== 'string' || id === '' || own.has(id)),
  );
  return { ...node, content: kept.map((child) => withFilesOf(child, own)) };
}

/** A template's text for a page of a course, with its files among those of that course. */
export async function useTemplate(db: Db, courseId: string, personId: string, id: string, now: number): Promise<DocumentNode> {
  const template = await maybe<{ document: DocumentNode }>(
    db,
    'select document from page_template where id = $1 and owner_id = $2 and removed_at is null',
    [id, personId],
  );
  if (template === null) throw notFound();
  const used = filesIn(template.document);
  const here = await rows<{ id: string }>(db, 'select id from file where id = any($1) and course_id = $2 and removed_at is null', [
    used,
    courseId,
  ]);
  const own = new Set(here.map((file) => file.id));
  const made = await copyFiles(
    db,
    courseId,
    used.filter((file) => !own.has(file)),
    personId,
    now,
  );
  const renamed = JSON.parse(
    JSON.stringify(template.document, (name, value: unknown) =>
      ['fileId', 'captionsId'].includes(name) && typeof value === 'string' ? (made.get(value) ?? value) : value,
    ),
  ) as DocumentNode;
  return withFilesAt(renamed, (fileId) => urlOf(api.getFile, { courseId, fileId }));
}

export async function setTemplateRemoved(db: Db, personId: string, id: string, removedAt: number | null): Promise<void> {
  const changed = await run(db, 'update page_template set removed_at = to_timestamp($3 / 1000.0) where id = $1 and owner_id = $2', [
    id,
    personId,
    removedAt,
  ]);
  if (changed === 0) throw notFound();
}
