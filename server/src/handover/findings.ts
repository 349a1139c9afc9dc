import type { FinalFinding, FinalRow } from '@rosemary/api';
import { compareLists, countOf, kindOfItem, type ListedStudent } from '@rosemary/core';
import { type calculate, type CourseFacts } from '../gradebook/index.ts';
import { type Db, rows } from '../platform/database.ts';

type Calculation = ReturnType<typeof calculate>;
const nameOf = (p: { readonly familyName: string; readonly givenName: string }): string => `${p.familyName}, ${p.givenName}`;

/** Works that wait for a mark, marks that are not released, missing work that counts as zero, cells left open: column by column. */
function findingsOfColumns(facts: CourseFacts, calculation: Calculation): FinalFinding[] {
  const cells = facts.people.map((person) => ({ person, cells: calculation.cellsOf(person) }));
  // The cells stand in the order of the columns that are counted, which are fewer than all.
  return calculation.columns.flatMap((column, place): FinalFinding[] => {
    const who = (is: (state: string, isReleased: boolean, waits: boolean) => boolean): string[] =>
      cells.flatMap(({ person, cells: own }) => {
        const cell = own[place];
        if (cell === undefined) return [];
        const waits = column.itemId !== null && facts.handIns.get(column.itemId, person.enrolmentId) !== undefined;
        return is(cell.state, cell.isReleased, waits) ? [nameOf(person)] : [];
      });
    const found = (students: string[], words: (many: number) => string, leadsTo: FinalFinding['leadsTo']): FinalFinding[] =>
      students.length === 0 ? [] : [{ text: `“${column.title}”: ${words(students.length)}`, students, leadsTo, itemId: column.itemId }];
    const toMark = column.kind === null || kindOfItem(column.kind).marking === 'work' ? 'marking' : 'quiz';
    return [
      ...found(
        who((state, _, waits) => waits && (state === 'none' || state === 'missing')),
        (many) => `${countOf(many, 'work is', 'works are')} handed in and not marked.`,
        toMark,
      ),
      ...found(
        who((state, isReleased) => state === 'marked' && !isReleased),
        (many) => `${countOf(many, 'result is', 'results are')} not released: students do not know ${many === 1 ? 'it' : 'them'}.`,
        toMark,
      ),
      ...found(
        who((state) => state === 'unfinished'),
        (many) => `${countOf(many, 'cell is', 'cells are')} unfinished and left out of the total.`,
        'gradebook',
      ),
      ...found(
        who((state) => state === 'exempt'),
        (many) => `${countOf(many, 'student is', 'students are')} exempt.`,
        'gradebook',
      ),
      ...(facts.policy.isMissingZero
        ? found(
            who((state) => state === 'missing'),
            (many) => `${countOf(many, 'work is', 'works are')} missing and ${many === 1 ? 'counts' : 'count'} as zero.`,
            'gradebook',
          )
        : []),
    ];
  });
}

/** Quizzes in which a question was left out of everybody’s result after it was taken. */
async function listDropped(db: Db, courseId: string): Promise<FinalFinding[]> {
  const found = await rows<{ item_id: string; title: string; many: number }>(
    db,
    `select i.id as item_id, i.title, count(*)::int as many from quiz_correction c join item i on i.id = c.item_id
     where i.course_id = $1 and i.removed_at is null and c.kind = 'drop' and c.undone_at is null group by i.id order by i.title`,
    [courseId],
  );
  return found.map((f) => ({
    text: `“${f.title}”: ${countOf(f.many, 'question')} dropped after it was taken; its results rest on the others.`,
    students: [],
    leadsTo: 'quiz' as const,
    itemId: f.item_id,
  }));
}

/** What to look at before grades are sent; each leads to its place. */
export async function listFindings(
  db: Db,
  facts: CourseFacts,
  calculation: Calculation,
  view: {
    readonly rows: readonly FinalRow[];
    readonly gaps: readonly string[];
    readonly sections: readonly { readonly id: string; readonly title: string }[];
    /** The registrar’s lists by section, and by what he knows our students. */
    readonly lists: ReadonlyMap<string, readonly ListedStudent[]>;
    readonly keys: ReadonlyMap<string, string>;
  },
): Promise<FinalFinding[]> {
  const of = (text: (many: number) => string, leadsTo: FinalFinding['leadsTo'], is: (row: FinalRow) => boolean): FinalFinding[] => {
    const students = view.rows.filter(is).map(nameOf);
    return students.length === 0 ? [] : [{ text: text(students.length), students, leadsTo, itemId: null }];
  };
  const enrolled = (row: FinalRow): boolean => row.standing === 'enrolled';
  return [
    ...(view.gaps.length === 0
      ? []
      : [
          {
            text: `${countOf(view.gaps.length, 'letter')} of this course cannot be told to the registrar: the administrator of the school sets the table of letters. ${view.gaps.join(' ')}`,
            students: [],
            leadsTo: 'school' as const,
            itemId: null,
          },
        ]),
    ...of(
      (many) => `${countOf(many, 'student has', 'students have')} no result yet.`,
      'gradebook',
      (row) => enrolled(row) && row.calculated.percent === null,
    ),
    ...of(
      (many) => `${countOf(many, 'student is', 'students are')} in no section, so nobody can be sent for them.`,
      'roster',
      (row) => row.sectionId === null,
    ),
    ...of(
      (many) => `${countOf(many, 'student')} ${many === 1 ? 'was' : 'were'} in another section when the grade was agreed.`,
      'roster',
      (row) => row.movedFrom !== null,
    ),
    ...of(
      (many) => `${countOf(many, 'grade')} ${many === 1 ? 'is' : 'are'} calculated otherwise now than when agreed.`,
      'finals',
      (row) => row.moved !== null,
    ),
    ...of(
      (many) => `${countOf(many, 'grade lacks', 'grades lack')} something that the registrar needs.`,
      'finals',
      (row) => row.agreed !== null && row.faults.length > 0,
    ),
    ...view.sections.flatMap((section): FinalFinding[] => {
      const own = view.rows.filter((row) => row.sectionId === section.id);
      const open = own.filter((row) => row.agreed === null);
      // Before anything is agreed that is no finding, but the work that is at hand.
      return open.length === 0 || open.length === own.length
        ? []
        : [
            {
              text: `${section.title}: ${open.length} of ${own.length} are not agreed yet, so its list is not complete.`,
              students: open.map(nameOf),
              leadsTo: 'finals',
              itemId: null,
            },
          ];
    }),
    ...view.sections.flatMap((section): FinalFinding[] => {
      const listed = view.lists.get(section.id);
      if (listed === undefined) return [];
      const own = view.rows.filter((row) => row.sectionId === section.id && row.standing === 'enrolled');
      const { onlyHere, onlyThere } = compareLists(
        own.map((row) => ({ key: view.keys.get(row.enrolmentId) ?? '', name: nameOf(row) })),
        listed,
      );
      const said = (students: readonly string[], words: string): FinalFinding[] =>
        students.length === 0 ? [] : [{ text: `${section.title}: ${words}`, students, leadsTo: 'roster', itemId: null }];
      return [
        ...said(
          onlyHere,
          `the registrar’s list lacks ${countOf(onlyHere.length, 'student')} who ${onlyHere.length === 1 ? 'is' : 'are'} here.`,
        ),
        ...said(
          onlyThere,
          `the registrar’s list has ${countOf(onlyThere.length, 'student')} who ${onlyThere.length === 1 ? 'is' : 'are'} not here.`,
        ),
      ];
    }),
    ...findingsOfColumns(facts, calculation),
    ...(await listDropped(db, facts.courseId)),
  ];
}
