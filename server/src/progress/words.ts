import type { NewWordNote, WordFinding, WordNote, WordRulesChange, Words, WordsWriting } from '@rosemary/api';
import {
  findWords,
  kindOfRule,
  type Membership,
  reachesSection,
  ruleBegins,
  WORD_RULE_NAMES,
  type WordNoteKind,
  type WordRule,
  type WordRuleSetting,
  type WordSettings,
} from '@rosemary/core';
import { DateTime } from 'luxon';
import { sendMessage } from '../messages/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { readWordFacts } from './wordFacts.ts';

interface RuleRow {
  rule: WordRule;
  is_on: boolean;
  threshold: number;
  out_of: number | null;
}
/** The rules of a course: what it set, else what they begin with; the line is the pass mark where there is one. */
async function getRules(db: Db, courseId: string, passPercent: number | null): Promise<WordSettings> {
  const set = new Map(
    (
      await rows<RuleRow & Record<string, unknown>>(db, 'select rule, is_on, threshold, out_of from word_rule where course_id = $1', [
        courseId,
      ])
    ).map((row) => [row.rule, row]),
  );
  const settingOf = (rule: WordRule): WordRuleSetting => {
    const row = set.get(rule);
    if (row !== undefined) return { isOn: row.is_on, threshold: row.threshold, of: row.out_of };
    const begins = ruleBegins(rule);
    return rule === 'below' && passPercent !== null ? { ...begins, threshold: Math.max(1, Math.round(passPercent / 1000)) } : begins;
  };
  return Object.fromEntries(WORD_RULE_NAMES.map((rule) => [rule, settingOf(rule)])) as unknown as WordSettings;
}

interface NoteRow {
  id: string;
  enrolment_id: string;
  rule: WordRule | null;
  kind: WordNoteKind;
  body: string;
  until_on: string | null;
  at: Date;
  who: string;
}
export async function listWordNotes(db: Db, courseId: string, enrolmentId: string | null = null): Promise<WordNote[]> {
  const found = await rows<NoteRow & Record<string, unknown>>(
    db,
    `select n.id, n.enrolment_id, n.rule, n.kind, n.body, n.until_on, n.at, p.given_name || ' ' || p.family_name as who from word_note n join person p on p.id = n.by_id
     where n.course_id = $1 and n.removed_at is null and ($2::uuid is null or n.enrolment_id = $2) order by n.at desc, n.id`,
    [courseId, enrolmentId],
  );
  return found.map((n) => ({
    ...{ id: n.id, enrolmentId: n.enrolment_id, rule: n.rule, kind: n.kind, body: n.body, untilOn: n.until_on },
    ...{ at: n.at.toISOString(), by: n.who },
  }));
}

/** Who needs a word of those whom a member of the staff reaches. What a class is, is the whole class. */
export async function readWords(db: Db, courseId: string, member: Membership, now: number): Promise<Words> {
  const [{ course, facts }, notes] = await Promise.all([readWordFacts(db, courseId, now), listWordNotes(db, courseId)]);
  const rules = await getRules(db, courseId, course.facts.policy.passPercent ?? null);
  const today = DateTime.fromMillis(now, { zone: course.facts.zone }).toISODate()!;
  const sectionOf = new Map(course.facts.people.map((p) => [p.enrolmentId, p.sectionId]));
  const latest = new Map<string, WordNote>();
  for (const note of notes) {
    const key = `${note.enrolmentId} ${note.rule ?? ''}`;
    if (!latest.has(key)) latest.set(key, note);
  }
  const findings = findWords(facts, rules)
    .filter((found) => reachesSection(member, sectionOf.get(found.enrolmentId) ?? null))
    .map((found): WordFinding => {
      const note = latest.get(`${found.enrolmentId} ${found.rule}`) ?? null;
      return { ...found, note, asideUntil: note !== null && note.untilOn !== null && note.untilOn > today ? note.untilOn : null };
    });
  return { rules, findings };
}

export async function saveRules(db: Db, courseId: string, change: WordRulesChange): Promise<void> {
  const set = Object.entries(change) as [WordRule, WordRuleSetting][];
  await run(
    db,
    `insert into word_rule (course_id, rule, is_on, threshold, out_of) select $1, * from unnest($2::text[], $3::bool[], $4::int[], $5::int[])
     on conflict (course_id, rule) do update set is_on = excluded.is_on, threshold = excluded.threshold, out_of = excluded.out_of`,
    [courseId, set.map(([rule]) => rule), set.map(([, s]) => s.isOn), set.map(([, s]) => s.threshold), set.map(([, s]) => s.of)],
  );
}

interface Student {
  id: string;
  person_id: string;
  section_id: string | null;
}
/** The students named, if all are in the course and reached; else nothing is done. */
async function requireStudents(db: Db, courseId: string, member: Membership, ids: readonly string[]): Promise<Student[]> {
  const found = await rows<Student & Record<string, unknown>>(
    db,
    "select id, person_id, section_id from enrolment where course_id = $1 and id = any($2) and role = 'student' and withdrawn_at is null",
    [courseId, ids],
  );
  if (found.length !== ids.length || found.some((s) => !reachesSection(member, s.section_id))) throw notFound();
  return found;
}

interface Noting {
  readonly courseId: string;
  readonly member: Membership;
  readonly personId: string;
  readonly now: number;
}
type Noted = Omit<NewWordNote, 'kind'> & { readonly kind: WordNoteKind };
/** A note for each student; with the same key they are noted once. Gives the identifiers of the notes. */
export async function addNotes(db: Db, n: Noting, note: Noted): Promise<string[]> {
  const students = await requireStudents(db, n.courseId, n.member, note.enrolmentIds);
  const made = await rows<{ id: string }>(
    db,
    `insert into word_note (id, course_id, enrolment_id, rule, kind, body, until_on, at, by_id)
     select md5($1::text || t.id)::uuid, $2, t.id::uuid, $3, $4, $5, $6, to_timestamp($7 / 1000.0), $8 from unnest($9::text[]) as t(id)
     on conflict (id) do update set removed_at = word_note.removed_at returning id`,
    [note.key, n.courseId, note.rule, note.kind, note.body, note.untilOn, n.now, n.personId, students.map((s) => s.id)],
  );
  return made.map((row) => row.id);
}

/** Takes notes back that the same person made. */
export async function removeNotes(db: Db, { courseId, personId, now }: Noting, ids: readonly string[]): Promise<void> {
  const many = await run(
    db,
    "update word_note set removed_at = to_timestamp($4 / 1000.0) where course_id = $1 and by_id = $2 and id = any($3) and kind <> 'wrote' and removed_at is null",
    [courseId, personId, ids, now],
  );
  if (many === 0) throw notFound();
}

/** Writes to each of them alone, and notes that it was done. */
export async function write(db: Db, n: Noting, wish: WordsWriting): Promise<void> {
  const students = await requireStudents(db, n.courseId, n.member, wish.enrolmentIds);
  const writer = { courseId: n.courseId, personId: n.personId, member: n.member, now: n.now };
  await sendMessage(db, writer, { key: wish.key, title: wish.title, body: wish.body, personIds: students.map((s) => s.person_id) });
  await addNotes(db, n, {
    ...{ key: wish.key, enrolmentIds: wish.enrolmentIds, rule: wish.rule },
    kind: 'wrote',
    body: wish.body.slice(0, 2000),
    untilOn: null,
  });
}

const RECENT = 7 * 86_400_000;
export interface WordSlip {
  readonly rule: WordRule;
  readonly students: number;
  readonly words: string;
  readonly urgency: number;
}
/** How many each rule finds for whom nothing was done in the last week and who are not set aside. */
export async function listWordSlips(db: Db, courseId: string, member: Membership, now: number): Promise<WordSlip[]> {
  const { rules, findings } = await readWords(db, courseId, member, now);
  const open = findings.filter((f) => f.asideUntil === null && (f.note === null || Date.parse(f.note.at) < now - RECENT));
  return WORD_RULE_NAMES.flatMap((rule): WordSlip[] => {
    const of = open.filter((f) => f.rule === rule);
    if (of.length === 0) return [];
    return [{ rule, students: of.length, words: kindOfRule(rule).slip(rules[rule].threshold), urgency: of[0]?.urgency ?? 0 }];
  });
}
