import { STORE_TYPES } from '@rosemary/api';
import { addItem, changeItem, getPlanItem, rows, storeFile, type Db } from '@rosemary/server';
import { createHash } from 'node:crypto';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Built } from './school.ts';

/** The same words give the same identifier, so that the demo is the same at every start. */
export function idOf(words: string): string {
  const h = createHash('sha256').update(words).digest('hex');
  return `${h.slice(0, 8)}-${h.slice(8, 12)}-4${h.slice(13, 16)}-8${h.slice(17, 20)}-${h.slice(20, 32)}`;
}

export interface Adding {
  readonly db: Db;
  readonly built: Built;
  readonly teacherId: string;
}

/** A new item after another of its unit. */
export async function addTo(
  a: Adding,
  after: string,
  kind: 'discussion' | 'link' | 'file' | 'page' | 'assignment' | 'quiz',
  title: string,
  change: object,
): Promise<string> {
  const { db, built } = a;
  const place = await rows<{ unit_id: string; position: number }>(
    db,
    'select ui.unit_id, ui.position from unit_item ui join item i on i.id = ui.item_id where i.course_id = $1 and i.title = $2',
    [built.courseId, after],
  );
  const id = await addItem(db, built.courseId, { unitId: place[0]?.unit_id ?? '', kind, title, position: (place[0]?.position ?? 0) + 1 });
  const { version } = await getPlanItem(db, built.courseId, id, built.calendar.now);
  await changeItem(db, built.courseId, id, { version, ...change }, built.calendar.now);
  return id;
}

/** A file in the store of the course. */
export async function putFile(a: Adding, name: string, bytes: Uint8Array): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), 'rosemary-demo-'));
  try {
    const path = join(folder, 'file');
    await writeFile(path, bytes);
    const { courseId, calendar } = a.built;
    const file = {
      path,
      name,
      courseId,
      ownerId: a.teacherId,
      types: Object.keys(STORE_TYPES),
      mostBytes: 10_000_000,
      now: calendar.at(1, 1, '08:10'),
    };
    return (await storeFile(a.db, { ...file, isKept: true })).id;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
