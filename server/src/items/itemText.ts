import { checkDocument } from '@rosemary/api';
import { type DocumentNode, filesIn } from '@rosemary/core';
import { type Db, run } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';

export function checked(document: DocumentNode, field: string, embedHosts: readonly string[]): DocumentNode {
  const check = checkDocument(document, embedHosts);
  if (!check.ok) throw invalid(field, check.reason);
  return document;
}

/** Files named in a text are reachable through its item; those no longer named are not. */
export async function keepItemFiles(db: Db, courseId: string, itemId: string, document: DocumentNode): Promise<void> {
  const ids = filesIn(document);
  await run(db, 'delete from item_file where item_id = $1', [itemId]);
  const kept = await run(
    db,
    'insert into item_file (item_id, file_id) select distinct $1::uuid, f.id from file f where f.course_id = $2 and f.id::text = any($3)',
    [itemId, courseId, ids],
  );
  if (kept < new Set(ids).size)
    throw invalid('document', 'A picture, sound, video or file named here is not in this course. Insert it again.');
}
