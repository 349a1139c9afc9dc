import type { ShowingWork, ShownWork, ShownWorkView } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { pageOf } from '@rosemary/api';
import { urlOf } from '@rosemary/api/endpoints';
import { allowsClass } from '@rosemary/core';
import { tell } from '../notices/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { leaveOf } from './leave.ts';
import type { PeerFacts } from './readPeer.ts';
import { readWork } from './readWork.ts';
import type { Reviewing } from './reviewing.ts';

interface Shown {
  readonly id: string;
  readonly is_named: boolean;
  readonly words: string;
  readonly names: string;
  readonly authors: string[];
  readonly submission_id: string;
}

/** The works of an item that are shown to its class. They are known by an identifier that leads to nobody. */
const listShownRows = (db: Db, itemId: string): Promise<Shown[]> =>
  rows<Shown & Record<string, unknown>>(
    db,
    `select w.id, w.is_named, w.words, w.submission_id,
       array_agg(distinct m.enrolment_id::text) as authors, string_agg(distinct p.given_name || ' ' || p.family_name, ', ') as names
     from shown_work w join lateral (select coalesce(a.lead_id, a.id) as lead from attempt a where a.submission_id = w.submission_id order by a.number desc limit 1) last on true
     join attempt a on coalesce(a.lead_id, a.id) = last.lead join submission m on m.id = a.submission_id join enrolment e on e.id = m.enrolment_id join person p on p.id = e.person_id
     where w.item_id = $1 and w.hidden_at is null group by w.id order by md5(w.id::text)`,
    [itemId],
  );

const viewOf = (row: Shown, enrolmentId: string): ShownWork => {
  const isOwn = row.authors.includes(enrolmentId);
  return { workId: row.id, by: row.is_named ? row.names : isOwn ? 'Your own work' : 'A work of your class', isOwn, words: row.words };
};

/** The works that a student’s class is shown, once results are out. */
export const listShown = async (
  db: Db,
  { itemId, enrolmentId, peer }: Pick<Reviewing, 'itemId' | 'enrolmentId' | 'peer'>,
): Promise<ShownWork[]> => (peer.resultsOutAt === null ? [] : (await listShownRows(db, itemId)).map((row) => viewOf(row, enrolmentId)));

/** One shown work as a student reads it, and whether its author’s name stands at it. */
export async function readShown(
  db: Db,
  reviewing: Reviewing,
  workId: string,
): Promise<{ readonly view: ShownWorkView; readonly isNamed: boolean }> {
  const { courseId, itemId, enrolmentId, visible, peer } = reviewing;
  const row = peer.resultsOutAt === null ? undefined : (await listShownRows(db, itemId)).find((w) => w.id === workId);
  if (row === undefined) throw notFound();
  const urlOfFile = (fileId: string): string => urlOf(api.getShownFile, { courseId, itemId, workId, fileId });
  const work = await readWork(db, { submissionId: row.submission_id, attemptId: null, isNamed: row.is_named, urlOfFile });
  return { isNamed: row.is_named, view: { ...viewOf(row, enrolmentId), itemTitle: visible.item.title, work } };
}

/** How a work is shown, for whoever teaches; null where it never was. */
export async function findShowing(db: Db, itemId: string, workId: string): Promise<(ShowingWork & { readonly version: number }) | null> {
  return maybe<ShowingWork & { version: number } & Record<string, unknown>>(
    db,
    `select hidden_at is null as "isShown", is_named as "isNamed", leave = 'teacher' as "saysLeave", words, version from shown_work where item_id = $1 and submission_id = $2`,
    [itemId, workId],
  );
}

/** The submissions of an item whose works are shown now. */
export const listShownIds = async (db: Db, itemId: string): Promise<ReadonlySet<string>> =>
  new Set(
    (await rows<{ id: string }>(db, 'select submission_id as id from shown_work where item_id = $1 and hidden_at is null', [itemId])).map(
      (row) => row.id,
    ),
  );

/** Shows a work to the class, with leave, or hides it again. Who is in the class is told the first time. */
export async function showWork(
  db: Db,
  facts: PeerFacts,
  workId: string,
  change: ShowingWork,
  personId: string,
  now: number,
): Promise<void> {
  const work = facts.works.find((w) => w.id === workId);
  if (work === undefined) throw notFound();
  const { itemId, peer, veil } = facts;
  const isAllowed = allowsClass(await leaveOf(db, work.submissionIds), change.isNamed);
  if (change.isShown) {
    if (peer.resultsOutAt === null)
      throw new AppError('not-now', 'Works are shown once the results of the reviews are out: before that it would tell who is who.');
    if (change.isNamed && veil !== null && work.authors.some((a) => veil.isHidden(a)))
      throw new AppError('not-now', 'Names are hidden from those who mark this assignment. Show the work without the name.');
    if (!isAllowed && !change.saysLeave)
      throw new AppError(
        'not-now',
        `Its author has not given leave here to show it ${change.isNamed ? 'with the name' : 'to the class'}. Ask them, or say that you have their leave.`,
      );
  }
  const was = await findShowing(db, itemId, workId);
  if (!change.isShown && was === null) return;
  await run(
    db,
    `insert into shown_work as w (item_id, submission_id, is_named, leave, words, shown_at, shown_by, hidden_at) values ($1, $2, $3, $4, $5, to_timestamp($6 / 1000.0), $7, case when $8 then null else to_timestamp($6 / 1000.0) end)
     on conflict (item_id, submission_id) do update set is_named = excluded.is_named, leave = excluded.leave, words = excluded.words, hidden_at = excluded.hidden_at, shown_by = excluded.shown_by, version = w.version + 1`,
    [itemId, workId, change.isNamed, isAllowed ? 'authors' : 'teacher', change.words, now, personId, change.isShown],
  );
  if (!change.isShown || was !== null) return;
  await tell(db, {
    ...{ courseId: facts.facts.courseId, kind: 'review', at: now, personIds: [...facts.people.values()].map((p) => p.personId) },
    words: `“${facts.title}”: a work is shown to the class`,
    body: change.words === '' ? 'Open the assignment to read it.' : change.words,
    path: pageOf('study', { courseId: facts.facts.courseId, itemId }),
  });
}
