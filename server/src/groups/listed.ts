import type { ListedGroups } from '@rosemary/api';
import { parse } from 'csv-parse/sync';
import { readFile, stat } from 'node:fs/promises';
import { rows, type Db } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';

const MOST_BYTES = 2_097_152;

interface Student {
  readonly id: string;
  readonly name: string;
  readonly keys: readonly string[];
}

async function listKeys(db: Db, courseId: string): Promise<Student[]> {
  const found = await rows<{ id: string; name: string; email: string; given_name: string; family_name: string; source_id: string | null }>(
    db,
    `select e.id, p.family_name || ', ' || p.given_name as name, p.email, p.given_name, p.family_name, p.source as source_id from enrolment e join person p on p.id = e.person_id
     where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and not e.is_sample`,
    [courseId],
  );
  return found.map((s) => ({
    id: s.id,
    name: s.name,
    keys: [s.email, s.source_id ?? '', `${s.given_name} ${s.family_name}`, s.name].filter((k) => k !== '').map((k) => k.toLowerCase()),
  }));
}

async function readTable(path: string, name: string): Promise<Record<string, string>[]> {
  if ((await stat(path)).size > MOST_BYTES) throw invalid('file', 'A list of groups has no more than 2 MB.');
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(await readFile(path));
  } catch {
    throw invalid('file', `“${name}” is not written in UTF-8. Save it as CSV UTF-8 and import it again.`);
  }
  const head = text.split('\n')[0] ?? '';
  try {
    return parse(text, {
      bom: true,
      columns: (header: string[]) => header.map((h) => h.trim().toLowerCase()),
      delimiter: head.includes(';') && !head.includes(',') ? ';' : ',',
      ...{ skip_empty_lines: true, relax_column_count: true, trim: true },
    });
  } catch (error) {
    throw invalid('file', `“${name}” breaks off or is no table: ${error instanceof Error ? error.message : 'unreadable'}.`);
  }
}

/**
 * Reads a list of groups: columns `group` and `student`, a line for each student by email address, the school's identifier or name.
 * Whoever is unknown, named twice or not clear is said, line by line; nothing is made.
 */
export async function readGroupList(db: Db, courseId: string, path: string, name: string): Promise<ListedGroups> {
  const table = await readTable(path, name);
  const missing = ['group', 'student'].filter((column) => table[0] !== undefined && !(column in table[0]));
  if (table.length === 0) throw invalid('file', `“${name}” has no lines under its header.`);
  if (missing.length > 0)
    throw invalid('file', `“${name}” has no column ${missing.map((m) => `“${m}”`).join(', ')}. It needs group and student.`);
  const students = await listKeys(db, courseId);
  const groups = new Map<string, { enrolmentIds: string[]; names: string[] }>();
  const placed = new Map<string, string>();
  const named = new Set<string>();
  const faults: ListedGroups['faults'][number][] = [];
  table.forEach((row, n) => {
    const [title, key] = [(row.group ?? '').slice(0, 80), (row.student ?? '').toLowerCase()];
    if (title !== '') named.add(title);
    const found = students.filter((s) => s.keys.includes(key));
    const [student] = found;
    const before = student === undefined ? undefined : placed.get(student.id);
    const fault =
      title === ''
        ? 'The group is empty.'
        : student === undefined
          ? `“${row.student ?? ''}” is no student of this course.`
          : found.length > 1
            ? `“${row.student ?? ''}” could be ${found.length} students. Give the email address.`
            : before !== undefined
              ? `${student.name} is in “${before}” already.`
              : null;
    if (fault !== null || student === undefined) {
      faults.push({ line: n + 2, text: fault ?? '' });
      return;
    }
    placed.set(student.id, title);
    const group = groups.get(title) ?? { enrolmentIds: [], names: [] };
    groups.set(title, group);
    group.enrolmentIds.push(student.id);
    group.names.push(student.name);
  });
  const refused = [...named].filter((title) => !groups.has(title));
  return { groups: [...groups].map(([title, group]) => ({ title, ...group })), refused, faults };
}
