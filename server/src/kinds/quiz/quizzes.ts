import type { QuizDetail, QuizSection } from '@rosemary/api';
import { type Actor, drawFaults, expectedOf, type PlannedQuestion } from '@rosemary/core';
import { folderOf, listFolders, listVersions } from '../../bank/index.ts';
import { getPlanItem } from '../../items/index.ts';
import { type Db, maybe, rows } from '../../platform/database.ts';
import { listQuizShares } from './quizShares.ts';
import { drawWords, listSections, questionCount, readPools, toSections } from './sections.ts';
import { getQuiz } from './setting.ts';

/** Everything of a quiz for whoever builds it. */
export async function getQuizDetail(db: Db, actor: Actor, courseId: string, itemId: string, now: number): Promise<QuizDetail> {
  const item = await getPlanItem(db, courseId, itemId, now);
  const setting = await getQuiz(db, itemId);
  const sections = await listSections(db, itemId);
  const pools = await readPools(db, sections);
  const folders = await listFolders(db, actor, true);
  const titleOfFolder = new Map(folders.map((f) => [f.id, f.title]));
  const parts = sections.flatMap((s) => s.parts);
  const held = await listVersions(
    db,
    actor,
    parts.flatMap((p) => (p.question_id === null ? [] : [{ id: p.question_id, number: p.question_version ?? 1 }])),
    folders,
  );
  const drawn = await listVersions(db, actor, [...new Map([...pools.values()].flat().map((q) => [q.id, q])).values()], folders);
  const planned = parts.flatMap((p): PlannedQuestion[] => {
    const plan = (view: NonNullable<ReturnType<typeof held.get>>): PlannedQuestion => ({
      kind: view.key.kind,
      level: view.level,
      objectives: view.objectives,
      points: p.points,
      shareRight: view.use.shareRight,
      itemRest: view.use.itemRest,
    });
    if (p.question_id !== null) return [held.get(p.question_id)].flatMap((view) => (view === undefined ? [] : [plan(view)]));
    // A draw counts as so many of what it takes from, spread evenly over it.
    const pool = (pools.get(p.id) ?? []).flatMap((q) => drawn.get(q.id) ?? []);
    return Array.from({ length: Math.min(p.draw?.count ?? 0, pool.length) }, (_, n) =>
      plan(pool[Math.floor((n * pool.length) / (p.draw?.count ?? 1))] as NonNullable<ReturnType<typeof held.get>>),
    );
  });
  const objectives = await rows<{ code: string; statement: string }>(
    db,
    "select code, statement from objective where course_id = $1 and removed_at is null and code <> '' order by code",
    [courseId],
  );
  const begun = await maybe<{ many: number }>(db, 'select count(*)::int as many from quiz_attempt where item_id = $1', [itemId]);
  const shown = sections.map((s): QuizSection => ({
    id: s.id,
    title: s.title,
    instructions: s.instructions,
    isShuffled: s.is_shuffled,
    parts: s.parts.map((p) => ({
      id: p.id,
      points: p.points,
      floor: p.floor,
      question: p.question_id === null ? null : (held.get(p.question_id) ?? null),
      questionVersion: p.question_version,
      draw:
        p.draw === null
          ? null
          : {
              ...p.draw,
              matching: pools.get(p.id)?.length ?? 0,
              words: drawWords(p.draw, titleOfFolder.get(p.draw.folderId) ?? 'another bank'),
            },
    })),
  }));
  const faults = [
    ...(parts.length === 0 ? ['There is no question yet.'] : []),
    ...parts.flatMap((p) =>
      p.question_id === null
        ? []
        : (held.get(p.question_id)?.faults ?? []).map((f) => `${held.get(p.question_id ?? '')?.title ?? ''}: ${f}`),
    ),
    ...drawFaults(toSections(sections, pools)).map((f) => f.text),
    ...[...drawn.values()].filter((q) => q.faults.length > 0).map((q) => `Drawn “${q.title}”: ${q.faults[0] ?? ''}`),
  ];
  return {
    itemId,
    isReviewed: item.isReviewed,
    title: item.title,
    isDraft: item.isDraft,
    state: item.state,
    itemVersion: item.version,
    setting,
    sections: shown,
    possible: item.possible,
    questions: questionCount(sections),
    expected: expectedOf(planned),
    faults,
    attempts: begun?.many ?? 0,
    objectives,
    dueAt: item.dueAt,
    opensAt: item.opensAt,
    closesAt: item.closesAt,
    estimatedMinutes: item.estimatedMinutes,
    folderId: await folderOf(db, courseId),
    shares: await listQuizShares(db, itemId),
  };
}
