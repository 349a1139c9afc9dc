import { checkDocument, STORE_TYPES } from '@rosemary/api';
import { documentFromHtml, type DocumentNode, plainText, wordCount } from '@rosemary/core';
import { readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { decodeText, storeFile } from '../files/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { makeFolder } from '../platform/folder.ts';
import { AppError } from '../platform/errors.ts';
import { type Fetched, fetchOutside } from '../platform/fetchOutside.ts';
import { jobInSteps, type Work } from '../platform/jobs.ts';

const MOST_BYTES = 20_971_520;

const MOST_PAGE_BYTES = 2_097_152;

const MOST_TRIES = 3;

/** What is done in one go, so that a run ends within its minute however slowly everybody answers. */
const MOST_AT_ONCE = 4;

interface WaitingRow {
  id: string;
  link: string;
  course_id: string;
  person_id: string;
}

/** Hosts of the school's own network whose pages may be fetched, as `name:port`, parted by commas. */
const ownHosts = (): string[] => (process.env.ROSEMARY_LINK_HOSTS ?? '').split(',').filter((host) => host !== '');

/** A page as its words, with its pictures and scripts left where they are. */
function readPage(bytes: Buffer, address: string): { title: string; document: DocumentNode | null } {
  const read = documentFromHtml(decodeText(bytes, 'html').text, {
    link: (href) => {
      const url = URL.canParse(href, address) ? new URL(href, address) : null;
      return url !== null && /^https?:$/.test(url.protocol) ? url.href : null;
    },
    file: () => null,
    isEmbeddable: () => false,
  });
  const isRead = checkDocument(read.document).ok && wordCount(plainText(read.document)) > 0;
  return { title: read.title.slice(0, 200), document: isRead ? read.document : null };
}

/** A name out of an address; one that is not written as it should be is taken as it stands. */
function readName(written: string): string {
  try {
    return decodeURIComponent(written);
  } catch {
    return written;
  }
}

/** The name a file goes by at its address, or the site's. */
function nameOf(address: string, isPage: boolean): string {
  const url = new URL(address);
  const last = readName(url.pathname.split('/').at(-1) ?? '');
  return last.includes('.') ? last : `${last === '' ? url.hostname : last}${isPage ? '.html' : ''}`;
}

async function keep(db: Db, row: WaitingRow, path: string, fetched: Extract<Fetched, { ok: true }>, now: number): Promise<void> {
  const isPage = /^(text\/html|application\/xhtml)/i.test(fetched.contentType);
  const bytes = isPage ? await readFile(path) : null;
  const page = bytes === null || bytes.length > MOST_PAGE_BYTES ? null : readPage(bytes, fetched.address);
  let fileId: string | null = null;
  let said = 'It can be opened without signing in.';
  try {
    const file = await storeFile(db, {
      path,
      name: Buffer.from(nameOf(fetched.address, isPage), 'utf8').toString('latin1'),
      types: Object.keys(STORE_TYPES),
      mostBytes: MOST_BYTES,
      courseId: row.course_id,
      ownerId: row.person_id,
      now,
    });
    fileId = file.id;
  } catch (error) {
    // Of a kind that is not kept here, or empty: the page can be opened, and that is said.
    if (!(error instanceof AppError)) throw error;
    said = 'It can be opened without signing in; what stands there is of a kind of which no copy is kept.';
  }
  if (isPage && (page?.document ?? null) === null)
    said = 'It can be opened without signing in; its words are put there by a script and are in no copy.';
  await save(db, row.id, {
    state: 'kept',
    said,
    address: fetched.address,
    title: page?.title ?? '',
    document: page?.document ?? null,
    fileId,
    now,
  });
}

interface Outcome {
  readonly state: string;
  readonly said: string;
  readonly address: string;
  readonly title?: string;
  readonly document?: DocumentNode | null;
  readonly fileId?: string | null;
  readonly now: number;
}

async function save(db: Db, attemptId: string, o: Outcome): Promise<void> {
  await run(
    db,
    `insert into link_copy (attempt_id, state, said, address, tried_at, title, document, file_id) values ($1, $2, $3, $4, to_timestamp($5 / 1000.0), $6, $7, $8)
     on conflict (attempt_id) do update set state = excluded.state, said = excluded.said, address = excluded.address, tried_at = excluded.tried_at,
       title = excluded.title, document = excluded.document, file_id = excluded.file_id, tries = link_copy.tries + 1`,
    [attemptId, o.state, o.said, o.address, o.now, o.title ?? '', o.document ?? null, o.fileId ?? null],
  );
}

/** Links that no copy is kept of yet. What a group handed in is kept with the attempt that leads. */
const listWaiting = (db: Db, now: number): Promise<WaitingRow[]> =>
  rows<WaitingRow>(
    db,
    `select a.id, a.link, e.course_id, e.person_id from attempt a join submission s on s.id = a.submission_id join enrolment e on e.id = s.enrolment_id
       left join link_copy c on c.attempt_id = a.id
     where a.link <> '' and a.lead_id is null and not e.is_sample
       and (c.attempt_id is null or (c.state = 'away' and c.tries < $1 and c.tried_at < to_timestamp($2 / 1000.0)))
     order by a.handed_in_at limit $3`,
    [MOST_TRIES, now, MOST_AT_ONCE],
  );

/** Keeps what stands at one address. The page is fetched while nothing of the database is held, then what came is written. */
async function keepOne(work: Work, row: WaitingRow, now: number): Promise<void> {
  const folder = await makeFolder();
  try {
    const path = join(folder, 'copy');
    const fetched = await fetchOutside(row.link, path, { mostBytes: MOST_BYTES, trusted: ownHosts() });
    await work.write((db) => (fetched.ok ? keep(db, row, path, fetched, now) : save(db, row.id, { ...fetched, now })));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Keeps what stands at the addresses handed in, each once; where nobody answers it is tried up to three times. */
export const keepLinks = jobInSteps<WaitingRow>({
  name: 'keep-links',
  isRisky: true,
  due: listWaiting,
  one: keepOne,
});
