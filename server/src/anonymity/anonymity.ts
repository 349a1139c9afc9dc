import type { AttemptView, CourseFile, LinkCopy, StackEntry, Work } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { type PathOf, urlOf } from '@rosemary/api/endpoints';
import { createHash } from 'node:crypto';
import { type Db, maybe, rows } from '../platform/database.ts';
import type { Target } from './target.ts';

/** What hides the names of an item's works from those who mark them. */
export interface Veil {
  readonly key: string;
  /** Whether the name of this student is hidden now: until the mark is released and, where there is a date, until that too has come. */
  readonly isHidden: (enrolmentId: string) => boolean;
}

/** The veil of an item, where it is marked without names. */
export async function findVeil(db: Db, itemId: string, now: number): Promise<Veil | null> {
  const row = await maybe<{ anonymous: 'date' | 'release'; anonymous_until: Date | null; anonymous_key: string }>(
    db,
    "select anonymous, anonymous_until, anonymous_key from assignment where item_id = $1 and anonymous <> 'none'",
    [itemId],
  );
  if (row === null) return null;
  const released = await rows<{ enrolment_id: string }>(db, 'select enrolment_id from work_grade where item_id = $1 and is_released', [
    itemId,
  ]);
  const named = new Set(released.map((r) => r.enrolment_id));
  const isBeforeDate = row.anonymous === 'date' && (row.anonymous_until?.getTime() ?? Infinity) > now;
  return {
    key: row.anonymous_key,
    isHidden: (enrolmentId) => isBeforeDate || !named.has(enrolmentId),
  };
}

/** Whether the name of a student is hidden now at an item, for every item of a course. */
export async function readHidden(db: Db, courseId: string, now: number): Promise<(itemId: string, enrolmentId: string) => boolean> {
  const found = await rows<{ id: string; named: string[]; is_before_date: boolean }>(
    db,
    `select a.item_id as id, a.anonymous = 'date' and coalesce(a.anonymous_until > to_timestamp($2 / 1000.0), true) as is_before_date,
       array(select w.enrolment_id from work_grade w where w.item_id = a.item_id and w.is_released) as named
     from assignment a join item i on i.id = a.item_id where i.course_id = $1 and a.anonymous <> 'none'`,
    [courseId, now],
  );
  const at = new Map(found.map((row) => [row.id, { isBeforeDate: row.is_before_date, named: new Set(row.named) }]));
  return (itemId, enrolmentId) => {
    const veil = at.get(itemId);
    return veil !== undefined && (veil.isBeforeDate || !veil.named.has(enrolmentId));
  };
}

/** The items of a course whose works are marked without names, whether some are told meanwhile or not. */
export const listVeiledItems = async (db: Db, courseId: string): Promise<string[]> =>
  (
    await rows<{ id: string }>(
      db,
      "select a.item_id as id from assignment a join item i on i.id = a.item_id where i.course_id = $1 and a.anonymous <> 'none'",
      [courseId],
    )
  ).map((row) => row.id);

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

/**
 * The students of an item by the identifiers that lead to them now; null where no names are hidden. Whoever's name is shown is reached by
 * their own identifier, and still by the veiled one: whoever has the work open when its veil is lifted goes on with it.
 */
export async function listUnveiled(
  db: Db,
  courseId: string,
  itemId: string,
  now: number,
): Promise<ReadonlyMap<string, { readonly enrolmentId: string; readonly isVeiled: boolean }> | null> {
  const veil = await findVeil(db, itemId, now);
  if (veil === null) return null;
  const students = await rows<{ id: string }>(db, "select id from enrolment where course_id = $1 and role = 'student'", [courseId]);
  const known = new Map<string, { enrolmentId: string; isVeiled: boolean }>();
  for (const { id } of students) {
    const isVeiled = veil.isHidden(id);
    known.set(veiledId(veil.key, id), { enrolmentId: id, isVeiled });
    if (!isVeiled) known.set(id, { enrolmentId: id, isVeiled });
  }
  return known;
}

/** Whether it may be told whose row of the gradebook a change of this item is: not while names are hidden, nor where work is of a group. */
export const namesRows = async (db: Db, itemId: string): Promise<boolean> =>
  (await maybe(db, "select 1 as one from assignment where item_id = $1 and (anonymous <> 'none' or group_set_id is not null)", [
    itemId,
  ])) === null;

/** The student behind an identifier of the address: itself, or the one whose veil it is. Null is nobody. */
export async function unveil(
  db: Db,
  courseId: string,
  itemId: string,
  id: string,
  now: number,
): Promise<{ readonly enrolmentId: string; readonly isVeiled: boolean } | null> {
  const known = await listUnveiled(db, courseId, itemId, now);
  return known === null ? { enrolmentId: id, isVeiled: false } : (known.get(id) ?? null);
}

/** The identifier under which those who mark know a work now. */
export async function workId(db: Db, target: Target, now: number): Promise<string> {
  const veil = await findVeil(db, target.itemId, now);
  return veil === null || !veil.isHidden(target.enrolmentId) ? target.enrolmentId : veiledId(veil.key, target.enrolmentId);
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
const veilFile = (file: CourseFile, name: string, at: PathOf<typeof api.getWork>): CourseFile => ({
  ...file,
  name: `${name}${/\.[a-z0-9]{1,5}$/i.exec(file.name)?.[0].toLowerCase() ?? ''}`,
  url: urlOf(api.getWorkFile, { ...at, fileId: file.id }),
});

const veilCopy = (copy: LinkCopy | null, at: PathOf<typeof api.getWork>): LinkCopy | null =>
  copy === null ? null : { ...copy, triedAt: '', title: '', file: copy.file === null ? null : veilFile(copy.file, 'Copy', at) };

function veilAttempt(attempt: AttemptView, at: PathOf<typeof api.getWork>): AttemptView {
  return {
    ...attempt,
    handedInAt: '',
    by: null,
    lateText: attempt.lateText === null ? null : 'late',
    files: attempt.files.map((file, n) => veilFile(file, `File ${n + 1}`, at)),
    linkCopy: veilCopy(attempt.linkCopy, at),
  };
}

/** A work as it is marked without its student's name: nothing in it names them but what they wrote themselves. */
export function veilWork(work: Work, key: string, place: { readonly courseId: string; readonly itemId: string }): Work {
  const entry = veilEntry(work.entry, key);
  const at = { ...place, enrolmentId: entry.enrolmentId };
  const plain = { at: null, reason: 'hidden while names are' };
  return {
    ...work,
    entry,
    attempts: work.attempts.map((a) => veilAttempt(a, at)),
    dates: { opens: plain, due: plain, closes: plain },
    words: work.words.map((w) => (w.isStaff ? w : { ...w, author: 'The student' })),
    draft: work.draft === null ? null : { ...work.draft, files: work.draft.files.map((file, n) => veilFile(file, `File ${n + 1}`, at)) },
    group: null,
  };
}
