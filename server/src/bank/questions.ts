import { checkDocument, type BankFolder, type NewQuestion, type QuestionChange, type QuestionView, type QuestionWish } from '@rosemary/api';
import {
  filesIn,
  KEY_RULES,
  plainText,
  type Actor,
  type Choice,
  type DocumentNode,
  type QuestionContent,
  type QuestionKey,
  type QuestionLevel,
} from '@rosemary/core';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { listFolders, requireFolder, taughtBy } from './folders.ts';
import { faultsOf, keptFaults } from './keyVerdict.ts';
import { titleOf } from './titleOf.ts';
import { keepStimulusFiles, reachesStimulus } from './stimuli.ts';

interface QuestionRow {
  id: string;
  folder_id: string;
  title: string;
  level: QuestionLevel | null;
  author: string;
  retired_at: Date | null;
  newest: number;
  version: number;
  number: number;
  fixed_at: Date | null;
  words: DocumentNode;
  key: QuestionKey;
  feedback: QuestionContent['feedback'];
  picture: QuestionContent['picture'];
  faults: string[] | null;
  faults_by: number | null;
  plain: string;
  tags: string[];
  objectives: string[];
  stimulus: QuestionView['stimulus'];
}

const USUAL = { right: null, wrong: null, general: null } as const;

const COLUMNS = `q.id, q.folder_id, q.title, q.level, p.given_name || ' ' || p.family_name as author, q.retired_at, q.newest, q.version,
    v.number, v.fixed_at, v.words, v.key, v.feedback, v.picture, v.faults, v.faults_by, v.plain,
    coalesce((select array_agg(t.tag order by t.tag) from question_tag t where t.question_id = q.id), '{}') as tags,
    coalesce((select array_agg(o.code order by o.code) from question_objective o where o.question_id = q.id), '{}') as objectives,
    (select json_build_object('id', s.id, 'title', s.title, 'document', s.document, 'version', s.version) from stimulus s where s.id = q.stimulus_id) as stimulus`;

interface UseRow {
  question_id: string;
  quizzes: number;
  attempts: number;
  share_right: number | null;
  item_rest: number | null;
}
/** How questions were used and how students did, over all quizzes. Figures for looking at; marks come from the exact shares. */
async function readUse(db: Db, ids: readonly string[]): Promise<ReadonlyMap<string, QuestionView['use']>> {
  const found = await rows<UseRow>(
    db,
    `
    with scored as (
      select s.question_id, split_part(s.share, '/', 1)::float8 / split_part(s.share, '/', 2)::float8 as share, s.points::float8 as points, a.score::float8 as total
      from quiz_score s join quiz_attempt a on a.id = s.attempt_id where s.question_id = any($1) and a.state = 'handed in' and a.score is not null and s.share is not null)
    select w.id as question_id, (select count(distinct z.item_id)::int from quiz_part t join quiz_section z on z.id = t.section_id where t.question_id = w.id) as quizzes,
           count(s.share)::int as attempts, avg(s.share) as share_right, corr(s.share * s.points, s.total - s.share * s.points) as item_rest
    from unnest($1::uuid[]) as w(id) left join scored s on s.question_id = w.id group by w.id`,
    [ids],
  );
  return new Map(
    found.map((u) => [u.question_id, { quizzes: u.quizzes, attempts: u.attempts, shareRight: u.share_right, itemRest: u.item_rest }]),
  );
}

const NO_USE = { quizzes: 0, attempts: 0, shareRight: null, itemRest: null } as const;

function toView(row: QuestionRow, faults: readonly string[], canEdit: boolean, use: QuestionView['use']): QuestionView {
  const content = { words: row.words, key: row.key, feedback: row.feedback, picture: row.picture };
  return {
    ...content,
    id: row.id,
    folderId: row.folder_id,
    title: titleOf(row.title, row.plain),
    ownTitle: row.title,
    level: row.level,
    tags: row.tags,
    objectives: row.objectives,
    author: row.author,
    isRetired: row.retired_at !== null,
    stimulus: row.stimulus,
    number: row.number,
    newest: row.newest,
    version: row.version,
    isFixed: row.fixed_at !== null,
    canEdit,
    faults,
    use,
  };
}

/** Which of these questions stand in a quiz that a colleague shares with somebody, to read or, asked so, to edit. */
async function inSharedQuizzes(db: Db, actor: Actor, ids: readonly string[], toEdit: boolean): Promise<ReadonlySet<string>> {
  const found = await rows<{ id: string }>(
    db,
    `select distinct q.id from quiz_share s join item i on i.id = s.item_id and i.removed_at is null
       join quiz_section z on z.item_id = s.item_id join quiz_part t on t.section_id = z.id
       join question q on q.id = t.question_id or (not $3 and q.folder_id::text = t.draw ->> 'folderId')
     where s.person_id = $1 and q.id = any($2) and (s.can_edit or not $3)`,
    [actor.personId, ids, toEdit],
  );
  return new Set(found.map((row) => row.id));
}

/** Questions in the versions named, whoever keeps them: what a quiz holds is seen by those who teach it. */
export async function listVersions(
  db: Db,
  actor: Actor,
  wanted: readonly { readonly id: string; readonly number: number }[],
  /** The folders they reach, where they are known already. */
  known: readonly BankFolder[] | null = null,
): Promise<ReadonlyMap<string, QuestionView>> {
  if (wanted.length === 0) return new Map();
  const found = await rows<QuestionRow>(
    db,
    `select ${COLUMNS} from unnest($1::uuid[], $2::int[]) as w(id, number) join question q on q.id = w.id
       join question_version v on v.question_id = q.id and v.number = w.number join person p on p.id = q.author_id`,
    [wanted.map((w) => w.id), wanted.map((w) => w.number)],
  );
  const editable = new Set((known ?? (await listFolders(db, actor, false))).filter((f) => f.canEdit).map((f) => f.id));
  const ids = found.map((row) => row.id);
  const shared = await inSharedQuizzes(db, actor, ids, true);
  const use = await readUse(db, ids);
  const faults = await keptFaults(found);
  return new Map(
    found.map((row, n) => [
      row.id,
      toView(row, faults[n] ?? [], editable.has(row.folder_id) || shared.has(row.id), use.get(row.id) ?? NO_USE),
    ]),
  );
}

export interface BankFilter {
  readonly folderIds: readonly string[];
  readonly text: string;
  readonly tags: readonly string[];
  readonly levels: readonly string[];
  readonly objectives: readonly string[];
  readonly kinds: readonly string[];
  readonly withRetired: boolean;
  /** These as well, whatever folder they are in. */
  readonly questionIds: readonly string[];
}
const WHERE = `(q.folder_id = any($1) or q.id = any($8)) and (q.retired_at is null or $7)
    and not exists (select 1 from unnest($2::text[]) w where not (
      v.plain ilike '%' || w || '%' or q.title ilike '%' || w || '%'
      or exists (select 1 from question_tag t where t.question_id = q.id and t.tag ilike '%' || w || '%')
      or coalesce(v.key ->> 'pairs', '') ilike '%' || w || '%' or coalesce(v.key ->> 'order', '') ilike '%' || w || '%'
      or exists (select 1 from jsonb_path_query(jsonb_build_array(v.key, v.feedback), 'strict $.**.text') said where said #>> '{}' ilike '%' || w || '%')))
    and ($3::text[] = '{}' or exists (select 1 from question_tag t where t.question_id = q.id and lower(t.tag) = any($3)))
    and ($4::text[] = '{}' or q.level = any($4))
    and ($5::text[] = '{}' or exists (select 1 from question_objective o where o.question_id = q.id and lower(o.code) = any($5)))
    and ($6::text[] = '{}' or v.kind = any($6))`;
const FROM = 'question q join question_version v on v.question_id = q.id and v.number = q.newest';
const lower = (words: readonly string[]): string[] => words.map((w) => w.toLowerCase());
/** All of the words are wanted, wherever each stands: in the question, its answers, its feedback, its title or a tag. */
const wordsOf = (text: string): string[] =>
  text
    .trim()
    .split(/\s+/)
    .filter((word) => word !== '')
    .slice(0, 12)
    .map((word) => word.replace(/[\\%_]/g, '\\$&'));
const filterValues = (f: BankFilter): unknown[] => [
  f.folderIds,
  wordsOf(f.text),
  lower(f.tags),
  f.levels,
  lower(f.objectives),
  f.kinds,
  f.withRetired,
  f.questionIds,
];

/** The questions a filter finds, oldest first, at most `most` from `from` on, and how many there are. */
export async function listQuestions(
  db: Db,
  actor: Actor,
  filter: BankFilter,
  most: number,
  from = 0,
): Promise<{ questions: QuestionView[]; total: number }> {
  const found = await rows<QuestionRow>(
    db,
    `select ${COLUMNS} from ${FROM} join person p on p.id = q.author_id where ${WHERE} order by q.created_at, v.plain, q.id limit $9 offset $10`,
    [...filterValues(filter), most, from],
  );
  const total = await maybe<{ many: number }>(db, `select count(*)::int as many from ${FROM} where ${WHERE}`, filterValues(filter));
  const editable = new Set((await listFolders(db, actor, false)).filter((f) => f.canEdit).map((f) => f.id));
  const ids = found.map((row) => row.id);
  const shared = await inSharedQuizzes(db, actor, ids, true);
  const use = await readUse(db, ids);
  const faults = await keptFaults(found);
  const questions = found.map((row, n) =>
    toView(row, faults[n] ?? [], editable.has(row.folder_id) || shared.has(row.id), use.get(row.id) ?? NO_USE),
  );
  return { questions, total: total?.many ?? 0 };
}

/** The questions a draw takes from, with the version that is newest now. */
export async function listPool(db: Db, filter: BankFilter): Promise<{ id: string; number: number }[]> {
  return rows(db, `select q.id, q.newest as number from ${FROM} where ${WHERE} order by q.created_at, q.id`, filterValues(filter));
}

/** Said of a question that is brought where one with the same words stands already: it comes in beside it. */
export const SAME_WORDS = 'A question with the same words is in this folder already; this one stands beside it.';
/** The words of every question in a folder that is not retired, as they are compared. */
export async function listWords(db: Db, folderId: string): Promise<ReadonlySet<string>> {
  const found = await rows<{ plain: string }>(
    db,
    `select v.plain from ${FROM} where q.folder_id = $1 and q.retired_at is null and v.plain <> ''`,
    [folderId],
  );
  return new Set(found.map((row) => row.plain));
}

/** A folder with all that stands below it. */
export async function listBelow(db: Db, folderId: string): Promise<string[]> {
  const found = await rows<{ id: string }>(
    db,
    'with recursive down as (select id from bank_folder where id = $1 union select f.id from bank_folder f join down on f.parent_id = down.id where f.removed_at is null) select id from down',
    [folderId],
  );
  return found.map((row) => row.id);
}

export async function listTags(db: Db, folderIds: readonly string[]): Promise<string[]> {
  const found = await rows<{ tag: string }>(
    db,
    'select distinct t.tag from question_tag t join question q on q.id = t.question_id where q.folder_id = any($1) order by t.tag limit 400',
    [folderIds],
  );
  return found.map((row) => row.tag);
}

/** Every text of a question, checked by the one schema; a part that is wrong is named. */
function checkTexts(content: QuestionContent): void {
  const choices: readonly Choice[] = 'choices' in content.key ? content.key.choices : [];
  const texts: readonly (readonly [string, DocumentNode | null])[] = [
    ['words', content.words],
    ...choices.flatMap((c): [string, DocumentNode | null][] => [
      ['key', c.words],
      ['key', c.feedback],
    ]),
    ['feedback', content.feedback.right],
    ['feedback', content.feedback.wrong],
    ['feedback', content.feedback.general],
  ];
  for (const [field, text] of texts) {
    const check = text === null ? null : checkDocument(text, [], true);
    if (check !== null && !check.ok) throw invalid(field, check.reason);
  }
}

/** Files named in a question are reached through it: those of a course its author teaches, those it had before, and those of the one it is a copy of. */
async function keepFiles(db: Db, actor: Actor, questionId: string, content: QuestionContent, copyOf: string | null): Promise<void> {
  const choices: readonly Choice[] = 'choices' in content.key ? content.key.choices : [];
  const ids = [
    content.words,
    ...choices.flatMap((c) => [c.words, c.feedback]),
    content.feedback.right,
    content.feedback.wrong,
    content.feedback.general,
  ].flatMap((text) => filesIn(text));
  if (content.picture !== null) ids.push(content.picture.fileId);
  await run(
    db,
    `insert into question_file (question_id, file_id) select $1, f.id from file f where f.id::text = any($2)
       and (f.course_id = any($3) or exists (select 1 from question_file o where o.file_id = f.id and o.question_id = $4)) on conflict do nothing`,
    [questionId, ids, taughtBy(actor), copyOf],
  );
  const kept = await rows<{ file_id: string }>(db, 'select file_id from question_file where question_id = $1', [questionId]);
  if (ids.some((id) => !kept.some((k) => k.file_id === id)))
    throw invalid('words', 'A picture, sound, video or file named here is not in a course you teach. Insert it again.');
}

async function setWords(db: Db, questionId: string, table: 'question_tag' | 'question_objective', words: readonly string[]): Promise<void> {
  await run(db, `delete from ${table} where question_id = $1`, [questionId]);
  await run(
    db,
    table === 'question_tag'
      ? 'insert into question_tag (question_id, tag) select $1, unnest($2::text[]) on conflict do nothing'
      : 'insert into question_objective (question_id, code) select $1, unnest($2::text[]) on conflict do nothing',
    [questionId, [...new Set(words)]],
  );
}

async function addVersion(
  db: Db,
  actor: Actor,
  questionId: string,
  number: number,
  content: QuestionContent,
  now: number,
  copyOf: string | null = null,
): Promise<void> {
  checkTexts(content);
  const [faults] = await faultsOf([content]);
  await run(
    db,
    `insert into question_version (question_id, number, kind, words, plain, key, feedback, picture, faults, faults_by, made_by, made_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, to_timestamp($12 / 1000.0))
     on conflict (question_id, number) do update set kind = excluded.kind, words = excluded.words, plain = excluded.plain, key = excluded.key, feedback = excluded.feedback,
       picture = excluded.picture, faults = excluded.faults, faults_by = excluded.faults_by, made_by = excluded.made_by, made_at = excluded.made_at where question_version.fixed_at is null`,
    [
      ...[questionId, number, content.key.kind, content.words, plainText(content.words), content.key, content.feedback],
      ...[content.picture, JSON.stringify(faults ?? []), KEY_RULES, actor.personId, now],
    ],
  );
  await keepFiles(db, actor, questionId, content, copyOf);
}

/** A shared text that somebody does not reach is not there for them. */
async function requireStimulus(db: Db, actor: Actor, stimulusId: string | null | undefined): Promise<void> {
  if (stimulusId !== undefined && stimulusId !== null && !(await reachesStimulus(db, actor, stimulusId))) throw notFound();
}

/** Makes a question in a folder somebody may write in; the pictures of one it is a copy of come along. */
export async function addQuestion(
  db: Db,
  actor: Actor,
  folderId: string,
  wish: NewQuestion,
  now: number,
  copyOf: string | null = null,
): Promise<string> {
  const folder = await requireFolder(db, actor, wish.folderId ?? folderId);
  await requireStimulus(db, actor, wish.stimulusId);
  const row = await maybe<{ id: string }>(
    db,
    'insert into question (folder_id, stimulus_id, title, level, author_id, created_at) values ($1, $2, $3, $4, $5, to_timestamp($6 / 1000.0)) returning id',
    [folder.id, wish.stimulusId ?? null, wish.title ?? '', wish.level ?? null, actor.personId, now],
  );
  const id = row?.id ?? '';
  const content = { words: wish.words, key: wish.key, feedback: wish.feedback ?? USUAL, picture: wish.picture ?? null };
  await addVersion(db, actor, id, 1, content, now, copyOf);
  if (wish.stimulusId !== undefined && wish.stimulusId !== null) await keepStimulusFiles(db, wish.stimulusId);
  await setWords(db, id, 'question_tag', wish.tags ?? []);
  await setWords(db, id, 'question_objective', wish.objectives ?? []);
  return id;
}

const isContent = (wish: QuestionWish): boolean =>
  wish.words !== undefined || wish.key !== undefined || wish.feedback !== undefined || wish.picture !== undefined;

/**
 * Changes a question. Its content is written over as long as nobody has taken it; after that a new version is made, and quizzes keep theirs
 * until somebody takes the newer one over. Gives the number of the version that now holds.
 */
export async function changeQuestion(
  db: Db,
  actor: Actor,
  id: string,
  change: QuestionChange,
  now: number,
): Promise<{ version: number; number: number; isNew: boolean }> {
  const row = await maybe<{ folder_id: string; version: number; newest: number; fixed_at: Date | null } & QuestionContent>(
    db,
    'select q.folder_id, q.version, q.newest, v.fixed_at, v.words, v.key, v.feedback, v.picture from question q join question_version v on v.question_id = q.id and v.number = q.newest where q.id = $1 for update of q',
    [id],
  );
  if (row === null) throw notFound();
  if (!(await inSharedQuizzes(db, actor, [id], true)).has(id)) await requireFolder(db, actor, row.folder_id);
  if (row.version !== change.version) throw conflict((await listVersions(db, actor, [{ id, number: row.newest }])).get(id));
  if (change.folderId !== undefined) await requireFolder(db, actor, change.folderId);
  await requireStimulus(db, actor, change.stimulusId);
  const isNew = isContent(change) && row.fixed_at !== null;
  const number = isNew ? row.newest + 1 : row.newest;
  if (isContent(change)) {
    const content = {
      words: change.words ?? row.words,
      key: change.key ?? row.key,
      feedback: change.feedback ?? row.feedback,
      picture: change.picture === undefined ? row.picture : change.picture,
    };
    await addVersion(db, actor, id, number, content, now);
  }
  await run(
    db,
    `update question set title = coalesce($2, title), level = case when $3 then $4 else level end, folder_id = coalesce($5, folder_id),
       stimulus_id = case when $6 then $7::uuid else stimulus_id end, newest = $8, version = version + 1 where id = $1`,
    [
      ...[id, change.title ?? null, change.level !== undefined, change.level ?? null, change.folderId ?? null],
      ...[change.stimulusId !== undefined, change.stimulusId ?? null, number],
    ],
  );
  if (change.stimulusId !== undefined && change.stimulusId !== null) await keepStimulusFiles(db, change.stimulusId);
  if (change.tags !== undefined) await setWords(db, id, 'question_tag', change.tags);
  if (change.objectives !== undefined) await setWords(db, id, 'question_objective', change.objectives);
  return { version: row.version + 1, number, isNew };
}

/** Moves questions to another folder, or retires them: they stay where they are used and are offered no more. */
export async function moveQuestions(
  db: Db,
  actor: Actor,
  ids: readonly string[],
  to: { readonly folderId?: string | undefined; readonly isRetired?: boolean | undefined },
  now: number,
): Promise<void> {
  const found = await rows<{ folder_id: string }>(db, 'select distinct folder_id from question where id = any($1)', [ids]);
  for (const { folder_id: folderId } of found) await requireFolder(db, actor, folderId);
  if (to.folderId !== undefined) {
    await requireFolder(db, actor, to.folderId);
    await run(db, 'update question set folder_id = $2, version = version + 1 where id = any($1)', [ids, to.folderId]);
  }
  if (to.isRetired !== undefined)
    await run(
      db,
      'update question set retired_at = case when $2 then to_timestamp($3 / 1000.0) end, version = version + 1 where id = any($1)',
      [ids, to.isRetired, now],
    );
}

/** Where a question is used. */
export async function listUses(db: Db, questionId: string): Promise<{ courseId: string; itemId: string; title: string; course: string }[]> {
  return rows(
    db,
    `select distinct i.course_id as "courseId", i.id as "itemId", i.title, c.code || ' ' || c.run as course from quiz_part t join quiz_section z on z.id = t.section_id
       join item i on i.id = z.item_id and i.removed_at is null join course c on c.id = i.course_id where t.question_id = $1 order by course, i.title limit 60`,
    [questionId],
  );
}

/** A question somebody reaches, by its folder or by a quiz of a course they teach. */
export async function getQuestion(db: Db, actor: Actor, id: string): Promise<QuestionView> {
  const row = await maybe<{ folder_id: string; newest: number; in_course: boolean }>(
    db,
    `select q.folder_id, q.newest, exists (select 1 from quiz_part t join quiz_section z on z.id = t.section_id join item i on i.id = z.item_id where t.question_id = q.id and i.course_id = any($2)) as in_course
     from question q where q.id = $1`,
    [id, taughtBy(actor)],
  );
  if (row === null) throw notFound();
  const isReached =
    row.in_course ||
    (await inSharedQuizzes(db, actor, [id], false)).has(id) ||
    (await listFolders(db, actor, false)).some((f) => f.id === row.folder_id);
  const view = isReached ? (await listVersions(db, actor, [{ id, number: row.newest }])).get(id) : undefined;
  if (view === undefined) throw notFound();
  return view;
}

/** For whoever may not change a question: one of their own that says the same. */
export async function copyQuestion(db: Db, actor: Actor, id: string, folderId: string, now: number): Promise<string> {
  const from = await getQuestion(db, actor, id);
  if (from.stimulus !== null && !(await reachesStimulus(db, actor, from.stimulus.id)))
    throw new AppError('not-now', 'This question shares a text with others. Copy the whole quiz, or make the question anew.');
  return addQuestion(
    db,
    actor,
    folderId,
    {
      title: from.ownTitle,
      level: from.level,
      tags: from.tags,
      objectives: from.objectives,
      words: from.words,
      key: from.key,
      feedback: from.feedback,
      picture: from.picture,
      stimulusId: from.stimulus?.id ?? null,
    },
    now,
    id,
  );
}
