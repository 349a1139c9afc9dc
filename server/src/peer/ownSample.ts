import type { OwedLine, OwnSample, ReviewChange, ReviewSaved } from '@rosemary/api';
import { reviewDoor, type ReviewDoor, reviewState } from '@rosemary/core';
import { type Sample, wordsOfDocument } from '../peerSetting/index.ts';
import { type Db, run } from '../platform/database.ts';
import { AppError, conflict, notFound } from '../platform/errors.ts';
import { isoOf } from '../platform/instants.ts';
import { findRubric } from '../rubric/index.ts';
import type { Practice } from './practise.ts';
import type { Reviewing } from './reviewing.ts';
import { requireWhole, WHY } from './whole.ts';

/** A student held their assessment against the teacher’s. */
const isCompared = (practice: Practice | null): boolean => practice !== null && practice.handedInAt !== null;

const doorOf = ({ peer, dates, standing, now }: Reviewing, practice: Practice | null): ReviewDoor =>
  reviewDoor(peer, dates, standing, 'sample', isCompared(practice), now);

/** The sample works as a student’s list shows them. */
export const sampleLines = (reviewing: Reviewing): readonly OwedLine[] =>
  reviewing.samples.map((s) => {
    const practice = reviewing.practice.find((p) => p.sampleId === s.id) ?? null;
    const marks = { isGiven: isCompared(practice), isBegun: practice !== null, isSetAside: false };
    return { id: s.id, role: 'sample', title: s.title, state: reviewState(marks, null, reviewing.now), door: doorOf(reviewing, practice) };
  });

interface Practising {
  readonly sample: Sample;
  readonly practice: Practice | null;
  readonly door: ReviewDoor;
}

/** A sample work that a student may read now, or has compared already; any other is not found. */
function requireSample(reviewing: Reviewing, sampleId: string): Practising {
  const sample = reviewing.samples.find((s) => s.id === sampleId);
  const practice = reviewing.practice.find((p) => p.sampleId === sampleId) ?? null;
  const door = doorOf(reviewing, practice);
  if (sample === undefined || (!door.isOpen && practice === null)) throw notFound();
  return { sample, practice, door };
}

/** A sample work for the student who practises on it. The teacher’s assessment is seen only once their own is whole. */
export async function getOwnSample(db: Db, reviewing: Reviewing, sampleId: string): Promise<OwnSample> {
  const { sample, practice, door } = requireSample(reviewing, sampleId);
  const { peer, visible } = reviewing;
  const { choices, given, comments, words } = sample;
  return {
    ...{ id: sample.id, itemTitle: visible.item.title, title: sample.title, door, prompt: peer.prompt },
    form: practice?.form ?? (await findRubric(db, peer.rubricId)) ?? { version: 0, criteria: [] },
    ...{ document: sample.document, wordCount: wordsOfDocument(sample.document) },
    ...{ choices: practice?.choices ?? {}, given: practice?.given ?? {}, comments: practice?.comments ?? {}, words: practice?.words ?? '' },
    ...{ savedAt: isoOf(practice?.savedAt ?? null), handedInAt: isoOf(practice?.handedInAt ?? null), version: practice?.version ?? 0 },
    teacher: !isCompared(practice) ? null : { choices, given, comments, words },
  };
}

function requireOpen(door: ReviewDoor): void {
  if (door.isOpen) return;
  throw new AppError('not-now', door.why === 'past' ? 'It is compared with the teacher’s already, so it stays as it was.' : WHY[door.why]);
}

/** Keeps what a student wrote of a sample work so far. */
export async function saveOwnSample(
  db: Db,
  reviewing: Reviewing,
  sampleId: string,
  change: ReviewChange,
  now: number,
): Promise<ReviewSaved> {
  const { practice, door } = requireSample(reviewing, sampleId);
  requireOpen(door);
  const changed = await run(
    db,
    `insert into sample_review as r (sample_id, enrolment_id, choices, given, comments, words, saved_at) select $1, $2, $4, $5, $6, $7, to_timestamp($8 / 1000.0)
     where $3 = 0 or exists (select 1 from sample_review o where o.sample_id = $1 and o.enrolment_id = $2)
     on conflict (sample_id, enrolment_id) do update set choices = excluded.choices, given = excluded.given, comments = excluded.comments, words = excluded.words, saved_at = excluded.saved_at, version = r.version + 1
     where r.version = $3 and r.handed_in_at is null`,
    [
      ...[sampleId, reviewing.enrolmentId, change.version, JSON.stringify(change.choices), JSON.stringify(change.given)],
      ...[JSON.stringify(change.comments), change.words, now],
    ],
  );
  if (changed === 0) throw conflict({ ...practice });
  return { version: change.version + 1, savedAt: new Date(now).toISOString() };
}

/** Holds a student’s assessment, once it is whole, against the teacher’s. */
export async function compareOwnSample(db: Db, reviewing: Reviewing, sampleId: string, version: number, now: number): Promise<void> {
  const { practice, door } = requireSample(reviewing, sampleId);
  requireOpen(door);
  const form = (await findRubric(db, reviewing.peer.rubricId)) ?? { version: 0, criteria: [] };
  requireWhole(form.criteria, practice ?? { choices: {}, given: {}, comments: {}, words: '' }, 0);
  const changed = await run(
    db,
    'update sample_review set handed_in_at = to_timestamp($4 / 1000.0), form = $5, version = version + 1 where sample_id = $1 and enrolment_id = $2 and version = $3 and handed_in_at is null',
    [sampleId, reviewing.enrolmentId, version, now, JSON.stringify(form)],
  );
  if (changed === 0) throw conflict({ ...practice });
}
