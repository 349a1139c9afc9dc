import { randomUUID } from 'node:crypto';
import type { PaperChange, QuizQuestions } from '@rosemary/api';
import { type Actor, decimalText } from '@rosemary/core';
import { addQuestion, folderOf, listFolders } from '../../bank/index.ts';
import { getPlanItem } from '../../items/index.ts';
import { type Db, maybe, rows, run } from '../../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../../platform/errors.ts';
import { getQuizDetail } from './quizzes.ts';
import { listSections } from './sections.ts';
import { getQuiz } from './setting.ts';

/** What people have begun to take stays as it is: its questions are corrected, not exchanged. */
async function requireUntaken(db: Db, itemId: string): Promise<void> {
  const begun = await maybe<{ many: number }>(db, 'select count(*)::int as many from quiz_attempt where item_id = $1', [itemId]);
  if (begun !== null && begun.many > 0)
    throw new AppError(
      'not-now',
      `${begun.many === 1 ? 'One attempt has' : `${begun.many} attempts have`} begun, so the paper stays as it is. Correct a key under Results, or make a copy of the quiz.`,
    );
  const printed = await maybe(db, 'select 1 as one from paper_test where item_id = $1 and printed_at is not null', [itemId]);
  if (printed !== null)
    throw new AppError(
      'not-now',
      'The paper has been printed, so it stays as it is. Start the printing over under “On paper”, or make a copy of the quiz.',
    );
}

/** The points of a quiz are those of its paper. */
async function followPoints(db: Db, itemId: string): Promise<void> {
  await run(
    db,
    `with worth as (
       update grade_column set possible = coalesce((select sum(p.points * coalesce((p.draw ->> 'count')::int, 1)) from quiz_part p join quiz_section s on s.id = p.section_id where s.item_id = $1), 0)
       where item_id = $1 and role = 'work')
     update item set version = version + 1 where id = $1`,
    [itemId],
  );
}

/** Writes the paper as a whole: sections and parts in their order. Parts left out are gone; their questions stay in the bank. */
export async function savePaper(db: Db, actor: Actor, courseId: string, itemId: string, change: PaperChange, now: number): Promise<void> {
  await getPlanItem(db, courseId, itemId, now);
  const current = await getQuiz(db, itemId);
  if (current.version !== change.version) throw conflict(await getQuizDetail(db, actor, courseId, itemId, now));
  await requireUntaken(db, itemId);
  const before = await listSections(db, itemId);
  const known = new Set(before.flatMap((s) => s.parts).flatMap((p) => (p.question_id === null ? [] : [p.question_id])));
  const wanted = change.sections.flatMap((s) => s.parts);
  const ids = wanted.flatMap((p) => (p.questionId === null ? [] : [p.questionId]));
  const twice = ids.find((id, n) => ids.indexOf(id) !== n);
  if (twice !== undefined) throw invalid('sections', 'A question stands in the paper twice. Take one of them out.');
  if (wanted.some((p) => (p.questionId === null) === (p.draw === null)))
    throw invalid('sections', 'A place in the paper is a question or a draw, one of the two.');
  const folders = new Set((await listFolders(db, actor, false)).map((f) => f.id));
  const fresh = ids.filter((id) => !known.has(id));
  const reached = await rows<{ id: string; newest: number; folder_id: string }>(
    db,
    'select id, newest, folder_id from question where id = any($1)',
    [ids],
  );
  if (
    fresh.some((id) => !reached.some((r) => r.id === id && folders.has(r.folder_id))) ||
    wanted.some((p) => p.draw !== null && !folders.has(p.draw.folderId))
  )
    throw notFound();
  const newest = new Map(reached.map((r) => [r.id, r.newest]));
  await run(db, 'delete from quiz_part where section_id in (select id from quiz_section where item_id = $1)', [itemId]);
  await run(db, 'delete from quiz_section where item_id = $1 and not (id = any($2))', [itemId, change.sections.flatMap((s) => s.id ?? [])]);
  const sections = change.sections.map((section, position) => ({ ...section, position, id: section.id ?? randomUUID() }));
  const put = await run(
    db,
    `insert into quiz_section (id, item_id, position, title, instructions, is_shuffled)
     select t.id, $1, t.position, t.title, t.instructions, t.is_shuffled from unnest($2::uuid[], $3::int[], $4::text[], $5::text[], $6::boolean[]) as t(id, position, title, instructions, is_shuffled)
     on conflict (id) do update set position = excluded.position, title = excluded.title, instructions = excluded.instructions, is_shuffled = excluded.is_shuffled where quiz_section.item_id = $1`,
    [
      itemId,
      sections.map((s) => s.id),
      sections.map((s) => s.position),
      sections.map((s) => s.title),
      sections.map((s) => s.instructions),
      sections.map((s) => s.isShuffled),
    ],
  );
  if (put < sections.length) throw notFound();
  const parts = sections.flatMap((section) =>
    section.parts.map((p, n) => ({
      id: p.id,
      section_id: section.id,
      position: n,
      question_id: p.questionId,
      question_version: p.questionId === null ? null : (p.questionVersion ?? newest.get(p.questionId) ?? 1),
      points: decimalText(p.points),
      floor: p.floor === null ? null : decimalText(p.floor),
      draw: p.draw,
    })),
  );
  await run(
    db,
    `insert into quiz_part (id, section_id, position, question_id, question_version, points, floor, draw)
     select coalesce(t.id, gen_random_uuid()), t.section_id, t.position, t.question_id, t.question_version, t.points, t.floor, t.draw
     from jsonb_to_recordset($1) as t(id uuid, section_id uuid, position int, question_id uuid, question_version int, points numeric, floor numeric, draw jsonb)`,
    [JSON.stringify(parts)],
  );
  await run(db, 'update quiz set version = version + 1 where item_id = $1', [itemId]);
  await followPoints(db, itemId);
}

/** Makes questions in the bank and lays them into a section of the quiz. Gives their identifiers in order. */
export async function addQuestions(
  db: Db,
  actor: Actor,
  courseId: string,
  itemId: string,
  wish: QuizQuestions,
  now: number,
): Promise<string[]> {
  await getPlanItem(db, courseId, itemId, now);
  await requireUntaken(db, itemId);
  const folderId = await folderOf(db, courseId);
  const section = await maybe(db, 'select 1 as one from quiz_section where id = $1 and item_id = $2', [wish.sectionId, itemId]);
  if (section === null) throw notFound();
  await run(db, 'update quiz_part set position = position + $3 where section_id = $1 and position >= $2', [
    wish.sectionId,
    wish.position,
    wish.questions.length,
  ]);
  const made: string[] = [];
  for (const { points: _, ...question } of wish.questions) {
    const id = await addQuestion(db, actor, folderId, question, now);
    made.push(id);
  }
  await run(
    db,
    `insert into quiz_part (section_id, position, question_id, question_version, points)
     select $1, $2 + t.n - 1, t.id, 1, t.points from unnest($3::uuid[], $4::numeric[]) with ordinality as t(id, points, n)`,
    [wish.sectionId, wish.position, made, wish.questions.map((q) => decimalText(q.points ?? 1000))],
  );
  await run(db, 'update quiz set version = version + 1 where item_id = $1', [itemId]);
  await followPoints(db, itemId);
  return made;
}
