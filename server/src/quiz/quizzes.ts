import {
  checkDocument,
  type DrawWish,
  type PaperChange,
  type PlanItem,
  type QuizChange,
  type QuizDetail,
  type QuizQuestions,
  type QuizSection,
  type RunningAttempt,
  type QuizSetting,
} from '@rosemary/api';
import {
  assemblePaper,
  decimalText,
  drawFaults,
  drawInWords,
  expectedOf,
  formatPoints,
  pointsInWords,
  scoreTimingFault,
  type Actor,
  type DocumentNode,
  type PaperSection,
  type PlannedQuestion,
} from '@rosemary/core';
import ipaddr from 'ipaddr.js';
import { listFolders, rootOfSubject } from '../bank/folders.ts';
import { addQuestion, listBelow, listPool, listVersions, type BankFilter } from '../bank/questions.ts';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { getPlanItem } from '../plan/queries.ts';
import type { StoredPaper } from './content.ts';
import { listQuizShares } from './quizShares.ts';

interface SettingRow {
  taken: QuizSetting['taken'];
  instructions: DocumentNode;
  layout: QuizSetting['layout'];
  may_go_back: boolean;
  shuffles_sections: boolean;
  shuffles_answers: boolean;
  limit_minutes: number | null;
  at_end: QuizSetting['atEnd'];
  attempts_allowed: number | null;
  counted: QuizSetting['counted'];
  retry_until: number | null;
  review: QuizSetting['review'];
  allows_calculator: boolean;
  access_code: string;
  allowed_addresses: string[];
  records_leaving: boolean;
  discourages_copying: boolean;
  pass_points: number | null;
  merit_points: number | null;
  version: number;
}

export async function findQuiz(db: Db, itemId: string): Promise<QuizSetting | null> {
  const row = await maybe<SettingRow>(
    db,
    `select taken, instructions, layout, may_go_back, shuffles_sections, shuffles_answers, limit_minutes, at_end, attempts_allowed, counted, (retry_until * 1000)::int as retry_until, review,
       allows_calculator, access_code, allowed_addresses, records_leaving, discourages_copying, (pass_points * 1000)::int as pass_points, (merit_points * 1000)::int as merit_points, version
     from quiz where item_id = $1`,
    [itemId],
  );
  return row === null
    ? null
    : {
        version: row.version,
        taken: row.taken,
        instructions: row.instructions,
        layout: row.layout,
        mayGoBack: row.may_go_back,
        shufflesSections: row.shuffles_sections,
        shufflesAnswers: row.shuffles_answers,
        limitMinutes: row.limit_minutes,
        atEnd: row.at_end,
        attemptsAllowed: row.attempts_allowed,
        counted: row.counted,
        retryUntil: row.retry_until,
        review: row.review,
        allowsCalculator: row.allows_calculator,
        accessCode: row.access_code,
        allowedAddresses: row.allowed_addresses,
        recordsLeaving: row.records_leaving,
        discouragesCopying: row.discourages_copying,
        passPoints: row.pass_points,
        meritPoints: row.merit_points,
      };
}

export async function getQuiz(db: Db, itemId: string): Promise<QuizSetting> {
  const found = await findQuiz(db, itemId);
  if (found === null) throw notFound();
  return found;
}

interface PartRow {
  id: string;
  section_id: string;
  question_id: string | null;
  question_version: number | null;
  points: number;
  floor: number | null;
  draw: DrawWish | null;
}
export interface SectionRow {
  readonly id: string;
  readonly title: string;
  readonly instructions: string;
  readonly is_shuffled: boolean;
  readonly parts: readonly PartRow[];
}

export async function listSections(db: Db, itemId: string): Promise<SectionRow[]> {
  const sections = await rows<Omit<SectionRow, 'parts'>>(
    db,
    'select id, title, instructions, is_shuffled from quiz_section where item_id = $1 order by position, id',
    [itemId],
  );
  const parts = await rows<PartRow>(
    db,
    `select p.id, p.section_id, p.question_id, p.question_version, (p.points * 1000)::int as points, (p.floor * 1000)::int as floor, p.draw
     from quiz_part p join quiz_section s on s.id = p.section_id where s.item_id = $1 order by p.position, p.id`,
    [itemId],
  );
  return sections.map((s) => ({ ...s, parts: parts.filter((p) => p.section_id === s.id) }));
}

async function filterOf(db: Db, draw: DrawWish): Promise<BankFilter> {
  return {
    folderIds: await listBelow(db, draw.folderId),
    text: '',
    tags: draw.tags,
    levels: draw.levels,
    objectives: draw.objectives,
    kinds: draw.kinds,
    withRetired: false,
    questionIds: [],
  };
}

export type Pool = readonly { readonly id: string; readonly number: number }[];
/** What each draw of a quiz takes from now, by the part it is. */
export async function readPools(db: Db, sections: readonly SectionRow[]): Promise<ReadonlyMap<string, Pool>> {
  const pools = new Map<string, Pool>();
  for (const part of sections.flatMap((s) => s.parts))
    if (part.draw !== null) pools.set(part.id, await listPool(db, await filterOf(db, part.draw)));
  return pools;
}

const drawWords = (draw: DrawWish, folder: string): string =>
  drawInWords({ folder, tags: draw.tags, levels: draw.levels, objectives: draw.objectives, kinds: draw.kinds });

export function toSections(sections: readonly SectionRow[], pools: ReadonlyMap<string, Pool>): PaperSection[] {
  return sections.map((s, n) => ({
    id: s.id,
    title: s.title === '' ? `Section ${n + 1}` : s.title,
    isShuffled: s.is_shuffled,
    parts: s.parts.map((p) =>
      p.draw === null
        ? { kind: 'fixed', questionId: p.question_id ?? '', points: p.points }
        : {
            kind: 'draw',
            id: p.id,
            count: p.draw.count,
            points: p.points,
            pool: (pools.get(p.id) ?? []).map((q) => q.id),
            words: drawWords(p.draw, ''),
          },
    ),
  }));
}

/** The paper one seed gives, with the version and floor of each question. */
export function storePaper(
  sections: readonly SectionRow[],
  pools: ReadonlyMap<string, Pool>,
  seed: string,
  shufflesSections: boolean,
): StoredPaper {
  const parts = sections.flatMap((s) => s.parts);
  const numbers = new Map<string, number>([
    ...[...pools.values()].flat().map((q): [string, number] => [q.id, q.number]),
    ...parts.flatMap((p): [string, number][] => (p.question_id === null ? [] : [[p.question_id, p.question_version ?? 1]])),
  ]);
  const floorOf = (id: string): number | null => {
    const part = parts.find((p) => p.question_id === id) ?? parts.find((p) => pools.get(p.id)?.some((q) => q.id === id) === true);
    return part === undefined ? 0 : part.floor;
  };
  const byId = new Map(sections.map((s) => [s.id, s]));
  return {
    sections: assemblePaper(toSections(sections, pools), seed, shufflesSections).map((s) => ({
      id: s.id,
      title: byId.get(s.id)?.title ?? '',
      instructions: byId.get(s.id)?.instructions ?? '',
      questions: s.questions.map((q) => ({ ...q, number: numbers.get(q.questionId) ?? 1, floor: floorOf(q.questionId) })),
    })),
  };
}

const questionCount = (sections: readonly SectionRow[]): number =>
  sections.flatMap((s) => s.parts).reduce((sum, p) => sum + (p.draw?.count ?? 1), 0);

/** Everything of a quiz for whoever builds it. */
export async function getQuizDetail(db: Db, actor: Actor, courseId: string, itemId: string, now: number): Promise<QuizDetail> {
  const item = await getPlanItem(db, courseId, itemId, now);
  const setting = await getQuiz(db, itemId);
  const sections = await listSections(db, itemId);
  const pools = await readPools(db, sections);
  const folders = await listFolders(db, actor, true);
  const titleOfFolder = new Map(folders.map((f) => [f.id, f.title]));
  const parts = sections.flatMap((s) => s.parts);
  const held = await listVersions(
    db,
    actor,
    parts.flatMap((p) => (p.question_id === null ? [] : [{ id: p.question_id, number: p.question_version ?? 1 }])),
    folders,
  );
  const drawn = await listVersions(db, actor, [...new Map([...pools.values()].flat().map((q) => [q.id, q])).values()], folders);
  const planned = parts.flatMap((p): PlannedQuestion[] => {
    const plan = (view: NonNullable<ReturnType<typeof held.get>>): PlannedQuestion => ({
      kind: view.key.kind,
      level: view.level,
      objectives: view.objectives,
      points: p.points,
      shareRight: view.use.shareRight,
      itemRest: view.use.itemRest,
    });
    if (p.question_id !== null) return [held.get(p.question_id)].flatMap((view) => (view === undefined ? [] : [plan(view)]));
    // A draw counts as so many of what it takes from, spread evenly over it.
    const pool = (pools.get(p.id) ?? []).flatMap((q) => drawn.get(q.id) ?? []);
    return Array.from({ length: Math.min(p.draw?.count ?? 0, pool.length) }, (_, n) =>
      plan(pool[Math.floor((n * pool.length) / (p.draw?.count ?? 1))] as NonNullable<ReturnType<typeof held.get>>),
    );
  });
  const objectives = await rows<{ code: string; statement: string }>(
    db,
    "select code, statement from objective where course_id = $1 and removed_at is null and code <> '' order by code",
    [courseId],
  );
  const begun = await maybe<{ many: number }>(db, 'select count(*)::int as many from quiz_attempt where item_id = $1', [itemId]);
  const shown = sections.map((s): QuizSection => ({
    id: s.id,
    title: s.title,
    instructions: s.instructions,
    isShuffled: s.is_shuffled,
    parts: s.parts.map((p) => ({
      id: p.id,
      points: p.points,
      floor: p.floor,
      question: p.question_id === null ? null : (held.get(p.question_id) ?? null),
      questionVersion: p.question_version,
      draw:
        p.draw === null
          ? null
          : {
              ...p.draw,
              matching: pools.get(p.id)?.length ?? 0,
              words: drawWords(p.draw, titleOfFolder.get(p.draw.folderId) ?? 'another bank'),
            },
    })),
  }));
  const faults = [
    ...(parts.length === 0 ? ['There is no question yet.'] : []),
    ...parts.flatMap((p) =>
      p.question_id === null
        ? []
        : (held.get(p.question_id)?.faults ?? []).map((f) => `${held.get(p.question_id ?? '')?.title ?? ''}: ${f}`),
    ),
    ...drawFaults(toSections(sections, pools)).map((f) => f.text),
    ...[...drawn.values()].filter((q) => q.faults.length > 0).map((q) => `Drawn “${q.title}”: ${q.faults[0] ?? ''}`),
  ];
  return {
    itemId,
    title: item.title,
    isDraft: item.isDraft,
    state: item.state,
    itemVersion: item.version,
    setting,
    sections: shown,
    possible: item.possible,
    questions: questionCount(sections),
    expected: expectedOf(planned),
    faults,
    attempts: begun?.many ?? 0,
    objectives,
    dueAt: item.dueAt,
    opensAt: item.opensAt,
    closesAt: item.closesAt,
    estimatedMinutes: item.estimatedMinutes,
    folderId: await folderOf(db, courseId),
    shares: await listQuizShares(db, itemId),
  };
}

/** New questions of a course join the bank of its subject. */
export async function folderOf(db: Db, courseId: string): Promise<string> {
  const course = await maybe<{ code: string }>(db, 'select code from course where id = $1', [courseId]);
  return rootOfSubject(db, course?.code ?? '');
}

const COLUMNS: { readonly [field in Exclude<keyof QuizSetting, 'version'>]: string } = {
  taken: 'taken',
  instructions: 'instructions',
  layout: 'layout',
  mayGoBack: 'may_go_back',
  shufflesSections: 'shuffles_sections',
  shufflesAnswers: 'shuffles_answers',
  limitMinutes: 'limit_minutes',
  atEnd: 'at_end',
  attemptsAllowed: 'attempts_allowed',
  counted: 'counted',
  retryUntil: 'retry_until',
  review: 'review',
  allowsCalculator: 'allows_calculator',
  accessCode: 'access_code',
  allowedAddresses: 'allowed_addresses',
  recordsLeaving: 'records_leaving',
  discouragesCopying: 'discourages_copying',
  passPoints: 'pass_points',
  meritPoints: 'merit_points',
};
const IN_POINTS = new Set(['retryUntil', 'passPoints', 'meritPoints']);

/** An address of the network, or a range of them; null is neither. */
export function readRange(text: string): [ipaddr.IPv4 | ipaddr.IPv6, number] | null {
  try {
    const one = ipaddr.isValid(text) ? ipaddr.process(text) : null;
    return one === null ? ipaddr.parseCIDR(text) : [one, one.kind() === 'ipv4' ? 32 : 128];
  } catch {
    return null;
  }
}

function checkSetting(next: QuizSetting, item: PlanItem): void {
  const check = checkDocument(next.instructions);
  if (!check.ok) throw invalid('instructions', check.reason);
  for (const address of next.allowedAddresses) {
    if (readRange(address) === null)
      throw invalid(
        'allowedAddresses',
        `“${address}” is no address of the network. Write one like 192.0.2.7, or a range like 192.0.2.0/24.`,
      );
  }
  if (next.passPoints !== null && next.meritPoints !== null && next.meritPoints <= next.passPoints)
    throw invalid('meritPoints', 'The second line of attainment lies above the first. Give it more points.');
  for (const [field, points] of [
    ['passPoints', next.passPoints],
    ['meritPoints', next.meritPoints],
    ['retryUntil', next.retryUntil],
  ] as const)
    if (points !== null && item.possible > 0 && points > item.possible)
      throw invalid(
        field,
        `${pointsInWords(points)} cannot be reached: the quiz has ${formatPoints(item.possible)}. Type no more than that.`,
      );
  const timing = scoreTimingFault(item.releaseMode, next.review.score.kind, next.retryUntil);
  if (timing !== null) throw invalid('review', timing);
  for (const [what, when] of Object.entries(next.review))
    if (when.kind === 'window' && Date.parse(when.to) <= Date.parse(when.from))
      throw invalid('review', `The time in which the ${what} can be seen ends before it begins. Change one of the two.`);
}

export async function saveQuiz(db: Db, courseId: string, itemId: string, change: QuizChange, now: number): Promise<QuizSetting> {
  const item = await getPlanItem(db, courseId, itemId, now);
  const current = await getQuiz(db, itemId);
  if (current.version !== change.version) throw conflict(current);
  checkSetting({ ...current, ...change }, item);
  const fields = (Object.keys(COLUMNS) as (keyof typeof COLUMNS)[]).filter((field) => change[field] !== undefined);
  const values = fields.map((field) => {
    const value = change[field];
    return IN_POINTS.has(field) && typeof value === 'number' ? decimalText(value) : value;
  });
  await run(
    db,
    `update quiz set ${[...fields.map((field, n) => `${COLUMNS[field]} = $${n + 2}`), 'version = version + 1'].join(', ')} where item_id = $1`,
    [itemId, ...values],
  );
  const after = await getQuiz(db, itemId);
  // Whoever has begun keeps the time they began under, unless it is said that the new one is for them too.
  if (change.alsoRunning === true && (change.limitMinutes !== undefined || change.atEnd !== undefined))
    await run(db, "update quiz_attempt set limit_minutes = $2, at_end = $3, version = version + 1 where item_id = $1 and state = 'open'", [
      itemId,
      after.limitMinutes,
      after.atEnd,
    ]);
  return after;
}

/** Who is taking a quiz now, by name, the first to begin first. */
export async function listRunning(db: Db, itemId: string): Promise<RunningAttempt[]> {
  return rows<RunningAttempt>(
    db,
    `select p.given_name || ' ' || p.family_name as name, to_char(t.begun_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') as "begunAt",
       to_char(t.ends_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') as "endsAt"
     from quiz_attempt t join enrolment e on e.id = t.enrolment_id join person p on p.id = e.person_id where t.item_id = $1 and t.state = 'open' order by t.begun_at limit 500`,
    [itemId],
  );
}

/** What people have begun to take stays as it is: its questions are corrected, not exchanged. */
async function requireUntaken(db: Db, itemId: string): Promise<void> {
  const begun = await maybe<{ many: number }>(db, 'select count(*)::int as many from quiz_attempt where item_id = $1', [itemId]);
  if (begun !== null && begun.many > 0)
    throw new AppError(
      'not-now',
      `${begun.many === 1 ? 'One attempt has' : `${begun.many} attempts have`} begun, so the paper stays as it is. Correct a key under Results, or make a copy of the quiz.`,
    );
  const printed = await maybe(db, 'select 1 as one from paper_test where item_id = $1 and printed_at is not null', [itemId]);
  if (printed !== null)
    throw new AppError(
      'not-now',
      'The paper has been printed, so it stays as it is. Start the printing over under “On paper”, or make a copy of the quiz.',
    );
}

/** The points of a quiz are those of its paper. */
async function followPoints(db: Db, itemId: string): Promise<void> {
  await run(
    db,
    `update item set possible = coalesce((select sum(p.points * coalesce((p.draw ->> 'count')::int, 1)) from quiz_part p join quiz_section s on s.id = p.section_id where s.item_id = $1), 0),
       version = version + 1 where id = $1`,
    [itemId],
  );
}

/** Writes the paper as a whole: sections and parts in their order. Parts left out are gone; their questions stay in the bank. */
export async function savePaper(db: Db, actor: Actor, courseId: string, itemId: string, change: PaperChange, now: number): Promise<void> {
  await getPlanItem(db, courseId, itemId, now);
  const current = await getQuiz(db, itemId);
  if (current.version !== change.version) throw conflict(await getQuizDetail(db, actor, courseId, itemId, now));
  await requireUntaken(db, itemId);
  const before = await listSections(db, itemId);
  const known = new Set(before.flatMap((s) => s.parts).flatMap((p) => (p.question_id === null ? [] : [p.question_id])));
  const wanted = change.sections.flatMap((s) => s.parts);
  const ids = wanted.flatMap((p) => (p.questionId === null ? [] : [p.questionId]));
  const twice = ids.find((id, n) => ids.indexOf(id) !== n);
  if (twice !== undefined) throw invalid('sections', 'A question stands in the paper twice. Take one of them out.');
  if (wanted.some((p) => (p.questionId === null) === (p.draw === null)))
    throw invalid('sections', 'A place in the paper is a question or a draw, one of the two.');
  const folders = new Set((await listFolders(db, actor, false)).map((f) => f.id));
  const fresh = ids.filter((id) => !known.has(id));
  const reached = await rows<{ id: string; newest: number; folder_id: string }>(
    db,
    'select id, newest, folder_id from question where id = any($1)',
    [ids],
  );
  if (
    fresh.some((id) => !reached.some((r) => r.id === id && folders.has(r.folder_id))) ||
    wanted.some((p) => p.draw !== null && !folders.has(p.draw.folderId))
  )
    throw notFound();
  const newest = new Map(reached.map((r) => [r.id, r.newest]));
  await run(db, 'delete from quiz_part where section_id in (select id from quiz_section where item_id = $1)', [itemId]);
  await run(db, 'delete from quiz_section where item_id = $1 and not (id = any($2))', [itemId, change.sections.flatMap((s) => s.id ?? [])]);
  for (const [position, section] of change.sections.entries()) {
    const row = await maybe<{ id: string }>(
      db,
      `insert into quiz_section (id, item_id, position, title, instructions, is_shuffled) values (coalesce($1::uuid, gen_random_uuid()), $2, $3, $4, $5, $6)
       on conflict (id) do update set position = excluded.position, title = excluded.title, instructions = excluded.instructions, is_shuffled = excluded.is_shuffled where quiz_section.item_id = $2 returning id`,
      [section.id, itemId, position, section.title, section.instructions, section.isShuffled],
    );
    if (row === null) throw notFound();
    await run(
      db,
      `insert into quiz_part (id, section_id, position, question_id, question_version, points, floor, draw)
       select coalesce(t.id, gen_random_uuid()), $1, t.position, t.question_id, t.question_version, t.points, t.floor, t.draw
       from jsonb_to_recordset($2) as t(id uuid, position int, question_id uuid, question_version int, points numeric, floor numeric, draw jsonb)`,
      [
        row.id,
        JSON.stringify(
          section.parts.map((p, n) => ({
            id: p.id,
            position: n,
            question_id: p.questionId,
            question_version: p.questionId === null ? null : (p.questionVersion ?? newest.get(p.questionId) ?? 1),
            points: decimalText(p.points),
            floor: p.floor === null ? null : decimalText(p.floor),
            draw: p.draw,
          })),
        ),
      ],
    );
  }
  await run(db, 'update quiz set version = version + 1 where item_id = $1', [itemId]);
  await followPoints(db, itemId);
}

/** Makes questions in the bank and lays them into a section of the quiz. Gives their identifiers in order. */
export async function addQuestions(
  db: Db,
  actor: Actor,
  courseId: string,
  itemId: string,
  wish: QuizQuestions,
  now: number,
): Promise<string[]> {
  await getPlanItem(db, courseId, itemId, now);
  await requireUntaken(db, itemId);
  const folderId = await folderOf(db, courseId);
  const section = await maybe(db, 'select 1 as one from quiz_section where id = $1 and item_id = $2', [wish.sectionId, itemId]);
  if (section === null) throw notFound();
  await run(db, 'update quiz_part set position = position + $3 where section_id = $1 and position >= $2', [
    wish.sectionId,
    wish.position,
    wish.questions.length,
  ]);
  const made: string[] = [];
  for (const [n, { points, ...question }] of wish.questions.entries()) {
    const id = await addQuestion(db, actor, folderId, question, now);
    made.push(id);
    await run(db, 'insert into quiz_part (section_id, position, question_id, question_version, points) values ($1, $2, $3, 1, $4)', [
      wish.sectionId,
      wish.position + n,
      id,
      decimalText(points ?? 1000),
    ]);
  }
  await run(db, 'update quiz set version = version + 1 where item_id = $1', [itemId]);
  await followPoints(db, itemId);
  return made;
}
