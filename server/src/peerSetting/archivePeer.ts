import type { ArchivePeer, RubricChange } from '@rosemary/api';
import type { DocumentNode, PeerChoices } from '@rosemary/core';
import { type Db, maybe, rows } from '../platform/database.ts';
import { isoOf } from '../platform/instants.ts';
import { findRubric, findRubrics } from '../rubric/index.ts';
import { AS_CHOICES, findPeer } from './findPeer.ts';
import { bringSamples, readOutSamples } from './samples.ts';
import { savePeer, savePeerForm } from './savePeer.ts';

interface Row {
  item_id: string;
  rubric_id: string | null;
  is_on: boolean;
  prompt: DocumentNode;
  reviews_open_at: Date | null;
  reviews_due_at: Date | null;
  draw_at: Date | null;
  results_at: Date | null;
  revision_due_at: Date | null;
  choices: PeerChoices;
  possible: number | null;
  form: RubricChange['criteria'] | null;
}

/** The peer reviews of items as an archive holds them: what was set, its dates and its form; nobody’s groups, and no reviews. */
export async function readOutPeers(db: Db, itemIds: readonly string[]): Promise<ReadonlyMap<string, ArchivePeer>> {
  const found = await rows<Row & Record<string, unknown>>(
    db,
    `select p.item_id, p.rubric_id, p.is_on, p.prompt, p.reviews_open_at, p.reviews_due_at, p.draw_at, p.results_at, p.revision_due_at, ${AS_CHOICES}, (r.possible * 1000)::int as possible,
       (select json_agg(json_build_object('id', null, 'title', c.title, 'form', c.form, 'levels', (select coalesce(json_agg(json_build_object('id', null, 'title', l.title, 'descriptor', l.descriptor, 'points', (l.points * 1000)::int, 'least', (l.least * 1000)::int, 'upTo', l.up_to) order by l.position), '[]')
          from rubric_level l where l.criterion_id = c.id and l.removed_at is null)) order by c.position)
        from rubric_criterion c where c.rubric_id = p.rubric_id and c.removed_at is null) as form
     from peer_setting p left join grade_column r on r.item_id = p.item_id and r.role = 'reviewing' and r.removed_at is null where p.item_id = any($1)`,
    [itemIds],
  );
  const rubrics = await findRubrics(
    db,
    found.flatMap((row) => row.rubric_id ?? []),
  );
  const samples = await readOutSamples(db, new Map(found.map((row) => [row.item_id, rubrics.get(row.rubric_id ?? '') ?? null])));
  return new Map(
    found.map((row) => [
      row.item_id,
      {
        samples: samples.get(row.item_id) ?? [],
        setting: {
          ...row.choices,
          ...{ isOn: row.is_on, prompt: row.prompt, reviewsOpenAt: isoOf(row.reviews_open_at), reviewsDueAt: isoOf(row.reviews_due_at) },
          ...{ drawAt: isoOf(row.draw_at), resultsAt: isoOf(row.results_at), revisionDueAt: isoOf(row.revision_due_at) },
          reviewing: row.possible === null ? null : { possible: row.possible, categoryId: null },
        },
        form: row.form ?? [],
      },
    ]),
  );
}

/** Brings a peer review out of an archive into an item that was made for it; the reviewing counts in the category of the work. */
export async function bringPeer(
  db: Db,
  courseId: string,
  itemId: string,
  peer: ArchivePeer,
  moved: (prompt: DocumentNode) => DocumentNode,
  now: number,
): Promise<void> {
  const work = await maybe<{ category_id: string | null }>(
    db,
    "select category_id from grade_column where item_id = $1 and role = 'work'",
    [itemId],
  );
  const { setting } = peer;
  const among = setting.among === 'group' || setting.among === 'outside group' ? 'course' : setting.among;
  const reviewing = setting.reviewing === null ? null : { possible: setting.reviewing.possible, categoryId: work?.category_id ?? null };
  await savePeer(
    db,
    courseId,
    itemId,
    { ...setting, among, reviewing, prompt: moved(setting.prompt), version: 0, groupSetId: null, otherDates: [] },
    now,
  );
  await savePeerForm(db, courseId, itemId, { version: 1, criteria: peer.form }, now);
  const made = await findPeer(db, itemId);
  const samples = peer.samples.map((s) => ({ ...s, document: moved(s.document) }));
  await bringSamples(db, courseId, itemId, samples, await findRubric(db, made?.rubricId ?? null), now);
}
