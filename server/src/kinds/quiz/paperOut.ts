import type { ArchiveQuiz } from '@rosemary/api';
import type { Db } from '../../platform/database.ts';
import { listSections, readPools } from './sections.ts';

export interface PaperOut {
  readonly sections: ArchiveQuiz['sections'];
  /** Every question it can ask with its version: the one that stands in the paper, else the newest. */
  readonly numbers: ReadonlyMap<string, number>;
}

/** The paper of a quiz as it leaves its course: each place with its question, or with all those of which some are drawn. */
export async function readPaperOut(db: Db, itemId: string): Promise<PaperOut> {
  const held = await listSections(db, itemId);
  const pools = await readPools(db, held);
  const numbers = new Map<string, number>();
  const sections = held.map((s) => ({
    ...{ title: s.title, instructions: s.instructions, isShuffled: s.is_shuffled },
    parts: s.parts.map((p) => {
      const pool = pools.get(p.id) ?? [];
      if (p.question_id !== null) numbers.set(p.question_id, p.question_version ?? 1);
      for (const q of pool) if (!numbers.has(q.id)) numbers.set(q.id, q.number);
      const questionIds = p.question_id === null ? pool.map((q) => q.id) : [p.question_id];
      return { questionIds, count: p.draw?.count ?? null, points: p.points, floor: p.floor };
    }),
  }));
  return { sections, numbers };
}
