import type { DrawWish } from '@rosemary/api';
import { assemblePaper, drawInWords, type PaperSection } from '@rosemary/core';
import { type BankFilter, listBelow, listPool } from '../../bank/index.ts';
import { type Db, rows } from '../../platform/database.ts';
import type { StoredPaper } from './content.ts';

interface PartRow {
  id: string;
  section_id: string;
  question_id: string | null;
  question_version: number | null;
  points: number;
  floor: number | null;
  draw: DrawWish | null;
}

export interface SectionRow {
  readonly id: string;
  readonly title: string;
  readonly instructions: string;
  readonly is_shuffled: boolean;
  readonly parts: readonly PartRow[];
}

export async function listSections(db: Db, itemId: string): Promise<SectionRow[]> {
  const sections = await rows<Omit<SectionRow, 'parts'>>(
    db,
    'select id, title, instructions, is_shuffled from quiz_section where item_id = $1 order by position, id',
    [itemId],
  );
  const parts = await rows<PartRow>(
    db,
    `select p.id, p.section_id, p.question_id, p.question_version, (p.points * 1000)::int as points, (p.floor * 1000)::int as floor, p.draw
     from quiz_part p join quiz_section s on s.id = p.section_id where s.item_id = $1 order by p.position, p.id`,
    [itemId],
  );
  return sections.map((s) => ({ ...s, parts: parts.filter((p) => p.section_id === s.id) }));
}

async function filterOf(db: Db, draw: DrawWish): Promise<BankFilter> {
  return {
    folderIds: await listBelow(db, draw.folderId),
    text: '',
    tags: draw.tags,
    levels: draw.levels,
    objectives: draw.objectives,
    kinds: draw.kinds,
    withRetired: false,
    questionIds: [],
  };
}

export type Pool = readonly { readonly id: string; readonly number: number }[];

/** What each draw of a quiz takes from now, by the part it is. */
export async function readPools(db: Db, sections: readonly SectionRow[]): Promise<ReadonlyMap<string, Pool>> {
  const pools = new Map<string, Pool>();
  for (const part of sections.flatMap((s) => s.parts))
    if (part.draw !== null) pools.set(part.id, await listPool(db, await filterOf(db, part.draw)));
  return pools;
}

export const drawWords = (draw: DrawWish, folder: string): string =>
  drawInWords({ folder, tags: draw.tags, levels: draw.levels, objectives: draw.objectives, kinds: draw.kinds });

export function toSections(sections: readonly SectionRow[], pools: ReadonlyMap<string, Pool>): PaperSection[] {
  return sections.map((s, n) => ({
    id: s.id,
    title: s.title === '' ? `Section ${n + 1}` : s.title,
    isShuffled: s.is_shuffled,
    parts: s.parts.map((p) =>
      p.draw === null
        ? { kind: 'fixed', questionId: p.question_id ?? '', points: p.points }
        : {
            kind: 'draw',
            id: p.id,
            count: p.draw.count,
            points: p.points,
            pool: (pools.get(p.id) ?? []).map((q) => q.id),
            words: drawWords(p.draw, ''),
          },
    ),
  }));
}

/** The paper one seed gives, with the version and floor of each question. */
export function storePaper(
  sections: readonly SectionRow[],
  pools: ReadonlyMap<string, Pool>,
  seed: string,
  shufflesSections: boolean,
): StoredPaper {
  const parts = sections.flatMap((s) => s.parts);
  const numbers = new Map<string, number>([
    ...[...pools.values()].flat().map((q): [string, number] => [q.id, q.number]),
    ...parts.flatMap((p): [string, number][] => (p.question_id === null ? [] : [[p.question_id, p.question_version ?? 1]])),
  ]);
  const floorOf = (id: string): number | null => {
    const part = parts.find((p) => p.question_id === id) ?? parts.find((p) => pools.get(p.id)?.some((q) => q.id === id) === true);
    return part === undefined ? 0 : part.floor;
  };
  const byId = new Map(sections.map((s) => [s.id, s]));
  return {
    sections: assemblePaper(toSections(sections, pools), seed, shufflesSections).map((s) => ({
      id: s.id,
      title: byId.get(s.id)?.title ?? '',
      instructions: byId.get(s.id)?.instructions ?? '',
      questions: s.questions.map((q) => ({ ...q, number: numbers.get(q.questionId) ?? 1, floor: floorOf(q.questionId) })),
    })),
  };
}

export const questionCount = (sections: readonly SectionRow[]): number =>
  sections.flatMap((s) => s.parts).reduce((sum, p) => sum + (p.draw?.count ?? 1), 0);
