import { LIMITS, paragraphs } from '@rosemary/api';
import { type Db, maybe, run } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';

/** Puts words before what an item says. */
export type PutFirst = (db: Db, itemId: string, words: string) => Promise<void>;

/** Words as paragraphs before a text; a text in which nothing is written yet gives way to them. */
export function putBeforeText(table: string, column: string): PutFirst {
  return async (db, itemId, words) => {
    const { content } = paragraphs(...words.split(/\n+/).filter((line) => line.trim() !== ''));
    await run(
      db,
      `update ${table} set ${column} = jsonb_set(${column}, '{content}',
         $2::jsonb || case when ${column} -> 'content' = '[{"type": "paragraph"}]' then '[]' else coalesce(${column} -> 'content', '[]') end)
       where item_id = $1`,
      [itemId, JSON.stringify(content)],
    );
  };
}

/** Words before a note of plain text. */
export function putBeforeNote(table: string): PutFirst {
  return async (db, itemId, words) => {
    const found = await maybe<{ note: string }>(db, `select note from ${table} where item_id = $1`, [itemId]);
    const note = [words, found?.note ?? ''].filter((part) => part !== '').join('\n');
    if (note.length > LIMITS.note)
      throw invalid(
        'words',
        `What is said first and the note together are ${note.length} characters; at most ${LIMITS.note} fit. Say less.`,
      );
    await run(db, `update ${table} set note = $2 where item_id = $1`, [itemId, note]);
  };
}
