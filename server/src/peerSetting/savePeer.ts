import type { ClosingWord, PeerChange, RubricChange } from '@rosemary/api';
import { PEER_FORM } from '@rosemary/core';
import { setReviewingColumn } from '../gradebook/index.ts';
import { checked, keepItemFiles } from '../items/index.ts';
import { putReviewDates } from '../opening/index.ts';
import { listEmbedHosts } from '../people/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { conflict, invalid, notFound } from '../platform/errors.ts';
import { findRubric, writeRubric } from '../rubric/index.ts';
import { CHOICE_COLUMNS, CHOICES, findPeer } from './findPeer.ts';

const plainForm = (): RubricChange['criteria'] =>
  PEER_FORM.criteria.map((c) => ({
    id: null,
    title: c.title,
    form: c.form ?? 'levels',
    levels: c.levels.map((l) => ({ id: null, ...l })),
  }));

/** Whom other dates are for: sections, groups and students of this course. */
async function requireOwners(db: Db, courseId: string, change: PeerChange): Promise<void> {
  const ids = change.otherDates.map((d) => {
    const named = [d.sectionId, d.enrolmentId, d.groupId].filter((id) => id !== null);
    if (named.length !== 1) throw invalid('otherDates', 'Other dates are for one section, one group or one student.');
    return named[0] ?? '';
  });
  const found = await rows<{ id: string }>(
    db,
    `select id from section where course_id = $1 and id = any($2)
     union all select id from enrolment where course_id = $1 and role = 'student' and id = any($2)
     union all select g.id from course_group g join group_set s on s.id = g.set_id where s.course_id = $1 and s.removed_at is null and g.id = any($2)`,
    [courseId, ids],
  );
  if (new Set(found.map((row) => row.id)).size !== new Set(ids).size) throw notFound();
}

async function requireKnown(db: Db, courseId: string, change: PeerChange): Promise<void> {
  const asks = (id: string | null, sql: string): Promise<unknown> | true => id === null || maybe(db, sql, [id, courseId]);
  if ((await asks(change.groupSetId, 'select 1 as one from group_set where id = $1 and course_id = $2 and removed_at is null')) === null)
    throw invalid('groupSetId', 'This set of groups is no longer in the course. Choose another.');
}

/** Saves what is set; the first time, with the form a peer review begins with. Gives the version that is then held. */
export async function savePeer(db: Db, courseId: string, itemId: string, change: PeerChange, now: number): Promise<void> {
  const current = await findPeer(db, itemId, true);
  if ((current?.version ?? 0) !== change.version) throw conflict({ version: current?.version ?? 0 });
  await requireKnown(db, courseId, change);
  await requireOwners(db, courseId, change);
  checked(change.prompt, 'prompt', await listEmbedHosts(db));
  await keepItemFiles(
    db,
    courseId,
    itemId,
    [change.prompt, current?.closing ?? null].filter((text) => text !== null),
    'prompt',
  );
  const rubricId = current?.rubricId ?? (await writeRubric(db, courseId, null, plainForm(), now));
  const names = CHOICES.map((choice) => CHOICE_COLUMNS[choice]);
  const fixed = [
    'is_on',
    'prompt',
    'rubric_id',
    'group_set_id',
    'reviews_open_at',
    'reviews_due_at',
    'draw_at',
    'results_at',
    'revision_due_at',
  ];
  const all = [...fixed, ...names];
  await run(
    db,
    `insert into peer_setting (item_id, ${all.join(', ')}) values ($1, ${all.map((_, n) => `$${n + 2}`).join(', ')})
     on conflict (item_id) do update set ${all.map((name) => `${name} = excluded.${name}`).join(', ')}, version = peer_setting.version + 1`,
    [
      ...[itemId, change.isOn, JSON.stringify(change.prompt), rubricId, change.groupSetId],
      ...[change.reviewsOpenAt, change.reviewsDueAt, change.drawAt, change.resultsAt, change.revisionDueAt],
      ...CHOICES.map((choice) => change[choice]),
    ],
  );
  await putReviewDates(db, itemId, change.otherDates);
  const counts = change.isOn && change.reviewingFrom !== 'nothing';
  await setReviewingColumn(db, courseId, itemId, counts ? change.reviewing : null, now);
}

/** Saves the form. Reviews that were given keep theirs. */
export async function savePeerForm(db: Db, courseId: string, itemId: string, change: RubricChange, now: number): Promise<void> {
  const peer = await findPeer(db, itemId, true);
  if (peer === null)
    throw invalid('criteria', 'The form belongs to a peer review, and none is set here. Say first who else reads the works.');
  const current = await findRubric(db, peer.rubricId);
  if ((current?.version ?? 0) !== change.version) throw conflict(current);
  const rubricId = await writeRubric(db, courseId, peer.rubricId, change.criteria, now);
  if (peer.rubricId === null) await run(db, 'update peer_setting set rubric_id = $2 where item_id = $1', [itemId, rubricId]);
}

/** Notes that works were given out, and until when it was looked for what came late. */
export async function noteDrawn(db: Db, itemId: string, now: number): Promise<void> {
  await run(
    db,
    'update peer_setting set drawn_at = coalesce(drawn_at, to_timestamp($2 / 1000.0)), fitted_at = to_timestamp($2 / 1000.0) where item_id = $1',
    [itemId, now],
  );
}

/** Nothing is given out any more: the drawing was taken back whole. */
export async function noteNothingDrawn(db: Db, itemId: string): Promise<void> {
  await run(db, 'update peer_setting set drawn_at = null, fitted_at = null where item_id = $1', [itemId]);
}

/** Notes that students were given the results. */
export async function noteResultsOut(db: Db, itemId: string, now: number): Promise<void> {
  await run(db, 'update peer_setting set results_out_at = to_timestamp($2 / 1000.0) where item_id = $1', [itemId, now]);
}

/** Saves what the teacher says to everybody at the end; an empty word is none. Its files stand with those of the prompt. */
export async function saveClosing(db: Db, courseId: string, itemId: string, { version, document }: ClosingWord): Promise<ClosingWord> {
  const peer = await findPeer(db, itemId, true);
  if (peer === null) throw notFound();
  if (peer.closingVersion !== version) throw conflict({ version: peer.closingVersion, document: peer.closing });
  if (document !== null) checked(document, 'document', await listEmbedHosts(db));
  await keepItemFiles(db, courseId, itemId, [peer.prompt, ...(document === null ? [] : [document])], 'prompt');
  await run(db, 'update peer_setting set closing = $2, closing_version = closing_version + 1 where item_id = $1', [
    itemId,
    document === null ? null : JSON.stringify(document),
  ]);
  return { version: version + 1, document };
}
