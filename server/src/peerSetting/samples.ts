import { type ArchiveSample, LIMITS, type ReviewContent, type RubricView, type SampleChange } from '@rosemary/api';
import { type DocumentNode, judgedByPlace, judgedOnForm, plainText, unjudgedCriteria, wordCount } from '@rosemary/core';
import { checked, columnsOf, keepItemFiles } from '../items/index.ts';
import { listEmbedHosts } from '../people/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, conflict, notFound } from '../platform/errors.ts';
import { findPeer } from './findPeer.ts';
import { PEER_PARTS } from './parts.ts';

/** A sample work as it stands in the database, with the teacher’s own assessment of it. */
export interface Sample extends ReviewContent {
  readonly id: string;
  readonly title: string;
  readonly document: DocumentNode;
  readonly takenFrom: string | null;
  readonly version: number;
}

const COLUMNS = 's.id, s.title, s.document, s.taken_from as "takenFrom", s.choices, s.given, s.comments, s.words, s.version';

/** The sample works of an item, in the order they came to it. */
export const listSamples = (db: Db, itemId: string): Promise<Sample[]> =>
  rows<Sample & Record<string, unknown>>(
    db,
    `select ${COLUMNS} from peer_sample s where s.item_id = $1 and s.removed_at is null order by s.made_at, s.title`,
    [itemId],
  );

export async function getSample(db: Db, itemId: string, sampleId: string): Promise<Sample> {
  const found = await maybe<Sample & Record<string, unknown>>(
    db,
    `select ${COLUMNS} from peer_sample s where s.item_id = $1 and s.id = $2 and s.removed_at is null`,
    [itemId, sampleId],
  );
  if (found === null) throw notFound();
  return found;
}

/** The criteria that the teacher has not judged yet, by title. Students see a sample work once there are none. */
export const unjudgedOf = (form: RubricView | null, sample: ReviewContent): readonly string[] =>
  unjudgedCriteria(form?.criteria ?? [], sample).map((c) => c.title);

export const wordsOfDocument = (document: DocumentNode): number => wordCount(plainText(document));

/** The files that all sample works of an item show, after one of them changed. */
async function keepSampleFiles(db: Db, courseId: string, itemId: string): Promise<void> {
  const all = await listSamples(db, itemId);
  await keepItemFiles(
    db,
    courseId,
    itemId,
    all.map((s) => s.document),
    'sample',
  );
}

/** Who takes a work says by whose leave. */
export interface Taken {
  readonly submissionId: string;
  readonly leave: 'authors' | 'teacher';
}

/** A new sample work: an empty page, or what was taken. */
export async function addSample(
  db: Db,
  courseId: string,
  itemId: string,
  title: string,
  document: DocumentNode,
  taken: Taken | null,
  now: number,
): Promise<string> {
  if ((await findPeer(db, itemId, true)) === null) throw notFound();
  if ((await listSamples(db, itemId)).length >= LIMITS.samples)
    throw new AppError('not-now', `There are ${LIMITS.samples} sample works here, which is all there can be. Delete one first.`);
  const made = await maybe<{ id: string }>(
    db,
    `insert into peer_sample (item_id, title, document, taken_from, leave, made_at) values ($1, $2, $3, $4, $5, to_timestamp($6 / 1000.0)) returning id`,
    [itemId, title, JSON.stringify(document), taken?.submissionId ?? null, taken?.leave ?? null, now],
  );
  await keepSampleFiles(db, courseId, itemId);
  return made?.id ?? '';
}

/** Saves a sample work and what the teacher makes of it. */
export async function saveSample(db: Db, courseId: string, itemId: string, sampleId: string, change: SampleChange): Promise<void> {
  checked(change.document, 'document', await listEmbedHosts(db));
  const changed = await run(
    db,
    'update peer_sample set title = $4, document = $5, choices = $6, given = $7, comments = $8, words = $9, version = version + 1 where item_id = $1 and id = $2 and version = $3 and removed_at is null',
    [
      ...[itemId, sampleId, change.version, change.title, JSON.stringify(change.document)],
      ...[JSON.stringify(change.choices), JSON.stringify(change.given), JSON.stringify(change.comments), change.words],
    ],
  );
  if (changed === 0) throw conflict({ ...(await getSample(db, itemId, sampleId)) });
  await keepSampleFiles(db, courseId, itemId);
}

/** Takes a sample work away, or brings it back. */
export async function setSampleRemoved(
  db: Db,
  courseId: string,
  itemId: string,
  sampleId: string,
  removedAt: number | null,
): Promise<void> {
  const changed = await run(db, 'update peer_sample set removed_at = to_timestamp($3 / 1000.0) where item_id = $1 and id = $2', [
    itemId,
    sampleId,
    removedAt,
  ]);
  if (changed === 0) throw notFound();
  await keepSampleFiles(db, courseId, itemId);
}

/** An item that was copied, with the form its reviews had and the one they have now. */
export interface CopiedReviews {
  readonly old: string;
  readonly made: string;
  readonly was: RubricView | null;
  readonly is: RubricView | null;
}

/** The sample works of items to their copies: what the teacher judged is said by the criteria of the copied form. */
export async function copySamples(
  db: Db,
  copies: readonly CopiedReviews[],
  isWithinCourse: boolean,
  moved: (document: DocumentNode) => DocumentNode,
): Promise<void> {
  const found = await rows<Sample & { item_id: string } & Record<string, unknown>>(
    db,
    `select s.item_id, ${COLUMNS} from peer_sample s where s.item_id = any($1) and s.removed_at is null`,
    [copies.map((c) => c.old)],
  );
  const all = found.flatMap((s) =>
    copies
      .filter((c) => c.old === s.item_id)
      .map(({ made, was, is }) => ({
        id: s.id,
        made,
        document: moved(s.document),
        ...judgedOnForm(is?.criteria ?? [], judgedByPlace(was?.criteria ?? [], s)),
      })),
  );
  const columns = columnsOf(PEER_PARTS.peer_sample, isWithinCourse);
  await run(
    db,
    `insert into peer_sample (item_id, document, choices, given, comments, ${columns.names}) select t.made, t.document, t.choices, t.given, t.comments, ${columns.from('s')}
     from unnest($1::uuid[], $2::uuid[], $3::jsonb[], $4::jsonb[], $5::jsonb[], $6::jsonb[]) as t(old, made, document, choices, given, comments) join peer_sample s on s.id = t.old`,
    [
      all.map((s) => s.id),
      all.map((s) => s.made),
      ...[all.map((s) => JSON.stringify(s.document)), all.map((s) => JSON.stringify(s.choices))],
      ...[all.map((s) => JSON.stringify(s.given)), all.map((s) => JSON.stringify(s.comments))],
    ],
  );
}

/** The sample works of items as an archive holds them: judged by places, since an archive has no identifiers of criteria. */
export async function readOutSamples(
  db: Db,
  forms: ReadonlyMap<string, RubricView | null>,
): Promise<ReadonlyMap<string, readonly ArchiveSample[]>> {
  const found = await rows<Sample & { item_id: string } & Record<string, unknown>>(
    db,
    `select s.item_id, ${COLUMNS} from peer_sample s where s.item_id = any($1) and s.removed_at is null order by s.made_at, s.title`,
    [[...forms.keys()]],
  );
  const byItem = new Map<string, ArchiveSample[]>();
  for (const s of found) {
    const judged = judgedByPlace(forms.get(s.item_id)?.criteria ?? [], s);
    byItem.set(s.item_id, [...(byItem.get(s.item_id) ?? []), { title: s.title, document: s.document, words: s.words, ...judged }]);
  }
  return byItem;
}

/** Sample works out of an archive, on the form that came with them. */
export async function bringSamples(
  db: Db,
  courseId: string,
  itemId: string,
  samples: readonly ArchiveSample[],
  form: RubricView | null,
  now: number,
): Promise<void> {
  const all = samples.map((s) => ({
    ...s,
    ...judgedOnForm(form?.criteria ?? [], { levels: s.levels, given: s.given, comments: s.comments }),
  }));
  await run(
    db,
    `insert into peer_sample (item_id, title, document, choices, given, comments, words, made_at)
     select $1, t.title, t.document, t.choices, t.given, t.comments, t.words, to_timestamp($2 / 1000.0) + t.place * interval '1 millisecond'
     from unnest($3::text[], $4::jsonb[], $5::jsonb[], $6::jsonb[], $7::jsonb[], $8::text[]) with ordinality as t(title, document, choices, given, comments, words, place)`,
    [
      ...[itemId, now, all.map((s) => s.title), all.map((s) => JSON.stringify(s.document)), all.map((s) => JSON.stringify(s.choices))],
      ...[all.map((s) => JSON.stringify(s.given)), all.map((s) => JSON.stringify(s.comments)), all.map((s) => s.words)],
    ],
  );
  await keepSampleFiles(db, courseId, itemId);
}
