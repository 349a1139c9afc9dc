import { type Db, rows, run } from './database.ts';
import { AppError, notFound } from './errors.ts';
import type { PersonContext } from './route.ts';

/** Something a teacher keeps to use again: of one's own, or shared with everyone who teaches here. */
export interface Kept {
  readonly id: string;
  readonly title: string;
  readonly isShared: boolean;
  readonly isOwn: boolean;
  readonly owner: string;
}
interface KeptChange {
  readonly title?: string;
  readonly isShared?: boolean;
}
type Teaching = Pick<PersonContext<unknown>['person'], 'personId' | 'memberships'>;

const MOST = 200;

/** A shelf of what teachers keep, in a table of its own. What is kept stands in the column `holds`, as JSON. */
export interface Shelf {
  readonly table: string;
  readonly holds: string;
  /** What is kept, in words: “Rubrics”. */
  readonly words: string;
}

/** A student keeps nothing here; whoever teaches somewhere does, each their own. */
function requireTeaching(shelf: Shelf, person: Teaching): void {
  if (!person.memberships.some((m) => m.isActive && m.role !== 'student'))
    throw new AppError('refused', `${shelf.words} are kept by those who teach.`);
}

/** One's own first, then what others share. */
export async function listShelf<T extends Kept>(db: Db, shelf: Shelf, person: Teaching): Promise<T[]> {
  requireTeaching(shelf, person);
  return rows<T & Record<string, unknown>>(
    db,
    `select k.id, k.title, k.${shelf.holds}, k.is_shared as "isShared", k.owner_id = $1 as "isOwn", p.given_name || ' ' || p.family_name as owner
     from ${shelf.table} k join person p on p.id = k.owner_id where k.removed_at is null and (k.owner_id = $1 or k.is_shared)
     order by k.owner_id <> $1, lower(k.title), k.id limit ${MOST}`,
    [person.personId],
  );
}

export async function putOnShelf(
  db: Db,
  shelf: Shelf,
  person: Teaching,
  { id, title, held }: { readonly id: string; readonly title: string; readonly held: unknown },
  now: number,
): Promise<void> {
  requireTeaching(shelf, person);
  await run(
    db,
    `insert into ${shelf.table} (id, owner_id, title, ${shelf.holds}, created_at) values ($1, $2, $3, $4, to_timestamp($5 / 1000.0)) on conflict (id) do nothing`,
    [id, person.personId, title, JSON.stringify(held), now],
  );
}

/** Only one's own is changed; another's is not there to be changed. */
async function changeOwn(db: Db, shelf: Shelf, person: Teaching, id: string, sql: string, values: readonly unknown[]): Promise<void> {
  requireTeaching(shelf, person);
  if ((await run(db, `update ${shelf.table} set ${sql} where id = $1 and owner_id = $2`, [id, person.personId, ...values])) === 0)
    throw notFound();
}

export const changeOnShelf = (db: Db, shelf: Shelf, person: Teaching, id: string, change: KeptChange): Promise<void> =>
  changeOwn(db, shelf, person, id, 'title = coalesce($3, title), is_shared = coalesce($4, is_shared)', [
    change.title ?? null,
    change.isShared ?? null,
  ]);

/** Takes it off the shelf, or puts it back (null). */
export const setOffShelf = (db: Db, shelf: Shelf, person: Teaching, id: string, removedAt: number | null): Promise<void> =>
  changeOwn(db, shelf, person, id, 'removed_at = to_timestamp($3 / 1000.0)', [removedAt]);
