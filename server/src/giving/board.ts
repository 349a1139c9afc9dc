import type { GivenBoard, GivenClass, GivingLine } from '@rosemary/api';
import type { ItemKind, Membership } from '@rosemary/core';
import { findVeil } from '../anonymity/index.ts';
import { getCourse } from '../course/index.ts';
import { type CourseFacts, findWorkColumn, latenessText, readFacts, type WorkColumn } from '../gradebook/index.ts';
import { listWorkGroups, listWorks, type MarkedWork, stateOf, worksOf } from '../marking/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { isoAt } from '../platform/instants.ts';
import { courseName, partByClass } from './places.ts';

/** What was given out from a course or to it, the newest first. */
export async function listGivings(db: Db, courseId: string): Promise<GivingLine[]> {
  const found = await rows<{ id: string; at: Date; by: string; titles: string[]; classes: number }>(
    db,
    `
    select g.id, g.at, p.given_name || ' ' || p.family_name as by,
           array_agg(distinct s.title) as titles, count(distinct (i.course_id, n.section_id))::int as classes
    from giving g join person p on p.id = g.person_id join given_item n on n.giving_id = g.id
    join item i on i.id = n.item_id and i.removed_at is null join item s on s.id = n.of_item_id
    where g.course_id = $1 or exists (select 1 from given_item x join item y on y.id = x.item_id where x.giving_id = g.id and y.course_id = $1)
    group by g.id, p.id order by g.at desc limit 100`,
    [courseId],
  );
  return found.map((row) => ({ ...row, at: row.at.toISOString() }));
}

interface Copy {
  readonly item_id: string;
  readonly of_item_id: string;
  readonly section_id: string | null;
  readonly section: string | null;
  readonly course_id: string;
  readonly title: string;
  readonly kind: ItemKind;
  readonly is_draft: boolean;
  readonly opens_at: Date | null;
  readonly due_at: Date | null;
}

interface Standing {
  readonly copy: NonNullable<GivenClass['copies'][number]>;
  readonly states: ReadonlyMap<
    string,
    { readonly name: string; readonly personId: string; readonly state: GivenClass['people'][number]['states'][number] }
  >;
}

/** How every student of a class stands to one copy. A work that several handed in stands at each of them. */
async function readStanding(
  db: Db,
  facts: CourseFacts,
  copy: Copy,
  worksIn: (column: WorkColumn) => readonly MarkedWork[],
  now: number,
): Promise<Standing> {
  const column = findWorkColumn(facts, copy.item_id);
  const works = column === undefined ? [] : worksIn(column);
  const veil = column === undefined ? null : await findVeil(db, copy.item_id, now);
  const states = new Map<string, { name: string; personId: string; state: GivenClass['people'][number]['states'][number] }>();
  let handedIn = 0;
  for (const work of works)
    for (const person of work.mates) {
      const handIn = facts.handIns.get(copy.item_id, person.enrolmentId);
      if (handIn !== undefined) handedIn += 1;
      const isHidden = veil?.isHidden(person.enrolmentId) === true;
      const name = `${person.familyName}, ${person.givenName}`;
      states.set(person.enrolmentId, {
        name,
        personId: person.personId,
        state:
          column === undefined || isHidden
            ? null
            : {
                state: stateOf(facts, column, work, now),
                handedInAt: isoAt(handIn?.latestAt ?? null),
                lateText: handIn === undefined ? null : latenessText(column, facts.datesFor(column.dated, person), handIn.at),
                files: work.row?.files ?? 0,
              },
      });
    }
  return {
    copy: {
      itemId: copy.item_id,
      isDraft: copy.is_draft,
      takesWork: column?.expectsHandIn === true,
      opensAt: copy.opens_at?.toISOString() ?? null,
      dueAt: copy.due_at?.toISOString() ?? null,
      handedIn,
      of: states.size,
      isVeiled: veil !== null,
    },
    states,
  };
}

/** One class: its copies, and its students with how they stand to each. */
async function readClass(
  db: Db,
  facts: CourseFacts,
  itemIds: readonly string[],
  copies: readonly [Copy, ...Copy[]],
  now: number,
): Promise<GivenClass> {
  const [{ course_id: courseId, section_id: sectionId, section }] = copies;
  const course = await getCourse(db, courseId);
  const [works, groups] = [await listWorks(db, courseId, null), await listWorkGroups(db, courseId, null)];
  const standings: (Standing | null)[] = [];
  for (const id of itemIds) {
    const copy = copies.find((c) => c.of_item_id === id);
    standings.push(copy === undefined ? null : await readStanding(db, facts, copy, (column) => worksOf(facts, column, works, groups), now));
  }
  const people = new Map(
    standings.flatMap((s) => [...(s?.states ?? [])].map(([id, { name, personId }]) => [id, { name, personId }] as const)),
  );
  return {
    courseId,
    sectionId,
    name: section === null ? courseName(course) : `${courseName(course)}, ${section}`,
    zone: course.time_zone,
    copies: standings.map((s) => s?.copy ?? null),
    people: [...people]
      .sort(([, a], [, b]) => a.name.localeCompare(b.name))
      .map(([enrolmentId, { name, personId }]) => ({
        ...{ enrolmentId, personId, name },
        states: standings.map((s) => s?.states.get(enrolmentId)?.state ?? null),
      })),
  };
}

/** Who has handed in what was given out, over all the classes that this reader teaches. */
export async function makeGivenBoard(
  db: Db,
  courseId: string,
  givingId: string,
  memberships: readonly Membership[],
  now: number,
): Promise<GivenBoard> {
  const giving = await maybe<{ id: string; course_id: string; at: Date; by: string }>(
    db,
    `select g.id, g.course_id, g.at, p.given_name || ' ' || p.family_name as by from giving g join person p on p.id = g.person_id where g.id = $1`,
    [givingId],
  );
  const copies = await rows<Copy>(
    db,
    `
    select n.item_id, n.of_item_id, n.section_id, s.title as section, i.course_id, o.title, o.kind, i.is_draft, i.opens_at, i.due_at
    from given_item n join item i on i.id = n.item_id and i.removed_at is null join item o on o.id = n.of_item_id left join section s on s.id = n.section_id
    where n.giving_id = $1 order by o.due_at nulls last, o.title, o.id`,
    [givingId],
  );
  // It is known in the course it was given from, and in those it was given to.
  if (giving === null || (giving.course_id !== courseId && !copies.some((c) => c.course_id === courseId))) throw notFound();
  const items = [...new Map(copies.map((c) => [c.of_item_id, { id: c.of_item_id, title: c.title, kind: c.kind }])).values()];
  const facts = new Map<string, CourseFacts>();
  const classes: GivenClass[] = [];
  let elsewhere = 0;
  for (const own of partByClass(
    copies,
    (c) => c.course_id,
    (c) => c.section_id,
  )) {
    const id = own[0].course_id;
    const member = memberships.find((m) => m.courseId === id && m.isActive && m.role !== 'student');
    if (member === undefined) {
      elsewhere += 1;
      continue;
    }
    const known = facts.get(id) ?? (await readFacts(db, id, { sectionIds: member.sectionIds, seesVeiled: true }));
    facts.set(id, known);
    classes.push(
      await readClass(
        db,
        known,
        items.map((i) => i.id),
        own,
        now,
      ),
    );
  }
  return { id: giving.id, at: giving.at.toISOString(), by: giving.by, items, classes, elsewhere };
}
