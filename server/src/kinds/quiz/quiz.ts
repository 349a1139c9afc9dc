import { emptyDocument } from '@rosemary/api';
import { putBeforeText } from '../../items/index.ts';
import { run } from '../../platform/database.ts';
import type { ServedKind } from '../servedKind.ts';
import { bringQuiz } from './bringQuiz.ts';
import { checkChange } from './checkChange.ts';
import { copyQuizzes } from './copy.ts';
import { PARTS } from './parts.ts';
import { readOut } from './readOut.ts';

/** A quiz with the questions that came; what of it did not come is said. */
const bring: ServedKind['bring'] = async (b, { title, quiz: own }) => {
  if (own === null) return;
  const lost = own.sections.flatMap((s) => s.parts.flatMap((p) => p.questionIds)).filter((id) => b.questionOf(id) === null).length;
  if (lost > 0) b.problem(`“${title}”: ${lost === 1 ? 'one question' : `${lost} questions`} did not come.`);
  const sections = own.sections.map((s) => ({
    ...s,
    parts: s.parts.map((p) => ({ ...p, questionIds: p.questionIds.flatMap((id) => b.questionOf(id) ?? []) })),
  }));
  const setting = { ...own.setting, instructions: b.moved(own.setting.instructions) };
  await bringQuiz(b.db, b.actor, b.courseId, b.itemId, { title, setting, sections }, b.now);
};

export const quiz: ServedKind = {
  parts: PARTS,
  putFirst: putBeforeText('quiz', 'instructions'),
  text: null,
  insert: async (db, itemIds) => {
    await run(db, 'insert into quiz (item_id, instructions) select unnest($1::uuid[]), $2::jsonb', [itemIds, emptyDocument]);
    await run(db, 'insert into quiz_section (item_id, position) select unnest($1::uuid[]), 0', [itemIds]);
  },
  copy: copyQuizzes,
  detail: () => Promise.resolve({}),
  checkChange,
  readOut,
  bring,
};
