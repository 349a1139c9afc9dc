import type { ArchiveFile, ArchiveItem, ArchiveQuestion, ArchiveStimulus } from '@rosemary/api';
import { filesIn } from '@rosemary/core';
import { rows } from '../../platform/database.ts';
import type { ServedKind } from '../servedKind.ts';
import { readPaperOut } from './paperOut.ts';
import { getQuiz } from './setting.ts';

/** The quizzes of a course as an archive holds them, with every question they can ask and its pictures. */
export const readOut: ServedKind['readOut'] = async (db, itemIds) => {
  const items = new Map<string, Pick<ArchiveItem, 'quiz'>>();
  const numbers = new Map<string, number>();
  for (const itemId of itemIds) {
    const { version, accessCode, allowedAddresses, ...setting } = await getQuiz(db, itemId);
    const paper = await readPaperOut(db, itemId);
    for (const [id, number] of paper.numbers) if (!numbers.has(id)) numbers.set(id, number);
    items.set(itemId, { quiz: { setting, sections: paper.sections } });
  }
  const ids = [...numbers.keys()];
  const questions = await rows<ArchiveQuestion>(
    db,
    `select q.id, q.stimulus_id as "stimulusId", q.title, q.level, v.words, v.key, v.feedback, v.picture,
       coalesce((select array_agg(t.tag order by t.tag) from question_tag t where t.question_id = q.id), '{}') as tags,
       coalesce((select array_agg(o.code order by o.code) from question_objective o where o.question_id = q.id), '{}') as objectives
     from unnest($1::uuid[], $2::int[]) with ordinality as w(id, number, n) join question q on q.id = w.id
       join question_version v on v.question_id = q.id and v.number = w.number order by w.n`,
    [ids, [...numbers.values()]],
  );
  const stimuli = await rows<ArchiveStimulus>(
    db,
    'select s.id, s.title, s.document from unnest($1::uuid[]) with ordinality as w(id, n) join stimulus s on s.id = w.id order by w.n',
    [[...new Set(questions.flatMap((q) => q.stimulusId ?? []))]],
  );
  const files = await rows<ArchiveFile>(
    db,
    `select distinct f.id, f.name, null as "folderId", b.size::float8 as size, encode(f.sha256, 'hex') as sha256, false as "isKept"
     from file f join file_blob b on b.sha256 = f.sha256
     where f.id in (select file_id from question_file where question_id = any($1)) or f.id::text = any($2) order by f.name, f.id`,
    [ids, stimuli.flatMap((s) => filesIn(s.document))],
  );
  return { items, questions, stimuli, files };
};
