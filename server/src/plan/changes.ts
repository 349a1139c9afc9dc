import {
  checkDocument,
  emptyDocument,
  type AssignmentChange,
  type DocumentChange,
  type ItemChange,
  type NewItem,
  type PlanItem,
  type UnitChange,
  type Order,
  type RubricChange,
  type VariantsChange,
  type Whom,
} from '@rosemary/api';
import {
  dateFaults,
  decimalText,
  defaultDoneRule,
  filesIn,
  scoreTimingFault,
  type DocumentNode,
  type ItemKind,
  type ReviewTime,
} from '@rosemary/core';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { getTerm } from '../gradebook/facts.ts';
import { lateValues } from '../gradebook/policyRows.ts';
import { saveAudience, saveOpening } from '../release/changes.ts';
import { applyDates, hasDates, type DateChange } from '../release/whom.ts';
import { keepVersion } from './versions.ts';
import { findAssignment, findPage, findRubric, getPlanItem } from './queries.ts';

/** What can stand outside the units: something to read, and nothing that counts or is waited for. */
const STANDING_KINDS: readonly ItemKind[] = ['page', 'file', 'link'];

export async function addUnit(db: Db, courseId: string, title: string, isStanding = false): Promise<string> {
  if (
    isStanding &&
    (await maybe(db, 'select 1 as one from unit where course_id = $1 and is_standing and removed_at is null', [courseId])) !== null
  )
    throw new AppError('not-now', 'The course has its standing pages already. Add to them.');
  const row = await rows<{ id: string }>(
    db,
    'insert into unit (course_id, title, is_standing, position) select $1, $2, $3, coalesce(max(position), -1) + 1 from unit where course_id = $1 returning id',
    [courseId, title, isStanding],
  );
  return row[0]?.id ?? '';
}

function requireStanding(kinds: readonly ItemKind[]): void {
  if (kinds.some((kind) => !STANDING_KINDS.includes(kind)))
    throw invalid('unitId', 'Standing pages are pages, files and links. What is handed in, marked or discussed stands in a unit.');
}

const UNIT_COLUMNS = {
  title: 'title',
  announcedAt: 'announced_at',
  opensAt: 'opens_at',
  closesAt: 'closes_at',
  isStaffOnly: 'is_staff_only',
} as const;

/** Changes the fields named of a unit; dates that contradict one another are refused, another's change since is a conflict. */
export async function changeUnit(db: Db, courseId: string, unitId: string, change: UnitChange): Promise<void> {
  const current = await maybe<{ title: string; version: number; announced_at: Date | null; opens_at: Date | null; closes_at: Date | null }>(
    db,
    'select title, version, announced_at, opens_at, closes_at from unit where course_id = $1 and id = $2 and removed_at is null for update',
    [courseId, unitId],
  );
  if (current === null) throw notFound();
  if (current.version !== change.version) throw conflict(current);
  const at = (next: string | null | undefined, was: Date | null): number | null =>
    next === undefined ? (was?.getTime() ?? null) : next === null ? null : Date.parse(next);
  const faults = dateFaults({
    announced: at(change.announcedAt, current.announced_at),
    opens: at(change.opensAt, current.opens_at),
    due: null,
    closes: at(change.closesAt, current.closes_at),
  });
  if (faults.length > 0)
    throw new AppError(
      'invalid',
      faults.map((f) => f.text).join(' '),
      faults.map((f) => ({ field: `${f.field}At`, text: f.text })),
    );
  const fields = (Object.keys(UNIT_COLUMNS) as (keyof typeof UNIT_COLUMNS)[]).filter((field) => change[field] !== undefined);
  const sets = fields.map((field, n) => `${UNIT_COLUMNS[field]} = $${n + 2}`);
  await run(db, `update unit set ${[...sets, 'version = version + 1'].join(', ')} where id = $1`, [
    unitId,
    ...fields.map((f) => change[f]),
  ]);
  if (change.audience !== undefined) await saveAudience(db, courseId, 'unit', unitId, change.audience);
}

/** Hides or brings back a unit or an item; nothing that students did is touched. */
export async function setRemoved(db: Db, table: 'unit' | 'item', courseId: string, id: string, removedAt: number | null): Promise<void> {
  const sql =
    table === 'unit'
      ? 'update unit set removed_at = to_timestamp($3 / 1000.0), version = version + 1 where course_id = $1 and id = $2'
      : 'update item set removed_at = to_timestamp($3 / 1000.0), version = version + 1 where course_id = $1 and id = $2';
  if ((await run(db, sql, [courseId, id, removedAt])) === 0) throw notFound();
}

/** The order of units and of items in them, as it stands. */
export async function getOrder(db: Db, courseId: string): Promise<Order> {
  const units = await rows<{ id: string; itemIds: string[] }>(
    db,
    `select u.id, coalesce((select json_agg(ui.item_id order by ui.position) from unit_item ui join item i on i.id = ui.item_id and i.removed_at is null where ui.unit_id = u.id), '[]') as "itemIds"
     from unit u where u.course_id = $1 and u.removed_at is null order by u.position`,
    [courseId],
  );
  return { units };
}

/** Writes the order of units and of items in them. Every unit and item of the course must be named once, so that none is lost. */
export async function reorder(db: Db, courseId: string, order: Order): Promise<void> {
  const present = await rows<{ unit_id: string; is_standing: boolean; item_id: string | null; kind: ItemKind }>(
    db,
    `
    select u.id as unit_id, u.is_standing, i.id as item_id, i.kind from unit u left join unit_item ui on ui.unit_id = u.id left join item i on i.id = ui.item_id and i.removed_at is null
    where u.course_id = $1 and u.removed_at is null`,
    [courseId],
  );
  const named = order.units.flatMap((u) => u.itemIds);
  const units = new Set(present.map((p) => p.unit_id));
  const items = new Set(present.flatMap((p) => (p.item_id === null ? [] : [p.item_id])));
  const isWhole =
    order.units.length === units.size &&
    order.units.every((u) => units.has(u.id)) &&
    // One item may stand in several units, in each of them once.
    order.units.every((u) => new Set(u.itemIds).size === u.itemIds.length) &&
    new Set(named).size === items.size &&
    named.every((id) => items.has(id));
  if (!isWhole) throw new AppError('conflict', 'The Plan was changed by someone else meanwhile. It is shown afresh; move the item again.');
  const kindOf = new Map(present.map((p) => [p.item_id, p.kind]));
  const standing = present.find((p) => p.is_standing)?.unit_id;
  requireStanding(order.units.filter((u) => u.id === standing).flatMap((u) => u.itemIds.flatMap((id) => kindOf.get(id) ?? [])));
  const pairs = order.units.flatMap((u) => u.itemIds.map((itemId, position) => ({ unit: u.id, item: itemId, position })));
  await run(db, 'update unit u set position = t.n from unnest($1::uuid[]) with ordinality as t(id, n) where u.id = t.id', [
    order.units.map((u) => u.id),
  ]);
  await run(db, 'delete from unit_item ui using item i where i.id = ui.item_id and i.course_id = $1 and i.removed_at is null', [courseId]);
  await run(db, 'insert into unit_item (unit_id, item_id, position) select * from unnest($1::uuid[], $2::uuid[], $3::int[])', [
    pairs.map((p) => p.unit),
    pairs.map((p) => p.item),
    pairs.map((p) => p.position),
  ]);
}

export async function addItem(db: Db, courseId: string, item: NewItem): Promise<string> {
  const unit = await maybe<{ default_category_id: string | null; is_standing: boolean }>(
    db,
    'select default_category_id, is_standing from unit where id = $1 and course_id = $2 and removed_at is null',
    [item.unitId, courseId],
  );
  if (unit === null) throw notFound();
  if (unit.is_standing) requireStanding([item.kind]);
  const isWork = item.kind === 'assignment' || item.kind === 'quiz' || item.kind === 'activity';
  const row = await rows<{ id: string }>(
    db,
    `
    insert into item (course_id, kind, title, done_rule, category_id, possible, estimated_minutes, marking_minutes, release_mode, counts, is_required) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) returning id`,
    [
      courseId,
      item.kind,
      item.title,
      defaultDoneRule(item.kind),
      isWork ? unit.default_category_id : null,
      // A quiz has the points of its questions.
      isWork && item.kind !== 'quiz' ? '10' : '0',
      unit.is_standing ? 0 : item.kind === 'file' || item.kind === 'link' ? 15 : isWork ? 60 : 30,
      item.kind === 'assignment' ? 8 : 0,
      // Each mark goes out as it is finished, unless the teacher holds them for one day.
      item.kind === 'activity' || item.kind === 'assignment' || item.kind === 'quiz' ? 'finished' : 'hand',
      // A discussion is talk first; it counts once its teacher says so.
      item.kind !== 'discussion',
      !unit.is_standing,
    ],
  );
  const id = row[0]?.id ?? '';
  await run(db, 'update unit_item set position = position + 1 where unit_id = $1 and position >= $2', [item.unitId, item.position]);
  await run(db, 'insert into unit_item (unit_id, item_id, position) values ($1, $2, $3)', [item.unitId, id, item.position]);
  if (item.kind === 'page') await run(db, 'insert into page (item_id, document) values ($1, $2)', [id, emptyDocument]);
  if (item.kind === 'link') await run(db, 'insert into item_link (item_id) values ($1)', [id]);
  if (item.kind === 'file') await run(db, 'insert into item_shown_file (item_id) values ($1)', [id]);
  if (item.kind === 'discussion') await run(db, 'insert into discussion (item_id, document) values ($1, $2)', [id, emptyDocument]);
  if (item.kind === 'assignment') await run(db, 'insert into assignment (item_id, instructions) values ($1, $2)', [id, emptyDocument]);
  if (item.kind === 'quiz') {
    await run(db, 'insert into quiz (item_id, instructions) values ($1, $2)', [id, emptyDocument]);
    await run(db, 'insert into quiz_section (item_id, position) values ($1, 0)', [id]);
  }
  return id;
}

const COLUMNS: { readonly [field in Exclude<keyof ItemChange, 'version' | 'audience' | 'opening' | 'whom' | 'late'>]-?: string } = {
  title: 'title',
  isDraft: 'is_draft',
  categoryId: 'category_id',
  possible: 'possible',
  multiplier: 'multiplier',
  isExtraCredit: 'is_extra_credit',
  counts: 'counts',
  isRequired: 'is_required',
  announcedAt: 'announced_at',
  opensAt: 'opens_at',
  dueAt: 'due_at',
  closesAt: 'closes_at',
  estimatedMinutes: 'estimated_minutes',
  markingMinutes: 'marking_minutes',
  doneRule: 'done_rule',
  doneScore: 'done_score',
  releaseMode: 'release_mode',
  releaseAt: 'release_at',
  isStaffOnly: 'is_staff_only',
  nextNote: 'next_note',
  showsStatistics: 'shows_statistics',
  studentReads: 'student_reads',
  staffReads: 'staff_reads',
};
const THOUSANDTHS = new Set(['possible', 'multiplier', 'doneScore']);

async function applyDatesOf(
  db: Db,
  courseId: string,
  item: PlanItem,
  change: DateChange,
  whom: Whom,
): Promise<'item too' | 'not the item'> {
  const { zone } = await getTerm(db, courseId);
  const at = (text: string | null): number | null => (text === null ? null : Date.parse(text));
  const dated = {
    id: item.id,
    announcedAt: at(item.announcedAt),
    opensAt: at(item.opensAt),
    dueAt: at(item.dueAt),
    closesAt: at(item.closesAt),
  };
  return applyDates(db, courseId, zone, dated, change, whom);
}

/** Staff-only material can never be opened; what is open becomes a draft first, so that no student loses it unawares. */
export function checkStaffOnly(
  before: Pick<PlanItem, 'isDraft' | 'isStaffOnly' | 'title'>,
  change: Pick<ItemChange, 'isDraft' | 'isStaffOnly'>,
): void {
  const after = { ...before, ...change };
  if (!after.isStaffOnly || after.isDraft) return;
  if (before.isStaffOnly)
    throw invalid('isDraft', `“${before.title}” is for staff only and can never be opened. Take “staff only” away first.`);
  throw invalid('isStaffOnly', `“${before.title}” is open to students. Set it back to draft first, then make it staff-only.`);
}

/** A late policy of the item's own, or none: then its category's or the course's holds. */
async function saveLate(db: Db, itemId: string, late: PlanItem['late']): Promise<void> {
  await run(db, 'delete from item_late where item_id = $1', [itemId]);
  if (late === null) return;
  await run(
    db,
    'insert into item_late (item_id, rate_percent, step_minutes, base, cap_percent, floor_percent, grace_minutes) values ($1, $2, $3, $4, $5, $6, $7)',
    [itemId, ...lateValues(late)],
  );
}

/** The points of a quiz are those of its questions, and without a question it cannot be opened. */
export async function checkQuiz(db: Db, before: PlanItem, change: Pick<ItemChange, 'possible' | 'isDraft' | 'releaseMode'>): Promise<void> {
  if (before.kind !== 'quiz') return;
  if (change.possible !== undefined && change.possible !== before.possible)
    throw invalid('possible', `“${before.title}” has the points of its questions. Change them on its paper.`);
  if (change.releaseMode !== undefined && change.releaseMode !== before.releaseMode) {
    const quiz = await maybe<{ score: ReviewTime['kind']; retry_until: number | null }>(
      db,
      "select review -> 'score' ->> 'kind' as score, (retry_until * 1000)::int as retry_until from quiz where item_id = $1",
      [before.id],
    );
    const timing = quiz === null ? null : scoreTimingFault(change.releaseMode, quiz.score, quiz.retry_until);
    if (timing !== null) throw invalid('releaseMode', timing);
  }
  if (change.isDraft !== false || !before.isDraft) return;
  const part = await maybe(db, 'select 1 as one from quiz_part p join quiz_section s on s.id = p.section_id where s.item_id = $1 limit 1', [
    before.id,
  ]);
  if (part === null) throw invalid('isDraft', `“${before.title}” has no question yet, so it cannot be opened. Write one first.`);
}

/** Changes the fields named. Dates that contradict one another are refused by name; another's change since is a conflict. */
export async function changeItem(db: Db, courseId: string, itemId: string, change: ItemChange, now: number): Promise<void> {
  const before = await getPlanItem(db, courseId, itemId, now);
  if (before.version !== change.version) throw conflict(before);
  const at = (field: 'announcedAt' | 'opensAt' | 'dueAt' | 'closesAt'): number | null => {
    const value = change[field] === undefined ? before[field] : change[field];
    return value === null || value === undefined ? null : Date.parse(value);
  };
  const faults = dateFaults({ announced: at('announcedAt'), opens: at('opensAt'), due: at('dueAt'), closes: at('closesAt') });
  if (faults.length > 0)
    throw new AppError(
      'invalid',
      faults.map((f) => f.text).join(' '),
      faults.map((f) => ({ field: `${f.field === 'announced' ? 'announced' : f.field}At`, text: f.text })),
    );
  if (
    change.categoryId !== undefined &&
    change.categoryId !== null &&
    (await maybe(db, 'select 1 as one from category where id = $1 and course_id = $2', [change.categoryId, courseId])) === null
  ) {
    throw invalid('categoryId', 'This category is no longer in the course. Choose another.');
  }
  if (
    (change.releaseMode ?? before.releaseMode) === 'date' &&
    (change.releaseAt === undefined ? before.releaseAt : change.releaseAt) === null
  )
    throw invalid('releaseAt', 'Release at a date needs its date and time.');
  checkStaffOnly(before, change);
  await checkQuiz(db, before, change);
  const isForSome =
    change.whom !== undefined && hasDates(change) && (await applyDatesOf(db, courseId, before, change, change.whom)) === 'not the item';
  const fields = (Object.keys(COLUMNS) as (keyof typeof COLUMNS)[]).filter(
    (field) => change[field] !== undefined && !(isForSome && (field === 'opensAt' || field === 'dueAt' || field === 'closesAt')),
  );
  const values = fields.map((field) => {
    const value = change[field];
    return THOUSANDTHS.has(field) && typeof value === 'number' ? decimalText(value) : value;
  });
  const sets = fields.map((field, n) => `${COLUMNS[field]} = $${n + 4}`);
  const changed = await run(
    db,
    `update item set ${[...sets, 'version = version + 1'].join(', ')} where course_id = $1 and id = $2 and version = $3`,
    [courseId, itemId, change.version, ...values],
  );
  if (changed === 0) throw conflict(await getPlanItem(db, courseId, itemId, now));
  if (change.audience !== undefined) await saveAudience(db, courseId, 'item', itemId, change.audience);
  if (change.opening !== undefined) await saveOpening(db, courseId, itemId, change.opening);
  if (change.late !== undefined) await saveLate(db, itemId, change.late);
}

/** The sites whose pages may be shown inside ours. */
export async function listEmbedHosts(db: Db): Promise<readonly string[]> {
  return (await maybe<{ embed_hosts: string[] }>(db, 'select embed_hosts from school'))?.embed_hosts ?? [];
}

function checked(document: DocumentNode, field: string, embedHosts: readonly string[]): DocumentNode {
  const check = checkDocument(document, embedHosts);
  if (!check.ok) throw invalid(field, check.reason);
  return document;
}

/** Files named in a text are reachable through its item; those no longer named are not. */
export async function keepItemFiles(db: Db, courseId: string, itemId: string, document: DocumentNode): Promise<void> {
  const ids = filesIn(document);
  await run(db, 'delete from item_file where item_id = $1', [itemId]);
  const kept = await run(
    db,
    'insert into item_file (item_id, file_id) select distinct $1::uuid, f.id from file f where f.course_id = $2 and f.id::text = any($3)',
    [itemId, courseId, ids],
  );
  if (kept < new Set(ids).size)
    throw invalid('document', 'A picture, sound, video or file named here is not in this course. Insert it again.');
}

export async function savePage(
  db: Db,
  courseId: string,
  itemId: string,
  change: DocumentChange,
  personId: string,
  now: number,
): Promise<number> {
  await getPlanItem(db, courseId, itemId, now);
  const before = await findPage(db, itemId);
  const document = checked(change.document, 'document', await listEmbedHosts(db));
  const saved = await maybe<{ version: number }>(
    db,
    'update page set document = $2, version = version + 1 where item_id = $1 and version = $3 returning version',
    [itemId, document, change.version],
  );
  if (saved === null) {
    const current = await findPage(db, itemId);
    throw current === null ? notFound() : conflict(current);
  }
  await keepItemFiles(db, courseId, itemId, document);
  await keepVersion(db, itemId, before?.document ?? null, document, personId, now);
  return saved.version;
}

/** How work is judged is settled once the first of it is: a mark in points has no meaning in words. */
async function requireUnjudged(db: Db, itemId: string): Promise<void> {
  const given = await maybe<{ many: number }>(
    db,
    "select count(*)::int as many from grade where item_id = $1 and state in ('scored', 'judged')",
    [itemId],
  );
  if (given !== null && given.many > 0)
    throw invalid(
      'judged',
      `${given.many === 1 ? 'One mark is' : `${given.many} marks are`} given already, in the way it is judged now. Make a copy of the item to judge it in another.`,
    );
}

/** Whose work it is does not change under work that was handed in. */
async function requireSet(db: Db, courseId: string, itemId: string, setId: string | null): Promise<void> {
  const known =
    setId === null ||
    (await maybe(db, 'select 1 as one from group_set where id = $1 and course_id = $2 and removed_at is null', [setId, courseId])) !== null;
  if (!known) throw invalid('groupSetId', 'This set of groups is no longer in the course. Choose another.');
  const begun = await maybe(db, 'select 1 as one from attempt a join submission s on s.id = a.submission_id where s.item_id = $1 limit 1', [
    itemId,
  ]);
  if (begun !== null)
    throw new AppError(
      'not-now',
      'Work is handed in already, so whose work it is stays as it was. Make another assignment for the groups.',
      [{ field: 'groupSetId', text: 'Work is handed in already.' }],
    );
}

/** One or two markers: settled before anybody has begun to mark. */
async function requireUnmarked(db: Db, itemId: string): Promise<void> {
  const begun = await maybe(db, 'select 1 as one from mark m join submission s on s.id = m.submission_id where s.item_id = $1 limit 1', [
    itemId,
  ]);
  if (begun !== null)
    throw new AppError('not-now', 'Marking has begun, so how many mark each work stays as it was.', [
      { field: 'markers', text: 'Marking has begun.' },
    ]);
}

export async function saveAssignment(db: Db, courseId: string, itemId: string, change: AssignmentChange, now: number): Promise<number> {
  await getPlanItem(db, courseId, itemId, now);
  const current = await findAssignment(db, itemId);
  if (current === null) throw notFound();
  if (current.version !== change.version) throw conflict(current);
  const next = { ...current, ...change };
  if (next.judged !== current.judged) await requireUnjudged(db, itemId);
  if (next.groupSetId !== current.groupSetId) await requireSet(db, courseId, itemId, next.groupSetId);
  if (change.instructions !== undefined) {
    checked(change.instructions, 'instructions', await listEmbedHosts(db));
    await keepItemFiles(db, courseId, itemId, change.instructions);
  }
  if (next.anonymous === 'date' && next.anonymousUntil === null)
    throw invalid('anonymousUntil', 'Names are hidden until a date, and there is none. Give the date.');
  if (next.markers !== current.markers) await requireUnmarked(db, itemId);
  await run(
    db,
    `update assignment set instructions = $2, accepts_text = $3, accepts_files = $4, file_types = $5, most_files = $6, most_bytes = $7, attempts_allowed = $8,
      accepts_link = $9, accepts_recording = $10, on_paper = $11, judged = $12, counted = $13, group_set_id = $14, allows_withdrawal = $15, anonymous = $16, anonymous_until = $17, markers = $18, version = version + 1 where item_id = $1`,
    [
      ...[
        itemId,
        next.instructions,
        next.acceptsText,
        next.acceptsFiles,
        next.fileTypes,
        next.mostFiles,
        next.mostBytes,
        next.attemptsAllowed,
      ],
      ...[next.acceptsLink, next.acceptsRecording, next.onPaper, next.judged],
      ...[next.counted, next.groupSetId, next.allowsWithdrawal],
      ...[next.anonymous, next.anonymous === 'date' ? next.anonymousUntil : null, next.markers],
    ],
  );
  return current.version + 1;
}

/** Saves a rubric. Criteria and levels that were used keep their identity; those left out are hidden, so old marks stay readable. */
export async function saveRubric(db: Db, courseId: string, itemId: string, change: RubricChange, now: number): Promise<void> {
  await getPlanItem(db, courseId, itemId, now);
  const assignment = await findAssignment(db, itemId);
  if (assignment === null) throw notFound();
  const current = await findRubric(db, assignment.rubricId);
  if ((current?.version ?? 0) !== change.version) throw conflict(current);
  const isWorthless =
    change.criteria.some((c) => c.form !== 'comment') && change.criteria.every((c) => c.levels.every((l) => l.points === 0));
  if (isWorthless)
    throw invalid('criteria', 'Every level of this rubric has 0 points, so it could give none. Give levels points, or judge it in words.');
  let rubricId = assignment.rubricId;
  if (rubricId === null) {
    rubricId = (await rows<{ id: string }>(db, 'insert into rubric (course_id) values ($1) returning id', [courseId]))[0]?.id ?? '';
    await run(db, 'update assignment set rubric_id = $2 where item_id = $1', [itemId, rubricId]);
  } else await run(db, 'update rubric set version = version + 1 where id = $1', [rubricId]);
  await run(
    db,
    'update rubric_level set removed_at = to_timestamp($2 / 1000.0) where criterion_id in (select id from rubric_criterion where rubric_id = $1) and removed_at is null',
    [rubricId, now],
  );
  await run(db, 'update rubric_criterion set removed_at = to_timestamp($2 / 1000.0) where rubric_id = $1 and removed_at is null', [
    rubricId,
    now,
  ]);
  for (const [position, criterion] of change.criteria.entries()) {
    const row = await maybe<{ id: string }>(
      db,
      `
      insert into rubric_criterion (id, rubric_id, position, title, form) values (coalesce($1::uuid, gen_random_uuid()), $2, $3, $4, $5)
      on conflict (id) do update set position = excluded.position, title = excluded.title, form = excluded.form, removed_at = null where rubric_criterion.rubric_id = $2 returning id`,
      [criterion.id, rubricId, position, criterion.title, criterion.form ?? 'levels'],
    );
    if (row === null) throw invalid('criteria', `The criterion “${criterion.title}” belongs to another rubric.`);
    for (const [place, level] of criterion.levels.entries()) {
      const kept = await run(
        db,
        `
        insert into rubric_level (id, criterion_id, position, title, descriptor, points, least, up_to) values (coalesce($1::uuid, gen_random_uuid()), $2, $3, $4, $5, $6, $7, $8)
        on conflict (id) do update set position = excluded.position, title = excluded.title, descriptor = excluded.descriptor, points = excluded.points, least = excluded.least, up_to = excluded.up_to, removed_at = null where rubric_level.criterion_id = $2`,
        [
          ...[level.id, row.id, place, level.title, level.descriptor, decimalText(level.points)],
          ...[level.least === undefined || level.least === null ? null : decimalText(level.least), level.upTo ?? null],
        ],
      );
      if (kept === 0) throw invalid('criteria', `A level of “${criterion.title}” belongs to another criterion.`);
    }
  }
}

export async function saveVariants(db: Db, courseId: string, itemId: string, change: VariantsChange, now: number): Promise<void> {
  await getPlanItem(db, courseId, itemId, now);
  for (const v of change.variants) {
    const groupId = v.groupId ?? null;
    if ([v.sectionId, v.enrolmentId, groupId].filter((id) => id !== null).length !== 1)
      throw invalid('variants', 'Other dates are for one section, one group or one student.');
    const owner =
      groupId !== null
        ? await maybe(
            db,
            'select 1 as one from course_group g join group_set s on s.id = g.set_id where g.id = $1 and s.course_id = $2 and s.removed_at is null',
            [groupId, courseId],
          )
        : v.sectionId === null
          ? await maybe(db, "select 1 as one from enrolment where id = $1 and course_id = $2 and role = 'student'", [
              v.enrolmentId,
              courseId,
            ])
          : await maybe(db, 'select 1 as one from section where id = $1 and course_id = $2', [v.sectionId, courseId]);
    if (owner === null) throw notFound();
    const faults = dateFaults({
      announced: null,
      opens: v.opensAt === null ? null : Date.parse(v.opensAt),
      due: v.dueAt === null ? null : Date.parse(v.dueAt),
      closes: v.closesAt === null ? null : Date.parse(v.closesAt),
    });
    if (faults.length > 0)
      throw new AppError(
        'invalid',
        faults[0]?.text ?? '',
        faults.map((f) => ({ field: `variants.${f.field}At`, text: f.text })),
      );
  }
  await run(db, 'delete from date_variant where item_id = $1', [itemId]);
  for (const v of change.variants) {
    await run(
      db,
      'insert into date_variant (item_id, section_id, enrolment_id, opens_at, due_at, closes_at, group_id) values ($1, $2, $3, $4, $5, $6, $7)',
      [itemId, v.sectionId, v.enrolmentId, v.opensAt, v.dueAt, v.closesAt, v.groupId ?? null],
    );
  }
  await run(db, 'update item set version = version + 1 where id = $1', [itemId]);
}
