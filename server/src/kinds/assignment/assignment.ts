import { type ArchiveItem, emptyDocument, type RubricChange } from '@rosemary/api';
import { columnsOf, listTextsToCopy, putBeforeText, textIn } from '../../items/index.ts';
import { rows, run } from '../../platform/database.ts';
import { copyRubrics, findRubric } from '../../rubric/index.ts';
import { type Copying, type ServedKind, takesAnyChange } from '../servedKind.ts';
import { findAssignment } from './findAssignment.ts';
import { PARTS } from './parts.ts';
import { saveAssignment } from './saveAssignment.ts';
import { saveRubric } from './saveRubric.ts';

/** The setting with its instructions, and the rubric. Elsewhere names are hidden until the release, for the date they were hidden until is past. */
async function copy({ db, copies, courseId, isWithinCourse, moved }: Copying): Promise<void> {
  const texts = await listTextsToCopy(db, 'assignment', 'instructions', copies);
  const columns = columnsOf(PARTS.assignment, isWithinCourse);
  const elsewhere = isWithinCourse
    ? { names: '', from: '' }
    : { names: 'anonymous, ', from: "case a.anonymous when 'none' then 'none' else 'release' end, " };
  await run(
    db,
    `insert into assignment (item_id, instructions, ${elsewhere.names}${columns.names}) select t.made, t.document, ${elsewhere.from}${columns.from('a')}
     from unnest($1::uuid[], $2::uuid[], $3::jsonb[]) as t(old, made, document) join assignment a on a.item_id = t.old`,
    [texts.map((t) => t.old), texts.map((t) => t.made), texts.map((t) => JSON.stringify(moved(t.document)))],
  );
  const judged = await rows<{ made: string; rubricId: string }>(
    db,
    'select t.made, a.rubric_id as "rubricId" from unnest($1::uuid[], $2::uuid[]) as t(old, made) join assignment a on a.item_id = t.old where a.rubric_id is not null',
    [copies.map((c) => c.itemId), copies.map((c) => c.copyId)],
  );
  const rubrics = await copyRubrics(
    db,
    courseId,
    judged.map((j) => j.rubricId),
  );
  await run(
    db,
    'update assignment a set rubric_id = t.rubric_id from unnest($1::uuid[], $2::uuid[]) as t(item_id, rubric_id) where a.item_id = t.item_id',
    [judged.map((j) => j.made), rubrics],
  );
}

type Held = { item_id: string; assignment: NonNullable<ArchiveItem['assignment']>; rubric: RubricChange['criteria'] | null };

export const assignment: ServedKind = {
  parts: PARTS,
  putFirst: putBeforeText('assignment', 'instructions'),
  text: textIn('assignment', 'instructions'),
  insert: async (db, itemIds) => {
    await run(db, 'insert into assignment (item_id, instructions) select unnest($1::uuid[]), $2::jsonb', [itemIds, emptyDocument]);
  },
  copy,
  detail: async (db, itemId) => {
    const found = await findAssignment(db, itemId);
    if (found === null) return {};
    const { rubricId, ...setting } = found;
    return { assignment: setting, rubric: await findRubric(db, rubricId) };
  },
  checkChange: takesAnyChange,
  readOut: async (db, itemIds) => {
    const found = await rows<Held>(
      db,
      `select a.item_id, json_build_object('instructions', a.instructions, 'acceptsText', a.accepts_text, 'acceptsFiles', a.accepts_files, 'fileTypes', a.file_types,
                'mostFiles', a.most_files, 'mostBytes', a.most_bytes, 'attemptsAllowed', a.attempts_allowed, 'acceptsLink', a.accepts_link, 'acceptsRecording', a.accepts_recording, 'onPaper', a.on_paper, 'judged', a.judged, 'counted', a.counted,
                'groupSetId', null, 'allowsWithdrawal', a.allows_withdrawal, 'anonymous', a.anonymous, 'anonymousUntil', a.anonymous_until, 'markers', a.markers) as assignment,
              (select json_agg(json_build_object('id', null, 'title', c.title, 'form', c.form, 'levels', (select coalesce(json_agg(json_build_object('id', null, 'title', l.title, 'descriptor', l.descriptor, 'points', (l.points * 1000)::int, 'least', (l.least * 1000)::int, 'upTo', l.up_to) order by l.position), '[]')
                 from rubric_level l where l.criterion_id = c.id and l.removed_at is null)) order by c.position)
               from rubric_criterion c where c.rubric_id = a.rubric_id and c.removed_at is null) as rubric
       from assignment a where a.item_id = any($1)`,
      [itemIds],
    );
    return { items: new Map(found.map((f) => [f.item_id, { assignment: f.assignment, rubric: f.rubric ?? [] }])) };
  },
  bring: async ({ db, courseId, itemId, actor, now, moved }, item) => {
    if (item.assignment === null) return;
    const version = (await findAssignment(db, itemId))?.version ?? 1;
    const setting = { ...item.assignment, instructions: moved(item.assignment.instructions), version };
    await saveAssignment(db, courseId, itemId, setting, actor.personId, now);
    if (item.rubric.length > 0) await saveRubric(db, courseId, itemId, { version: 0, criteria: item.rubric }, now);
  },
};
