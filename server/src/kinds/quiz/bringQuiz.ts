import type { ArchiveQuiz, PaperPartWish, QuizChange } from '@rosemary/api';
import type { Actor } from '@rosemary/core';
import { addFolder, folderOf, moveQuestions } from '../../bank/index.ts';
import type { Db } from '../../platform/database.ts';
import { savePaper } from './savePaper.ts';
import { listSections } from './sections.ts';
import { getQuiz, saveQuiz } from './setting.ts';

/** A quiz that comes from elsewhere, its questions already in the bank. */
export interface BroughtQuiz {
  readonly title: string;
  readonly setting: Omit<QuizChange, 'version'>;
  readonly sections: ArchiveQuiz['sections'];
}

/** Lays a quiz that was brought into an item made for it. What is drawn from gets a folder of its own, so that the draw takes from no more. */
export async function bringQuiz(db: Db, actor: Actor, courseId: string, itemId: string, quiz: BroughtQuiz, now: number): Promise<void> {
  const home = await folderOf(db, courseId);
  const held = await listSections(db, itemId);
  const setting = await getQuiz(db, itemId);
  const draws = quiz.sections.flatMap((s) => s.parts).filter((p) => p.count !== null && p.questionIds.length > 0);
  const folders = new Map<(typeof draws)[number], string>();
  for (const [n, part] of draws.entries()) {
    const title = `${quiz.title.slice(0, 90)}: drawn${draws.length === 1 ? '' : ` ${n + 1}`}`;
    const folderId = await addFolder(db, actor, { parentId: home, title });
    await moveQuestions(db, actor, part.questionIds, { folderId }, now);
    folders.set(part, folderId);
  }
  const sections = quiz.sections.map((s, n) => ({
    id: held[n]?.id ?? null,
    title: s.title,
    instructions: s.instructions,
    isShuffled: s.isShuffled,
    parts: s.parts.flatMap((p): PaperPartWish[] => {
      const base = { id: null, points: p.points, floor: p.floor };
      const folderId = folders.get(p);
      if (p.count === null) return p.questionIds.map((questionId) => ({ ...base, questionId, questionVersion: null, draw: null }));
      const draw = { count: p.count, tags: [], levels: [], objectives: [], kinds: [] };
      return folderId === undefined ? [] : [{ ...base, questionId: null, questionVersion: null, draw: { ...draw, folderId } }];
    }),
  }));
  await savePaper(db, actor, courseId, itemId, { version: setting.version, sections }, now);
  await saveQuiz(db, courseId, itemId, { ...quiz.setting, version: setting.version + 1 }, now);
}
