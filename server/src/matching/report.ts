import type { MatchedSource, MatchFigures, MatchReport } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { workId } from '../anonymity/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { findCollectionDocument } from './collection.ts';
import { attemptText } from './workText.ts';

interface FigureRow {
  attempt_id: string;
  enrolment_id: string;
  counted: number;
  matched: number;
  quoted: number;
  of_task: number;
}

export const figuresOf = (row: Pick<FigureRow, 'counted' | 'matched' | 'quoted' | 'of_task'>): MatchFigures => ({
  counted: row.counted,
  matched: row.matched,
  quoted: row.quoted,
  ofTask: row.of_task,
  percent: row.counted === 0 ? null : Math.floor((200 * row.matched + row.counted) / (2 * row.counted)),
});

const SQL = `
  select m.attempt_id, s.enrolment_id, m.counted, m.matched, m.quoted, m.of_task from match_result m join match_run r on r.id = m.run_id
  join attempt lead on lead.id = m.attempt_id join attempt a on coalesce(a.lead_id, a.id) = coalesce(lead.lead_id, lead.id) join submission s on s.id = a.submission_id
  where r.item_id = $1 and r.ended_at is not null and a.number = (select max(number) from attempt where submission_id = s.id)`;

/** The figures of every work of an item by its student, of the last run; a work handed in since has none. */
export async function listFigures(db: Db, itemId: string): Promise<ReadonlyMap<string, MatchFigures>> {
  return new Map((await rows<FigureRow>(db, SQL, [itemId])).map((row) => [row.enrolment_id, figuresOf(row)]));
}

interface SourceRow {
  kind: MatchedSource['kind'];
  source_attempt_id: string | null;
  document_id: string;
  title: string;
  words: number;
  runs: [number, number, number, number][];
  item_id: string | null;
  enrolment_id: string | null;
  name: string | null;
  course: string | null;
  document: DocumentNode | null;
}

/** Who reads a report: staff read the sources; a student learns where their words stand, and not whose they are. */
export interface Reader {
  readonly isStaff: boolean;
  /** Whether this member of staff reaches another student of the course. */
  readonly reaches: (enrolmentId: string) => Promise<boolean>;
}

async function sourceText(db: Db, row: SourceRow, collectionUrl: string | null): Promise<string | null> {
  if (row.kind === 'collection')
    return collectionUrl === null ? null : ((await findCollectionDocument(collectionUrl, row.document_id))?.text ?? null);
  return row.source_attempt_id === null ? null : attemptText(db, row.source_attempt_id, row.document);
}

async function toSource(db: Db, itemId: string, row: SourceRow, reader: Reader, now: number): Promise<MatchedSource> {
  const runs = row.runs.map(([from, to, sourceFrom, sourceTo]) => ({ from, to, sourceFrom, sourceTo }));
  const shown = { kind: row.kind, words: row.words, runs };
  if (!reader.isStaff) {
    const whose = { class: 'Another work of this class', earlier: 'A work of an earlier term', collection: row.title };
    return { ...shown, title: whose[row.kind], text: null };
  }
  if (row.kind === 'collection')
    return { ...shown, title: row.title, text: await sourceText(db, row, process.env.ROSEMARY_COLLECTION_URL ?? null) };
  if (row.kind === 'earlier') return { ...shown, title: `${row.course ?? ''}, an earlier term`, text: await sourceText(db, row, null) };
  const isReached = row.enrolment_id !== null && (await reader.reaches(row.enrolment_id));
  const isVeiled = row.enrolment_id !== null && (await workId(db, { itemId, enrolmentId: row.enrolment_id }, now)) !== row.enrolment_id;
  return {
    ...shown,
    title: isVeiled || !isReached ? 'Another work of this class' : (row.name ?? ''),
    text: isReached ? await sourceText(db, row, null) : null,
  };
}

/** What stands elsewhere of one work, passage by passage, by the last run; null where it was not looked at. */
export async function findReport(db: Db, itemId: string, enrolmentId: string, reader: Reader, now: number): Promise<MatchReport | null> {
  const row = await maybe<FigureRow & { at: Date; document: DocumentNode | null; run_id: string }>(
    db,
    `select x.*, r.ended_at as at, r.id as run_id, a.document from (${SQL} and s.enrolment_id = $2) x join match_run r on r.item_id = $1 and r.ended_at is not null join attempt a on a.id = x.attempt_id
     order by r.asked_at desc limit 1`,
    [itemId, enrolmentId],
  );
  if (row === null) return null;
  const sources = await rows<SourceRow>(
    db,
    `select m.kind, m.source_attempt_id, m.document_id, m.title, m.words, m.runs, s.item_id, s.enrolment_id, p.given_name || ' ' || p.family_name as name, c.title as course, a.document
     from match_source m left join attempt a on a.id = m.source_attempt_id left join submission s on s.id = a.submission_id left join enrolment e on e.id = s.enrolment_id
     left join person p on p.id = e.person_id left join course c on c.id = e.course_id where m.run_id = $1 and m.attempt_id = $2 order by m.position`,
    [row.run_id, row.attempt_id],
  );
  const shown: MatchedSource[] = [];
  for (const source of sources) shown.push(await toSource(db, itemId, source, reader, now));
  return { figures: figuresOf(row), text: await attemptText(db, row.attempt_id, row.document), sources: shown, at: row.at.toISOString() };
}
