import { emptyDocument, type NewItem } from '@rosemary/api';
import { defaultDoneRule } from '@rosemary/core';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { requireStanding } from './standing.ts';

export async function addItem(db: Db, courseId: string, item: NewItem): Promise<string> {
  const unit = await maybe<{ default_category_id: string | null; is_standing: boolean }>(
    db,
    'select default_category_id, is_standing from unit where id = $1 and course_id = $2 and removed_at is null',
    [item.unitId, courseId],
  );
  if (unit === null) throw notFound();
  if (unit.is_standing) requireStanding([item.kind]);
  const isWork = item.kind === 'assignment' || item.kind === 'quiz' || item.kind === 'activity';
  const row = await rows<{ id: string }>(
    db,
    `
    insert into item (course_id, kind, title, done_rule, category_id, possible, estimated_minutes, marking_minutes, release_mode, counts, is_required) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) returning id`,
    [
      courseId,
      item.kind,
      item.title,
      defaultDoneRule(item.kind),
      isWork ? unit.default_category_id : null,
      // A quiz has the points of its questions.
      isWork && item.kind !== 'quiz' ? '10' : '0',
      unit.is_standing ? 0 : item.kind === 'file' || item.kind === 'link' ? 15 : isWork ? 60 : 30,
      item.kind === 'assignment' ? 8 : 0,
      // Each mark goes out as it is finished, unless the teacher holds them for one day.
      item.kind === 'activity' || item.kind === 'assignment' || item.kind === 'quiz' ? 'finished' : 'hand',
      // A discussion is talk first; it counts once its teacher says so.
      item.kind !== 'discussion',
      !unit.is_standing,
    ],
  );
  const id = row[0]?.id ?? '';
  await run(db, 'update unit_item set position = position + 1 where unit_id = $1 and position >= $2', [item.unitId, item.position]);
  await run(db, 'insert into unit_item (unit_id, item_id, position) values ($1, $2, $3)', [item.unitId, id, item.position]);
  if (item.kind === 'page') await run(db, 'insert into page (item_id, document) values ($1, $2)', [id, emptyDocument]);
  if (item.kind === 'link') await run(db, 'insert into item_link (item_id) values ($1)', [id]);
  if (item.kind === 'file') await run(db, 'insert into item_shown_file (item_id) values ($1)', [id]);
  if (item.kind === 'discussion') await run(db, 'insert into discussion (item_id, document) values ($1, $2)', [id, emptyDocument]);
  if (item.kind === 'assignment') await run(db, 'insert into assignment (item_id, instructions) values ($1, $2)', [id, emptyDocument]);
  if (item.kind === 'quiz') {
    await run(db, 'insert into quiz (item_id, instructions) values ($1, $2)', [id, emptyDocument]);
    await run(db, 'insert into quiz_section (item_id, position) values ($1, 0)', [id]);
  }
  return id;
}
