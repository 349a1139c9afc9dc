import type { AttemptView, CourseFile, LinkCopy, StackEntry, Work } from '@rosemary/api';
import { createHash } from 'node:crypto';
import { maybe, rows, type Db } from '../platform/database.ts';
import type { Target } from './target.ts';

/** What hides the names of an item's works from those who mark them. */
export interface Veil {
  readonly key: string;
  readonly isOver: boolean;
}

/** The veil of an item, where there is one: over for everybody once its date has come. */
export async function findVeil(db: Db, itemId: string, now: number): Promise<Veil | null> {
  const row = await maybe<{ anonymous: string; anonymous_until: Date | null; anonymous_key: string }>(
    db,
    "select anonymous, anonymous_until, anonymous_key from assignment where item_id = $1 and anonymous <> 'none'",
    [itemId],
  );
  if (row === null) return null;
  return {
    key: row.anonymous_key,
    isOver: row.anonymous === 'date' && row.anonymous_until !== null && row.anonymous_until.getTime() <= now,
  };
}

/** The students of an item whose names are hidden now: those whose mark is not released. Null where no names are hidden. */
export async function listNamed(db: Db, itemId: string): Promise<ReadonlySet<string>> {
  const found = await rows<{ enrolment_id: string }>(db, 'select enrolment_id from grade where item_id = $1 and is_released', [itemId]);
  return new Set(found.map((row) => row.enrolment_id));
}

/** An identifier in place of the student's, made from a key that nobody is told: it says nothing, and is the same each time. */
export function veiledId(key: string, enrolmentId: string): string {
  const hex = createHash('sha256').update(`${key} ${enrolmentId}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
/** What a work is called while its student's name is hidden: four signs that are not mistaken for one another. */
export function veiledName(id: string): string {
  const bytes = Buffer.from(id.replaceAll('-', ''), 'hex');
  return [...bytes.subarray(0, 4)].map((b) => LETTERS.charAt(b % LETTERS.length)).join('');
}

/** The students of an item by the identifiers they are known under now; null where that is their own. */
export async function listUnveiled(db: Db, courseId: string, itemId: string, now: number): Promise<ReadonlyMap<string, string> | null> {
  const veil = await findVeil(db, itemId, now);
  if (veil === null || veil.isOver) return null;
  const named = await listNamed(db, itemId);
  const students = await rows<{ id: string }>(db, "select id from enrolment where course_id = $1 and role = 'student'", [courseId]);
  return new Map(students.map((s) => [named.has(s.id) ? s.id : veiledId(veil.key, s.id), s.id]));
}

/** The student behind an identifier of the address: itself, or the one whose veil it is. Null is nobody. */
export async function unveil(
  db: Db,
  courseId: string,
  itemId: string,
  id: string,
  now: number,
): Promise<{ enrolmentId: string; isVeiled: boolean } | null> {
  const known = await listUnveiled(db, courseId, itemId, now);
  if (known === null) return { enrolmentId: id, isVeiled: false };
  const enrolmentId = known.get(id);
  return enrolmentId === undefined ? null : { enrolmentId, isVeiled: enrolmentId !== id };
}

/** The identifier under which those who mark know a work now. */
export async function workId(db: Db, target: Target, now: number): Promise<string> {
  const veil = await findVeil(db, target.itemId, now);
  if (veil === null || veil.isOver || (await listNamed(db, target.itemId)).has(target.enrolmentId)) return target.enrolmentId;
  return veiledId(veil.key, target.enrolmentId);
}

/** A line of the stack without anything that names its student: no name, section, group, title, file, nor the minute it came. */
export function veilEntry(entry: StackEntry, key: string): StackEntry {
  const id = veiledId(key, entry.enrolmentId);
  return {
    ...entry,
    enrolmentId: id,
    personId: '',
    givenName: 'Work',
    familyName: veiledName(id),
    section: '',
    sectionId: null,
    group: '',
    members: [],
    handedInAt: null,
    lateText: entry.lateText === null ? null : 'late',
    isVeiled: true,
    title: '',
    original: null,
  };
}

/** Where a file of a veiled work is fetched: by its place in it, and under a name that says nothing. */
const veilFile = (file: CourseFile, name: string, base: string): CourseFile => ({
  ...file,
  name: `${name}${/\.[a-z0-9]{1,5}$/i.exec(file.name)?.[0].toLowerCase() ?? ''}`,
  url: `${base}/files/${file.id}`,
});

const veilCopy = (copy: LinkCopy | null, base: string): LinkCopy | null =>
  copy === null ? null : { ...copy, triedAt: '', title: '', file: copy.file === null ? null : veilFile(copy.file, 'Copy', base) };

function veilAttempt(attempt: AttemptView, base: string): AttemptView {
  return {
    ...attempt,
    handedInAt: '',
    by: null,
    lateText: attempt.lateText === null ? null : 'late',
    files: attempt.files.map((file, n) => veilFile(file, `File ${n + 1}`, base)),
    linkCopy: veilCopy(attempt.linkCopy, base),
  };
}

/** A work as it is marked without its student's name: nothing in it names them but what they wrote themselves. */
export function veilWork(work: Work, key: string, base: string): Work {
  const entry = veilEntry(work.entry, key);
  const path = `/api${base}/${entry.enrolmentId}`;
  const plain = { at: null, reason: 'hidden while names are' };
  return {
    ...work,
    entry,
    attempts: work.attempts.map((a) => veilAttempt(a, path)),
    dates: { opens: plain, due: plain, closes: plain },
    words: work.words.map((w) => (w.isStaff ? w : { ...w, author: 'The student' })),
    draft: work.draft === null ? null : { ...work.draft, files: work.draft.files.map((file, n) => veilFile(file, `File ${n + 1}`, path)) },
    group: null,
  };
}
