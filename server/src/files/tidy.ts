import { rows, run, type Db } from '../platform/database.ts';
import { jobOf } from '../platform/jobs.ts';
import { forgetAnswers } from '../platform/keptAnswers.ts';

const DAY = 86_400_000;

/** Texts that name files of the past without keeping them, or that have nothing to do with files. */
const NOT_KEEPING = ['audit', 'kept_answer', 'session'];

interface Column {
  readonly table: string;
  readonly column: string;
}

/** Every column that refers to a file by its key, as the database itself knows them. */
const listReferences = (db: Db): Promise<Column[]> =>
  rows(
    db,
    `select c.conrelid::regclass::text as "table", quote_ident(a.attname) as "column" from pg_constraint c
       join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1] where c.contype = 'f' and c.confrelid = 'file'::regclass order by 1, 2`,
  );

/** Every column that may name one in a text or an answer. */
const listTexts = (db: Db): Promise<Column[]> =>
  rows(
    db,
    `select quote_ident(table_name) as "table", quote_ident(column_name) as "column" from information_schema.columns
     where table_schema = current_schema() and data_type in ('json', 'jsonb') and table_name <> all($1) order by 1, 2`,
    [NOT_KEEPING],
  );

/**
 * Removes files that nothing holds any more: not in the store of a course, older than a day, referred to by no row and named in no text.
 * Which columns those are is read from the database, so that a new one is never forgotten.
 */
async function removeUnused(db: Db, now: number): Promise<number> {
  const references = await listReferences(db);
  const isReferred = references.map(({ table, column }) => `exists (select 1 from ${table} r where r.${column} = f.id)`).join(' or ');
  const found = await rows<{ id: string }>(
    db,
    `select f.id from file f where not f.is_kept and f.created_at < to_timestamp($1 / 1000.0) and not (${isReferred})`,
    [now - DAY],
  );
  let left = found.map((row) => row.id);
  for (const { table, column } of await listTexts(db)) {
    if (left.length === 0) return 0;
    const named = await rows<{ id: string }>(
      db,
      `select distinct m[1] as id from ${table} t, regexp_matches(t.${column}::text, '[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}', 'g') as m
       where m[1] = any($1)`,
      [left],
    );
    const held = new Set(named.map((row) => row.id));
    left = left.filter((id) => !held.has(id));
  }
  return run(db, 'delete from file where id = any($1)', [left]);
}

/** Removes the bytes that no file has any more. A file that is being stored from the same bytes holds on to them. */
async function removeBytes(db: Db): Promise<number> {
  const unused = await rows<{ sha256: Buffer }>(
    db,
    `select b.sha256 from file_blob b where not exists (select 1 from file f where f.sha256 = b.sha256)
       and not exists (select 1 from file_past p where p.sha256 = b.sha256) for update skip locked`,
  );
  const hashes = unused.map((row) => row.sha256);
  await run(db, 'delete from file_chunk where sha256 = any($1)', [hashes]);
  return run(db, 'delete from file_blob where sha256 = any($1)', [hashes]);
}

const removeUploads = (db: Db, now: number): Promise<number> =>
  run(db, 'delete from upload where begun_at < to_timestamp($1 / 1000.0)', [now - DAY]);

/** What is cleared away each day, in this order: bytes come free once their files are gone. */
export const TIDIED: readonly { readonly id: string; readonly words: string; readonly clear: (db: Db, now: number) => Promise<number> }[] =
  [
    { id: 'uploads', words: 'Uploads never finished', clear: removeUploads },
    { id: 'answers', words: 'Replies kept for lost connections', clear: forgetAnswers },
    { id: 'files', words: 'Files that nothing uses', clear: removeUnused },
    { id: 'bytes', words: 'Contents of deleted files', clear: removeBytes },
  ];

/** Clears away, once a day and when a server starts after more than one, what nobody uses. */
export const tidyFiles = jobOf<{ id: string }>({
  name: 'tidy-files',
  due: async (db, now) => {
    const done = await rows<{ what: string }>(db, 'select what from tidied where at > to_timestamp($1 / 1000.0)', [now - DAY]);
    return TIDIED.filter(({ id }) => !done.some((row) => row.what === id));
  },
  one: async (db, { id }, now) => {
    const many = (await TIDIED.find((t) => t.id === id)?.clear(db, now)) ?? 0;
    await run(
      db,
      `insert into tidied (what, at, many) values ($1, to_timestamp($2 / 1000.0), $3)
       on conflict (what) do update set at = excluded.at, many = excluded.many`,
      [id, now, many],
    );
  },
});
