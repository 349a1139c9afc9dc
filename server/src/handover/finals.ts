import type { AgreedView, FinalRow, FinalSection, FinalsView, RowView } from '@rosemary/api';
import {
  gradeFaults,
  type LetterTable,
  type Membership,
  offerLastDays,
  type RegistrarRules,
  translateLetter,
  translationGaps,
} from '@rosemary/core';
import { calculate, type CourseFacts, listMovers, readFacts, readTotals } from '../gradebook/index.ts';
import { listSections } from '../course/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { isoAt } from '../platform/instants.ts';
import { type AgreedNow, listAgreed } from './agreed.ts';
import { listFindings } from './findings.ts';
import { type FinalPerson, listActivities, listFinalPeople } from './people.ts';
import { readLists } from './readLists.ts';
import { findRegistrar } from './registrarClient.ts';
import { isUnderWay, listHeld, listRows, type RowNow } from './rows.ts';
import { findLetterTable, getFinalSetting, getHandoverSetting, type HandoverSetting } from './setting.ts';

const HELD_STATES = new Set(['accepted', 'by hand']);

/** The day by the clock of a course. */
export const dayIn = (zone: string, at: number): string => new Intl.DateTimeFormat('sv-SE', { timeZone: zone }).format(at);

/** What the policy gives a student, and the letter the registrar would have for it. */
export interface Calculated {
  readonly percent: string | null;
  readonly letter: string | null;
  readonly sentLetter: string | null;
}

/** Everything that final grades are made from, read once. */
export interface FinalFacts {
  readonly facts: CourseFacts;
  readonly calculation: ReturnType<typeof calculate>;
  readonly people: readonly FinalPerson[];
  readonly setting: HandoverSetting;
  readonly table: LetterTable;
  readonly labels: readonly string[];
  readonly agreed: ReadonlyMap<string, AgreedNow>;
  readonly calculated: ReadonlyMap<string, Calculated>;
  readonly today: string;
}
const NOTHING_CALCULATED: Calculated = { percent: null, letter: null, sentLetter: null };

/** The registrar’s letter of a student who is not graded, by the rules of the school; null leaves them out. */
const standingLetter = (person: FinalPerson, setting: HandoverSetting): string | null =>
  person.standing === 'withdrawn' ? setting.withdrawnLetter : person.standing === 'auditing' ? setting.auditingLetter : null;

export async function readFinalFacts(db: Db, courseId: string, sectionIds: readonly string[] | null, now: number): Promise<FinalFacts> {
  const [facts, people, setting, agreed] = await Promise.all([
    // Names stand beside results here; what is hidden while it is marked is hidden by its column, not by the total.
    readFacts(db, courseId, { sectionIds, seesVeiled: true }),
    listFinalPeople(db, courseId, sectionIds),
    getHandoverSetting(db),
    listAgreed(db, courseId),
  ]);
  const calculation = calculate(facts, now, false);
  const labels = facts.policy.levels.map((l) => l.label);
  const table = await findLetterTable(db, labels);
  const byId = new Map(facts.people.map((p) => [p.enrolmentId, p]));
  const calculated = new Map(
    people.map((person): [string, Calculated] => {
      const own = byId.get(person.enrolmentId);
      if (person.standing !== 'enrolled')
        return [person.enrolmentId, { ...NOTHING_CALCULATED, sentLetter: standingLetter(person, setting) }];
      if (own === undefined) return [person.enrolmentId, NOTHING_CALCULATED];
      const { soFar: percent, letter } = readTotals(facts, calculation.totalsOf(calculation.cellsOf(own)));
      const sentLetter = letter === null || setting.rules === null ? null : translateLetter(letter, table, setting.rules);
      return [person.enrolmentId, { percent, letter, sentLetter }];
    }),
  );
  return { facts, calculation, people, setting, table, labels, agreed, calculated, today: dayIn(facts.zone, now) };
}

const agreedView = ({ enrolmentId: _, sectionId: __, ...view }: AgreedNow): AgreedView => view;
function rowView(row: RowNow | undefined): RowView | null {
  if (row === undefined) return null;
  const { enrolmentId: _, sectionId: __, ...view } = row;
  return view;
}
const asWords = (percent: string | null, letter: string | null): string =>
  percent === null ? (letter ?? 'nothing') : `${percent} %${letter === null ? '' : `, ${letter}`}`;

/** Students whose calculated grade is another than when theirs was agreed. */
function movedSince({ agreed, calculated }: FinalFacts): ReadonlyMap<string, number> {
  return new Map(
    [...agreed.values()].flatMap((a): [string, number][] => {
      const now = calculated.get(a.enrolmentId);
      const isSame = now === undefined || (a.calculatedPercent === now.percent && a.calculatedLetter === now.letter);
      return isSame ? [] : [[a.enrolmentId, Date.parse(a.at)]];
    }),
  );
}

const faultsOf = (agreed: AgreedNow | undefined, rules: RegistrarRules | null, facts: FinalFacts): string[] =>
  agreed === undefined || rules === null
    ? []
    : gradeFaults({ ...agreed, letter: agreed.sentLetter }, rules, { startsOn: facts.facts.term.startsOn, today: facts.today }).map(
        (f) => f.text,
      );

function sectionView(
  section: { readonly id: string; readonly title: string },
  own: readonly FinalRow[],
  held: ReadonlyMap<string, RowNow>,
  records: FinalSection['records'],
): FinalSection {
  const last = own.flatMap((row) => row.row ?? []);
  return {
    id: section.id,
    title: section.title,
    students: own.length,
    agreed: own.filter((row) => row.agreed !== null).length,
    accepted: own.filter((row) => held.has(row.enrolmentId)).length,
    refused: last.filter((row) => row.state === 'refused').length,
    underWay: last.filter(isUnderWay).length,
    records,
  };
}

const listRecords = (db: Db, courseId: string) =>
  rows<{ id: string; section_id: string; at: Date; who: string; many: number }>(
    db,
    `select r.id, r.section_id, r.at, p.given_name || ' ' || p.family_name as who, jsonb_array_length(r.content -> 'grades') as many
     from handover_record r join person p on p.id = r.actor_id where r.course_id = $1 order by r.at desc`,
    [courseId],
  );

/** The page of final grades of a course, for a member who reaches these sections. */
export async function readFinals(db: Db, courseId: string, member: Membership, now: number): Promise<FinalsView> {
  const all = await readFinalFacts(db, courseId, member.sectionIds, now);
  const { facts, people, setting, agreed, calculated } = all;
  const moved = movedSince(all);
  const [sections, last, held, activities, movers, records, finals, lists] = await Promise.all([
    listSections(db, courseId),
    listRows(db, courseId),
    listHeld(db, courseId),
    listActivities(db, courseId, facts.zone),
    listMovers(db, courseId, moved, now),
    listRecords(db, courseId),
    getFinalSetting(db, courseId),
    readLists(db, courseId),
  ]);
  const titles = new Map(sections.map((s) => [s.id, s.title]));
  const list = people
    // Whoever the school leaves out is not in the list, unless something was agreed of them.
    .filter((p) => p.standing === 'enrolled' || standingLetter(p, setting) !== null || agreed.has(p.enrolmentId) || held.has(p.enrolmentId))
    .map((p): FinalRow => {
      const own = agreed.get(p.enrolmentId);
      const is = calculated.get(p.enrolmentId) ?? NOTHING_CALCULATED;
      const isMoved = own !== undefined && moved.has(p.enrolmentId);
      const hasLeft = own !== undefined && own.sectionId !== null && own.sectionId !== p.sectionId;
      return {
        enrolmentId: p.enrolmentId,
        familyName: p.familyName,
        givenName: p.givenName,
        sectionId: p.sectionId,
        standing: p.standing,
        calculated: is,
        agreed: own === undefined ? null : agreedView(own),
        moved: isMoved
          ? {
              from: asWords(own.calculatedPercent, own.calculatedLetter),
              to: asWords(is.percent, is.letter),
              by: movers.get(p.enrolmentId) ?? null,
            }
          : null,
        movedFrom: hasLeft ? (titles.get(own.sectionId ?? '') ?? 'a section that is gone') : null,
        lastDays: offerLastDays(activities.get(p.enrolmentId) ?? [], facts.term.startsOn, all.today),
        faults: faultsOf(own, setting.rules, all),
        row: rowView(last.get(p.enrolmentId)),
      };
    });
  const gaps = setting.rules === null ? [] : translationGaps(all.labels, all.table, setting.rules).map((g) => g.text);
  return {
    rules: setting.rules,
    registrar: {
      isSet: findRegistrar() !== null,
      askedAt: isoAt(setting.askedAt),
      opensAt: isoAt(setting.opensAt),
      closesAt: isoAt(setting.closesAt),
      fault: setting.fault,
    },
    labels: all.labels,
    gaps,
    sections: sections
      .filter((s) => member.sectionIds === null || member.sectionIds.includes(s.id))
      .map((s) =>
        sectionView(
          s,
          list.filter((row) => row.sectionId === s.id),
          held,
          records.filter((r) => r.section_id === s.id).map((r) => ({ id: r.id, at: r.at.toISOString(), who: r.who, rows: r.many })),
        ),
      ),
    rows: list,
    findings: await listFindings(db, facts, all.calculation, {
      ...{ rows: list, gaps, sections, lists },
      keys: new Map(people.map((p) => [p.enrolmentId, p.key])),
    }),
    ...finals,
    canAgree: true,
    canSend: member.isOfRecord === true,
    needsApproval: setting.needsApproval,
  };
}

/** Whether the registrar holds what was agreed last. */
export const isHeldAsAgreed = (row: RowNow | undefined, agreed: AgreedNow): boolean =>
  row !== undefined && HELD_STATES.has(row.state) && row.agreedId === agreed.id;
