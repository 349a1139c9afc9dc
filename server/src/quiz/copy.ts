import { rows, run, type Db } from '../platform/database.ts';
import { randomUUID } from 'node:crypto';

/**
 * Quizzes come along with their setting and their paper. Their questions are those of the bank, in the newest version: what a copy is made
 * for has not been taken by anybody. Codes stay behind, for they are made for one room.
 */
export async function copyQuizzes(db: Db, copies: readonly { readonly itemId: string; readonly copyId: string }[]): Promise<void> {
  const columns =
    'taken, layout, may_go_back, shuffles_sections, shuffles_answers, limit_minutes, at_end, attempts_allowed, counted, retry_until, review, allows_calculator, records_leaving, discourages_copying, pass_points, merit_points, allowed_addresses';
  const [old, made] = [copies.map((c) => c.itemId), copies.map((c) => c.copyId)];
  await run(
    db,
    `insert into quiz (item_id, instructions, ${columns}) select t.made, q.instructions, ${columns
      .split(', ')
      .map((c) => `q.${c}`)
      .join(', ')} from unnest($1::uuid[], $2::uuid[]) as t(old, made) join quiz q on q.item_id = t.old`,
    [old, made],
  );
  const sections = (
    await rows<{ id: string; item_id: string }>(db, 'select id, item_id from quiz_section where item_id = any($1)', [old])
  ).flatMap((s) => copies.filter((c) => c.itemId === s.item_id).map((c) => ({ oldId: s.id, newId: randomUUID(), itemId: c.copyId })));
  const [from, to] = [sections.map((s) => s.oldId), sections.map((s) => s.newId)];
  await run(
    db,
    `insert into quiz_section (id, item_id, position, title, instructions, is_shuffled) select t.made, t.item_id, s.position, s.title, s.instructions, s.is_shuffled
     from unnest($1::uuid[], $2::uuid[], $3::uuid[]) as t(old, made, item_id) join quiz_section s on s.id = t.old`,
    [from, to, sections.map((s) => s.itemId)],
  );
  await run(
    db,
    `insert into quiz_part (section_id, position, question_id, question_version, points, floor, draw) select t.made, p.position, p.question_id, q.newest, p.points, p.floor, p.draw
     from unnest($1::uuid[], $2::uuid[]) as t(old, made) join quiz_part p on p.section_id = t.old left join question q on q.id = p.question_id`,
    [from, to],
  );
}
