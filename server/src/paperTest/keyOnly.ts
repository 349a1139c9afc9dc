import { type KeyOnly, paragraphs, type QuizQuestions } from '@rosemary/api';
import { type Actor, readKeyString } from '@rosemary/core';
import { addQuestions, getQuiz, listSections, saveQuiz } from '../kinds/quiz/index.ts';
import type { Db } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';

const ALL = 100_000;

const LETTERS = 'ABCDEFGHIJ';

/** The questions of a test of which there is only the key: numbered, with letters to choose from. */
function questionsOf(wish: KeyOnly, first: number): QuizQuestions['questions'] {
  const rows = readKeyString(wish.key, null);
  if (!rows.ok) throw invalid('key', rows.reason);
  if (rows.picked.length > 300) throw invalid('key', `This key has ${rows.picked.length} answers; 300 are the most.`);
  return rows.picked.map((right, n) => {
    const number = first + n;
    if (right.length === 0) throw invalid('key', `Question ${n + 1} has no right answer. Write its letter, or several in brackets.`);
    const strange = right.find((option) => option >= wish.options);
    if (strange !== undefined)
      throw invalid(
        'key',
        `“${LETTERS[strange] ?? ''}” is no answer of question ${n + 1}: there are ${wish.options}, A to ${LETTERS[wish.options - 1] ?? ''}.`,
      );
    const choices = Array.from({ length: wish.options }, (_, k) => ({
      id: (LETTERS[k] ?? '').toLowerCase(),
      words: paragraphs(LETTERS[k] ?? ''),
      share: right.includes(k) ? ALL : 0,
      feedback: null,
    }));
    return {
      words: paragraphs(`Question ${number}`),
      title: `Question ${number}`,
      points: wish.points,
      key:
        right.length === 1
          ? { kind: 'single' as const, choices, hasDontKnow: false }
          : { kind: 'several' as const, choices, rule: 'less wrong' as const, hasDontKnow: false },
      objectives: wish.objectives.filter((o) => o.from <= n + 1 && n + 1 <= o.to).map((o) => o.code),
    };
  });
}

/** Lays the questions of a key into a section. Their letters stand in order, for they are on a paper already. */
export async function addKeyOnly(db: Db, actor: Actor, courseId: string, itemId: string, wish: KeyOnly, now: number): Promise<string[]> {
  const backwards = wish.objectives.find((o) => o.from > o.to);
  if (backwards !== undefined)
    throw invalid('objectives', `Questions ${backwards.from} to ${backwards.to} run backwards. Turn them round.`);
  const sections = await listSections(db, itemId);
  const before = sections.flatMap((s) => s.parts).length;
  const position = sections.find((s) => s.id === wish.sectionId)?.parts.length ?? 0;
  const questions = questionsOf(wish, before + 1);
  const { version } = await getQuiz(db, itemId);
  if (before === 0) await saveQuiz(db, courseId, itemId, { version, taken: 'paper', shufflesAnswers: false }, now);
  return addQuestions(db, actor, courseId, itemId, { sectionId: wish.sectionId, position, questions }, now);
}
