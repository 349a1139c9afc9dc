import type { ObjectivesDone, ObjectivesPreview } from '@rosemary/api';
import {
  meetObjectives,
  readCompetencyFramework,
  readObjectiveTable,
  writeCompetencyFramework,
  writeObjectiveTable,
  type ObjectiveMeeting,
  type ObjectiveRow,
  type ObjectivesRead,
} from '@rosemary/core';
import { getCourse } from '../course/index.ts';
import { parseTable, readTextFile, writeTable } from '../files/index.ts';
import type { Db } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';
import { addObjective, listObjectives, overwriteObjective } from './queries.ts';

const MOST_ROWS = 5000;

/** Reads a table or a competency framework, whichever it is by its first letter. */
function readObjectives(text: string): ObjectivesRead {
  const body = text.trim();
  if (body.startsWith('{') || body.startsWith('[')) {
    try {
      return readCompetencyFramework(JSON.parse(body) as unknown);
    } catch (error) {
      const where = /position \d+|line \d+ column \d+/.exec(error instanceof Error ? error.message : '')?.[0] ?? 'its end';
      throw invalid('file', `The file breaks off or is no JSON (at ${where}). Fetch it again, whole.`);
    }
  }
  return readObjectiveTable(parseTable(body));
}

interface Coming extends ObjectivesRead {
  readonly met: readonly ObjectiveMeeting[];
}

async function readComing(db: Db, courseId: string, path: string): Promise<Coming> {
  const read = readObjectives(await readTextFile(path, 'A file of objectives'));
  if (read.rows.length > MOST_ROWS) throw invalid('file', `The file holds ${read.rows.length} objectives; a course takes ${MOST_ROWS}.`);
  const { objectives, sources } = await listObjectives(db, courseId);
  const known = objectives.map((o) => ({
    id: o.id,
    source: sources.get(o.id) ?? null,
    code: o.code,
    statement: o.statement,
    parentId: o.parentId,
  }));
  return { ...read, met: meetObjectives(known, read.rows) };
}

function depthOf(row: ObjectiveRow, byKey: ReadonlyMap<string, ObjectiveRow>): number {
  let depth = 0;
  for (let at = row.parentKey; at !== null && depth < 50; at = byKey.get(at)?.parentKey ?? null) depth += 1;
  return depth;
}

export async function previewObjectives(db: Db, courseId: string, path: string): Promise<ObjectivesPreview> {
  const { met, rows, problems } = await readComing(db, courseId, path);
  const byKey = new Map(rows.map((row) => [row.key, row]));
  return {
    rows: met.map(({ row, what }) => ({ code: row.code, statement: row.statement, depth: depthOf(row, byKey), what })),
    problems,
  };
}

/** Takes in what can be taken, parents first; what is here already under the same identifier or code is changed, not doubled. */
export async function bringObjectives(db: Db, courseId: string, path: string): Promise<ObjectivesDone> {
  const { met, problems } = await readComing(db, courseId, path);
  const ids = new Map(met.flatMap((m) => (m.id === null ? [] : [[m.row.key, m.id]])));
  const left = [...met];
  while (left.length > 0) {
    const next = left.findIndex((m) => m.row.parentKey === null || ids.has(m.row.parentKey));
    const [one] = left.splice(Math.max(next, 0), 1);
    if (one === undefined) break;
    const { row, what, id } = one;
    const parentId = row.parentKey === null ? null : (ids.get(row.parentKey) ?? null);
    if (what === 'add') ids.set(row.key, await addObjective(db, courseId, { parentId, code: row.code, statement: row.statement }, row.key));
    else if (what === 'change')
      await overwriteObjective(db, courseId, id ?? '', { parentId, code: row.code, statement: row.statement, source: row.key });
  }
  const { objectives } = await listObjectives(db, courseId);
  return {
    objectives,
    added: met.filter((m) => m.what === 'add').length,
    changed: met.filter((m) => m.what === 'change').length,
    left: problems.length,
  };
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

/** The objectives as a file: a table, or a competency framework. One brought in from a framework keeps its identifier. */
export async function writeObjectives(db: Db, courseId: string, format: 'csv' | 'case', now: number): Promise<string> {
  const { objectives, sources } = await listObjectives(db, courseId);
  const keyOf = (id: string): string => {
    const source = sources.get(id) ?? null;
    return source !== null && UUID.test(source) ? source : id;
  };
  const list = objectives.map((o, n): ObjectiveRow => ({
    key: keyOf(o.id),
    code: o.code,
    statement: o.statement,
    parentKey: o.parentId === null ? null : keyOf(o.parentId),
    line: n + 1,
  }));
  if (format === 'csv') return writeTable(writeObjectiveTable(list));
  const { title } = await getCourse(db, courseId);
  return JSON.stringify(
    writeCompetencyFramework({ identifier: courseId, title, changedAt: new Date(now).toISOString(), creator: 'Rosemary' }, list),
    null,
    2,
  );
}
