import type { DocumentNode } from '@rosemary/core';
import { randomUUID } from 'node:crypto';
import { columnsOf } from '../../items/index.ts';
import { rows, run } from '../../platform/database.ts';
import type { Copying } from '../servedKind.ts';
import { PARTS } from './parts.ts';

/**
 * Quizzes come along with their setting and their paper. Their questions are those of the bank, in the newest version: what a copy is made
 * for has not been taken by anybody. Codes stay behind, for they are made for one room.
 */
export async function copyQuizzes({ db, copies, moved }: Copying): Promise<void> {
  const quiz = columnsOf(PARTS.quiz, true);
  const section = columnsOf(PARTS.quiz_section, true);
  const part = columnsOf(PARTS.quiz_part, true);
  const [old, made] = [copies.map((c) => c.itemId), copies.map((c) => c.copyId)];
  await run(
    db,
    `insert into quiz (item_id, ${quiz.names}) select t.made, ${quiz.from('q')} from unnest($1::uuid[], $2::uuid[]) as t(old, made) join quiz q on q.item_id = t.old`,
    [old, made],
  );
  const sections = (
    await rows<{ id: string; item_id: string }>(db, 'select id, item_id from quiz_section where item_id = any($1)', [old])
  ).flatMap((s) => copies.filter((c) => c.itemId === s.item_id).map((c) => ({ oldId: s.id, newId: randomUUID(), itemId: c.copyId })));
  const [from, to] = [sections.map((s) => s.oldId), sections.map((s) => s.newId)];
  await run(
    db,
    `insert into quiz_section (id, item_id, ${section.names}) select t.made, t.item_id, ${section.from('s')}
     from unnest($1::uuid[], $2::uuid[], $3::uuid[]) as t(old, made, item_id) join quiz_section s on s.id = t.old`,
    [from, to, sections.map((s) => s.itemId)],
  );
  await run(
    db,
    `insert into quiz_part (section_id, question_version, ${part.names}) select t.made, q.newest, ${part.from('p')}
     from unnest($1::uuid[], $2::uuid[]) as t(old, made) join quiz_part p on p.section_id = t.old left join question q on q.id = p.question_id`,
    [from, to],
  );
  // Instructions came over as they stand; their pictures and links find their new places.
  const texts = await rows<{ item_id: string; instructions: DocumentNode }>(
    db,
    'select item_id, instructions from quiz where item_id = any($1)',
    [made],
  );
  await run(
    db,
    'update quiz q set instructions = t.document from unnest($1::uuid[], $2::jsonb[]) as t(item_id, document) where q.item_id = t.item_id',
    [texts.map((t) => t.item_id), texts.map((t) => JSON.stringify(moved(t.instructions)))],
  );
}
