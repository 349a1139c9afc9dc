import type { FormColumn } from '@rosemary/api';
import { FORM_FIELDS, type FormField, type Membership, reachesSection, writeOneRosterResults } from '@rosemary/core';
import { getCourse, listSections } from '../course/index.ts';
import { sendZip, writePlainTable, writeTable } from '../files/index.ts';
import { notFound } from '../platform/errors.ts';
import type { MemberContext, Sending } from '../platform/route.ts';
import { dayIn, type FinalFacts, readFinalFacts } from './finals.ts';
import type { AgreedNow } from './agreed.ts';
import type { FinalPerson } from './people.ts';

type Value = string | null;
const VALUES: { readonly [field in FormField]: (person: FinalPerson, agreed: AgreedNow, section: string) => Value } = {
  student: (p) => p.key,
  familyName: (p) => p.familyName,
  givenName: (p) => p.givenName,
  email: (p) => p.email,
  section: (p) => p.sectionKey,
  sectionTitle: (_p, _a, section) => section,
  letter: (_, a) => a.sentLetter,
  number: (_, a) => a.percent,
  lastDay: (_, a) => a.lastDay,
  expiresOn: (_, a) => a.expiresOn,
  lapsesTo: (_, a) => a.lapsesTo,
};
const WHOLE: readonly FormColumn[] = (Object.keys(FORM_FIELDS) as FormField[]).map((field) => ({ field, head: FORM_FIELDS[field] }));

/** Everybody whose grade is agreed, in the columns of the registrar’s form. */
function formOf(all: FinalFacts, people: readonly FinalPerson[], titles: ReadonlyMap<string, string>): Value[][] {
  const columns = all.setting.form.length === 0 ? WHOLE : all.setting.form;
  return [
    columns.map((c) => c.head),
    ...people.flatMap((p): Value[][] => {
      const agreed = all.agreed.get(p.enrolmentId);
      return agreed === undefined ? [] : [columns.map((c) => VALUES[c.field](p, agreed, titles.get(p.sectionId ?? '') ?? ''))];
    }),
  ];
}

/** The same as results of OneRoster 1.2: a line item “Final grade” in each class. */
function rosterOf(all: FinalFacts, people: readonly FinalPerson[], code: string, now: number) {
  const day = dayIn(all.facts.zone, now);
  const classes = [...new Set(people.flatMap((p) => p.sectionKey ?? []))];
  const key = (classKey: string): string => `final:${all.facts.courseId}:${classKey}`;
  return writeOneRosterResults(
    { name: 'Rosemary', code },
    [],
    classes.map((classKey) => ({
      ...{ key: key(classKey), title: 'Final grade', classKey, categoryKey: null, assignedOn: all.facts.term.startsOn },
      ...{ dueOn: all.facts.term.endsOn, possible: 100_000 },
    })),
    people.flatMap((p) => {
      const agreed = all.agreed.get(p.enrolmentId);
      if (agreed === undefined || p.sectionKey === null) return [];
      return [
        {
          ...{ lineKey: key(p.sectionKey), studentKey: p.key, classKey: p.sectionKey, state: 'marked' as const },
          ...{ score: agreed.percent ?? '', text: agreed.sentLetter, isLate: false, day, comment: agreed.reason },
        },
      ];
    }),
  );
}

const requireReach = (member: Membership, section: string | undefined): void => {
  if (section !== undefined && !reachesSection(member, section)) throw notFound();
};

/** Agreed grades as a file, for a registrar who takes files. */
export async function sendTable(
  c: MemberContext<unknown, unknown, { readonly format?: string; readonly section?: string }>,
): Promise<Sending | undefined> {
  const { section, format } = c.query;
  requireReach(c.member, section);
  const all = await readFinalFacts(c.db, c.courseId, section === undefined ? c.member.sectionIds : [section], c.now);
  const { code, run } = await getCourse(c.db, c.courseId);
  if (format === 'oneroster') {
    const files = rosterOf(all, all.people, `${code} ${run}`, c.now);
    return sendZip(`${code} ${run} final grades.zip`, new Date(c.now), c.response, () =>
      [...files].map(([name, lines]) => ({ name, bytes: Buffer.from(writePlainTable(lines)) })),
    );
  }
  const titles = new Map((await listSections(c.db, c.courseId)).map((s) => [s.id, s.title]));
  c.response.set('content-disposition', `attachment; filename*=UTF-8''${encodeURIComponent(`${code} ${run} final grades.csv`)}`);
  c.response.type('text/csv').send(writeTable(formOf(all, all.people, titles)));
  return undefined;
}
