import * as endpoints from '@rosemary/api/endpoints';
import type { BookDifferences, CellDifference, OtherAct, TotalsText } from '@rosemary/api';
import { exactPoints, type GradedCell, stateWords } from '@rosemary/core';
import { type Db, rows } from '../platform/database.ts';
import { asOf, findPastSince } from './asOf.ts';
import { readTotals } from './book.ts';
import { calculate, cellFor } from './cells.ts';
import { readFacts, type Scope } from './facts.ts';

interface Standing {
  readonly names: ReadonlyMap<string, string>;
  readonly titles: ReadonlyMap<string, string>;
  /** What stands in each cell, by column and student. */
  readonly cells: ReadonlyMap<string, string>;
  readonly totals: ReadonlyMap<string, TotalsText>;
}

const cellWords = (cell: GradedCell): string => {
  if (cell.state === 'marked' && cell.result !== null) return exactPoints(cell.result);
  return cell.state === 'none' ? '' : stateWords(cell);
};

async function readStanding(db: Db, courseId: string, scope: Scope, at: number): Promise<Standing> {
  const facts = await readFacts(db, courseId, { ...scope, now: at });
  const calculation = calculate(facts, at, false);
  const columns = facts.columns.filter((c) => !c.isDraft);
  const cells = new Map<string, string>();
  for (const person of facts.people)
    for (const column of columns) cells.set(`${column.id} ${person.enrolmentId}`, cellWords(cellFor(facts, column, person, at, false)));
  return {
    names: new Map(facts.people.map((p) => [p.enrolmentId, `${p.familyName}, ${p.givenName}`])),
    titles: new Map(columns.map((c) => [c.id, c.title])),
    cells,
    totals: new Map(facts.people.map((p) => [p.enrolmentId, readTotals(facts, calculation.totalsOf(calculation.cellsOf(p)))])),
  };
}

interface EventRow {
  cell: string;
  id: string;
  act: string | null;
  who: string;
  at: Date;
  source: string;
}
/** The last change of every cell in a time. */
async function listLast(db: Db, courseId: string, from: number, to: number): Promise<ReadonlyMap<string, EventRow>> {
  const found = await rows<EventRow>(
    db,
    `select distinct on (e.column_id, e.enrolment_id) e.column_id || ' ' || e.enrolment_id as cell, e.id, e.act, p.given_name || ' ' || p.family_name as who, e.at, e.source
     from grade_event e join grade_column c on c.id = e.column_id join person p on p.id = e.actor_id
     where c.course_id = $1 and e.at > to_timestamp($2 / 1000.0) and e.at <= to_timestamp($3 / 1000.0) order by e.column_id, e.enrolment_id, e.id desc`,
    [courseId, from, to],
  );
  return new Map(found.map((row) => [row.cell, row]));
}

/** Acts that may move grades without writing a mark, by their names in the audit: what the contract says of each endpoint. */
const MOVING = Object.values(endpoints).flatMap((at): string[] =>
  typeof at === 'object' && 'method' in at && at.method !== 'get' && 'movesGrades' in at && typeof at.audit === 'string' ? [at.audit] : [],
);
async function listActs(db: Db, courseId: string, from: number, to: number): Promise<OtherAct[]> {
  const found = await rows<{ at: Date; who: string; what: string; subject: string | null }>(
    db,
    `select a.at, p.given_name || ' ' || p.family_name as who, a.action as what, coalesce(i.title, k.title, '') as subject from audit a join person p on p.id = a.actor_id
     left join item i on i.id = a.subject left join grade_column c on c.id = a.subject left join item k on k.id = c.item_id
     where a.course_id = $1 and a.at > to_timestamp($2 / 1000.0) and a.at <= to_timestamp($3 / 1000.0) and a.action = any($4) order by a.at desc limit 200`,
    [courseId, from, to, MOVING],
  );
  return found.map((row) => ({ at: row.at.toISOString(), who: row.who, what: row.what, subject: row.subject ?? '' }));
}

/**
 * The act after which the grade of each of these students was last another: the last of their own marks since an instant, else the last act of
 * the course that moves grades without one. In words, by student; nobody is in it of whom nothing is known.
 */
export async function listMovers(
  db: Db,
  courseId: string,
  since: ReadonlyMap<string, number>,
  now: number,
): Promise<ReadonlyMap<string, string>> {
  if (since.size === 0) return new Map();
  const ids = [...since.keys()];
  const own = await rows<{ id: string; who: string; title: string }>(
    db,
    `select distinct on (t.id) t.id, p.given_name || ' ' || p.family_name as who, coalesce(c.title, i.title, '') as title
     from unnest($2::uuid[], $3::float8[]) as t(id, since) join grade_event e on e.enrolment_id = t.id and e.at > to_timestamp(t.since / 1000.0)
     join grade_column c on c.id = e.column_id and c.course_id = $1 left join item i on i.id = c.item_id join person p on p.id = e.actor_id order by t.id, e.id desc`,
    [courseId, ids, [...since.values()]],
  );
  const acts = await listActs(db, courseId, Math.min(...since.values()), now);
  const by = new Map(own.map((o) => [o.id, `${o.who}, “${o.title}”`]));
  for (const [id, at] of since) {
    const act = by.has(id) ? undefined : acts.find((a) => Date.parse(a.at) > at);
    if (act !== undefined) by.set(id, `${act.who}, ${act.what}${act.subject === '' ? '' : `, “${act.subject}”`}`);
  }
  return by;
}

/** What differs in the gradebook between two instants; the later one may be now. */
export async function readDifferences(
  db: Db,
  courseId: string,
  scope: Scope,
  { from, to, now }: { readonly from: number; readonly to: number; readonly now: number },
): Promise<BookDifferences> {
  const read = (at: number): Promise<Standing> =>
    at >= now ? readStanding(db, courseId, scope, now) : asOf(db, courseId, at, () => readStanding(db, courseId, scope, at));
  const before = await read(from);
  const after = await read(to);
  const last = await listLast(db, courseId, from, to);
  const cells: CellDifference[] = [];
  for (const [key, is] of after.cells) {
    const was = before.cells.get(key) ?? '';
    if (was === is) continue;
    const [columnId = '', enrolmentId = ''] = key.split(' ');
    const event = last.get(key);
    cells.push({
      columnId,
      title: after.titles.get(columnId) ?? '',
      enrolmentId,
      name: after.names.get(enrolmentId) ?? '',
      was,
      is,
      by:
        event === undefined
          ? null
          : { eventId: event.id, act: event.act, who: event.who, at: event.at.toISOString(), source: event.source },
    });
  }
  const totals = [...after.totals].flatMap(([enrolmentId, will]) => {
    const had = before.totals.get(enrolmentId);
    const isAlike = had?.soFar === will.soFar && had?.letter === will.letter;
    return isAlike
      ? []
      : [
          {
            enrolmentId,
            name: after.names.get(enrolmentId) ?? '',
            before: had?.soFar ?? null,
            after: will.soFar,
            letterBefore: had?.letter ?? null,
            letterAfter: will.letter,
          },
        ];
  });
  return {
    from: new Date(from).toISOString(),
    to: new Date(Math.min(to, now)).toISOString(),
    knownSince: await findPastSince(db, courseId),
    cells: cells.sort((a, b) => a.title.localeCompare(b.title) || a.name.localeCompare(b.name)),
    totals,
    acts: await listActs(db, courseId, from, to),
  };
}
