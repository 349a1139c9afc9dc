import { type ItemKind, type Recorded, type RecordedEvent, statementOf } from '@rosemary/core';
import type { Request, Response } from 'express';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { listVeiledItems } from '../anonymity/index.ts';
import { getSettings } from '../course/index.ts';
import { type Db, type Read, rows } from '../platform/database.ts';
import type { Sending } from '../platform/route.ts';

/** So many statements are read at once; none is held longer than until it is sent. */
const PAGE = 2000;

interface Row {
  id: string;
  at: Date;
  /** To the microsecond, which a date of JavaScript does not hold. */
  exactly: string;
  person_id: string;
  name: string;
  item_id: string;
  title: string;
  kind: ItemKind;
  what: Recorded['what'];
  doing: 'reading' | 'writing' | 'talking' | null;
  seconds: number | null;
  times: number | null;
  longest: number | null;
  number: number | null;
  score: number | null;
  possible: number | null;
}
interface After {
  readonly at: string;
  readonly id: string;
}

/** What was recorded of a course, the earliest first, from behind the last that was sent. Works marked without names are left out. */
const listRecorded = (
  db: Db,
  courseId: string,
  sectionIds: readonly string[] | null,
  veiled: readonly string[],
  after: After,
): Promise<Row[]> =>
  rows<Row & Record<string, unknown>>(
    db,
    `
    with own as (
      select e.id, e.person_id, p.given_name || ' ' || p.family_name as name from enrolment e join person p on p.id = e.person_id
      where e.course_id = $1 and e.role = 'student' and not e.is_sample and ($2::uuid[] is null or e.section_id = any($2))),
    things as (select id, title, kind from item where course_id = $1 and id <> all($3)),
    happened as (
      select md5('visit ' || v.enrolment_id || v.item_id || v.day || v.doing)::uuid as id, v.last_at as at, v.enrolment_id, v.item_id, 'visited' as what, v.doing,
        v.seconds, v.times, v.longest_seconds as longest, null::int as number, null::int as score, null::int as possible
      from visit v where v.hours <> 0
      union all
      select t.id, t.handed_in_at, s.enrolment_id, s.item_id, 'handed in', null, null, null, null, t.number, null, null
      from submission s join attempt t on t.submission_id = s.id and t.lead_id is null where t.handed_in_at is not null
      union all
      select a.id, a.handed_in_at, a.enrolment_id, a.item_id, 'took', null, extract(epoch from a.handed_in_at - a.begun_at)::int, null, null, a.number, (a.score * 1000)::int, (c.possible * 1000)::int
      from quiz_attempt a left join grade_column c on c.item_id = a.item_id and c.role = 'work' where a.state = 'handed in'
      union all
      select o.id, o.created_at, o.enrolment_id, o.item_id, 'posted', null, null, null, null, null, null, null from post o where o.removed_at is null)
    select h.id, h.at, h.at::text as exactly, own.person_id, own.name, i.id as item_id, i.title, i.kind, h.what, h.doing, h.seconds, h.times, h.longest, h.number, h.score, h.possible
    from happened h join own on own.id = h.enrolment_id join things i on i.id = h.item_id
    where (h.at, h.id) > ($4::timestamptz, $5::uuid) order by h.at, h.id limit ${PAGE}`,
    [courseId, sectionIds, veiled, after.at, after.id],
  );

function recordedOf(row: Row): Recorded {
  const number = row.number ?? 1;
  const seconds = row.seconds ?? 0;
  switch (row.what) {
    case 'visited':
      return { what: 'visited', seconds, times: row.times ?? 1, longestSeconds: row.longest ?? 0, doing: row.doing ?? 'reading' };
    case 'handed in':
      return { what: 'handed in', number };
    case 'took':
      return { what: 'took', seconds, score: row.score, possible: row.possible ?? 0, number };
    case 'posted':
      return { what: 'posted' };
  }
}
const eventOf = (row: Row): RecordedEvent => ({
  id: row.id,
  at: row.at.toISOString(),
  person: { id: row.person_id, name: row.name },
  item: { id: row.item_id, title: row.title, kind: row.kind },
  recorded: recordedOf(row),
});

interface Asking {
  readonly db: Db;
  readonly courseId: string;
  readonly sectionIds: readonly string[] | null;
  readonly request: Request;
  readonly response: Response;
}
/** Everything recorded in a course as statements of the Experience API, page after page: the whole is never in memory. */
export async function sendStatements({ db, courseId, sectionIds, request, response }: Asking): Promise<Sending> {
  const [settings, veiled] = await Promise.all([getSettings(db, courseId), listVeiledItems(db, courseId)]);
  const home = `${request.protocol}://${request.get('host') ?? 'localhost'}`;
  const course = { home, id: courseId, title: settings.title, language: settings.language };
  async function* written(read: Read): AsyncGenerator<string> {
    yield '{"statements":[';
    let after: After = { at: '-infinity', id: '00000000-0000-0000-0000-000000000000' };
    let isFirst = true;
    for (;;) {
      const found = await read((one) => listRecorded(one, courseId, sectionIds, veiled, after));
      const page = found.map((row) => JSON.stringify(statementOf(eventOf(row), course)));
      if (page.length > 0) yield `${isFirst ? '' : ','}\n${page.join(',\n')}`;
      isFirst &&= page.length === 0;
      const last = found.at(-1);
      if (last === undefined || found.length < PAGE) break;
      after = { at: last.exactly, id: last.id };
    }
    yield '\n],"more":""}\n';
  }
  return async (read) => {
    response.set({
      'content-type': 'application/json',
      'content-disposition': 'attachment; filename="statements.json"',
      'x-experience-api-version': '1.0.3',
      'cache-control': 'private, no-store',
    });
    await pipeline(Readable.from(written(read)), response).catch((error: unknown) => {
      if (!response.destroyed) throw error;
    });
  };
}
