import type { AssignmentSetting, AudienceName, ItemDetail, Judged, Plan, PlanItem, PlanUnit, RubricView } from '@rosemary/api';
import {
  dueWarning,
  itemState,
  termEnd,
  type DocumentNode,
  type DoneRule,
  type ItemKind,
  type ResultReading,
  type Term,
} from '@rosemary/core';
import { FILE_COLUMNS, fileView, type FileRow } from '../files/store.ts';
import { getTerm } from '../gradebook/facts.ts';
import { lateJson } from '../gradebook/policyRows.ts';
import { maybe, rows, type Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

interface VariantJson {
  sectionId: string | null;
  enrolmentId: string | null;
  groupId: string | null;
  name: string;
  opensAt: string | null;
  dueAt: string | null;
  closesAt: string | null;
}
interface ItemRow {
  id: string;
  unit_id: string;
  kind: ItemKind;
  title: string;
  is_draft: boolean;
  category_id: string | null;
  possible: number;
  judged: Judged | null;
  multiplier: number;
  is_extra_credit: boolean;
  counts: boolean;
  is_required: boolean;
  announced_at: Date | null;
  opens_at: Date | null;
  due_at: Date | null;
  closes_at: Date | null;
  estimated_minutes: number;
  marking_minutes: number;
  done_rule: DoneRule;
  done_score: number | null;
  release_mode: PlanItem['releaseMode'];
  release_at: Date | null;
  is_staff_only: boolean;
  opening_needs: 'all' | 'any';
  next_note: string;
  shows_statistics: boolean;
  student_reads: ResultReading;
  staff_reads: ResultReading;
  late: PlanItem['late'];
  rules: { kind: 'date' | 'done' | 'score'; at: string | null; itemId: string | null; least: number | null }[];
  audience: AudienceName[];
  hands: { id: string; enrolmentId: string | null; name: string; until: string }[];
  version: number;
  variants: VariantJson[];
}

const iso = (date: Date | null): string | null => date?.toISOString() ?? null;
const utc = (text: string | null): string | null => (text === null ? null : new Date(text).toISOString());

/** Whom something is for, by name, as JSON. */
const audienceSql = (owner: string): string => `
         coalesce((select json_agg(json_build_object('sectionId', a.section_id, 'enrolmentId', a.enrolment_id, 'groupId', a.group_id, 'name', coalesce(s.title, g.title, p.family_name || ', ' || p.given_name)) order by s.position, g.position, p.family_name)
                   from audience a left join section s on s.id = a.section_id left join course_group g on g.id = a.group_id left join enrolment e on e.id = a.enrolment_id left join person p on p.id = e.person_id where ${owner}), '[]')`;

const ITEM_SQL = `
  select i.id, ui.unit_id, i.kind, i.title, i.is_draft, i.category_id, case when asg.judged in ('words', 'none') then 0 else (i.possible * 1000)::int end as possible, (i.multiplier * 1000)::int as multiplier, i.is_extra_credit,
         i.counts and coalesce(asg.judged in ('points', 'done'), true) as counts, asg.judged, i.is_required,
         i.announced_at, i.opens_at, i.due_at, i.closes_at, i.estimated_minutes, i.marking_minutes, i.done_rule, (i.done_score * 1000)::int as done_score, i.release_mode, i.release_at, i.version, i.is_staff_only, i.opening_needs, i.next_note, i.shows_statistics, i.student_reads, i.staff_reads,
         (select ${lateJson('l')} from item_late l where l.item_id = i.id) as late,
         coalesce((select json_agg(json_build_object('kind', r.kind, 'at', r.at, 'itemId', r.other_item_id, 'least', (r.least * 1000)::int) order by r.position) from opening_rule r where r.item_id = i.id), '[]') as rules,
         ${audienceSql('a.item_id = i.id')} as audience,
         coalesce((select json_agg(json_build_object('id', h.id, 'enrolmentId', h.enrolment_id, 'name', coalesce(p.family_name || ', ' || p.given_name, 'everyone'), 'until', h.until_at) order by h.until_at)
                   from hand_opening h left join enrolment e on e.id = h.enrolment_id left join person p on p.id = e.person_id where h.item_id = i.id and h.ended_at is null), '[]') as hands,
         coalesce((select json_agg(json_build_object('sectionId', v.section_id, 'enrolmentId', v.enrolment_id, 'groupId', v.group_id, 'name', coalesce(s.title, g.title, p.family_name || ', ' || p.given_name), 'opensAt', v.opens_at, 'dueAt', v.due_at, 'closesAt', v.closes_at) order by s.position, g.position, p.family_name)
                   from date_variant v left join section s on s.id = v.section_id left join course_group g on g.id = v.group_id left join enrolment e on e.id = v.enrolment_id left join person p on p.id = e.person_id where v.item_id = i.id), '[]') as variants
  from item i left join assignment asg on asg.item_id = i.id join unit_item ui on ui.item_id = i.id join unit u on u.id = ui.unit_id
  where i.course_id = $1 and i.removed_at is null and u.removed_at is null`;

interface Calendar {
  readonly term: Term;
  readonly zone: string;
  readonly isSelfPaced: boolean;
}

function toItem(row: ItemRow, { term, zone, isSelfPaced }: Calendar, now: number): PlanItem {
  // Counted from each student’s start, an item is open for some and not for others; what it is at all is open.
  const opens = isSelfPaced ? null : (row.opens_at?.getTime() ?? null);
  const closes = isSelfPaced ? null : (row.closes_at?.getTime() ?? termEnd(term, zone));
  const warning = row.due_at === null || isSelfPaced ? null : dueWarning(term, row.due_at.getTime(), zone);
  return {
    id: row.id,
    kind: row.kind,
    title: row.title,
    isDraft: row.is_draft,
    state: itemState(row.is_draft, opens, closes, now),
    categoryId: row.category_id,
    possible: row.possible,
    judged: row.judged,
    multiplier: row.multiplier,
    isExtraCredit: row.is_extra_credit,
    counts: row.counts,
    isRequired: row.is_required,
    announcedAt: iso(row.announced_at),
    opensAt: iso(row.opens_at),
    dueAt: iso(row.due_at),
    closesAt: iso(row.closes_at),
    estimatedMinutes: row.estimated_minutes,
    markingMinutes: row.marking_minutes,
    doneRule: row.done_rule,
    doneScore: row.done_score,
    releaseMode: row.release_mode,
    releaseAt: iso(row.release_at),
    isStaffOnly: row.is_staff_only,
    audience: row.audience,
    opening: {
      needs: row.opening_needs,
      rules: row.rules.map((r) =>
        r.kind === 'date'
          ? { kind: 'date', at: utc(r.at) ?? '' }
          : r.kind === 'done'
            ? { kind: 'done', itemId: r.itemId ?? '' }
            : { kind: 'score', itemId: r.itemId ?? '', least: r.least ?? 0 },
      ),
    },
    handOpenings: row.hands.flatMap((h) => (Date.parse(h.until) > now ? [{ ...h, until: utc(h.until) ?? '' }] : [])),
    nextNote: row.next_note,
    showsStatistics: row.shows_statistics,
    studentReads: row.student_reads,
    staffReads: row.staff_reads,
    late: row.late,
    version: row.version,
    warnings: warning === null ? [] : [warning],
    variants: row.variants.map((v) => ({ ...v, opensAt: utc(v.opensAt), dueAt: utc(v.dueAt), closesAt: utc(v.closesAt) })),
  };
}

interface UnitRow {
  id: string;
  title: string;
  announced_at: Date | null;
  opens_at: Date | null;
  closes_at: Date | null;
  is_staff_only: boolean;
  is_standing: boolean;
  audience: AudienceName[];
  version: number;
}

async function listUnits(db: Db, courseId: string): Promise<Omit<PlanUnit, 'items'>[]> {
  const found = await rows<UnitRow>(
    db,
    `
    select u.id, u.title, u.announced_at, u.opens_at, u.closes_at, u.is_staff_only, u.is_standing, ${audienceSql('a.unit_id = u.id')} as audience, u.version
    from unit u where u.course_id = $1 and u.removed_at is null order by not u.is_standing, u.position, u.id`,
    [courseId],
  );
  return found.map((u) => ({
    id: u.id,
    title: u.title,
    announcedAt: iso(u.announced_at),
    opensAt: iso(u.opens_at),
    closesAt: iso(u.closes_at),
    isStaffOnly: u.is_staff_only,
    isStanding: u.is_standing,
    audience: u.audience,
    version: u.version,
  }));
}

export async function getPlan(db: Db, courseId: string, now: number): Promise<Plan> {
  const calendar = await getTerm(db, courseId);
  const units = await listUnits(db, courseId);
  const items = await rows<ItemRow>(db, `${ITEM_SQL} order by ui.position, i.id`, [courseId]);
  const categories = await rows<{ id: string; title: string }>(
    db,
    'select id, title from category where course_id = $1 order by position',
    [courseId],
  );
  const arranged = await maybe<{ many: number }>(
    db,
    'select count(distinct a.enrolment_id)::int as many from arrangement a join enrolment e on e.id = a.enrolment_id where e.course_id = $1 and e.withdrawn_at is null',
    [courseId],
  );
  return {
    units: units.map((unit): PlanUnit => ({
      ...unit,
      items: items.filter((row) => row.unit_id === unit.id).map((row) => toItem(row, calendar, now)),
    })),
    categories,
    arrangements: arranged?.many ?? 0,
    term: calendar.term,
  };
}

export async function getPlanItem(db: Db, courseId: string, itemId: string, now: number): Promise<PlanItem> {
  const row = await maybe<ItemRow>(db, `${ITEM_SQL} and i.id = $2 limit 1`, [courseId, itemId]);
  if (row === null) throw notFound();
  return toItem(row, await getTerm(db, courseId), now);
}

export async function findPage(db: Db, itemId: string): Promise<{ document: DocumentNode; version: number } | null> {
  return maybe(db, 'select document, version from page where item_id = $1', [itemId]);
}

interface AssignmentRow {
  instructions: DocumentNode;
  accepts_text: boolean;
  accepts_link: boolean;
  accepts_recording: boolean;
  on_paper: boolean;
  judged: Judged;
  accepts_files: boolean;
  file_types: string[];
  most_files: number;
  most_bytes: string;
  attempts_allowed: number | null;
  rubric_id: string | null;
  counted: AssignmentSetting['counted'];
  group_set_id: string | null;
  allows_withdrawal: boolean;
  anonymous: AssignmentSetting['anonymous'];
  anonymous_until: Date | null;
  markers: 1 | 2;
  version: number;
}

export async function findAssignment(db: Db, itemId: string): Promise<(AssignmentSetting & { rubricId: string | null }) | null> {
  const row = await maybe<AssignmentRow>(
    db,
    'select instructions, accepts_text, accepts_files, accepts_link, accepts_recording, on_paper, judged, file_types, most_files, most_bytes, attempts_allowed, rubric_id, counted, group_set_id, allows_withdrawal, anonymous, anonymous_until, markers, version from assignment where item_id = $1',
    [itemId],
  );
  return row === null
    ? null
    : {
        version: row.version,
        instructions: row.instructions,
        acceptsText: row.accepts_text,
        acceptsFiles: row.accepts_files,
        acceptsLink: row.accepts_link,
        acceptsRecording: row.accepts_recording,
        onPaper: row.on_paper,
        judged: row.judged,
        fileTypes: row.file_types,
        mostFiles: row.most_files,
        mostBytes: Number(row.most_bytes),
        attemptsAllowed: row.attempts_allowed,
        rubricId: row.rubric_id,
        counted: row.counted,
        groupSetId: row.group_set_id,
        allowsWithdrawal: row.allows_withdrawal,
        anonymous: row.anonymous,
        anonymousUntil: row.anonymous_until?.toISOString() ?? null,
        markers: row.markers,
      };
}

/** The rubric work is judged by: of what is judged in points alone. */
export async function findRubricInUse(db: Db, itemId: string): Promise<RubricView | null> {
  const row = await maybe<{ rubric_id: string | null }>(db, "select rubric_id from assignment where item_id = $1 and judged = 'points'", [
    itemId,
  ]);
  return findRubric(db, row?.rubric_id ?? null);
}

export async function findRubric(db: Db, rubricId: string | null): Promise<RubricView | null> {
  if (rubricId === null) return null;
  const rubric = await maybe<{ version: number }>(db, 'select version from rubric where id = $1', [rubricId]);
  if (rubric === null) return null;
  const criteria = await rows<RubricView['criteria'][number]>(
    db,
    `
    select c.id, c.title, c.form, coalesce((select json_agg(json_build_object('id', l.id, 'title', l.title, 'descriptor', l.descriptor, 'points', (l.points * 1000)::int, 'least', (l.least * 1000)::int, 'upTo', l.up_to) order by l.position) from rubric_level l where l.criterion_id = c.id and l.removed_at is null), '[]') as levels
    from rubric_criterion c where c.rubric_id = $1 and c.removed_at is null order by c.position`,
    [rubricId],
  );
  return { version: rubric.version, criteria };
}

export async function findLink(db: Db, itemId: string): Promise<ItemDetail['link']> {
  return maybe(db, 'select address, note, version from item_link where item_id = $1', [itemId]);
}

export async function findShownFile(db: Db, itemId: string): Promise<ItemDetail['file']> {
  const found = await maybe<FileRow & { note: string; version: number }>(
    db,
    `
    select ${FILE_COLUMNS}, s.note, s.version from item_shown_file s left join file f on f.id = s.file_id and f.removed_at is null left join file_blob b on b.sha256 = f.sha256 where s.item_id = $1`,
    [itemId],
  );
  return found === null
    ? null
    : { note: found.note, version: found.version, file: (found.id as string | null) === null ? null : fileView(found) };
}

export async function getItemDetail(db: Db, courseId: string, itemId: string, now: number): Promise<ItemDetail> {
  const item = await getPlanItem(db, courseId, itemId, now);
  const found = await findAssignment(db, itemId);
  const { rubricId = null, ...setting } = found ?? {};
  const rubric = await findRubric(db, rubricId);
  const assignment = found === null ? null : (setting as AssignmentSetting);
  return {
    item,
    page: await findPage(db, itemId),
    link: await findLink(db, itemId),
    file: await findShownFile(db, itemId),
    assignment,
    rubric,
  };
}
