import type { PeerSample, RubricView, SampleLine } from '@rosemary/api';
import { getPlanItem } from '../items/index.ts';
import { findPeer, getSample, listSamples, type Sample, unjudgedOf, wordsOfDocument } from '../peerSetting/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { findRubric } from '../rubric/index.ts';

/** What a student made of a sample work so far. */
export interface Practice {
  readonly sampleId: string;
  readonly choices: { readonly [id: string]: string };
  readonly given: { readonly [id: string]: number };
  readonly comments: { readonly [id: string]: string };
  readonly words: string;
  readonly savedAt: Date;
  readonly handedInAt: Date | null;
  readonly form: RubricView | null;
  readonly version: number;
}

const COLUMNS =
  'r.sample_id as "sampleId", r.choices, r.given, r.comments, r.words, r.saved_at as "savedAt", r.handed_in_at as "handedInAt", r.form, r.version';

/** The practice of one student on the sample works of an item. */
export const listPractice = (db: Db, itemId: string, enrolmentId: string): Promise<Practice[]> =>
  rows<Practice & Record<string, unknown>>(
    db,
    `select ${COLUMNS} from sample_review r join peer_sample s on s.id = r.sample_id where s.item_id = $1 and r.enrolment_id = $2`,
    [itemId, enrolmentId],
  );

/** How many compared each sample work with the teacher’s, and how many each student did, of works that students see. */
export async function countPractice(
  db: Db,
  itemId: string,
  sampleIds: readonly string[],
): Promise<{ readonly bySample: ReadonlyMap<string, number>; readonly byStudent: ReadonlyMap<string, number> }> {
  const found = await rows<{ sample_id: string; enrolment_id: string }>(
    db,
    `select r.sample_id, r.enrolment_id from sample_review r join peer_sample s on s.id = r.sample_id join enrolment e on e.id = r.enrolment_id and not e.is_sample
     where s.item_id = $1 and s.id = any($2) and r.handed_in_at is not null`,
    [itemId, sampleIds],
  );
  const counted = (key: 'sample_id' | 'enrolment_id'): ReadonlyMap<string, number> => {
    const many = new Map<string, number>();
    for (const row of found) many.set(row[key], (many.get(row[key]) ?? 0) + 1);
    return many;
  };
  return { bySample: counted('sample_id'), byStudent: counted('enrolment_id') };
}

/** The sample works that students see: those that the teacher assessed whole. */
export async function listOpenSamples(db: Db, itemId: string, rubricId: string | null): Promise<Sample[]> {
  const form = await findRubric(db, rubricId);
  return (await listSamples(db, itemId)).filter((s) => unjudgedOf(form, s).length === 0);
}

/** The sample works as the setting lists them. */
export async function listSampleLines(db: Db, itemId: string, form: RubricView | null): Promise<SampleLine[]> {
  const samples = await listSamples(db, itemId);
  const { bySample } = await countPractice(
    db,
    itemId,
    samples.map((s) => s.id),
  );
  return samples.map((s) => ({
    ...{ id: s.id, title: s.title, wordCount: wordsOfDocument(s.document) },
    ...{ unjudged: unjudgedOf(form, s), practised: bySample.get(s.id) ?? 0 },
  }));
}

/** A sample work for those who teach. */
export async function viewSample(db: Db, courseId: string, itemId: string, sampleId: string, now: number): Promise<PeerSample> {
  const [item, peer, sample] = [
    await getPlanItem(db, courseId, itemId, now),
    await findPeer(db, itemId),
    await getSample(db, itemId, sampleId),
  ];
  const form = (await findRubric(db, peer?.rubricId ?? null)) ?? { version: 0, criteria: [] };
  const from =
    sample.takenFrom === null
      ? null
      : await maybe<{ words: string }>(
          db,
          "select i.title || ', ' || c.code || ' ' || c.run as words from submission s join item i on i.id = s.item_id join course c on c.id = i.course_id where s.id = $1",
          [sample.takenFrom],
        );
  const { bySample } = await countPractice(db, itemId, [sampleId]);
  return {
    ...{ id: sample.id, itemTitle: item.title, title: sample.title, document: sample.document, form },
    origin: from === null ? 'written here' : `taken from “${from.words}”`,
    ...{ choices: sample.choices, given: sample.given, comments: sample.comments, words: sample.words },
    ...{ unjudged: unjudgedOf(form, sample), practised: bySample.get(sampleId) ?? 0, version: sample.version },
  };
}
