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
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { readFile, stat } from 'node:fs/promises';
import { getCourse } from '../course/queries.ts';
import type { Db } from '../platform/database.ts';
import { AppError, invalid } from '../platform/errors.ts';
import { addObjective, listObjectives, overwriteObjective } from './queries.ts';

const MOST_BYTES = 20_971_520;
const MOST_ROWS = 5000;

/** The text of an uploaded file: UTF-8, with or without its mark. Another encoding is refused, and said. */
async function readText(path: string): Promise<string> {
  const { size } = await stat(path);
  if (size > MOST_BYTES) throw new AppError('too-large', 'A file of objectives may have 20 MB. This one is larger.');
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(await readFile(path));
  } catch {
    throw invalid('file', 'The file is not written in UTF-8. Save it again as UTF-8 (in a spreadsheet: “CSV UTF-8”).');
  }
}

/** Reads a table or a competency framework, whichever it is by its first letter. */
function readObjectives(text: string): ObjectivesRead {
  const body = text.trim();
  if (body === '') throw invalid('file', 'The file is empty.');
  if (body.startsWith('{') || body.startsWith('[')) {
    try {
      return readCompetencyFramework(JSON.parse(body) as unknown);
    } catch (error) {
      const where = /position \d+|line \d+ column \d+/.exec(error instanceof Error ? error.message : '')?.[0] ?? 'its end';
      throw invalid('file', `The file breaks off or is no JSON (at ${where}). Fetch it again, whole.`);
    }
  }
  try {
    const delimiter = (body.split('\n', 1)[0] ?? '').includes(';') ? ';' : ',';
    return readObjectiveTable(parse(body, { delimiter, relax_column_count: true, bom: true }) as string[][]);
  } catch (error) {
    const line = /line (\d+)/.exec(error instanceof Error ? error.message : '')?.[1] ?? '?';
    throw invalid(
      'file',
      `The table cannot be read: a quotation mark in line ${line} is opened and not closed, or stands inside a cell alone.`,
    );
  }
}

interface Coming extends ObjectivesRead {
  readonly met: readonly ObjectiveMeeting[];
}

async function readComing(db: Db, courseId: string, path: string): Promise<Coming> {
  const read = readObjectives(await readText(path));
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
  if (format === 'csv') return stringify(writeObjectiveTable(list), { bom: true });
  const { title } = await getCourse(db, courseId);
  return JSON.stringify(
    writeCompetencyFramework({ identifier: courseId, title, changedAt: new Date(now).toISOString(), creator: 'Rosemary' }, list),
    null,
    2,
  );
}
