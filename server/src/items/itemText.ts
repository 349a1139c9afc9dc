import { checkDocument } from '@rosemary/api';
import { type DocumentNode, filesIn } from '@rosemary/core';
import { type Db, run } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';

export function checked(document: DocumentNode, field: string, embedHosts: readonly string[]): DocumentNode {
  const check = checkDocument(document, embedHosts);
  if (!check.ok) throw invalid(field, check.reason);
  return document;
}

/** The texts of an item that show files: its own, what is not published of it yet, the prompt of its reviews, its sample works. */
export type TextOfItem = 'text' | 'working' | 'prompt' | 'sample';

/**
 * Files named in a text are reachable through its item; those no longer named are not. Each text of an item keeps its own, so that
 * saving one takes nothing from another; where there are several of a kind, all of them are given.
 */
export async function keepItemFiles(
  db: Db,
  courseId: string,
  itemId: string,
  documents: DocumentNode | readonly DocumentNode[],
  part: TextOfItem = 'text',
): Promise<void> {
  const ids = [...new Set([documents].flat().flatMap(filesIn))];
  await run(db, 'delete from item_file where item_id = $1 and part = $2', [itemId, part]);
  const kept = await run(
    db,
    'insert into item_file (item_id, file_id, part) select distinct $1::uuid, f.id, $4 from file f where f.course_id = $2 and f.id::text = any($3)',
    [itemId, courseId, ids, part],
  );
  if (kept < ids.length) throw invalid('document', 'A picture, sound, video or file named here is not in this course. Insert it again.');
}
